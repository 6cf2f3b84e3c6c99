/** Thermal runaway: the current rises again after its taper, at a voltage that is held (handbook 3.5). */

/** The lowest point of a taper. */
export interface TaperLow {
  readonly amps: number;
  readonly tempC: number;
}

/** A rise counts beyond two digits of a bench meter, A, this share of the low, and this share of capacity. */
const METER_A = 0.02;
const RISE_OF_LOW = 0.25;
const RISE_SHARE = 1 / 300;
/** With warmth rising by this, K, so much is enough; without it needs four times as much. */
const WARMER_K = 1;
const WITHOUT_WARMTH = 4;
/** A current counts as tapered once this share of what was missing, or of capacity, went in. */
const TAPERED_OF_MISSING = 0.5;
const TAPERED_SHARE = 0.05;

/**
 * Whether enough went in for a rise to be no waking: a waking battery's current rises too, from nearly nothing.
 * @param putInAh since the charge began
 * @param missingAh least that was missing then; 0 where not known
 */
export function hasTapered(putInAh: number, missingAh: number, capacityAh: number): boolean {
  return putInAh >= Math.max(TAPERED_SHARE * capacityAh, TAPERED_OF_MISSING * missingAh);
}

/**
 * @param low of the current since the voltage was last held, after its taper
 * @param now current and warmth at the same held voltage
 */
export function isRunningAway(low: TaperLow, now: TaperLow, capacityAh: number): boolean {
  const rise = now.amps - low.amps;
  const counts = METER_A + Math.max(RISE_OF_LOW * low.amps, RISE_SHARE * capacityAh);
  return now.tempC - low.tempC >= WARMER_K ? rise > counts : rise > WITHOUT_WARMTH * counts;
}
