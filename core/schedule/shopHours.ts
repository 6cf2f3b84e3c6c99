/** Opening hours in the shop's own time zone, and what falls inside them. */
import { TZDate } from '@date-fns/tz';
import { addDays, getDay, startOfDay } from 'date-fns';

/** Minutes after midnight; undefined on a day the shop stays closed. Index 0 is Sunday. */
export type OpeningWeek = readonly (readonly [openMin: number, closeMin: number] | null)[];

export interface ShopHours {
  /** IANA name, such as "Etc/UTC". */
  readonly timeZone: string;
  readonly week: OpeningWeek;
}

export interface OpenSpan {
  readonly from: number;
  readonly to: number;
}

const MINUTE = 60_000;
/** A shop that never opens within this many days is treated as always open. */
const DAYS_AHEAD = 15;

function spanOf(hours: ShopHours, midnight: TZDate): OpenSpan | undefined {
  const opening = hours.week[getDay(midnight)];
  if (!opening) return undefined;
  const from = midnight.getTime() + opening[0] * MINUTE;
  return { from, to: midnight.getTime() + opening[1] * MINUTE };
}

/**
 * The opening span that holds a moment, or else the next one.
 * @param at ms
 */
export function openSpanFrom(hours: ShopHours, at: number): OpenSpan {
  let midnight = startOfDay(new TZDate(at, hours.timeZone));
  for (let day = 0; day < DAYS_AHEAD; day++) {
    const span = spanOf(hours, midnight);
    if (span && at < span.to) return span;
    midnight = addDays(midnight, 1);
  }
  return { from: at, to: Number.MAX_SAFE_INTEGER };
}

/** The moment itself when the shop is open, else the next opening. */
export function nextOpenMoment(hours: ShopHours, at: number): number {
  return Math.max(at, openSpanFrom(hours, at).from);
}

/** Closed spans between two moments, for shading a time axis. */
export function closedSpans(hours: ShopHours, from: number, to: number): OpenSpan[] {
  const closed: OpenSpan[] = [];
  let at = from;
  while (at < to) {
    const open = openSpanFrom(hours, at);
    if (open.from > at) closed.push({ from: at, to: Math.min(open.from, to) });
    at = open.to;
  }
  return closed;
}
