import { expect } from 'chai';
import { misfitTrial, type MistakeId } from '../test/misfitTrial.ts';
import { tailBelow } from '../observation/likelihood.ts';
import { readingWords } from './words.ts';

/** Of so many batteries; more are in docs/belief/misfits.md. */
const COUNT = 14;
const CANDIDATES = 200;

describe('a reading that does not fit', function () {
  this.timeout(240_000);

  it('is weighed under the tail of published tables', () => {
    // Student's t, five degrees of freedom (Fisher & Yates 1938).
    for (const [z, below] of [
      [0, 0.5],
      [1.476, 0.9],
      [2.015, 0.95],
      [2.571, 0.975],
      [4.032, 0.995],
    ] as const) {
      expect(tailBelow(z)).to.be.closeTo(below, 2e-4);
      expect(tailBelow(-z)).to.be.closeTo(1 - below, 2e-4);
    }
  });

  const DIGIT: MistakeId = 'a digit more at the tester';
  const AS_READ: MistakeId = 'as it was read';

  it('is not seen in batteries the model knows, and is named where a digit slipped in what the tester showed', () => {
    const counts = misfitTrial('agm', COUNT, CANDIDATES, 7, [AS_READ, DIGIT]);
    expect(counts.get(AS_READ)?.alarms).to.be.at.most(1);
    expect(counts.get(DIGIT)?.alarms).to.be.at.least(0.8 * COUNT);
    expect(counts.get(DIGIT)?.named).to.be.at.least(0.6 * COUNT);
  });

  it('is named in words', () => {
    expect(readingWords({ kind: 'tester', amps: 6400 })).to.equal('Tester shows 6400 A');
  });
});
