import { expect } from 'chai';
import { candidate } from '../test/candidate.ts';
import { AGM_80 } from '../test/modelBench.ts';
import type { Reading } from '../observation/readings.ts';
import { Believer } from './believer.ts';
import { CAUSE_IDS, type CauseId } from '../candidate/causes.ts';
import { shownOf } from '../observation/shown.ts';
import type { Setting } from '../candidate/traits.ts';
import { movedBy } from './trail.ts';
import { movedWords } from './words.ts';

const causes = (more: Partial<Record<CauseId, number>>): Readonly<Record<CauseId, number>> =>
  ({ ...Object.fromEntries(CAUSE_IDS.map((cause) => [cause, 0])), ...more }) as Record<CauseId, number>;
const ocv = (volts: number): Reading => ({ kind: 'ocv', volts, isRested: true });
const tester: Reading = { kind: 'tester', amps: 300 };

describe('what each reading moved', () => {
  it('begins where the one before ended, and ends at what is shown', () => {
    const [before, first, second] = [causes({ empty: 0.6 }), causes({ empty: 0.4 }), causes({ empty: 0.2 })];
    const steps = [
      { reading: ocv(12), causes: first },
      { reading: tester, causes: second },
    ];
    const now = causes({ empty: 0.19 });
    expect(movedBy([[ocv(12)], [tester]], { before, steps }, now)).to.deep.equal([
      { before, after: first },
      { before: first, after: now },
    ]);
    // One that is still on its way moved nothing yet.
    expect(movedBy([[ocv(12)], [ocv(11)]], { before, steps }, now)).to.deep.equal([
      { before, after: now },
      undefined,
    ]);
  });

  it('is said of what it moved most', () => {
    const moved = { before: causes({ worn: 0.07, empty: 0.6 }), after: causes({ worn: 0.91, empty: 0.05 }) };
    expect(movedWords(moved)).to.match(/^[A-Z].* 7 % → 91 %, .* 60 % → 5 %$/);
    expect(movedWords({ before: moved.after, after: moved.after })).to.equal(
      'Moves little, after what was read before',
    );
  });

  it('adds up to the odds of a belief, reading by reading', () => {
    const setting: Setting = {
      rating: AGM_80,
      history: { construction: 'agm', ageYears: 3, flatMonths: 3, complaint: 'parked' },
      tempC: 21,
    };
    const shown = shownOf(candidate({ charge: 0.35 }), setting);
    const readings = [ocv(shown.ocvV()), { kind: 'tester', amps: shown.testerA() } as const];
    const believer = new Believer(120);
    const question = { setting, readings, seed: 5 };
    const { explained, summary } = believer.goOn(question, () => false);
    const [first, second] = explained.map(({ moved }) => moved);
    expect(second?.before).to.deep.equal(first?.after);
    expect(second?.after).to.deep.equal(summary.causes);
    const sum = Object.values(first?.before ?? {}).reduce((total, one) => total + one, 0);
    expect(sum).to.be.closeTo(1, 1e-9);
  });
});
