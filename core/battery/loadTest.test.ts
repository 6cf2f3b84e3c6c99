import { expect } from 'chai';
import { CATALOGUE } from '../demo/catalogue.ts';
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
    expect(loadTestFor(type, 'halfCranking', 25)).to.include({ floorV: 4.8 });
    // 150 A EN are about 167 A SAE by rule of thumb, and the floor is that of the SAE table.
    expect(loadTestFor(type, 'halfCranking', 25).currentA).to.be.closeTo(150 / 0.9 / 2, 1e-9);
    const { cranking: _unrated, ...unrated } = type;
    expect(loadTestFor(unrated, 'halfCranking', 25)).to.include({ currentA: 36, floorV: 5.25 });
    expect(loadTestFor(type, 'tripleLenient', 25)).to.include({ currentA: 36, floorV: 4.75 });
  });

  it('a DIN battery and its SAE twin are loaded alike, and it says by which rule', () => {
    const type = CATALOGUE.find((candidate) => candidate.id === 'BK-F12/70');
    if (!type) throw new Error('type missing');
    const rated = (amps: number, standard: 'DIN' | 'SAE') =>
      loadTestFor({ ...type, cranking: { amps, standard } }, 'halfCranking', 25);
    expect(rated(300, 'DIN').currentA).to.be.closeTo(rated(526, 'SAE').currentA, 1);
    expect(rated(300, 'DIN').basis).to.include('about 526 A SAE, by rule of thumb what 300 A DIN are');
    expect(rated(526, 'SAE').basis).to.include('half of 526 A (SAE)');
  });

  it('a rating no battery of the size can have is not gone by: three times capacity then', () => {
    const type = CATALOGUE.find((candidate) => candidate.id === 'BK-F12/70');
    if (!type) throw new Error('type missing');
    const odd = { ...type, cranking: { amps: 1600, standard: 'DIN' as const } };
    expect(loadTestFor(odd, 'halfCranking', 25)).to.include({ currentA: 210, floorV: 10.5 });
  });

  it('the cold lowers three times capacity’s floor as the table’s, warmth gives no bonus', () => {
    const type = CATALOGUE.find((candidate) => candidate.id === 'BK-F12/70');
    if (!type) throw new Error('type missing');
    const floor = (tempC: number): number => loadTestFor(type, 'tripleStrict', tempC).floorV;
    expect(floor(-1)).to.be.closeTo(10.0, 1e-9);
    expect(floor(40)).to.equal(10.5);
  });
});
