/** What standing takes of a battery's charge, and what that is in volts (handbook 4). */
import type { Construction } from './construction.ts';
import { onSix } from './types.ts';

/**
 * Charge lost a month at 25 °C, percent: what is usual and the upper end of the kind's spread. A flooded battery's
 * plates may be antimonial, which loses three times as much as calcium.
 */
const A_MONTH: Readonly<Record<Construction, { readonly usual: number; readonly most: number }>> = {
  agm: { usual: 2.5, most: 3 },
  gel: { usual: 2, most: 2.5 },
  flooded: { usual: 5, most: 15 },
};
const DAYS_A_MONTH = 30.4;
const REFERENCE_C = 25;
/** Twice as fast per ten kelvin. */
const DOUBLES_K = 10;
/** Rested voltage of twelve volts per percent of charge near full; 10 to 12 mV. */
const V_PER_PERCENT = 0.012;

/** Charge lost by standing, percent. */
export function standingLossPercent(
  construction: Construction,
  days: number,
  tempC: number,
): { readonly usual: number; readonly most: number } {
  const { usual, most } = A_MONTH[construction];
  const share = (days / DAYS_A_MONTH) * 2 ** ((tempC - REFERENCE_C) / DOUBLES_K);
  return { usual: usual * share, most: most * share };
}

/** What a loss of charge is in rested voltage near full, V. */
export function voltsOfPercent(percent: number, cells: number): number {
  return onSix(percent * V_PER_PERCENT, { cells });
}
