/** What a logger says of a store: day by day while it was there, and from that the months it was not. */
import { speedAt, warmthOf } from '../battery/selfDischarge.ts';
import { DAY_MS, warmthAt, type Logged, type Warmth } from './warmth.ts';

/** More days than a logger's battery lasts. */
export const MOST_LOGGED_DAYS = 1100;
/** A month of which so many days are known is known. */
const KNOWN_DAYS = 7;
const MONTHS = 12;

const meanOf = (values: readonly number[]): number =>
  values.reduce((sum, value) => sum + value, 0) / values.length;

/**
 * @param at moments of its rows, ms, running forwards, @param tempC what it read there, °C, as many
 * @param before how warm the store was taken to be
 * @returns a temperature for each of its days that does what the day did; days it slept are filled from the months
 * @throws RangeError where it holds no row, or more days than are kept
 */
export function loggedWarmth(at: ArrayLike<number>, tempC: ArrayLike<number>, before: Warmth): Logged {
  const [first, last] = [at[0], at[at.length - 1]];
  if (first === undefined || last === undefined) throw new RangeError('The log holds no row.');
  const loggedFrom = Math.floor(first / DAY_MS) * DAY_MS;
  const days = Math.floor((last - loggedFrom) / DAY_MS) + 1;
  if (days > MOST_LOGGED_DAYS)
    throw new RangeError(`The log holds ${days} days; at most ${MOST_LOGGED_DAYS} are kept.`);
  const sums = new Float64Array(days);
  const counts = new Float64Array(days);
  for (let row = 0; row < at.length; row++) {
    const day = Math.floor(((at[row] as number) - loggedFrom) / DAY_MS);
    sums[day] = (sums[day] as number) + speedAt(tempC[row] as number);
    counts[day] = (counts[day] as number) + 1;
  }
  // Warm hours count more: of each day the one temperature that takes as much of a battery.
  const known = Array.from(sums, (sum, day) => {
    const count = counts[day] as number;
    return count === 0 ? undefined : warmthOf(sum / count);
  });
  const byMonthC = monthsOf(known, loggedFrom, before);
  const season: Warmth = { byMonthC };
  const loggedC = known.map((dayC, day) =>
    Number((dayC ?? warmthAt(season, loggedFrom + (day + 0.5) * DAY_MS)).toFixed(1)),
  );
  return { byMonthC, loggedFrom, loggedC };
}

/** Months it knows as they were; the others as they were taken to be, warmer or colder by what it found off on the whole. */
function monthsOf(
  known: readonly (number | undefined)[],
  loggedFrom: number,
  before: Warmth,
): readonly number[] {
  const speeds = Array.from({ length: MONTHS }, (): number[] => []);
  const off: number[] = [];
  known.forEach((dayC, day) => {
    if (dayC === undefined) return;
    const noon = loggedFrom + (day + 0.5) * DAY_MS;
    speeds[new Date(noon).getUTCMonth()]?.push(speedAt(dayC));
    off.push(dayC - warmthAt(before, noon));
  });
  const shift = meanOf(off);
  const year = new Date(loggedFrom).getUTCFullYear();
  return speeds.map((ofMonth, month) => {
    const taken = warmthAt(before, Date.UTC(year, month, 15)) + shift;
    return Number((ofMonth.length >= KNOWN_DAYS ? warmthOf(meanOf(ofMonth)) : taken).toFixed(1));
  });
}
