/** Chance for trials numbered 0, 1, 2 …: small seeds alike must not give draws alike. */
import { chanceFrom, type Chance } from '../belief/chance.ts';

/** The generator's first draws are its seed turned about; after these it has forgotten it. */
const FORGETS_AFTER = 64;

/** Between two bounds, the same for the same number. */
export function trialChance(seed: number): (low: number, high: number) => number {
  const chance: Chance = chanceFrom(seed);
  for (let draw = 0; draw < FORGETS_AFTER; draw++) chance();
  return (low, high) => low + (high - low) * chance();
}
