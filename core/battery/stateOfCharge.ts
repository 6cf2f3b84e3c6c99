/**
 * State of charge from rested open-circuit voltage: an estimate with its range, never a bare 100 %.
 */

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

function percentAt(curve: typeof AGM_CURVE, volts12: number): number {
  const first = curve[0];
  if (first && volts12 <= first[0]) return 0;
  for (let i = 1; i < curve.length; i++) {
    const [v0 = 0, p0 = 0] = curve[i - 1] ?? [];
    const [v1 = 0, p1 = 0] = curve[i] ?? [];
    if (volts12 <= v1) return p0 + ((volts12 - v0) / (v1 - v0)) * (p1 - p0);
  }
  return 100;
}

/**
 * State of charge of a rested battery.
 * @param restedV open-circuit voltage after rest, V
 * @param cells 3 or 6
 * @returns percent, low ≤ mean ≤ high
 */
export function chargeFromRestedVoltage(
  restedV: number,
  cells: 3 | 6,
  construction: 'agm' | 'flooded',
): Estimate {
  const volts12 = (restedV * 6) / cells;
  const curve = construction === 'agm' ? AGM_CURVE : FLOODED_CURVE;
  return {
    low: percentAt(curve, volts12 - CURVE_DOUBT_V),
    mean: percentAt(curve, volts12),
    high: percentAt(curve, volts12 + CURVE_DOUBT_V),
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

/** What a full battery of the kind rests at, V. */
export function fullRestedV(cells: number, construction: 'agm' | 'flooded'): number {
  const curve = construction === 'agm' ? AGM_CURVE : FLOODED_CURVE;
  return ((curve.at(-1)?.[0] ?? 0) * cells) / 6;
}

/**
 * Charge of an AGM that was filled and charged at the factory, by months since: it left with 85 % or so and
 * loses 2.5 % a month at room temperature (handbook 4).
 * @returns percent
 */
export function chargeStandingByAge(ageMonths: number): number {
  return Math.max(20, 85 - 2.5 * ageMonths);
}

/**
 * Charge a dry-charged battery shows after filling and soak, by the age of the stock: the plates lose
 * charge as they stand, even dry. Handbook 2.5: 80 % up to 6 months, 75 at 12, 65 at 24, 50 at 36.
 * @param ageMonths months since the date code
 * @returns percent
 */
export function chargeAfterSoakByAge(ageMonths: number): number {
  const points = [
    [6, 80],
    [12, 75],
    [24, 65],
    [36, 50],
  ] as const;
  if (ageMonths <= 6) return 80;
  for (let i = 1; i < points.length; i++) {
    const [m0, p0] = points[i - 1] ?? [0, 0];
    const [m1, p1] = points[i] ?? [0, 0];
    if (ageMonths <= m1) return p0 + ((ageMonths - m0) / (m1 - m0)) * (p1 - p0);
  }
  // Beyond the table the same slope goes on (15 % a year), down to a fifth.
  return Math.max(20, 50 - ((ageMonths - 36) / 12) * 15);
}
