/** How a charging voltage follows warmth, and when it counts as reached. One place for engine, run sheet and proof. */

/** Below and above these the compensation stands still, °C (handbook 7). */
const FROM_C = 0;
const TO_C = 45;
const REFERENCE_C = 25;
/** What a supply without a probe goes by, °C. */
export const NO_PROBE_C = REFERENCE_C;
/** Per cell and kelvin, charging. Handbook 7; the middle of the range makers publish (3 to 5 mV). */
const CHARGE_V_PER_K = 0.004;
/** And on float. */
const FLOAT_V_PER_K = 0.003;

/**
 * Charging voltage at a temperature.
 * @param voltsAt25 at the posts at 25 °C, V
 * @param cells in series
 * @param tempC of the battery; held between 0 and 45 °C
 * @param isFloat a voltage that is held for good follows less
 * @returns V
 * @see handbook 7: −4 mV a cell and kelvin on charge, −3 mV on float
 */
export function compensatedV(voltsAt25: number, cells: number, tempC: number, isFloat = false): number {
  const perK = isFloat ? FLOAT_V_PER_K : CHARGE_V_PER_K;
  return voltsAt25 - perK * cells * (Math.min(TO_C, Math.max(FROM_C, tempC)) - REFERENCE_C);
}

/** A voltage to hold: what it is at 25 °C, and whether it follows warmth. */
export interface HeldVoltage {
  readonly volts: number;
  readonly isCompensated: boolean;
  readonly isFloat?: boolean;
}

/**
 * The voltage not to be exceeded at a temperature, V.
 * @param absoluteV never passed, whatever the warmth; not compensated, V
 */
export function ceilingAt(
  { volts, isCompensated, isFloat }: HeldVoltage,
  absoluteV: number,
  cells: number,
  tempC: number,
): number {
  return Math.min(absoluteV, isCompensated ? compensatedV(volts, cells, tempC, isFloat) : volts);
}
