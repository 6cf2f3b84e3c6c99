import { expect } from 'chai';
import { percentText } from '../units/percent.ts';
import { compare } from './compare.ts';
import type { Course } from './courses.ts';
import { ends } from '../test/ends.ts';
import { sureOf } from './sure.ts';
import { branchWords, lookWords, treeOf } from './tree.ts';
import { USUAL_COSTS, type Costs } from './worth.ts';
import { AGM_80 } from '../test/modelBench.ts';

const COSTS: Costs = { ...USUAL_COSTS, pricePerKwh: 0.3 };
const setting = {
  rating: AGM_80,
  history: { construction: 'agm', complaint: 'unknown' },
  tempC: 21,
} as const;
const CHARGE: Course = { id: 'slow-charge', title: 'Slow charge', routes: ['slow-charge'] };
const RETIRE: Course = { id: 'retire', title: 'Retire it', routes: ['retire'] };

/** Of ten so many come back. */
const held = (back: number) =>
  compare(
    [CHARGE, RETIRE],
    [
      Array.from({ length: 10 }, (_, index) => ends(index < back ? 'B' : 'R')),
      Array.from({ length: 10 }, () => ends('R')),
    ],
    setting,
    COSTS,
    () => [{ handsMin: 15 }],
  );
const priced = { costs: COSTS, battery: AGM_80 };

describe('how sure an advice is', () => {
  it('counts the batteries on which nothing else is worth more, and what one in ten loses', () => {
    const sure = sureOf(held(7), 'slow-charge', priced);
    expect(sure?.best).to.equal(0.7);
    expect(sure?.atWorst).to.be.lessThan(0);
    expect(sureOf(held(10), 'slow-charge', priced)?.atWorst).to.be.greaterThan(0);
    expect(sureOf(held(7), 'no such way', priced)).to.equal(undefined);
  });

  it('names the costs that would turn it, the nearest first; at each both ways are worth the same', () => {
    const comparison = held(5);
    const sure = sureOf(comparison, 'slow-charge', priced);
    expect(sure?.turns.length).to.be.greaterThan(0);
    for (const { path, now, at, to } of sure?.turns ?? []) {
      expect(to).to.equal('Retire it');
      expect(at / now, path).to.be.within(0.49, 2.01);
    }
    const hands = sure?.turns.find(({ path }) => path === 'handsPerHour');
    if (hands) {
      const there = sureOf(comparison, 'slow-charge', {
        ...priced,
        costs: { ...COSTS, handsPerHour: hands.at },
      });
      expect(there?.turns[0]?.at).to.be.closeTo(hands.at, 0.05 * hands.at);
    }
    const nearness = (sure?.turns ?? []).map(({ now, at }) => Math.abs(Math.log(at / now)));
    expect(nearness).to.deep.equal([...nearness].sort((a, b) => a - b));
  });

  it('nothing turns what is worth far more than anything else', () => {
    const rich = sureOf(held(10), 'slow-charge', {
      ...priced,
      costs: { ...COSTS, newBase: 4000, resale: { A: 0.9, B: 0.8, C: 0.7 } },
    });
    expect(rich?.turns).to.deep.equal([]);
  });
});

describe('a tree in words', () => {
  it('says what is read, what is done by it and how often, the likeliest first', () => {
    const tree = treeOf(
      [
        { id: 'prove', title: 'Prove it as it stands', routes: [] },
        { id: 'retire', title: 'Retire it', routes: [] },
        { id: 'pulse', title: 'Pulses over days', routes: ['pulse'] },
      ],
      {
        checks: ['charge', 'rest', 'tester'],
        choices: [1, 0, 1, 1, 0, 1, 1, 1],
        givenUp: Array.from({ length: 8 }, () => false),
        goingOn: [],
        read: {
          charge: [[40], [41], [42], [39], [39], [42], [40], [41]],
          rest: [[10.5], [12.7], [10.6], [10.4], [12.72], [10.5], [10.5], [10.5]],
          tester: [[100], [480], [90], [110], [470], [100], [100], [100]],
        },
      },
    );
    expect(tree.branches.map(branchWords)).to.deep.equal([
      `about 10.50 V, 100 A: retire it (${percentText(0.75)})`,
      `about 12.71 V, 475 A: prove it as it stands (${percentText(0.25)})`,
    ]);
    expect(lookWords(tree)).to.equal('what it took, its rested voltage and the tester');
    expect(lookWords({ ...tree, checks: [] })).to.equal('what it took and its rested voltage');
  });
});
