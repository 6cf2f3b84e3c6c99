/**
 * State of charge from everything known of it: rested voltage and how long it rested, proof of full, density. Each is
 * a figure with its doubt; they are weighted by the inverse of their variances, and where they contradict each other
 * the range widens (Birge 1932, The calculation of errors by the method of least squares).
 */
import type { Construction } from './construction.ts';
import { onSix } from './types.ts';
import { chargeFromRestedVoltage, fullRestedV, type Estimate } from './stateOfCharge.ts';

export interface ChargeEvidenceNow {
  readonly construction: Construction;
  readonly cells: number;
  /** At rest, V, and how long it rested, min. */
  readonly ocvV: number;
  readonly restMin: number;
  readonly tempC?: number;
  /** Whether the charge before the rest was proven full. */
  readonly isProvenFull: boolean;
  /** Mean density at 25 °C of an open battery, g/cm³. */
  readonly density25?: number;
}

interface Figure {
  readonly mean: number;
  readonly sd: number;
}

/** Rested voltage rises with warmth by this on 12 V, V/K (Harned & Hamer 1935: 0.2 mV a cell). */
const V_PER_K = 0.0012;
const REFERENCE_C = 25;
/** Surface charge an hour off charge and how it fades, on 12 V (phenomena of docs/model.md). */
const SURFACE_V = 0.16;
const SURFACE_FADES_MIN = 110;
/** Proven full: what a proof leaves open. */
const PROVEN: Figure = { mean: 98, sd: 2 };
/** Half the width of the curve's own range is so many standard deviations. */
const RANGE_SDS = 1.6;
const LEAST_SD = 4;
/** A voltage above that of a full battery says how much surface charge there is, not how much charge, percent per volt on 12 V. */
const PERCENT_PER_V = 110;
/** Empty and full electrolyte, g/cm³ at 25 °C, and what a hydrometer's reading leaves open, percent (BCI tables). */
const DENSITY_EMPTY = 1.12;
const DENSITY_FULL = 1.27;
const DENSITY_SD = 6;
/** Eight of ten lie within. */
const EIGHTY = 1.28;
/** No reading is so sure that nothing is left open, points. */
const LEAST_RANGE = 3;

interface Cells {
  readonly cells: number;
}

/** A rested voltage as it would be read at 25 °C, V. */
export const at25V = (volts: number, battery: Cells, tempC = REFERENCE_C): number =>
  volts - onSix(V_PER_K, battery) * (tempC - REFERENCE_C);

/** What is left of the surface charge after a rest, V. */
export const surfaceChargeV = (battery: Cells, restMin: number): number =>
  onSix(SURFACE_V, battery) * 2 ** (-restMin / SURFACE_FADES_MIN);

function byVoltage({ construction, cells, ocvV, restMin, tempC }: ChargeEvidenceNow): Figure {
  const scale = onSix(1, { cells });
  const surfaceV = surfaceChargeV({ cells }, restMin);
  const at25 = at25V(ocvV, { cells }, tempC);
  const { low, mean, high } = chargeFromRestedVoltage(at25 - surfaceV / 2, cells, construction);
  const aboveV = Math.max(0, at25 - surfaceV / 2 - fullRestedV(cells, construction)) / scale;
  const ofSurface = (surfaceV / scale) * PERCENT_PER_V * 0.5;
  return { mean, sd: Math.max(LEAST_SD, (high - low) / (2 * RANGE_SDS), aboveV * PERCENT_PER_V, ofSurface) };
}

function byDensity(density25: number): Figure {
  const mean = ((density25 - DENSITY_EMPTY) / (DENSITY_FULL - DENSITY_EMPTY)) * 100;
  return { mean: Math.min(100, Math.max(0, mean)), sd: DENSITY_SD };
}

/** The charge of a battery at rest, percent; eight of ten lie within low and high. */
export function chargeEstimate(evidence: ChargeEvidenceNow): Estimate {
  const { isProvenFull, density25 } = evidence;
  const figures = [
    byVoltage(evidence),
    ...(isProvenFull ? [PROVEN] : []),
    ...(density25 === undefined ? [] : [byDensity(density25)]),
  ];
  const weights = figures.map(({ sd }) => 1 / sd ** 2);
  const total = weights.reduce((sum, one) => sum + one, 0);
  const mean = figures.reduce((sum, one, index) => sum + one.mean * (weights[index] ?? 0), 0) / total;
  const chiSquare = figures.reduce((sum, one) => sum + ((one.mean - mean) / one.sd) ** 2, 0);
  const birge = figures.length > 1 ? Math.sqrt(Math.max(1, chiSquare / (figures.length - 1))) : 1;
  const half = EIGHTY * birge * Math.sqrt(1 / total);
  const high = Math.min(100, mean + half);
  return { low: Math.max(0, Math.min(mean - half, high - LEAST_RANGE)), mean: Math.min(mean, high), high };
}
