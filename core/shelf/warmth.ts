/** How warm it is where a battery stands, and what that makes of its days: self-discharge doubles with ten kelvin. */

import { speedAt } from '../battery/selfDischarge.ts';

/** Of a place, as a logger had it, day by day; before and after by month. */
export interface Logged {
  readonly byMonthC: readonly number[];
  /** Midnight of its first day, UTC, ms. */
  readonly loggedFrom: number;
  readonly loggedC: readonly number[];
}

/** Of a place, °C: the same all year, or month by month, January first. */
export type Warmth = { readonly tempC: number } | { readonly byMonthC: readonly number[] } | Logged;

export const DAY_MS = 86_400_000;
/** A store no meter hangs in, °C: a workshop over the year. */
export const USUAL_WARMTH: Warmth = { tempC: 18 };

/** Middle of each month of a year without a leap day, days since its first; the months before and after close the circle. */
const MIDDLES = [
  -15.5, 15.5, 45, 74.5, 105, 135.5, 166, 196.5, 227.5, 258, 288.5, 319, 349.5, 380.5,
] as const;

/** Months are means: between their middles it goes over evenly. */
function seasonC(byMonthC: readonly number[], at: number): number {
  const year = new Date(at).getUTCFullYear();
  const day = (at - Date.UTC(year, 0, 1)) / DAY_MS;
  const after = MIDDLES.findIndex((middle) => middle > day);
  const [from = 0, to = 0] = [MIDDLES[after - 1], MIDDLES[after]];
  const share = (day - from) / (to - from);
  const monthC = (index: number): number => byMonthC[(index + 11) % 12] ?? 0;
  return monthC(after - 1) * (1 - share) + monthC(after) * share;
}

/** @returns °C */
export function warmthAt(warmth: Warmth, at: number): number {
  if ('tempC' in warmth) return warmth.tempC;
  const loggedC =
    'loggedC' in warmth ? warmth.loggedC[Math.floor((at - warmth.loggedFrom) / DAY_MS)] : undefined;
  return loggedC ?? seasonC(warmth.byMonthC, at);
}

/**
 * Days at one place counted as days at 25 °C: a cold day is a fraction of one, a hot day several. Between the days it knows it
 * goes on evenly; it is asked forwards and backwards for thousands of batteries of the place.
 */
export class WarmDays {
  private readonly from: number;
  /** Up to each midnight since `from`. */
  private readonly sums: Float64Array;

  /**
   * @param from before anything stood there, ms
   * @param to the last moment asked for, ms; beyond it the last day goes on
   */
  constructor(warmth: Warmth, from: number, to: number) {
    this.from = from;
    const days = Math.max(1, Math.ceil((to - from) / DAY_MS));
    this.sums = new Float64Array(days + 1);
    for (let day = 0; day < days; day++)
      this.sums[day + 1] =
        (this.sums[day] as number) + speedAt(warmthAt(warmth, from + (day + 0.5) * DAY_MS));
  }

  /** Warm days from the beginning up to a moment. */
  until(at: number): number {
    const days = (at - this.from) / DAY_MS;
    const last = this.sums.length - 2;
    const day = Math.min(last, Math.max(0, Math.floor(days)));
    const before = this.sums[day] as number;
    return before + (days - day) * ((this.sums[day + 1] as number) - before);
  }

  /** The moment by which so many have gone by, ms. */
  momentOf(warmDays: number): number {
    let low = 0;
    let high = this.sums.length - 2;
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if ((this.sums[middle] as number) <= warmDays) low = middle;
      else high = middle - 1;
    }
    const before = this.sums[low] as number;
    const after = this.sums[low + 1] as number;
    return this.from + (low + (warmDays - before) / (after - before)) * DAY_MS;
  }
}
