/** Where a battery stood since when, as what it does to its charge: warm days gone by, and ampere-hours drawn. */
import { WarmDays, type Warmth, DAY_MS } from './warmth.ts';

/** A stretch at one place. */
export interface Stretch {
  readonly from: number;
  readonly days: WarmDays;
  /** Of whatever it is connected to, mA. */
  readonly drawMa: number;
}

const HOURS_A_DAY = 24;
const MA_AN_A = 1000;
/** Further ahead nothing is foretold, days. */
export const FORESEEN_DAYS = 4 * 365;

/** Years are told in fours, so that one leap day lies in each. */
const FOUR_YEARS_MS = 1461 * DAY_MS;
/** Whoever reads a whole shelf asks for the same few places over and over. */
const MOST_KNOWN = 500;

interface Known {
  readonly warmth: Warmth;
  readonly era: number;
  readonly eras: number;
  readonly days: WarmDays;
}

/** What two places that are as warm have in common. */
const known = new Map<string, Known>();
let last: Known | undefined;

function isAsWarm(a: Warmth, b: Warmth): boolean {
  if (a === b) return true;
  if ('loggedC' in a || 'loggedC' in b) return false;
  if ('tempC' in a || 'tempC' in b) return 'tempC' in a && 'tempC' in b && a.tempC === b.tempC;
  for (let month = 0; month < a.byMonthC.length; month++)
    if (a.byMonthC[month] !== b.byMonthC[month]) return false;
  return true;
}

const seasonKey = (warmth: Exclude<Warmth, { readonly tempC: number }>): string =>
  'loggedC' in warmth
    ? [warmth.loggedFrom, ...warmth.byMonthC, ...warmth.loggedC].join()
    : warmth.byMonthC.join();

/** Warm days of a place, the same for all that stand there. */
export function daysOf(warmth: Warmth, from: number, now: number): WarmDays {
  const era = Math.floor(from / FOUR_YEARS_MS);
  // Foretold four years ahead, whenever in its era it is.
  const eras = Math.floor(now / FOUR_YEARS_MS) + 2 - era;
  if (last && last.era === era && last.eras === eras && isAsWarm(last.warmth, warmth)) return last.days;
  const key = `${'tempC' in warmth ? warmth.tempC : seasonKey(warmth)} ${era} ${eras}`;
  const there = known.get(key);
  if (there) {
    last = there;
    return there.days;
  }
  const days = new WarmDays(warmth, era * FOUR_YEARS_MS, (era + eras) * FOUR_YEARS_MS);
  if (known.size >= MOST_KNOWN) known.clear();
  last = { warmth, era, eras, days };
  known.set(key, last);
  return days;
}

export class Exposure {
  private readonly stretches: readonly Stretch[];

  /** @param stretches the first first, each until the next; at least one */
  constructor(stretches: readonly Stretch[]) {
    if (stretches.length === 0) throw new RangeError('A battery stands somewhere: no stretch was given.');
    this.stretches = stretches;
  }

  private over(from: number, to: number, of: (stretch: Stretch, from: number, to: number) => number): number {
    const { stretches } = this;
    let sum = 0;
    for (let index = 0; index < stretches.length; index++) {
      const stretch = stretches[index] as Stretch;
      // Before its first stretch it stood as in it.
      const begins = index === 0 ? from : Math.max(from, stretch.from);
      const ends = Math.min(to, stretches[index + 1]?.from ?? to);
      if (ends > begins) sum += of(stretch, begins, ends);
    }
    return sum;
  }

  /** Days at 25 °C that would have done as much. */
  warmDays(from: number, to: number): number {
    return this.over(from, to, ({ days }, begins, ends) => days.until(ends) - days.until(begins));
  }

  /** Drawn by what it is connected to, Ah. */
  drawnAh(from: number, to: number): number {
    return this.over(
      from,
      to,
      ({ drawMa }, begins, ends) => ((ends - begins) / DAY_MS) * HOURS_A_DAY * (drawMa / MA_AN_A),
    );
  }

  /** Whether anything draws on it from a moment on. */
  draws(from: number): boolean {
    return this.stretches.some(
      ({ drawMa }, index) =>
        drawMa > 0 && (this.stretches[index + 1]?.from ?? Number.POSITIVE_INFINITY) > from,
    );
  }

  /** The moment by which so many warm days have gone by since another, ms. */
  momentAfter(from: number, warmDays: number): number {
    const last = this.stretches.at(-1) as Stretch;
    let left = warmDays;
    for (let index = 0; index < this.stretches.length; index++) {
      const stretch = this.stretches[index] as Stretch;
      const begins = index === 0 ? from : Math.max(from, stretch.from);
      const ends = this.stretches[index + 1]?.from;
      if (ends !== undefined && ends <= begins) continue;
      const before = stretch.days.until(begins);
      const here = ends === undefined ? Number.POSITIVE_INFINITY : stretch.days.until(ends) - before;
      if (left <= here) return stretch.days.momentOf(before + left);
      left -= here;
    }
    return last.days.momentOf(last.days.until(last.from) + left);
  }
}
