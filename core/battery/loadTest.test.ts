import { expect } from 'chai';
import { CATALOGUE } from './catalogue.ts';
import { halfCrankingFloorV, loadTestFor } from './loadTest.ts';

describe('load test', () => {
  for (const [tempC, volts] of [
    [-30, 8.5],
    [-18, 8.5],
    [-7, 8.9],
    [10, 9.4],
    [18.5, 9.55],
    [21, 9.6],
    [35, 9.6],
  ] as const)
    it(`passes half the cranking rating at ${volts} V when the battery has ${tempC} °C`, () => {
      expect(halfCrankingFloorV(tempC)).to.be.closeTo(volts, 0.001);
    });

  it('uses half the rating where it is known, three times capacity where it is not', () => {
    const type = CATALOGUE.find((candidate) => candidate.id === 'LW-A6/12');
    if (!type) throw new Error('type missing');
    expect(loadTestFor(type, 'halfCranking', 25)).to.include({ currentA: 75, floorV: 4.8 });
    const { cranking: _unrated, ...unrated } = type;
    expect(loadTestFor(unrated, 'halfCranking', 25)).to.include({ currentA: 36, floorV: 5.25 });
    expect(loadTestFor(type, 'tripleLenient', 25)).to.include({ currentA: 36, floorV: 4.75 });
  });
});
