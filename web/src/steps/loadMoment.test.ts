import { expect } from 'chai';
import { BACK_S, momentAt } from './loadMoment.ts';

describe('a load test counted down', () => {
  for (const [at, isWatched, words, isNow] of [
    [0, true, 'at once', true],
    [1, true, 'at once', true],
    [2, true, 'Watch', false],
    [0, false, 'Watch', false],
    [12, true, 'lowest now', true],
    [14, false, 'lowest now', true],
    [15, false, 'Enter the lowest', true],
    [15, true, 'one more reading', false],
    [15 + BACK_S - 1, true, 'one more reading', false],
    [15 + BACK_S, true, 'sprung back', true],
  ] as const)
    it(`${at} s in, ${isWatched ? 'watched to its end' : 'by itself'}: “${words}”`, () => {
      const moment = momentAt(at, 15, isWatched);
      expect(moment.words).to.include(words);
      expect(moment.isNow).to.equal(isNow);
    });

  it('asks for the lowest in every length of test a house may choose', () => {
    for (const seconds of [10, 15])
      expect(
        Array.from({ length: seconds }, (_, at) => momentAt(at, seconds, false)).filter(({ isNow }) => isNow),
      ).to.have.length(3);
  });

  it('says the load is off from the moment it is', () => {
    expect(momentAt(14, 15, true).words).not.to.include('off');
    for (const at of [15, 40]) expect(momentAt(at, 15, true).words).to.include('Load off');
  });
});
