/**
 * Proof that a charge ran to the end: voltage flat for two hours, and the current flat (handbook 3.5) or
 * tapered below C/50 (handbook 3.4).
 */

export interface ChargeReading {
  readonly at: number;
  readonly voltageV: number;
  readonly currentA: number;
  readonly tempC: number;
}

export interface FlatProof {
  readonly isFlat: boolean;
  readonly sentence: string;
}

const MINUTE = 60_000;
/** On a 12 V battery; a bench meter repeats within this. */
const FLAT_BAND_V = 0.05;
/** A current that has tapered to this share of capacity counts as flat, falling as it may. */
const TAPERED_SHARE = 1 / 50;
/** Looks are hourly and made by hand: the first of three may be a few minutes late. */
const LATE_LOOK_MIN = 5;

/**
 * Judges the last readings of a charge.
 * @param readings in order of time
 * @param capacityAh for the bands: current flat within C/200, or not above C/50
 * @param cells 3 or 6
 * @param windowMin how long flat must last
 */
export function flatProof(
  readings: readonly ChargeReading[],
  capacityAh: number,
  cells: 3 | 6,
  windowMin: number,
): FlatProof {
  const last = readings.at(-1);
  if (!last) return { isFlat: false, sentence: 'No reading was taken on charge.' };
  const bandA = capacityAh / 200;
  const isTapered = (amps: number): boolean => amps <= capacityAh * TAPERED_SHARE;
  const bandV = (FLAT_BAND_V * cells) / 6;
  let flatSince = last.at;
  let count = 0;
  for (const reading of [...readings].reverse()) {
    const isSteady = Math.abs(reading.currentA - last.currentA) <= bandA;
    if (!isSteady && !(isTapered(reading.currentA) && isTapered(last.currentA))) break;
    if (Math.abs(reading.voltageV - last.voltageV) > bandV) break;
    flatSince = reading.at;
    count += 1;
  }
  const minutes = Math.round((last.at - flatSince) / MINUTE);
  const isFlat = count >= 3 && minutes >= windowMin - LATE_LOOK_MIN;
  const span = `${count} reading${count === 1 ? '' : 's'} flat over ${minutes} min`;
  return {
    isFlat,
    sentence: isFlat ? `${span}.` : `${span}; three over ${windowMin} min are needed.`,
  };
}
