/** What acid and a full battery weigh, and whether a filling gained what should have gone in (handbook 2.3, step 7). */
import type { AcidPack, BatteryType } from './types.ts';

/** What the acid of a pack weighs, g. */
export function packMassG({ volumeMl, densityKgPerL }: AcidPack): number {
  return volumeMl * densityKgPerL;
}

/** What a full one of this type weighs, g: as it is told, or dry with its acid; undefined where neither is known. */
export function fullMassG({ wetMassG, dryMassG, pack }: BatteryType): number | undefined {
  if (wetMassG !== undefined) return wetMassG;
  return dryMassG === undefined || !pack ? undefined : Math.round(dryMassG + packMassG(pack));
}

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
  const expectedG = packMassG(pack);
  const gainedG = filledMassG - dryMassG;
  const deviation = gainedG / expectedG - 1;
  return { expectedG, gainedG, deviation, isFull: Math.abs(deviation) <= tolerance };
}
