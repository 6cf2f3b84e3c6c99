/** How warm a place is, in words. */
import { DAY_MS, type Warmth } from './warmth.ts';

const dayOf = (at: number): string => new Date(at).toISOString().slice(0, 10);

/** "18 °C", "9 to 21 °C by month", "9 to 21 °C, logged 2026-01-05 to 2026-03-01". */
export function warmthText(warmth: Warmth): string {
  if ('tempC' in warmth) return `${warmth.tempC} °C`;
  const [least, most] = [Math.min(...warmth.byMonthC), Math.max(...warmth.byMonthC)];
  const range = least === most ? `${least} °C` : `${least} to ${most} °C`;
  if (!('loggedC' in warmth)) return `${range} by month`;
  const last = warmth.loggedFrom + (warmth.loggedC.length - 1) * DAY_MS;
  return `${range}, logged ${dayOf(warmth.loggedFrom)} to ${dayOf(last)}`;
}
