/** Clocks as loggers write them: a date, a time of day or both, in any usual order; what is no date is none. */
import { zoneOffsetMs } from '../clock/localTime.ts';

/** Which of day and month stands first where slashes or points part them. */
export type DateOrder = 'dmy' | 'mdy';

export interface ClockText {
  /** Days since 1970; undefined where the text has no date. */
  readonly day: number | undefined;
  /** Minutes since midnight, or since the log began; undefined where the text is a date alone. */
  readonly minute: number | undefined;
  /** Minutes ahead of UTC, where the text says so. */
  readonly offsetMin: number | undefined;
}

const DATE = String.raw`(?:(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})|(\d{1,2})([-/.])(\d{1,2})\5(\d{4}|\d{2}))`;
const TIME = String.raw`(\d{1,3}):(\d{2})(?::(\d{2}(?:[.,]\d+)?))?\s*([ap]\.?m\.?)?`;
const ZONE = String.raw`\s*(Z|UTC|[+-]\d{2}:?\d{2})?`;
const CLOCK = new RegExp(`^(?:${DATE})?(?:(?:^|[T ,]+)${TIME})?${ZONE}$`, 'i');
const DAY_MS = 86_400_000;
const HOUR_MIN = 60;
const DAY_MIN = 1440;

/** Days since 1970, or undefined for a day no calendar has. */
function dayOf(year: number, month: number, day: number): number | undefined {
  const full = year < 100 ? 2000 + year : year;
  const at = new Date(Date.UTC(full, month - 1, day));
  return at.getUTCMonth() === month - 1 && at.getUTCDate() === day ? at.getTime() / DAY_MS : undefined;
}

function hourOf(hour: number, half: string | undefined): number {
  if (half === undefined) return hour;
  if (hour < 1 || hour > 12) return Number.NaN;
  return (hour % 12) + (half.toLowerCase().startsWith('p') ? 12 : 0);
}

function offsetOf(zone: string | undefined): number | undefined {
  if (zone === undefined) return undefined;
  const match = /^([+-])(\d{2}):?(\d{2})$/.exec(zone);
  if (!match) return 0;
  return (match[1] === '-' ? -1 : 1) * (Number(match[2]) * HOUR_MIN + Number(match[3]));
}

/** "2026-03-10 08:05:30.250+01:00", "3/10/2026 8:05 PM", "10.03.2026" or "36:00:00"; undefined where it is none. */
export function readClock(text: string, order: DateOrder = 'dmy'): ClockText | undefined {
  const match = CLOCK.exec(text.trim());
  if (!match || text.trim() === '') return undefined;
  const [, year, month, day, first, , second, year2, hours, minutes, seconds = '0', half, zone] = match;
  const [dayPart, monthPart] = order === 'dmy' ? [first, second] : [second, first];
  const hasDate = year !== undefined || year2 !== undefined;
  const days =
    year === undefined
      ? dayOf(Number(year2), Number(monthPart), Number(dayPart))
      : dayOf(Number(year), Number(month), Number(day));
  if (hasDate && days === undefined) return undefined;
  if (hours === undefined)
    return hasDate ? { day: days, minute: undefined, offsetMin: undefined } : undefined;
  const hour = hourOf(Number(hours), half);
  const second60 = Number(seconds.replace(',', '.'));
  // Without a date it may be time that went by, of more than a day.
  if (Number.isNaN(hour) || (hasDate && hour > 23) || Number(minutes) > 59 || second60 >= 60)
    return undefined;
  return {
    day: hasDate ? days : undefined,
    minute: hour * HOUR_MIN + Number(minutes) + second60 / 60,
    offsetMin: offsetOf(zone),
  };
}

/** Whether day and month of a text could stand the other way round. */
export const isOrderOpen = (text: string): boolean => {
  const [one, other] = [readClock(text, 'dmy'), readClock(text, 'mdy')];
  return one?.day !== other?.day;
};

/**
 * Minutes of a whole column of clocks, from any beginning. A clock without a date goes over midnight; one of the shop's
 * zone goes over the hour that is set back or left out.
 * @param texts undefined where a row has none
 * @returns NaN where a text is no clock
 */
export function clockColumn(
  texts: readonly (string | undefined)[],
  order: DateOrder,
  timeZone: string,
): Float64Array {
  const out = new Float64Array(texts.length).fill(Number.NaN);
  let before = Number.NEGATIVE_INFINITY;
  let nights = 0;
  let setBack = 0;
  for (const [at, text = ''] of texts.entries()) {
    const clock = readClock(text, order);
    if (clock?.minute === undefined) continue;
    if (clock.day === undefined) {
      let minute = clock.minute + nights * DAY_MIN;
      // Half a day back is the next day; less is a clock that runs backwards.
      if (minute < before - DAY_MIN / 2) {
        nights += 1;
        minute += DAY_MIN;
      }
      before = minute;
      out[at] = minute;
      continue;
    }
    const local = clock.day * DAY_MIN + clock.minute;
    if (clock.offsetMin !== undefined) {
      out[at] = local - clock.offsetMin;
      continue;
    }
    const minute = local - offsetOfLocal(local, timeZone) + setBack;
    if (minute < before && before - minute <= HOUR_MIN && isSetBack(local, timeZone)) {
      setBack = HOUR_MIN;
      out[at] = minute + HOUR_MIN;
    } else out[at] = minute;
    // Past the hour that came twice the zone itself says what it is ahead of UTC.
    if (!isSetBack(local, timeZone) && setBack > 0) {
      setBack = 0;
      out[at] = local - offsetOfLocal(local, timeZone);
    }
    before = out[at] ?? before;
  }
  return out;
}

/** How far ahead of UTC a wall clock of the zone is, the earlier of two where it shows this twice, min. */
function offsetOfLocal(localMin: number, timeZone: string): number {
  const ms = localMin * 60_000;
  const early = zoneOffsetMs(ms - zoneOffsetMs(ms - DAY_MS / 2, timeZone), timeZone);
  return early / 60_000;
}

/** Whether the zone's clocks show this minute twice. */
function isSetBack(localMin: number, timeZone: string): boolean {
  const ms = localMin * 60_000;
  const before = zoneOffsetMs(ms - DAY_MS / 2, timeZone);
  const after = zoneOffsetMs(ms + DAY_MS / 2, timeZone);
  if (before <= after) return false;
  // Under either offset it is that very wall clock.
  return zoneOffsetMs(ms - before, timeZone) === before && zoneOffsetMs(ms - after, timeZone) === after;
}
