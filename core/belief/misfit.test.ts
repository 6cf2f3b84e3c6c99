import { expect } from 'chai';
import { misfitTrial, SPOILS } from '../test/misfitTrial.ts';
import { tailBelow } from '../observation/likelihood.ts';
import { readingWords } from './words.ts';

/** Of so many batteries; the figures of thousands are in docs/belief/results.md. */
const COUNT = 20;
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

  it('is not seen in batteries the model knows', () => {
    const { alarms } = misfitTrial('agm', COUNT, CANDIDATES, 7);
    expect(alarms).to.be.at.most(1);
  });

  it('is named where a digit slipped in what the tester showed', () => {
    const { alarms, named } = misfitTrial('agm', COUNT, CANDIDATES, 7, SPOILS['a digit more at the tester']);
    expect(alarms).to.be.at.least(0.8 * COUNT);
    expect(named).to.be.at.least(0.6 * COUNT);
  });

  it('is named in words', () => {
    expect(readingWords({ kind: 'tester', amps: 6400 })).to.equal('Tester shows 6400 A');
  });
});
