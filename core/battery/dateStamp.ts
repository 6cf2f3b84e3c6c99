/**
 * Date codes as makers stamp them, read into a month. A stamp says neither its order nor its century, so every reading
 * that can be is given, with how it was read; the technician takes the one that fits.
 */
import { setDayOfYear, setISOWeek, startOfISOWeek } from 'date-fns';

export interface DateReading {
  /** Year and month, "2026-01". */
  readonly dateCode: string;
  /** How the stamp was read, in words: "week 26 of 2025". */
  readonly words: string;
}

/** Nothing older comes to a bench with its stamp legible (reasoned: a quarter of a century). */
const OLDEST_YEARS = 25;
/** Months by letter, A is January; some makers leave I out, as it looks like a 1. */
const LETTERS = 'ABCDEFGHIJKL';
const LETTERS_WITHOUT_I = 'ABCDEFGHJKLM';
const DAY = 86_400_000;

const monthOf = (year: number, month: number): string => `${year}-${String(month).padStart(2, '0')}`;
const MONTHS = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
] as const;
const said = (year: number, month: number): string => `${MONTHS[month - 1] ?? ''} ${year}`;

interface Found extends DateReading {
  readonly at: number;
}

function found(year: number, month: number, words: string): Found {
  return { dateCode: monthOf(year, month), words, at: Date.UTC(year, month - 1, 1) };
}

/** Years a stamp of one or two digits can mean, the latest first. */
function yearsOf(digits: string, thisYear: number): number[] {
  const step = 10 ** digits.length;
  const latest = thisYear - ((((thisYear - Number(digits)) % step) + step) % step);
  return [latest, latest - step].filter((year) => year >= thisYear - OLDEST_YEARS);
}

function byWeek(year: number, week: number): Found | undefined {
  if (week < 1 || week > 53) return undefined;
  const thursday = new Date(startOfISOWeek(setISOWeek(new Date(year, 5, 15), week)).getTime() + 3 * DAY);
  return thursday.getFullYear() === year
    ? found(year, thursday.getMonth() + 1, `week ${week} of ${year}: ${said(year, thursday.getMonth() + 1)}`)
    : undefined;
}

function byDay(year: number, day: number): Found | undefined {
  const date = setDayOfYear(new Date(year, 0, 1), day);
  return day >= 1 && date.getFullYear() === year
    ? found(year, date.getMonth() + 1, `day ${day} of ${year}: ${said(year, date.getMonth() + 1)}`)
    : undefined;
}

function byMonth(year: number, month: number, how = ''): Found | undefined {
  return month >= 1 && month <= 12 ? found(year, month, `${how}${said(year, month)}`) : undefined;
}

function readings(stamp: string, thisYear: number): (Found | undefined)[] {
  const years = (digits: string): number[] => yearsOf(digits, thisYear);
  const full = /^((?:19|20)\d\d)[-/. ](\d{1,2})$/.exec(stamp);
  if (full) return [byMonth(Number(full[1]), Number(full[2]))];
  const turned = /^(\d{1,2})[-/. ](\d{4})$/.exec(stamp);
  if (turned) return [byMonth(Number(turned[2]), Number(turned[1]))];
  const parted = /^(\d{1,2})[-/. ](\d{2})$/.exec(stamp);
  if (parted) {
    const [, a = '', b = ''] = parted;
    return [
      ...years(b).flatMap((year) => [byMonth(year, Number(a)), byWeek(year, Number(a))]),
      ...(a.length === 2
        ? years(a).flatMap((year) => [byMonth(year, Number(b)), byWeek(year, Number(b))])
        : []),
    ];
  }
  const lettered = /^([A-M])[-/. ]?(\d{1,2})$/.exec(stamp) ?? /^(\d{1,2})[-/. ]?([A-M])$/.exec(stamp);
  if (lettered) {
    const [, a = '', b = ''] = lettered;
    const [letter, digits] = /\d/.test(a) ? [b, a] : [a, b];
    return years(digits).flatMap((year) => [
      byMonth(year, LETTERS.indexOf(letter) + 1, `${letter} for the month: `),
      ...(LETTERS.indexOf(letter) === LETTERS_WITHOUT_I.indexOf(letter)
        ? []
        : [byMonth(year, LETTERS_WITHOUT_I.indexOf(letter) + 1, `${letter}, I left out: `)]),
    ]);
  }
  if (/^\d{4}$/.test(stamp)) {
    const [a, b] = [stamp.slice(0, 2), stamp.slice(2)];
    return [
      ...years(b).flatMap((year) => [byWeek(year, Number(a)), byMonth(year, Number(a))]),
      ...years(a).flatMap((year) => [byWeek(year, Number(b)), byMonth(year, Number(b))]),
      ...years(stamp.slice(3)).map((year) => byDay(year, Number(stamp.slice(0, 3)))),
    ];
  }
  if (/^\d{5}$/.test(stamp))
    return [
      ...years(stamp.slice(3)).map((year) => byDay(year, Number(stamp.slice(0, 3)))),
      ...years(stamp.slice(0, 2)).map((year) => byDay(year, Number(stamp.slice(2)))),
    ];
  // Day, month, year run together.
  if (/^\d{6}$/.test(stamp))
    return [
      byMonth(Number(stamp.slice(0, 4)), Number(stamp.slice(4)), 'year and month: '),
      ...years(stamp.slice(4)).map((year) => byMonth(year, Number(stamp.slice(2, 4)), 'day, month, year: ')),
      ...years(stamp.slice(0, 2)).map((year) =>
        byMonth(year, Number(stamp.slice(2, 4)), 'year, month, day: '),
      ),
    ];
  return [];
}

/**
 * What a stamped code can mean, the most recent first; none where nothing fits.
 * @param stamp as typed: "2026-01", "01/26", "2625", "A6", "0326", "03226", "260118"
 * @param now nothing was made later, ms
 */
export function readDateCode(stamp: string, now: number): DateReading[] {
  const text = stamp.trim().toUpperCase();
  const thisYear = new Date(now).getUTCFullYear();
  const seen = new Map<string, Found>();
  for (const one of readings(text, thisYear))
    if (one && one.at <= now && one.at >= now - OLDEST_YEARS * 365.25 * DAY && !seen.has(one.dateCode))
      seen.set(one.dateCode, one);
  return [...seen.values()].sort((a, b) => b.at - a.at).map(({ dateCode, words }) => ({ dateCode, words }));
}
