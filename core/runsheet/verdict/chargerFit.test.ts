import { expect } from 'chai';
import { CHARGERS } from '../../charge/chargers.ts';
import { brought } from '../../test/broughtIn.ts';
import { TestJob } from '../../test/testJob.ts';
import { treatmentOf } from '../plan/atHand.ts';
import { chargerMisfit } from './chargerFit.ts';
import { describeEvent } from '../log/describe.ts';
import { contextOf } from '../state/context.ts';

/** Which of the demo's chargers suit the charge at hand. */
function suitFor(sheet: TestJob): string[] {
  const { state } = sheet.job;
  const treatment = treatmentOf(state, sheet.current);
  if (!treatment) throw new Error(`${sheet.current.key} has no treatment`);
  const context = contextOf(state, sheet.current.round);
  return CHARGERS.filter(
    (charger) => chargerMisfit(charger, treatment, context, sheet.current.stepId) === undefined,
  ).map(({ id }) => id);
}

const agm = (ocvV: number, rules: ConstructorParameters<typeof TestJob>[1] = {}): TestJob =>
  new TestJob('BK-A12/55', rules, undefined, 'recover-agm').triage(ocvV);

describe('a charger for a recovery’s charge', () => {
  it('slow: whatever holds 2.75 A below 14.7 V, and nothing that goes beyond by itself', () => {
    const suits = suitFor(agm(12.1).route('slow-charge'));
    expect(suits).to.include.members(['supply', 'bench']);
    expect(suits).not.to.include('taper');
  });

  it('pulses: what can pulse, and nothing else', () => {
    expect(suitFor(agm(12.1).route('pulse'))).to.deep.equal(['supply', 'pulse']);
  });

  it('waking: only what gives current to a battery that stands at nothing', () => {
    const suits = suitFor(agm(0.4).route('supply-wake').affirm('supply-polarity'));
    expect(suits).to.include('supply');
    expect(suits).not.to.include('automatic');
  });

  it('beside a donor the charger sees the donor: one that wants 10.5 V starts', () => {
    const sheet = agm(5.4, { wakeMethod: 'donor' })
      .route('donor-wake')
      .measure('donor-check', { donorV: 12.7 });
    sheet.affirm('donor-polarity', 'donor-leads');
    const { state } = sheet.job;
    const treatment = treatmentOf(state, sheet.current);
    const automatic = CHARGERS.find(({ id }) => id === 'automatic');
    if (!treatment || !automatic) throw new Error('nothing to judge');
    const why = chargerMisfit(automatic, treatment, contextOf(state, sheet.current.round), 'donor-hour');
    expect(why ?? '').not.to.match(/does not (see|start)/);
  });

  it('says in one sentence, its own name first, why not', () => {
    const sheet = agm(12.1).route('pulse');
    const treatment = treatmentOf(sheet.job.state, sheet.current);
    if (!treatment) throw new Error('no treatment');
    for (const charger of CHARGERS) {
      const why = chargerMisfit(charger, treatment, contextOf(sheet.job.state, 1), 'pulse');
      if (why === undefined) continue;
      expect(why.startsWith(charger.name)).to.equal(true);
      expect(why).to.match(/\.$/);
    }
  });
});

describe('a charger that goes on', () => {
  for (const [id, route, refused] of [
    ['bench', 'slow-charge', undefined],
    ['supply', 'pulse', undefined],
    ['bench', 'pulse', 'cannot pulse'],
    ['taper', 'slow-charge', 'by itself; 14.7 V is the most here'],
  ] as const)
    it(`“${id}” on ${route} is ${refused ?? 'kept with the charge'}`, () => {
      const charger = CHARGERS.find((one) => one.id === id);
      if (!charger) throw new Error(`no charger ${id}`);
      const sheet = brought('BK-A12/55').triage(12.1).route(route);
      const on = (): unknown =>
        sheet.put('chargeStarted', {
          step: sheet.current.key,
          currentA: route === 'pulse' ? 1 : 2.75,
          charger,
        });
      if (refused !== undefined) {
        expect(on).to.throw(refused);
        expect(sheet.current.charge).to.equal(undefined);
        return;
      }
      on();
      expect(sheet.current.charge?.charger?.id).to.equal(id);
      expect(describeEvent(sheet.job.log.at(-1) as never, sheet.job.state)).to.include(charger.name);
    });

  it('no charger is set to more than it gives', () => {
    const supply = CHARGERS.find(({ id }) => id === 'supply');
    if (!supply) throw new Error('no supply');
    const sheet = brought('BK-A12/55').triage(12.1).route('slow-charge');
    const set = (mostA: number): unknown =>
      sheet.put('chargeStarted', { step: sheet.current.key, currentA: 2.75, charger: { ...supply, mostA } });
    expect(() => set(2)).to.throw('gives 2 A at most; it cannot be set to 2.75 A');
    set(2.75);
    expect(sheet.current.charge?.currentA).to.equal(2.75);
  });
});
