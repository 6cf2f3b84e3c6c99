/** Seeded randomness: the same battery read at the same moment always shows the same. */
import { randomNormal } from 'd3-random';
import { uniformFloat64 } from 'pure-rand/distribution/uniformFloat64';
import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus';

/**
 * FNV-1a, 32 bit.
 * @see Fowler, Noll, Vo: The FNV Non-Cryptographic Hash Algorithm, RFC 9923
 */
function hash(text: string): number {
  let value = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) value = Math.imul(value ^ text.charCodeAt(i), 0x01000193);
  return value >>> 0;
}

/** A normally distributed number that depends on nothing but its seed text. @see Marsaglia & Bray 1964, the polar method */
export function seededNormal(seed: string): number {
  const generator = xoroshiro128plus(hash(seed));
  return randomNormal.source(() => uniformFloat64(generator))()();
}
