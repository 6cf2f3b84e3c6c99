/** Opening hours in the shop's own time zone, and what falls inside them. */
import { bisector } from 'd3-array';
import { TZDate } from '@date-fns/tz';
import { addDays, getDay, lightFormat, startOfDay } from 'date-fns';

/** Minutes after midnight; undefined on a day the shop stays closed. Index 0 is Sunday. */
export type OpeningWeek = readonly (readonly [openMin: number, closeMin: number] | null)[];

export interface ShopHours {
  /** IANA name, such as "Etc/UTC". */
  readonly timeZone: string;
  readonly week: OpeningWeek;
  /** Minutes after midnight between which nobody is at the bench; the shop is not closed for it: a charge goes on. */
  readonly lunch?: readonly [fromMin: number, toMin: number];
  /** Days it stays closed, "2026-12-24". */
  readonly holidays?: readonly string[];
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
  /** "2026-12-24" */
  readonly date: string;
}

/** Days already looked up; calendars are slow and the same few days are asked for again and again. */
const knownDays = new Map<string, Day[]>();
const DAYS_KEPT = 64;
const DAY_MS = 24 * 60 * MINUTE;

function dayOf(timeZone: string, at: number): Day {
  const days = knownDays.get(timeZone) ?? [];
  const known = days.find((day) => at >= day.from && at < day.to);
  if (known) return known;
  const midnight = startOfDay(new TZDate(at, timeZone));
  const day = {
    from: midnight.getTime(),
    to: addDays(midnight, 1).getTime(),
    weekday: getDay(midnight),
    date: lightFormat(midnight, 'yyyy-MM-dd'),
  };
  knownDays.set(timeZone, [day, ...days].slice(0, DAYS_KEPT));
  return day;
}

/** When the wall clock of a day shows so many minutes after midnight: on the days clocks change, an hour off the count, ms. */
function wallClock(day: Day, minutes: number, timeZone: string): number {
  if (day.to - day.from === DAY_MS) return day.from + minutes * MINUTE;
  const [year = 0, month = 1, date = 1] = day.date.split('-').map(Number);
  return new TZDate(year, month - 1, date, 0, minutes, timeZone).getTime();
}

/**
 * The opening span that holds a moment, or else the next one. Lunch does not end it: a charge goes on meanwhile.
 * @param at ms
 */
export function openSpanFrom(hours: ShopHours, at: number): OpenSpan {
  let day = dayOf(hours.timeZone, at);
  for (let tries = 0; tries < DAYS_AHEAD; tries++) {
    const opening = hours.holidays?.includes(day.date) ? null : hours.week[day.weekday];
    if (opening) {
      const span = {
        from: wallClock(day, opening[0], hours.timeZone),
        to: wallClock(day, opening[1], hours.timeZone),
      };
      if (at < span.to) return span;
    }
    day = dayOf(hours.timeZone, day.to);
  }
  return { from: at, to: Number.MAX_SAFE_INTEGER };
}

/** Lunch on the day of a moment. */
function lunchOf({ lunch, timeZone }: ShopHours, at: number): OpenSpan | undefined {
  if (!lunch) return undefined;
  const day = dayOf(timeZone, at);
  return { from: wallClock(day, lunch[0], timeZone), to: wallClock(day, lunch[1], timeZone) };
}

/** Past lunch, where a moment falls into it. */
function afterLunch(hours: ShopHours, at: number): number {
  const lunch = lunchOf(hours, at);
  return lunch && at >= lunch.from && at < lunch.to ? lunch.to : at;
}

/** When hands are there: the moment itself, or after lunch, or the next opening. */
export function nextOpenMoment(hours: ShopHours, at: number): number {
  const there = afterLunch(hours, Math.max(at, openSpanFrom(hours, at).from));
  // Where lunch lasts until closing there is nobody until the next day.
  return there < openSpanFrom(hours, at).to ? there : Math.max(there, openSpanFrom(hours, there).from);
}

const byClosing = bisector(({ to }: OpenSpan) => to);

/** Opening spans over a stretch of time, looked up once and then found quickly. */
export class OpenTimes {
  private readonly spans: readonly OpenSpan[];
  private readonly hours: ShopHours;

  constructor(hours: ShopHours, from: number, to: number) {
    const spans: OpenSpan[] = [];
    for (let at = from; at < to;) {
      const span = openSpanFrom(hours, at);
      spans.push(span);
      at = span.to;
    }
    this.spans = spans;
    this.hours = hours;
  }

  /** The span that holds a moment, or else the next one; the last known beyond the stretch. */
  spanFrom(at: number): OpenSpan {
    const next = byClosing.right(this.spans, at);
    return this.spans[next] ?? this.spans.at(-1) ?? { from: at, to: at };
  }

  nextOpen(at: number): number {
    return afterLunch(this.hours, Math.max(at, this.spanFrom(at).from));
  }
}

/** Closed spans between two moments, for shading a time axis. */
export function closedSpans(hours: ShopHours, from: number, to: number): OpenSpan[] {
  const closed: OpenSpan[] = [];
  let at = from;
  while (at < to) {
    const open = openSpanFrom(hours, at);
    if (open.from > at) closed.push({ from: at, to: Math.min(open.from, to) });
    const lunch = lunchOf(hours, Math.max(at, open.from));
    const seen = lunch && { from: Math.max(at, lunch.from), to: Math.min(to, lunch.to) };
    if (seen && seen.from < seen.to && lunch.to <= open.to) closed.push(seen);
    at = open.to;
  }
  return closed;
}
