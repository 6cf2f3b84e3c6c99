/** Opening hours in the shop's own time zone, and what falls inside them. */
import { bisector } from 'd3-array';
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

/** A calendar day of a time zone: from midnight to midnight, 23 to 25 hours long. */
interface Day {
  readonly from: number;
  readonly to: number;
  readonly weekday: number;
}

/** Days already looked up; calendars are slow and the same few days are asked for again and again. */
const knownDays = new Map<string, Day[]>();
const DAYS_KEPT = 64;

function dayOf(timeZone: string, at: number): Day {
  const days = knownDays.get(timeZone) ?? [];
  const known = days.find((day) => at >= day.from && at < day.to);
  if (known) return known;
  const midnight = startOfDay(new TZDate(at, timeZone));
  const day = { from: midnight.getTime(), to: addDays(midnight, 1).getTime(), weekday: getDay(midnight) };
  knownDays.set(timeZone, [day, ...days].slice(0, DAYS_KEPT));
  return day;
}

/**
 * The opening span that holds a moment, or else the next one.
 * @param at ms
 */
export function openSpanFrom(hours: ShopHours, at: number): OpenSpan {
  let day = dayOf(hours.timeZone, at);
  for (let tries = 0; tries < DAYS_AHEAD; tries++) {
    const opening = hours.week[day.weekday];
    if (opening) {
      const span = { from: day.from + opening[0] * MINUTE, to: day.from + opening[1] * MINUTE };
      if (at < span.to) return span;
    }
    day = dayOf(hours.timeZone, day.to);
  }
  return { from: at, to: Number.MAX_SAFE_INTEGER };
}

/** The moment itself when the shop is open, else the next opening. */
export function nextOpenMoment(hours: ShopHours, at: number): number {
  return Math.max(at, openSpanFrom(hours, at).from);
}

const byClosing = bisector(({ to }: OpenSpan) => to);

/** Opening spans over a stretch of time, looked up once and then found quickly. */
export class OpenTimes {
  private readonly spans: readonly OpenSpan[];

  constructor(hours: ShopHours, from: number, to: number) {
    const spans: OpenSpan[] = [];
    for (let at = from; at < to;) {
      const span = openSpanFrom(hours, at);
      spans.push(span);
      at = span.to;
    }
    this.spans = spans;
  }

  /** The span that holds a moment, or else the next one; the last known beyond the stretch. */
  spanFrom(at: number): OpenSpan {
    const next = byClosing.right(this.spans, at);
    return this.spans[next] ?? this.spans.at(-1) ?? { from: at, to: at };
  }

  nextOpen(at: number): number {
    return Math.max(at, this.spanFrom(at).from);
  }
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
