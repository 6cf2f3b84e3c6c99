/** The tail of every reading's error: Student's t, heavier than normal, so that one odd reading does not decide alone. */

/** Degrees of freedom. */
export const TAIL = 5;

/** Logarithm of its density, but for a constant; `scale` in the reading's unit. @see Lange et al. 1989 */
export function logTail(residual: number, scale: number): number {
  const z = residual / scale;
  return -((TAIL + 1) / 2) * Math.log1p((z * z) / TAIL) - Math.log(scale);
}
