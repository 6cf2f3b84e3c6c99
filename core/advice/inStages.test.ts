import { expect } from 'chai';
import type { Setting } from '../candidate/traits.ts';
import { AGM_80 } from '../test/modelBench.ts';
import { bestWay, decideInStages, type Early, kinOf, evidenceOf, playedChecks } from './inStages.ts';
import { LATER_CHECKS, laterScale, type Later, type LaterCheck } from './later.ts';

const setting: Setting = {
  rating: AGM_80,
  history: { construction: 'agm', ageYears: 3, complaint: 'unknown' },
  tempC: 21,
};

/** What shows nothing of one battery that it does not show of another. */
const ALIKE: Later = {
  early: [12.9, 4, 22],
  charge: [50, 20],
  rest: [12.7],
  tester: [500],
  bubbles: [],
  warmth: [0, 0, 0, 0, 0],
  crank: [10],
  hold: [0.01],
  capacity: [0.9],
};
/** Worth so little that nobody gives up early. */
const NEVER: Early = {
  worths: Array.from({ length: 400 }, () => -1000),
  comesBack: Array.from({ length: 400 }, () => true),
  keptFrom: Number.POSITIVE_INFINITY,
};
const free = (): number => 0;
/** Nothing but this check is to be had. */
const only =
  (check: LaterCheck) =>
  (other: LaterCheck): number =>
    other === check || other === 'early' || other === 'charge' || other === 'rest' ? 0 : 1000;

/** Half of them sound, half of them bad. */
const half = (sound: Partial<Later>, bad: Partial<Later>, count = 120): Later[] =>
  // Each is a battery of its own, told apart by what nobody could read.
  Array.from({ length: count }, (_, index) => ({
    ...ALIKE,
    hold: [0.01 + 1e-6 * index],
    ...(index % 2 === 0 ? sound : bad),
  }));
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
      const { choices } = decideInStages(worths, NEVER, playedChecks(seen, setting), only('rest'));
      const found = mean(choices.map((way, at) => worths[way]?.[at] ?? 0));
      expect(found).to.be.closeTo(exhaustive(20, 15, apart, laterScale('rest', 0, 12.5, setting)), 1);
    });

  it('is never worth less than the best way chosen blindly, but for chance', () => {
    const worths = [byHalf(8, -3), byHalf(2, 1)];
    const { choices } = decideInStages(worths, NEVER, playedChecks(half({}, {}), setting), free);
    expect(mean(choices.map((way, at) => worths[way]?.[at] ?? 0))).to.be.at.least(2.3);
  });

  it('makes a check that tells what nothing else does, and only where it costs less than it gains', () => {
    const played = playedChecks(half({ capacity: [0.9] }, { capacity: [0.4] }), setting);
    const worths = [byHalf(20, -16), byHalf(0, 0)];
    const costing = (capacity: number) => (check: LaterCheck) =>
      check === 'capacity' ? capacity : only('capacity')(check);
    expect(decideInStages(worths, NEVER, played, costing(5)).checks).to.include('capacity');
    expect(decideInStages(worths, NEVER, played, costing(12)).checks).to.deep.equal([
      'early',
      'charge',
      'rest',
    ]);
    expect(decideInStages(worths, NEVER, played, costing(5)).read.capacity).to.have.length(120);
  });

  it('gives up early what shows early that it is past help, and nothing else', () => {
    const seen = half({}, { early: [10.4, 4, 24] });
    const worths = [byHalf(20, -20), byHalf(0, -10)];
    const early = (keptFrom: number, bad = false): Early => ({
      worths: byHalf(-1, -1),
      comesBack: Array.from({ length: 120 }, (_, at) => bad || at % 2 === 0),
      keptFrom,
    });
    const { givenUp } = decideInStages(
      worths,
      early(Number.POSITIVE_INFINITY),
      playedChecks(seen, setting),
      free,
    );
    expect(givenUp.filter((is, at) => is === (at % 2 === 1)).length).to.be.greaterThan(115);
    // Where none is condemned uncharged, only odds give one up.
    const kept = decideInStages(worths, early(0.1), playedChecks(seen, setting), free);
    expect(kept.givenUp).to.deep.equal(givenUp);
    const dear = decideInStages(worths, early(0.1, true), playedChecks(seen, setting), free);
    expect(dear.givenUp.some(Boolean)).to.equal(false);
    const blind = decideInStages(
      worths,
      early(Number.POSITIVE_INFINITY),
      playedChecks(half({}, {}), setting),
      free,
    );
    expect(blind.givenUp.filter(Boolean).length).to.be.oneOf([0, 120]);
  });

  it('who plays a candidate drawn more than once is judged by none of its like', () => {
    const seen = half({}, {}, 4);
    expect(kinOf([seen[0], seen[1], { ...seen[0] }, seen[3]])).to.deep.equal([0, 1, 0, 3]);
    const drawn = [...seen, ...seen];
    const alone = decideInStages(
      [byHalf(9, -9, 8), byHalf(0, 0, 8)],
      { ...NEVER, worths: NEVER.worths.slice(0, 8) },
      playedChecks(drawn, setting),
      free,
    );
    // Of the other kinds two are bad and one is sound, or the other way about: none knows its own.
    expect(alone.choices).to.deep.equal([1, 0, 1, 0, 1, 0, 1, 0]);
  });

  it('never offers a check a battery cannot be asked, as bubbles in a sealed one', () => {
    const made = [...playedChecks(half({}, {}), setting).by.keys()];
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
