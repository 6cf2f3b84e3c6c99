/** Times of day and dates as they are typed and read in a shop's region; kept as minutes and as "2026-12-24". */
import { format, isValid, parse } from 'date-fns';
import type { DateForm, Region } from './region.ts';

const TIME = /^(\d{1,2})(?::?([0-5]\d))?\s*(?:([ap])\.?m?\.?)?$/i;

/**
 * "7:30", "0730", "7", and with "am" or "pm" behind them, as minutes after midnight.
 * @returns undefined where it is no time of day
 */
export function minutesFromEntry(text: string): number | undefined {
  const [whole, hours = '', minutes = '0', half] = TIME.exec(text.trim()) ?? [];
  if (whole === undefined) return undefined;
  const hour = Number(hours);
  if (half === undefined) {
    const all = hour * 60 + Number(minutes);
    return all <= 24 * 60 ? all : undefined;
  }
  if (hour < 1 || hour > 12) return undefined;
  return ((hour % 12) + (half.toLowerCase() === 'p' ? 12 : 0)) * 60 + Number(minutes);
}

/** "07:30", or "7:30 am" where the day has twice twelve hours. */
export function minutesText(minutes: number, { clock }: Pick<Region, 'clock'>): string {
  const [hour, minute] = [Math.floor(minutes / 60), String(minutes % 60).padStart(2, '0')];
  if (clock === '24 h') return `${String(hour).padStart(2, '0')}:${minute}`;
  return `${hour % 12 === 0 ? 12 : hour % 12}:${minute} ${hour % 24 < 12 ? 'am' : 'pm'}`;
}

/**
 * A date in the region's form or in ISO 8601's.
 * @returns "2026-12-24", undefined where it is no day
 */
export function dateFromEntry(text: string, form: DateForm): string | undefined {
  for (const one of [form, 'yyyy-MM-dd']) {
    const day = parse(text.trim(), one, new Date(2000, 0, 1));
    if (isValid(day) && day.getFullYear() >= 1900 && day.getFullYear() < 2200)
      return format(day, 'yyyy-MM-dd');
  }
  return undefined;
}
