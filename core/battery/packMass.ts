/** Does the mass gained by filling agree with the acid that should have gone in? Handbook 2.3, step 7. */
import type { AcidPack } from './types.ts';

export interface MassCheck {
  readonly expectedG: number;
  readonly gainedG: number;
  /** Gained against expected, as a signed fraction. */
  readonly deviation: number;
  readonly isFull: boolean;
}

/**
 * @param tolerance allowed relative deviation; wider than 1.5 % hides one chamber a fifth short
 */
export function checkFilledMass(
  pack: AcidPack,
  dryMassG: number,
  filledMassG: number,
  tolerance: number,
): MassCheck {
  const expectedG = pack.volumeMl * pack.densityKgPerL;
  const gainedG = filledMassG - dryMassG;
  const deviation = gainedG / expectedG - 1;
  return { expectedG, gainedG, deviation, isFull: Math.abs(deviation) <= tolerance };
}
