/**
 * State of charge from rested open-circuit voltage: an estimate with its range, never a bare 100 %.
 */

import { linearThrough } from '../units/linear.ts';
import type { Construction } from './construction.ts';
import { asSix, onSix } from './types.ts';

export interface Estimate {
  readonly low: number;
  readonly mean: number;
  readonly high: number;
}

/**
 * AGM with 1.30–1.33 acid, 12 V, 25 °C, rested: volts against charge in percent. The handbook's points:
 * 12.3 V about 40 %, 12.6 V 60–75 %, 12.65–12.85 V 80 %, 12.8–13.0 V full.
 * @see Battery Council International, Battery Technical Manual, open-circuit voltage table (AGM 12.35 V 50 %,
 * 12.00 V 25 %, 11.80 V 0 %), between which the lower half is drawn
 */
const AGM_CURVE: readonly (readonly [volts: number, percent: number])[] = [
  [11.8, 0],
  [12.05, 25],
  [12.3, 42],
  [12.5, 60],
  [12.6, 68],
  [12.75, 82],
  [12.9, 100],
];

/** Acid strength, plate design and rest left between them this much doubt in the curve, V on 12 V. */
const CURVE_DOUBT_V = 0.06;

/**
 * State of charge of a rested battery.
 * @param restedV open-circuit voltage after rest, V
 * @param cells in series
 * @returns percent, low ≤ mean ≤ high
 */
export function chargeFromRestedVoltage(
  restedV: number,
  cells: number,
  construction: Construction,
): Estimate {
  const volts12 = asSix(restedV, { cells });
  const percentAt = PERCENT_AT[construction];
  return {
    low: percentAt(volts12 - CURVE_DOUBT_V),
    mean: percentAt(volts12),
    high: percentAt(volts12 + CURVE_DOUBT_V),
  };
}

/**
 * Flooded with acid of 1.265 to 1.280, 12 V, 25 °C, rested.
 * @see Battery Council International, Battery Technical Manual, open-circuit voltage table (flooded)
 */
const FLOODED_CURVE: readonly (readonly [volts: number, percent: number])[] = [
  [11.89, 0],
  [12.06, 25],
  [12.24, 50],
  [12.45, 75],
  [12.65, 100],
];

/**
 * Gel, full at 12.85–12.95 V: its acid is nearly as strong as an AGM's, 1.28–1.30 when made, and shares the shape of
 * its curve; the lower half is an AGM's (BCI, as above), the upper is drawn to the handbook's full.
 */
const GEL_CURVE: readonly (readonly [volts: number, percent: number])[] = [
  [11.8, 0],
  [12.05, 25],
  [12.3, 45],
  [12.5, 63],
  [12.65, 78],
  [12.75, 88],
  [12.9, 100],
];

const CURVES: Readonly<Record<Construction, readonly (readonly [volts: number, percent: number])[]>> = {
  agm: AGM_CURVE,
  flooded: FLOODED_CURVE,
  gel: GEL_CURVE,
};

const PERCENT_AT: Readonly<Record<Construction, (volts: number) => number>> = {
  agm: linearThrough(AGM_CURVE),
  flooded: linearThrough(FLOODED_CURVE),
  gel: linearThrough(GEL_CURVE),
};

/** What a full battery of the kind rests at, V. */
export function fullRestedV(cells: number, construction: Construction): number {
  return onSix(CURVES[construction].at(-1)?.[0] ?? 0, { cells });
}

/**
 * Charge of an AGM that was filled and charged at the factory, by months since: it left with 85 % or so and
 * loses 2.5 % a month at room temperature (handbook 4).
 * @returns percent
 */
export function chargeStandingByAge(ageMonths: number): number {
  return Math.max(20, 85 - 2.5 * ageMonths);
}

const LAST_MONTH = 36;
const byMonth = linearThrough([
  [6, 80],
  [12, 75],
  [24, 65],
  [LAST_MONTH, 50],
]);

/**
 * Charge a dry-charged battery shows after filling and soak, by the age of the stock: the plates lose
 * charge as they stand, even dry. Handbook 2.5: 80 % up to 6 months, 75 at 12, 65 at 24, 50 at 36.
 * @param ageMonths months since the date code
 * @returns percent
 */
export function chargeAfterSoakByAge(ageMonths: number): number {
  // Beyond the table the same slope goes on (15 % a year), down to a fifth.
  return ageMonths <= LAST_MONTH
    ? byMonth(ageMonths)
    : Math.max(20, 50 - ((ageMonths - LAST_MONTH) / 12) * 15);
}
