import { expect } from 'chai';
import { AGM_80, FLOODED_70 } from '../test/modelBench.ts';
import {
  COST_WORDS,
  costAt,
  costOf,
  NOTHING_SPENT,
  USUAL_COSTS,
  valueOf,
  withCost,
  type Costs,
} from './worth.ts';

const COSTS: Costs = { ...USUAL_COSTS, pricePerKwh: 0.3 };

describe('what a way back costs and brings', () => {
  it('adds hands, bay, energy, water and consumables', () => {
    const spent = { handsMin: 30, bayH: 48, mainsWh: 2000, waterMl: 500 };
    expect(costOf(spent, COSTS)).to.be.closeTo(15 + 3 + 0.6 + 0.5 + 1, 1e-9);
  });

  it('costs nothing to do nothing', () => {
    expect(costOf(NOTHING_SPENT, COSTS)).to.equal(0);
  });

  for (const [grade, expected] of [
    ['A', 0.45 * 2.2 * 80],
    ['A pending', 0.45 * 2.2 * 80],
    ['B', 0.3 * 2.2 * 80],
    ['C', 0.12 * 2.2 * 80],
    ['R', 6],
  ] as const)
    it(`an AGM of grade ${grade} brings its share of a new one`, () => {
      expect(valueOf(grade, AGM_80, COSTS)).to.be.closeTo(expected, 1e-9);
    });

  it('never brings less than its lead', () => {
    const small = { ...FLOODED_70, capacityAh: 4 };
    expect(valueOf('C', small, COSTS)).to.equal(COSTS.corePays);
  });

  for (const { path, label } of COST_WORDS)
    it(`${label.toLowerCase()} is read and changed by its path, and nothing else with it`, () => {
      const changed = withCost(USUAL_COSTS, path, 0.77);
      expect(costAt(changed, path)).to.equal(0.77);
      const back = withCost(changed, path, costAt(USUAL_COSTS, path));
      expect(back).to.deep.equal(USUAL_COSTS);
    });
});
