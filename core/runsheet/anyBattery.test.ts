/** Batteries no catalogue knew: gel, deep-cycle, 2, 8 and 24 V; each with its own limits, a plan and a belief. */
import { loadTestFor } from '../battery/loadTest.ts';
import { expect } from 'chai';
import { waysOf } from '../adapters/waysForJob.ts';
import { GENERIC_TYPES } from '../battery/genericTypes.ts';
import { isTaken, nominalV, shortName, type BatteryType } from '../battery/types.ts';
import { Belief } from '../belief/belief.ts';
import { settingOf } from '../adapters/fromJob.ts';
import { MORNING, TestJob } from '../test/testJob.ts';
import { ceilingNow, limitsOf } from './verdict/chargeLimits.ts';
import { planIntake } from '../schedule/intakePlan.ts';
import { procedureById, procedureFor, proceduresFor } from './procedures/procedures.ts';
import { contextOf } from './state/context.ts';
import { definitionOf } from './state/sheet.ts';
import { resolveThreshold } from '../rules/thresholds.ts';

const HOUR = 3_600_000;
const TYPES = GENERIC_TYPES.filter(isTaken);

function generic(id: string): BatteryType {
  const type = TYPES.find((one) => one.id === id);
  if (!type) throw new Error(`no generic ${id}`);
  return type;
}

/** Brought in, read at a voltage, and put on its slow charge. */
function onSlowCharge(type: BatteryType, ocvV: number, tempC = 21): TestJob {
  const recovery = proceduresFor(type).find(({ routes }) => routes);
  return new TestJob(type, {}, undefined, recovery?.id).triage(ocvV, { tempC }).route('slow-charge');
}

describe('any battery of the list a shop begins with', () => {
  for (const type of TYPES)
    it(`${type.id}: is planned, its numbers are its own, and it can be looked into`, () => {
      const procedure = procedureFor(type);
      const { opened } = new TestJob(type).job.state;
      const plan = planIntake({ ...opened, promisedAt: MORNING + 400 * HOUR }, MORNING);
      expect(plan.readyAt).to.be.greaterThan(MORNING);
      expect(procedure?.steps).not.to.have.length(0);
      const sheet = onSlowCharge(type, (12.1 * type.cells) / 6);
      const context = contextOf(sheet.job.state, 1);
      const perSix = (volts: number): number => (volts * 6) / type.cells;
      const ceiling = perSix(context.threshold('ceilingV').value);
      expect(ceiling).to.be.within(14.1, 14.8);
      expect(perSix(context.threshold('passOcvV').value)).to.be.within(12.399, 12.601);
      expect(context.threshold('chargeCurrentA').value).to.be.within(0, type.capacityAh / 10 + 1e-9);
      const setting = settingOf(sheet.job.state);
      expect(setting.rating.duty).to.equal(type.duty);
      expect(new Belief(setting, 6, 3).all).not.to.have.length(0);
    });
});

describe('a gel battery', () => {
  const gel = generic('GEL-12/40');

  it('is held at 14.2 V, follows the cold, and passes 14.8 V in none', () => {
    const { state } = onSlowCharge(gel, 12.2).job;
    const step = state.steps[state.cursor];
    const definition = step && definitionOf(state, step);
    if (definition?.kind !== 'charge') throw new Error('no charge at hand');
    const limits = limitsOf(contextOf(state, step?.round ?? 1), definition, 60);
    expect(limits.hotC).to.equal(45);
    for (const [tempC, volts] of [
      [25, 14.2],
      [15, 14.44],
      [0, 14.8],
      [-20, 14.8],
    ] as const)
      expect(ceilingNow(limits, gel, tempC), `${tempC} °C`).to.be.closeTo(volts, 1e-9);
  });

  it('is never equalised, stirred, soaked, watered, bitten high or driven by current alone', () => {
    const { state } = new TestJob(gel, {}, undefined, 'recover-agm').triage(12.2).job;
    const context = contextOf(state, 1);
    const hard = (procedureById('recover-agm').routes ?? []).filter(
      ({ veto }) => veto(context)?.canOverride === false,
    );
    expect(hard.map(({ id }) => id)).to.include.members([
      'equalise',
      'layered',
      'long-soak',
      'water-back',
      'high-then-low',
      'constant-current',
    ]);
    for (const { id, veto } of hard) expect(veto(context)?.why, id).not.to.equal('');
    expect(hard.find(({ id }) => id === 'equalise')?.veto(context)?.why).to.include('gel');
  });

  it('a label cannot lift it: 14.7 V is refused where the label is entered', () => {
    const sheet = new TestJob(gel, {}, undefined, 'recover-agm').affirm('identify');
    expect(() => sheet.measure('label', { ceilingV: 14.7 })).to.throw('13 to 14.4 V');
    expect(() => sheet.measure('label', { ceilingV: 14.3 })).not.to.throw();
  });

  it('is advised no way that it does not bear', () => {
    const { state } = new TestJob(gel, {}, undefined, 'recover-agm').triage(12.2).job;
    const { courses } = waysOf(state);
    expect(courses.flatMap(({ routes }) => routes)).to.not.include.members(['long-soak']);
    expect(courses.some(({ routes }) => routes.includes('slow-charge'))).to.equal(true);
  });
});

describe('a capacity that is only estimated', () => {
  it('sets no limit above what the least of it bears', () => {
    const type: BatteryType = {
      ...generic('AGM-12/60'),
      id: 'own',
      capacityAh: 60,
      estimate: { from: 'cranking', leastAh: 45, mostAh: 75 },
    };
    const basis = { type, rules: new TestJob().job.state.opened.rules, entered: {} };
    expect(resolveThreshold('chargeCurrentA', basis).value).to.equal(4.5);
    const { state } = onSlowCharge(type, 12.1).job;
    const step = state.steps[state.cursor];
    const definition = step && definitionOf(state, step);
    const treatment = definition?.kind === 'charge' ? definition.treatment?.(contextOf(state, 1)) : undefined;
    expect([treatment?.setA, treatment?.mostA]).to.deep.equal([45 / 20, 45 / 10]);
    expect(loadTestFor(type, 'tripleStrict', 25).currentA).to.equal(135);
  });
});

describe('a sealed battery with a vent hose', () => {
  it('has it looked after when it is fitted; one without is asked nothing of one', () => {
    const agm = generic('AGM-12/60');
    const words = (type: BatteryType): string => {
      const { state } = new TestJob(type).job;
      const fit = procedureFor(type)?.steps.find(({ id }) => id === 'fit');
      return fit?.detail(contextOf(state, 1)) ?? '';
    };
    expect(words({ ...agm, hasVentHose: true })).to.include('vent hose on, not kinked');
    expect(words(agm)).not.to.include('hose');
  });
});

describe('an age that nobody knows', () => {
  it('is said, counts as old stock, and widens what wear may have done', () => {
    const unknown = new TestJob('LW-A12/9', {}, undefined, undefined, {
      battery: { tag: 'SK-0001', serial: '', dateCode: '', owner: 'stock' },
    });
    const context = contextOf(unknown.job.state, 1);
    expect(context.ageMonths).to.equal(undefined);
    expect(context.chargeSetting().working[0]).to.include('its age unknown');
    const brought = new TestJob('BK-F12/70', {}, undefined, 'recover-flooded', {
      battery: { tag: 'SK-0001', serial: '', dateCode: '', owner: 'stock' },
    }).triage(12.1);
    const setting = settingOf(brought.job.state);
    expect(setting.history).not.to.have.property('ageYears');
    const spread = (ageYears?: number): number => {
      const { ageYears: _none, ...history } = setting.history;
      const left = new Belief(
        { ...setting, history: { ...history, ...(ageYears === undefined ? {} : { ageYears }) } },
        60,
        5,
      ).all.map(({ traits }) => traits.left);
      return Math.max(...left) - Math.min(...left);
    };
    expect(spread()).to.be.greaterThan(spread(1));
  });

  it('names the battery by what it is called across the room', () => {
    expect(shortName(generic('GEL-2/500-C10'))).to.equal('Gel 2 V 500 Ah');
    expect(nominalV(generic('FLOODED-8/170'))).to.equal(8);
  });
});
