/** Seeded chance: the same seed gives the same numbers, in the same order, on every machine. */
import { randomNormal } from 'd3-random';
import { uniformFloat64 } from 'pure-rand/distribution/uniformFloat64';
import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus';

/** Uniform in [0, 1). */
export type Chance = () => number;

export function chanceFrom(seed: number): Chance {
  const generator = xoroshiro128plus(seed);
  return () => uniformFloat64(generator);
}

/** Standard normal. @see Marsaglia & Bray 1964, the polar method */
export const normal = (chance: Chance): number => randomNormal.source(chance)()();

/**
 * Inverse of the standard normal distribution.
 * @param share 0–1, both excluded
 * @see Winitzki 2008, A handy approximation for the error function and its inverse (relative error below 0.2 %)
 */
export function normalQuantile(share: number): number {
  const x = Math.min(1 - 1e-9, Math.max(-1 + 1e-9, 2 * share - 1));
  const a = 0.147;
  const log = Math.log(1 - x * x);
  const half = 2 / (Math.PI * a) + log / 2;
  return Math.SQRT2 * Math.sign(x) * Math.sqrt(Math.sqrt(half * half - log / a) - half);
}
