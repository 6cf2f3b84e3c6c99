import { expect } from 'chai';
import type { ModelRun } from '../charge/modelRun.ts';
import {
  AGM_80,
  chargeOn,
  EVERY_FAULT,
  FLOODED_70,
  partCharged,
  sixDifferent,
  steadyCharge,
} from '../test/modelBench.ts';
import type { Rating } from './parameters.ts';

function compare(rating: Rating, faults: (typeof EVERY_FAULT)[number][1]) {
  // A dead short at C/10 is switched off for heat again and again, and the runs part by a second each time.
  const isShorted = faults.some((fault) => fault.kind === 'short' && fault.ohms < 0.1);
  const amps = rating.capacityAh / (isShorted ? 20 : 10);
  const run = (longestS?: number): ModelRun => {
    const options = longestS === undefined ? {} : { steps: { longestS } };
    const charge = chargeOn(
      rating,
      partCharged(sixDifferent(rating), faults),
      steadyCharge(rating, amps),
      options,
    );
    charge.runUntil(48 * 3600);
    return charge;
  };
  const fast = run();
  const reference = run(1);
  const until = Math.min(fast.atS, reference.atS);
  const off = (atS: number): number =>
    atS < 5 ? 0 : Math.abs(fast.trace.at(atS, 'volts') - reference.trace.at(atS, 'volts'));
  let atSteps = 0;
  for (let row = 0; row < fast.trace.length; row++) {
    const atS = fast.trace.seconds(row);
    if (atS <= until) atSteps = Math.max(atSteps, off(atS));
  }
  let between = 0;
  for (let atS = 60; atS < until; atS += 20) between = Math.max(between, off(atS));
  const ah = (charge: ModelRun): number => charge.cells.state.shared[1] ?? 0;
  return {
    atSteps,
    between,
    charge: Math.abs(ah(fast) / (ah(reference) || 1) - 1),
    steps: fast.trace.length,
  };
}

describe('a 48-hour charge in long steps, against one in steps of a second', () => {
  const pairs = EVERY_FAULT.map(([name, faults], index) => ({
    name,
    faults,
    rating: index % 2 === 0 ? AGM_80 : FLOODED_70,
  }));
  for (const { name, faults, rating } of pairs)
    it(`${name}, ${rating.construction}: within 2 mV at steps, 10 mV between, 0.2 % of charge`, () => {
      const { atSteps, between, charge, steps } = compare(rating, faults);
      expect(atSteps).to.be.below(0.002);
      expect(between).to.be.below(0.01);
      expect(charge).to.be.below(0.002);
      expect(steps).to.be.below(900);
    });
});
