/** Chance for trials numbered 0, 1, 2 … */
import { chanceFrom } from '../chance/chance.ts';

/** Between two bounds, the same for the same number. */
export function trialChance(seed: number): (low: number, high: number) => number {
  const chance = chanceFrom(seed);
  return (low, high) => low + (high - low) * chance();
}
