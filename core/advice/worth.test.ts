import { expect } from 'chai';
import { AGM_80, FLOODED_70 } from '../test/modelBench.ts';
import {
  COST_WORDS,
  coreOf,
  costAt,
  costOf,
  moneyText,
  NOTHING_SPENT,
  priceOfNew,
  USUAL_COSTS,
  valueOf,
  withCost,
  type Costs,
} from './worth.ts';

const COSTS: Costs = { ...USUAL_COSTS, pricePerKwh: 0.3 };

/** A base, and an amount for each Ah. */
const NEW_80 = 25 + 1.7 * 80;

describe('what a way back costs and brings', () => {
  it('adds hands, bay, energy, water and consumables', () => {
    const spent = { handsMin: 30, bayH: 48, mainsWh: 2000, waterMl: 500 };
    expect(costOf(spent, COSTS)).to.be.closeTo(15 + 3 + 0.6 + 0.5 + 1, 1e-9);
  });

  it('costs nothing to do nothing', () => {
    expect(costOf(NOTHING_SPENT, COSTS)).to.equal(0);
  });

  for (const [grade, expected] of [
    ['A', 0.45 * NEW_80],
    ['A pending', 0.45 * NEW_80],
    ['B', 0.3 * NEW_80],
    ['C', 0.12 * NEW_80],
    ['R', 8],
  ] as const)
    it(`an AGM of grade ${grade} brings its share of a new one`, () => {
      expect(valueOf(grade, AGM_80, COSTS)).to.be.closeTo(expected, 1e-9);
    });

  it('never brings less than its lead', () => {
    expect(valueOf('C', FLOODED_70, { ...COSTS, corePerAh: 1 })).to.equal(70);
    const small = { ...FLOODED_70, capacityAh: 4 };
    expect(valueOf('C', small, COSTS)).to.equal(0.12 * (25 + 0.9 * 4));
  });

  it('a type’s own price goes before what is reckoned by its size', () => {
    expect(priceOfNew(AGM_80, COSTS)).to.equal(NEW_80);
    expect(priceOfNew({ ...AGM_80, newPrice: 240 }, COSTS)).to.equal(240);
  });

  it('for its owner it is a new one saved for the life it has left; or the fee, where the shop takes one', () => {
    const own = { ...AGM_80, whose: 'customer' } as const;
    expect(valueOf('B', own, COSTS)).to.be.closeTo(0.45 * NEW_80, 1e-9);
    expect(valueOf('B', { ...own, whose: 'shop' }, { ...COSTS, fee: 35 })).to.be.closeTo(0.45 * NEW_80, 1e-9);
    expect(valueOf('B', own, { ...COSTS, fee: 35 })).to.equal(35);
    expect(valueOf('R', own, { ...COSTS, fee: 35 })).to.equal(8);
    expect(valueOf('B', { ...own, whose: 'stock' }, COSTS)).to.be.closeTo(0.3 * NEW_80, 1e-9);
  });

  // Half an hour of hands and two days in a bay: for its owner even a small one may pay, a large one always does.
  for (const [construction, capacityAh, whose, pays] of [
    ['agm', 9, 'customer', true],
    ['agm', 9, 'stock', false],
    ['agm', 55, 'customer', true],
    ['agm', 55, 'stock', true],
    ['flooded', 225, 'shop', true],
    ['flooded', 225, 'stock', true],
  ] as const)
    it(`out of the box a ${capacityAh} Ah ${construction} of grade A, ${whose}, ${pays ? 'pays' : 'does not pay'}`, () => {
      const battery = { construction, capacityAh, whose };
      const spent = { handsMin: 30, bayH: 48, mainsWh: capacityAh * 20, waterMl: 0 };
      const gain = valueOf('A', battery, COSTS) - coreOf(battery, COSTS) - costOf(spent, COSTS);
      expect(gain > 0).to.equal(pays);
    });

  it('an amount bears the sign of the shop’s money, and a minus before it', () => {
    expect(moneyText(4.2)).to.equal('¤\u00a04.20');
    expect(moneyText(-4.2)).to.equal('−¤\u00a04.20');
    expect(moneyText(-0.001)).to.equal('¤\u00a00.00');
  });

  for (const { path, label } of COST_WORDS)
    it(`${label.toLowerCase()} is read and changed by its path, and nothing else with it`, () => {
      const changed = withCost(USUAL_COSTS, path, 0.77);
      expect(costAt(changed, path)).to.equal(0.77);
      const back = withCost(changed, path, costAt(USUAL_COSTS, path));
      expect(back).to.deep.equal(USUAL_COSTS);
    });
});
