import { expect } from 'chai';
import { conductivityAt } from './conductivity.ts';
import { densityAt, densityTo25, hydrometerTo25, massFractionAt, specificGravity } from './density.ts';
import { diluteTo } from './dilution.ts';
import { cellEmf, cellEmfSlope, emfTemperatureSlope, massFractionOf, molality } from './emf.ts';
import {
  ACID_G_PER_AH,
  HYDROGEN_G_PER_AH,
  HYDROGEN_L_PER_AH,
  WATER_MADE_G_PER_AH,
  WATER_SPLIT_G_PER_AH,
} from './faraday.ts';
import { freezingPointC } from './freezing.ts';
import { neutralise } from './neutraliser.ts';
import { hydrogenShare, ventilation } from './ventilation.ts';

describe('density of acid', () => {
  // Published rows the table leaves out (Perry's Chemical Engineers' Handbook).
  const between = [
    [3, 20, 1.0184],
    [7, 25, 1.0434],
    [12, 0, 1.0886],
    [12, 40, 1.0705],
    [17, 25, 1.1141],
    [23, 20, 1.1626],
    [23, 50, 1.1437],
    [28, 15, 1.2057],
    [28, 30, 1.1955],
    [33, 25, 1.2396],
    [37, 20, 1.2769],
    [37, 0, 1.2917],
    [39, 25, 1.2904],
    [38, 40, 1.2707],
  ] as const;
  for (const [percent, tempC, density] of between)
    it(`of ${percent} % at ${tempC} °C is ${density} g/cm³`, () => {
      expect(densityAt(percent / 100, tempC)).to.be.closeTo(density, 0.002);
    });

  it('goes there and back', () => {
    for (const tempC of [0, 13, 25, 50])
      for (let percent = 0; percent <= 97; percent += 1)
        expect(massFractionAt(densityAt(percent / 100, tempC), tempC)).to.be.closeTo(percent / 100, 2e-6);
  });

  it('to 25 °C agrees with the bench rule near battery strength', () => {
    expect(densityTo25(1.28, 35)).to.be.closeTo(hydrometerTo25(1.28, 35), 0.001);
    expect(densityTo25(1.24, 10)).to.be.closeTo(hydrometerTo25(1.24, 10), 0.0015);
  });

  it('is not specific gravity', () => {
    expect(specificGravity(1.265)).to.be.closeTo(1.2688, 1e-4);
  });

  it('is refused in one sentence outside the table', () => {
    expect(() => densityAt(0.99, 25)).to.throw(RangeError, 'must lie between 0 and 0.98; 0.99 does not.');
    expect(() => densityAt(0.3, 60)).to.throw('The temperature of acid in °C must lie between 0 and 50');
    expect(() => massFractionAt(1265, 25)).to.throw('The density of acid in g/cm³ must lie between');
    expect(() => massFractionAt(Number.NaN, 25)).to.throw(RangeError);
  });
});

describe('electromotive force', () => {
  // E = E° + RT/F·ln(4 m³γ±³ / a_w), E° 2.041 V, with Robinson & Stokes 1959, app. 8.10: γ± and φ at 25 °C.
  const published = [
    [0.1, 0.2655, 0.68],
    [0.5, 0.1557, 0.676],
    [1, 0.1316, 0.721],
    [2, 0.1276, 0.846],
    [3, 0.1422, 0.991],
    [4, 0.17, 1.15],
  ] as const;
  for (const [m, gamma, phi] of published)
    it(`at ${m} mol/kg agrees with the published activities`, () => {
      const lnWater = -0.054045 * m * phi;
      const emf = 2.041 + 0.025693 * (Math.log(4 * m ** 3 * gamma ** 3) - lnWater);
      expect(cellEmf(m)).to.be.closeTo(emf, 0.005);
    });

  it('of six cells is 12.69, 12.78 and 12.90 V at 1.265, 1.280 and 1.300', () => {
    const six = (density: number) => 6 * cellEmf(molality(massFractionAt(density, 25)));
    expect(six(1.265)).to.be.closeTo(12.69, 0.01);
    expect(six(1.28)).to.be.closeTo(12.78, 0.01);
    expect(six(1.3)).to.be.closeTo(12.9, 0.01);
  });

  it('rises all the way from water, with the slope it says', () => {
    for (let m = 0.002; m < 9; m *= 1.1) {
      expect(cellEmf(m * 1.1)).to.be.above(cellEmf(m));
      const numeric = (cellEmf(m * 1.0001) - cellEmf(m / 1.0001)) / (m * 1.0001 - m / 1.0001);
      if (Math.abs(m - 0.1) > 0.01)
        expect(cellEmfSlope(m)).to.be.closeTo(numeric, 1e-4 * Math.abs(numeric) + 1e-7);
    }
  });

  it('warms up by the published fraction of a millivolt', () => {
    expect(emfTemperatureSlope(0.1) * 1e3).to.be.closeTo(-0.27, 0.03);
    expect(emfTemperatureSlope(1) * 1e3).to.be.closeTo(0.06, 0.02);
    expect(emfTemperatureSlope(5) * 1e3).to.be.closeTo(0.15, 0.03);
  });

  it('turns mass fraction to molality and back', () => {
    expect(molality(0.37)).to.be.closeTo(5.988, 0.001);
    expect(massFractionOf(molality(0.37))).to.be.closeTo(0.37, 1e-12);
  });
});

describe('freezing point', () => {
  // Handbook 7 (by density at 15 °C), and between its knots the freezing depression 1.858·ν·m·φ of dilute acid.
  const cases = [
    [1.05, -3],
    [1.1, -8],
    [1.15, -15],
    [1.2, -27],
  ] as const;
  for (const [density, freezesC] of cases)
    it(`of ${density} is ${freezesC} °C`, () => {
      expect(freezingPointC(massFractionAt(density, 15))).to.be.closeTo(freezesC, 1);
    });
  for (const [m, phi] of [
    [0.5, 0.676],
    [1, 0.721],
    [1.5, 0.78],
  ] as const)
    it(`of ${m} mol/kg is the published depression`, () => {
      expect(freezingPointC(massFractionOf(m))).to.be.closeTo(-1.858 * 3 * m * phi, 1);
    });
});

describe('conductivity', () => {
  it('is best near 30 % and agrees with the published points at 25 °C', () => {
    // Darling 1964, J. Chem. Eng. Data 9, 421: 0.826 S/cm at 30 %, 0.716 at 20 %, 0.757 at 40 %.
    expect(conductivityAt(0.3, 25)).to.be.closeTo(0.826, 0.01);
    expect(conductivityAt(0.2, 25)).to.be.closeTo(0.716, 0.01);
    expect(conductivityAt(0.4, 25)).to.be.closeTo(0.757, 0.01);
  });
});

describe('dilution', () => {
  it('weighs what it should and shrinks', () => {
    const mixed = diluteTo(0.96, 0.37, 1000);
    expect(mixed.acidG + mixed.waterG).to.be.closeTo(1000 * densityAt(0.37, 25), 1e-9);
    expect((mixed.acidG * 0.96) / (mixed.acidG + mixed.waterG)).to.be.closeTo(0.37, 1e-12);
    expect(mixed.acidMl + mixed.waterMl).to.be.above(1000);
  });

  it('warms as the published heats say', () => {
    // 1 mol of pure acid in 10 mol of water: 67.03 kJ (NBS Circular 500) into 278.2 g at 35.3 %.
    const target = 98.08 / (98.08 + 180.15);
    const mixed = diluteTo(0.98, target, 500);
    const fromPure = 67_030 / (278.23 * 3.026);
    expect(mixed.riseK).to.be.within(fromPure * 0.9, fromPure);
    expect(mixed.stages).to.equal(Math.ceil(mixed.riseK / 20));
  });

  it('is refused when the target is out of reach', () => {
    expect(() => diluteTo(0.37, 0.4, 1000)).to.throw('40.0 % is not.');
    expect(() => diluteTo(0.96, 0.37, 0)).to.throw('above 0 mL');
  });
});

describe('per ampere-hour and cell', () => {
  it('the published figures', () => {
    expect(ACID_G_PER_AH).to.be.closeTo(3.66, 0.002);
    expect(WATER_MADE_G_PER_AH).to.be.closeTo(0.672, 0.001);
    expect(WATER_SPLIT_G_PER_AH).to.be.closeTo(0.336, 0.001);
    expect(HYDROGEN_L_PER_AH).to.be.closeTo(0.456, 0.001);
    expect(HYDROGEN_G_PER_AH * 9).to.be.closeTo(WATER_SPLIT_G_PER_AH, 0.005);
  });

  it('neutraliser', () => {
    expect(neutralise(1, 'baking-soda').grams).to.be.closeTo(1.713, 0.001);
    expect(neutralise(1, 'baking-soda').carbonDioxideL).to.be.closeTo(0.5, 0.005);
    expect(neutralise(1, 'washing-soda').grams).to.be.closeTo(1.081, 0.001);
    expect(neutralise(1, 'slaked-lime').grams).to.be.closeTo(0.755, 0.001);
  });
});

describe('air', () => {
  it('follows the standard’s example figures', () => {
    // 6 cells, 100 Ah, vented on boost: 0.05 · 6 · 20 · 100 / 1000 = 0.6 m³/h, 16.8 cm².
    expect(ventilation(6, 100, 'vented', 'boost').airM3PerH).to.be.closeTo(0.6, 1e-9);
    expect(ventilation(6, 100, 'vented', 'boost').openingCm2).to.be.closeTo(16.8, 1e-9);
    expect(ventilation(6, 100, 'valve-regulated', 'float').airM3PerH).to.be.closeTo(0.03, 1e-9);
  });

  it('lets hydrogen settle where supply and draught balance', () => {
    expect(hydrogenShare(10, 30, 0, 3)).to.be.closeTo(0.001, 1e-12);
    expect(hydrogenShare(10, 30, 1, 100)).to.be.closeTo(1 / 3000, 1e-9);
  });
});
