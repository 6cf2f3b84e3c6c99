import { expect } from 'chai';
import { courseOf } from '../adapters/fromJob.ts';
import { CHARGERS } from '../charge/chargers.ts';
import { record } from '../runsheet/log/fold.ts';
import { procedureOf } from '../runsheet/state/sheet.ts';
import { TestJob } from '../test/testJob.ts';
import type { HouseRules } from '../rules/houseRules.ts';
import { isOfTheHouse } from './courses.ts';
import { foundOf, waysOf, waysOn } from '../adapters/waysForJob.ts';

const agm = (ocvV: number, rules: Partial<HouseRules> = {}): TestJob =>
  new TestJob('BK-A12/55', rules, undefined, 'recover-agm').triage(ocvV);
const flooded = (ocvV: number, rules: Partial<HouseRules> = {}): TestJob =>
  new TestJob('BK-F12/70', rules, undefined, 'recover-flooded').triage(ocvV);
const routesOf = ({ job }: TestJob): Record<string, readonly string[]> =>
  Object.fromEntries(waysOf(job.state).courses.map(({ id, routes }) => [id, routes]));

describe('ways open to a battery', () => {
  it('a shallow AGM is charged, soaked, pulsed, proved or retired, with nothing to wake', () => {
    expect(Object.keys(routesOf(agm(12.1)))).to.include.members([
      'slow-charge',
      'long-soak',
      'pulse',
      'prove',
      'retire',
    ]);
    expect(routesOf(agm(12.1))['slow-charge']).to.deep.equal(['slow-charge']);
  });

  it('a deep one is woken first, by the house’s own method', () => {
    expect(routesOf(agm(5.4))['long-soak']).to.deep.equal(['supply-wake', 'long-soak']);
    expect(routesOf(agm(5.4, { wakeMethod: 'donor' }))['slow-charge']).to.deep.equal([
      'donor-wake',
      'slow-charge',
    ]);
    expect(routesOf(agm(5.4, { wakeMethod: 'manual' }))['pulse']).to.deep.equal(['forced-start', 'pulse']);
  });

  it('woken first, a deep one wants no reason; another way to wake it is compared, and wants one', () => {
    const { courses } = waysOf(agm(5.4).job.state);
    expect(courses.filter((one) => !isOfTheHouse(one)).map(({ routes }) => routes)).to.deep.equal([
      ['donor-wake', 'slow-charge'],
      ['forced-start', 'slow-charge'],
    ]);
    expect(routesOf(agm(5.4))).not.to.have.property('supply-wake');
    expect(routesOf(agm(12.1))).not.to.have.any.keys('supply-wake', 'donor-wake', 'forced-start');
  });

  it('is never proved while asleep', () => {
    expect(routesOf(agm(5.4))).not.to.have.property('prove');
  });

  it('an AGM is never equalised, whatever it would be worth', () => {
    const { courses, forbidden } = waysOf(agm(12.1, { equalise: 'expert' }).job.state);
    expect(courses.map(({ id }) => id)).not.to.include('equalise');
    expect(forbidden.find(({ title }) => title === 'Equalise')?.why).to.match(/never equalised/);
  });

  it('a flooded one is equalised only where the house has experts, and after a charge', () => {
    expect(routesOf(flooded(12.1, { equalise: 'off' }))).not.to.have.property('equalise');
    expect(routesOf(flooded(12.1, { equalise: 'expert' }))['equalise']).to.deep.equal([
      'slow-charge',
      'equalise',
    ]);
  });

  it('a rule of the house makes a way that wants a reason, not one that is shut', () => {
    const { courses } = waysOf(flooded(12.1, { firstHours: 'slow' }).job.state);
    expect(courses.find(({ id }) => id === 'high-then-low')?.wants).to.match(/house/);
  });

  it('water into an AGM only where the house does it, and before it is woken', () => {
    expect(routesOf(agm(5.4, { agmWater: 'never' }))).not.to.have.property('water-back');
    expect(routesOf(agm(5.4, { agmWater: 'measured' }))['water-back']).to.deep.equal([
      'water-back',
      'supply-wake',
      'long-soak',
    ]);
  });

  it('names no way to wake what is awake among what is not open', () => {
    const titles = waysOf(agm(12.1).job.state).forbidden.map(({ title }) => title);
    expect(titles.filter((title) => title.startsWith('Wake'))).to.deep.equal([]);
  });

  it('retiring stays open to every battery', () => {
    for (const ocvV of [0.2, 5.4, 10.6, 12.7]) expect(routesOf(agm(ocvV))).to.have.property('retire');
  });

  it('what no charger of the shop gives is no way, and the judge says why', () => {
    const bench = CHARGERS.filter(({ id }) => id === 'bench');
    const ways = waysOf(agm(12.1).job.state, bench);
    expect(ways.courses.map(({ id }) => id))
      .to.include('slow-charge')
      .and.not.include('pulse');
    expect(ways.forbidden.find(({ title }) => title.startsWith('Pulses'))?.why).to.include('cannot pulse');
    const only12 = CHARGERS.filter(({ id }) => id === 'automatic');
    const six = new TestJob('LW-A6/12', {}, undefined, 'recover-agm').triage(6.1);
    const { courses, forbidden } = waysOf(six.job.state, only12);
    expect(courses.map(({ id }) => id)).not.to.include('slow-charge');
    expect(forbidden.find(({ title }) => title === 'Slow charge')?.why).to.include(
      'is for 12 V; this battery has 6 V',
    );
  });

  it('a deep one is judged for its slow charge as it stands once it is woken', () => {
    const shop = CHARGERS.filter(({ id }) => ['supply', 'automatic'].includes(id));
    expect(waysOf(agm(5.4).job.state, shop).courses.map(({ id }) => id)).to.include('slow-charge');
  });

  it('layered acid has its own way, after a charge, and wants no reason then', () => {
    const { courses } = waysOf(flooded(12.1).job.state);
    expect(courses.find(({ id }) => id === 'layered')).to.deep.include({
      routes: ['slow-charge', 'layered'],
    });
    expect(courses.filter(isOfTheHouse).map(({ id }) => id)).to.include('layered');
  });
});

describe('what was found that no forecast outweighs', () => {
  it('uncharged until a charge is done, a wake is none; one that came charged never was', () => {
    expect(foundOf(agm(12.1).job.state).isUncharged).to.equal(true);
    expect(foundOf(agm(12.7).job.state).isUncharged).to.equal(false);
    expect(foundOf(agm(12.1).slowCharge().job.state).isUncharged).to.equal(false);
  });

  it('a charge stopped for a dead cell is a hard stop', () => {
    const sheet = agm(11.8).route('slow-charge');
    sheet.put('chargeStarted', { step: sheet.current.key, currentA: 2.75 });
    sheet.wait(60).read(10.4, 2.75, 22).wait(60).read(10.5, 2.75, 22);
    expect(foundOf(sheet.job.state).hardStop).to.match(/^Its charge was stopped\. /);
  });

  it('a tester’s nought on a flat battery is kept, and is no evidence', () => {
    const sheet = agm(5.4);
    sheet.put('evidenced', { reading: { kind: 'tester', amps: 0 } });
    expect(courseOf(sheet.job.state).readings.map(({ kind }) => kind)).to.deep.equal(['ocv']);
    expect(sheet.job.state.evidence).to.have.length(1);
  });

  it('what is chosen begins a course or stands alone, each way once, and what a reason opens says so', () => {
    const { open, closed } = waysOn(agm(5.4).job.state);
    const byTitle = Object.fromEntries(open.map(({ title, route, veto }) => [title, { route, veto }]));
    expect(byTitle['Wake with a supply, then slow charge']?.route.id).to.equal('supply-wake');
    expect(byTitle['Wake beside a donor, then slow charge']?.veto?.canOverride).to.equal(true);
    expect(new Set(open.map(({ key }) => key)).size).to.equal(open.length);
    expect(open.at(-1)?.route.id).to.equal('retire');
    expect(closed.map(({ title }) => title)).to.include('Equalise');
  });

  it('every route the run sheet takes is reached by some way, and none that it refuses', () => {
    for (const battery of [agm(12.1), agm(5.4), flooded(12.1), flooded(10.4)]) {
      const { open } = waysOn(battery.job.state);
      const takes = (route: string): boolean => {
        const payload = { step: battery.current.key, route, reason: 'as its owner asked for' };
        try {
          record(battery.job, { kind: 'routed', payload }, battery.now, 'Ines');
          return true;
        } catch {
          return false;
        }
      };
      const all = (procedureOf(battery.job.state).routes ?? []).map(({ id }) => id);
      expect(all.filter(takes)).to.have.members([...new Set(open.map(({ route }) => route.id))]);
    }
  });

  it('a shop that listed no charger yet is asked about none', () => {
    expect(waysOf(agm(12.1).job.state, []).courses.map(({ id }) => id)).to.include('pulse');
  });
});
