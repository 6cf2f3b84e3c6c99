/** Proof that a charge ran to the end: current and voltage flat for two hours (handbook 3.5). */

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
/** Looks are hourly and made by hand: the first of three may be a few minutes late. */
const LATE_LOOK_MIN = 5;

/**
 * Judges the last readings of a charge.
 * @param readings in order of time
 * @param capacityAh for the band: current flat within C/200
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
  const bandV = (FLAT_BAND_V * cells) / 6;
  let flatSince = last.at;
  let count = 0;
  for (const reading of [...readings].reverse()) {
    if (Math.abs(reading.currentA - last.currentA) > bandA) break;
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
