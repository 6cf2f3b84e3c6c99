import { expect } from 'chai';
import { CHARGERS } from '../charge/chargers.ts';
import { TestJob } from '../test/testJob.ts';
import { treatmentOf } from './atHand.ts';
import { chargerMisfit } from './chargerFit.ts';
import { contextOf } from './state.ts';

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
