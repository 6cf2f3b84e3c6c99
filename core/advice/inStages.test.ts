import { expect } from 'chai';
import type { Setting } from '../belief/traits.ts';
import { AGM_80 } from '../test/modelBench.ts';
import { bestWay, decideInStages, evidenceOf, playedChecks } from './inStages.ts';
import { LATER_CHECKS, laterScale, type Later, type LaterCheck } from './later.ts';

const setting: Setting = {
  rating: AGM_80,
  history: { construction: 'agm', ageYears: 3, complaint: 'unknown' },
  tempC: 21,
};

/** What shows nothing of one battery that it does not show of another. */
const ALIKE: Later = {
  charge: [50, 20],
  rest: [12.7],
  tester: [500],
  bubbles: [],
  warmth: [0, 0, 0, 0, 0],
  crank: [10],
  hold: [0.01],
  capacity: [0.9],
};
const free = (): number => 0;
/** Nothing but this check is to be had. */
const only =
  (check: LaterCheck) =>
  (other: LaterCheck): number =>
    other === check || other === 'charge' || other === 'rest' ? 0 : 1000;

/** Half of them sound, half of them bad. */
const half = (sound: Partial<Later>, bad: Partial<Later>, count = 120): Later[] =>
  Array.from({ length: count }, (_, index) => ({ ...ALIKE, ...(index % 2 === 0 ? sound : bad) }));
const byHalf = (sound: number, bad: number, count = 120): number[] =>
  Array.from({ length: count }, (_, index) => (index % 2 === 0 ? sound : bad));
const mean = (values: readonly number[]): number =>
  values.reduce((sum, value) => sum + value, 0) / values.length;

/** Worth of going on with the sound and stopping with the bad, were every reading tried: by integration over what may be read. */
function exhaustive(gain: number, loss: number, apart: number, scale: number): number {
  const density = (z: number): number => Math.exp((-z * z) / 2) / Math.sqrt(2 * Math.PI);
  let worth = 0;
  const step = 0.01;
  for (let read = -10; read <= 10 + apart / scale; read += step) {
    const [sound, bad] = [density(read - apart / scale), density(read)];
    worth += 0.5 * Math.max(0, gain * sound - loss * bad) * step;
  }
  return worth;
}

describe('a decision in stages', () => {
  for (const [what, apart] of [
    ['hardly told apart', 0.03],
    ['told apart more often than not', 0.08],
    ['told apart', 0.25],
  ] as const)
    it(`is worth what exhaustive look-ahead finds, of batteries ${what}`, () => {
      const seen = half({ rest: [12.5 + apart] }, { rest: [12.5] }, 400);
      const worths = [byHalf(20, -15, 400), byHalf(0, 0, 400)];
      const { choices } = decideInStages(worths, playedChecks(seen, setting), only('rest'));
      const found = mean(choices.map((way, at) => worths[way]?.[at] ?? 0));
      expect(found).to.be.closeTo(exhaustive(20, 15, apart, laterScale('rest', 0, 12.5, setting)), 1);
    });

  it('is never worth less than the best way chosen blindly, but for chance', () => {
    const worths = [byHalf(8, -3), byHalf(2, 1)];
    const { choices } = decideInStages(worths, playedChecks(half({}, {}), setting), free);
    expect(mean(choices.map((way, at) => worths[way]?.[at] ?? 0))).to.be.at.least(2.3);
  });

  it('makes a check that tells what nothing else does, and only where it costs less than it gains', () => {
    const played = playedChecks(half({ capacity: [0.9] }, { capacity: [0.4] }), setting);
    const worths = [byHalf(20, -16), byHalf(0, 0)];
    const costing = (capacity: number) => (check: LaterCheck) =>
      check === 'capacity' ? capacity : only('capacity')(check);
    expect(decideInStages(worths, played, costing(5)).checks).to.include('capacity');
    expect(decideInStages(worths, played, costing(12)).checks).to.deep.equal(['charge', 'rest']);
    expect(decideInStages(worths, played, costing(5)).read.capacity).to.have.length(120);
  });

  it('never offers a check a battery cannot be asked, as bubbles in a sealed one', () => {
    const made = [...playedChecks(half({}, {}), setting).keys()];
    expect(made).to.have.members(LATER_CHECKS.filter((check) => check !== 'bubbles'));
  });

  it('a reading speaks for who would show it', () => {
    const seen = [
      { ...ALIKE, tester: [500] },
      { ...ALIKE, tester: [250] },
    ];
    const logs = evidenceOf('tester', [490], seen, setting);
    expect(logs[0]).to.be.greaterThan((logs[1] ?? 0) + 3);
    expect(
      bestWay(
        [
          [1, 0],
          [0, 1],
        ],
        logs,
      ),
    ).to.equal(0);
    expect(
      bestWay(
        [
          [1, 0],
          [0, 1],
        ],
        evidenceOf('tester', [260], seen, setting),
      ),
    ).to.equal(1);
  });
});
