import { expect } from 'chai';
import { TestJob } from '../test/testJob.ts';
import type { HouseRules } from '../runsheet/houseRules.ts';
import { isOfTheHouse } from './courses.ts';
import { waysOf } from './forJob.ts';

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
});
