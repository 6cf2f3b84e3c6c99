import { expect } from 'chai';
import fc from 'fast-check';
import { CATALOGUE } from '../demo/catalogue.ts';
import { nominalV } from './types.ts';
import { checkFilledMass, fullMassG } from './packMass.ts';
import { chargeAfterSoakByAge, chargeFromRestedVoltage } from './stateOfCharge.ts';

describe('catalogue', () => {
  it('holds at least ten types of both voltages, flooded and AGM, 4 to 75 Ah', () => {
    expect(CATALOGUE).to.have.length.of.at.least(10);
    expect([...new Set(CATALOGUE.map(nominalV))].sort()).to.deep.equal([12, 6]);
    const sizes = CATALOGUE.map((type) => type.capacityAh);
    expect([Math.min(...sizes), Math.max(...sizes)]).to.deep.equal([4, 75]);
    expect(new Set(CATALOGUE.map((type) => type.id)).size).to.equal(CATALOGUE.length);
  });

  it('gives every AGM filled from a pack its own code and a believable amount of acid', () => {
    const packs = CATALOGUE.flatMap((type) => (type.pack ? [{ type, pack: type.pack }] : []));
    expect(new Set(packs.map(({ pack }) => pack.code)).size).to.equal(packs.length);
    for (const { type, pack } of packs) {
      expect(pack.volumeMl / type.capacityAh / type.cells).to.be.within(8.8, 9.5);
      expect(pack.densityKgPerL).to.be.within(1.3, 1.33);
    }
  });
});

describe('state of charge', () => {
  for (const [volts, low, high] of [
    [12.3, 35, 46],
    [12.6, 60, 75],
    [12.75, 78, 90],
    [12.9, 95, 100],
  ] as const)
    it(`puts an AGM resting at ${volts} V between ${low} and ${high} %`, () => {
      expect(chargeFromRestedVoltage(volts, 6, 'agm').mean).to.be.within(low, high);
      expect(chargeFromRestedVoltage(volts / 2, 3, 'agm').mean).to.be.closeTo(
        chargeFromRestedVoltage(volts, 6, 'agm').mean,
        1e-9,
      );
    });

  it('never reads full off the 12.6 V floor', () => {
    expect(chargeFromRestedVoltage(12.6, 6, 'agm').high).to.be.below(80);
  });

  it('is ordered and rises with voltage', () => {
    fc.assert(
      fc.property(fc.double({ min: 10, max: 14, noNaN: true }), (volts) => {
        const { low, mean, high } = chargeFromRestedVoltage(volts, 6, 'agm');
        expect(low).to.be.at.most(mean);
        expect(mean).to.be.at.most(high);
        expect(chargeFromRestedVoltage(volts + 0.01, 6, 'agm').mean).to.be.at.least(mean);
      }),
    );
  });

  it('falls with the age of dry stock as published', () => {
    expect([0, 6, 12, 18, 24, 36, 48].map((months) => chargeAfterSoakByAge(months))).to.deep.equal([
      80, 80, 75, 70, 65, 50, 35,
    ]);
  });
});

describe('mass check', () => {
  const pack = { code: 'P-09', volumeMl: 492, densityKgPerL: 1.32 };

  it('passes a full fill and catches one chamber of six short by a fifth', () => {
    const full = 492 * 1.32;
    expect(checkFilledMass(pack, 2910, 2910 + full * 1.01, 0.015)).to.include({ isFull: true });
    const oneShort = full * (1 - 0.2 / 6);
    expect(checkFilledMass(pack, 2910, 2910 + oneShort, 0.015)).to.include({ isFull: false });
  });

  it('knows what a full one weighs where the dry mass and the pack are printed', () => {
    const full = (id: string): number | undefined => {
      const type = CATALOGUE.find((one) => one.id === id);
      return type && fullMassG(type);
    };
    // 14,100 g of plates and case, 3,000 mL at 1.30 kg/L.
    expect(full('BK-A12/55')).to.equal(18_000);
    expect(full('BK-F12/70')).to.equal(undefined);
  });
});
