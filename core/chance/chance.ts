/** Seeded chance: the same seed gives the same numbers, in the same order, on every machine. */
import { randomNormal } from 'd3-random';
import murmurhash from 'murmurhash';
import { uniformFloat64 } from 'pure-rand/distribution/uniformFloat64';
import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus';

/** Uniform in [0, 1). */
export type Chance = () => number;

/**
 * A seed is hashed first: what follows from two seeds that lie side by side, as those of two cells do, has nothing in common.
 * @see Blackman & Vigna 2021, Scrambled Linear Pseudorandom Number Generators (generators wants well-mixed seeds)
 */
export function chanceFrom(seed: number | string): Chance {
  const generator = xoroshiro128plus(murmurhash.v3(String(seed)));
  // The generator itself spreads 32 bits of seed over its state only as it goes.
  for (let early = 0; early < WARMS_UP; early++) uniformFloat64(generator);
  return () => uniformFloat64(generator);
}

const WARMS_UP = 8;

/** Standard normal. @see Marsaglia & Bray 1964, the polar method */
export const normal = (chance: Chance): number => randomNormal.source(chance)()();

/** A normally distributed number that depends on nothing but its seed. */
export const seededNormal = (seed: string): number => normal(chanceFrom(seed));
