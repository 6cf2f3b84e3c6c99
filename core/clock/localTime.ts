/** Shop time as it is typed: "2026-03-10T17:00" on the shop's own wall clock. */
import { TZDate, tzOffset } from '@date-fns/tz';
import { lightFormat } from 'date-fns';

const LOCAL = /^(\d{4})-(\d\d)-(\d\d)T(\d\d):(\d\d)$/;

/** @returns "2026-03-10T17:00" in the zone */
export function localText(at: number, timeZone: string): string {
  return lightFormat(new TZDate(at, timeZone), "yyyy-MM-dd'T'HH:mm");
}

/** @returns ms, or NaN when the text is no wall-clock time */
export function momentOf(text: string, timeZone: string): number {
  const match = LOCAL.exec(text);
  if (!match) return Number.NaN;
  const [year = 0, month = 1, day = 1, hour = 0, minute = 0] = match.slice(1).map(Number);
  return new TZDate(year, month - 1, day, hour, minute, timeZone).getTime();
}

/** How far the zone's clocks are ahead of UTC at a moment, ms. */
export function zoneOffsetMs(at: number, timeZone: string): number {
  return tzOffset(timeZone, new Date(at)) * 60_000;
}
