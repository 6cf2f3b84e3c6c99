/** Times as the shop writes them, in its own zone. */

const formats = new Map<string, Intl.DateTimeFormat>();

function format(key: string, timeZone: string, options: Intl.DateTimeFormatOptions): Intl.DateTimeFormat {
  const id = `${key} ${timeZone}`;
  const known = formats.get(id);
  if (known) return known;
  const made = new Intl.DateTimeFormat('en-GB', { ...options, timeZone, hourCycle: 'h23' });
  formats.set(id, made);
  return made;
}

/** "14:06" */
export function clockText(at: number, timeZone: string): string {
  return format('clock', timeZone, { hour: '2-digit', minute: '2-digit' }).format(at);
}

/** "Tue" */
export function weekdayText(at: number, timeZone: string): string {
  return format('weekday', timeZone, { weekday: 'short' }).format(at);
}

/** On an axis: "14:00", and at midnight the day that begins, "Wed 11". */
export function axisText(at: number, timeZone: string): string {
  const clock = clockText(at, timeZone);
  return clock === '00:00' ? format('day', timeZone, { weekday: 'short', day: 'numeric' }).format(at) : clock;
}

/** "10 Mar 2026" */
export function dateText(at: number, timeZone: string): string {
  return format('date', timeZone, { day: 'numeric', month: 'short', year: 'numeric' }).format(at);
}

/** "10 Mar 2026 11:06": a moment of any year, as records say it. */
export const dateTimeText = (at: number, timeZone: string): string =>
  `${dateText(at, timeZone)} ${clockText(at, timeZone)}`;

/** "14:06" today, "Wed 10:00" within the week, "10 Mar 2026 10:00" beyond. */
export function whenText(at: number, now: number, timeZone: string): string {
  const day = dateText(at, timeZone);
  if (day === dateText(now, timeZone)) return clockText(at, timeZone);
  const isThisWeek = Math.abs(at - now) < 6 * 86_400_000;
  return `${isThisWeek ? weekdayText(at, timeZone) : day} ${clockText(at, timeZone)}`;
}

/** "28 Dec"; the year too where it is another. */
export function dayText(at: number, now: number, timeZone: string): string {
  const year = format('year', timeZone, { year: 'numeric' });
  if (year.format(at) !== year.format(now)) return dateText(at, timeZone);
  return format('day and month', timeZone, { day: 'numeric', month: 'short' }).format(at);
}

/** "Wed 11 Mar 17:00"; the year too where it is another. */
export function momentText(at: number, now: number, timeZone: string): string {
  return `${weekdayText(at, timeZone)} ${dayText(at, now, timeZone)} ${clockText(at, timeZone)}`;
}

/** "25 min", "2 h 05", "3 d 4 h" */
export function durationText(ms: number): string {
  const minutes = Math.max(0, Math.round(ms / 60_000));
  if (minutes < 60) return `${minutes} min`;
  const hours = Math.floor(minutes / 60);
  if (hours < 48) return `${hours} h ${String(minutes % 60).padStart(2, '0')}`;
  return `${Math.floor(hours / 24)} d ${hours % 24} h`;
}
