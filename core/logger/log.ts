/**
 * A logger's table of a charge: which column is what, in which unit, and what it says. Files differ in delimiter,
 * decimal sign, units and clocks; what cannot be recognised is asked for, never guessed silently.
 */

/** A file that cannot be taken in; the message says why, in one sentence. */
export class LogError extends Error {
  constructor(message: string) {
    super(message);
    this.name = 'LogError';
  }
}

export const LOG_QUANTITIES = ['time', 'voltage', 'current', 'temperature'] as const;
export type LogQuantity = (typeof LOG_QUANTITIES)[number];

/** What stands in a column, and how its numbers become V, A or °C. */
export interface LogColumn {
  readonly index: number;
  readonly unit: string;
}

export interface LogShape {
  readonly decimal: '.' | ',';
  /** Names of all columns, for whoever puts right what was recognised. */
  readonly names: readonly string[];
  /** The first row that holds numbers. */
  readonly from: number;
  readonly columns: Readonly<Partial<Record<LogQuantity, LogColumn>>>;
}

export interface Log {
  /** From the first row on. */
  readonly minutes: Float64Array;
  readonly volts: Float64Array;
  readonly amps: Float64Array;
  /** Undefined where the file has no warmth. */
  readonly tempC: Float64Array | undefined;
  /** Rows left out because a number was missing. */
  readonly skipped: number;
}

const DELIMITERS = [';', '\t', '|', ','] as const;
const SAMPLE_LINES = 30;

/** The delimiter that cuts most lines of a sample into the same number of columns, two at least. */
export function delimiterOf(sample: string): string {
  const lines = sample
    .split(/\r?\n/)
    .filter((line) => line.trim() !== '')
    .slice(0, SAMPLE_LINES);
  const found = DELIMITERS.map((delimiter) => {
    const counts = new Map<number, number>();
    for (const line of lines) {
      const parts = line.split(delimiter).length;
      counts.set(parts, (counts.get(parts) ?? 0) + 1);
    }
    const [columns = 1, lineCount = 0] = [...counts].sort((a, b) => b[1] - a[1])[0] ?? [];
    return { delimiter, columns, share: lineCount / Math.max(1, lines.length) };
  }).filter(({ columns, share }) => columns >= 2 && share > 0.6);
  const [best] = found;
  if (!best)
    throw new LogError(
      'This is no table: its lines are not cut by semicolons, tabs, bars or commas into columns.',
    );
  return best.delimiter;
}

const TIME_NAMES = /\bt\b|zeit|time|date|datum|clock|elapsed|stamp|sec|min|hour|stund/i;
const NAMES: readonly (readonly [LogQuantity, RegExp])[] = [
  ['temperature', /temp|°\s?[cf]\b|\bdeg/i],
  ['voltage', /volt|spannung|tension|\bu\b|\bm?v\b|[([]\s?m?v\s?[)\]]/i],
  ['current', /curr|amp|strom|courant|\bi\b|\bm?a\b|[([]\s?m?a\s?[)\]]/i],
  ['time', TIME_NAMES],
];

const UNITS: Readonly<Record<Exclude<LogQuantity, 'time'>, readonly (readonly [string, RegExp])[]>> = {
  voltage: [
    ['mV', /\bmv\b|millivolt/i],
    ['V', /./],
  ],
  current: [
    ['mA', /\bma\b|milliamp/i],
    ['A', /./],
  ],
  temperature: [
    ['°F', /°\s?f|fahrenheit|\bf\b/i],
    ['K', /kelvin|\[k\]|\(k\)/i],
    ['°C', /./],
  ],
};

const TIME_UNITS: readonly (readonly [string, RegExp])[] = [
  ['ms', /\bms\b|milli/i],
  ['h', /\bh\b|hour|stund/i],
  ['min', /\bmin\b|minute/i],
  ['s', /./],
];

/** How a number of each unit becomes V, A, °C or minutes. */
const CONVERT: Readonly<Record<string, (value: number) => number>> = {
  V: (value) => value,
  mV: (value) => value / 1000,
  A: (value) => value,
  mA: (value) => value / 1000,
  '°C': (value) => value,
  '°F': (value) => ((value - 32) * 5) / 9,
  K: (value) => value - 273.15,
  ms: (value) => value / 60_000,
  s: (value) => value / 60,
  min: (value) => value,
  h: (value) => value * 60,
};

/** Units a person may choose for each quantity, where the file does not say or says it wrongly. */
export const LOG_UNITS: Readonly<Record<LogQuantity, readonly string[]>> = {
  time: ['clock', 's', 'min', 'h', 'ms'],
  voltage: ['V', 'mV'],
  current: ['A', 'mA'],
  temperature: ['°C', '°F', 'K'],
};

function numberOf(text: string | undefined, decimal: '.' | ','): number {
  const trimmed = text?.trim() ?? '';
  if (trimmed === '') return Number.NaN;
  return Number(decimal === ',' ? trimmed.replace(/\./g, '').replace(',', '.') : trimmed);
}

const CLOCK =
  /^(?:(\d{4})-(\d{1,2})-(\d{1,2})|(\d{1,2})[./](\d{1,2})[./](\d{4}))?[T ,]*(\d{1,3}):(\d{2})(?::(\d{2}(?:[.,]\d+)?))?Z?$/;

/** "2026-03-10 08:05:30", "10.03.2026 08:05" or "00:05:30", as minutes; NaN where it is no clock. */
export function clockMinutes(text: string): number {
  const match = CLOCK.exec(text.trim());
  if (!match) return Number.NaN;
  const [, year, month, day, day2, month2, year2, hours, minutes, seconds = '0'] = match;
  const days =
    year === undefined && year2 === undefined
      ? 0
      : Date.UTC(Number(year ?? year2), Number(month ?? month2) - 1, Number(day ?? day2)) / 86_400_000;
  return days * 1440 + Number(hours) * 60 + Number(minutes) + Number(seconds.replace(',', '.')) / 60;
}

const isNumberLike = (text: string): boolean => /^\s*[-+]?[\d.,]+(e[-+]?\d+)?\s*$/i.test(text);
const isValue = (text: string): boolean => isNumberLike(text) || !Number.isNaN(clockMinutes(text));

/** The decimal sign: a comma where numbers have one and no point cuts them. */
function decimalOf(rows: readonly (readonly string[])[]): '.' | ',' {
  const texts = rows.flat().filter(isNumberLike);
  const withComma = texts.filter((text) => /\d,\d/.test(text)).length;
  const withPoint = texts.filter((text) => /\d\.\d/.test(text)).length;
  return withComma > withPoint ? ',' : '.';
}

const unitIn = (name: string, units: readonly (readonly [string, RegExp])[]): string =>
  units.find(([, pattern]) => pattern.test(name))?.[0] ?? '';

/**
 * Which column is what.
 * @param rows the first rows of the table, as text
 * @throws LogError where no row holds numbers
 */
export function recognise(rows: readonly (readonly string[])[]): LogShape {
  const from = rows.findIndex(
    (row) =>
      row.length >= 2 &&
      row.filter((text) => text.trim() !== '').every(isValue) &&
      row.some((text) => text.trim() !== ''),
  );
  if (from < 0) throw new LogError('The file holds no row of numbers.');
  const width = rows[from]?.length ?? 0;
  // The heading is the row just above the numbers; what stands over it is about the logger.
  const head = rows.slice(Math.max(0, from - 1), from).filter((row) => row.length === width);
  const names = Array.from({ length: width }, (_, index) =>
    head
      .map((row) => row[index]?.trim() ?? '')
      .filter((name) => name !== '')
      .join(' '),
  );
  const sample = rows.slice(from);
  const columns: Partial<Record<LogQuantity, LogColumn>> = {};
  for (const [quantity, pattern] of NAMES) {
    const taken = Object.values(columns).map(({ index }) => index);
    const index = names.findIndex((name, at) => pattern.test(name) && !taken.includes(at));
    if (index < 0) continue;
    const name = names[index] ?? '';
    columns[quantity] = {
      index,
      unit: quantity === 'time' ? timeUnit(name, sample[0]?.[index] ?? '') : unitIn(name, UNITS[quantity]),
    };
  }
  const clock = sample[0]?.findIndex((text) => !Number.isNaN(clockMinutes(text))) ?? -1;
  if (!columns.time && clock >= 0) columns.time = { index: clock, unit: 'clock' };
  return {
    decimal: decimalOf(sample),
    names: names.map((name, index) => (name === '' ? `Column ${index + 1}` : name)),
    from,
    columns,
  };
}

const timeUnit = (name: string, value: string): string =>
  Number.isNaN(clockMinutes(value)) ? unitIn(name, TIME_UNITS) : 'clock';

const MIDNIGHT_MIN = 1440;
const ASKED: Record<LogQuantity, string> = {
  time: 'time',
  voltage: 'voltage',
  current: 'current',
  temperature: 'temperature',
};

/**
 * Reads the whole table; time counts from its first row.
 * @throws LogError where a column is missing, time runs backwards or too few rows hold numbers
 */
export function readLog(rows: readonly (readonly string[])[], shape: LogShape): Log {
  const { decimal, columns, from } = shape;
  for (const quantity of ['time', 'voltage', 'current'] as const)
    if (!columns[quantity])
      throw new LogError(`Say which column holds the ${ASKED[quantity]}: no heading names it.`);
  const { time, voltage, current, temperature } = columns as Record<LogQuantity, LogColumn> &
    Partial<Record<'temperature', LogColumn>>;
  const count = rows.length - from;
  const minutes = new Float64Array(count);
  const volts = new Float64Array(count);
  const amps = new Float64Array(count);
  const tempC = temperature ? new Float64Array(count) : undefined;
  const valueOf = (row: readonly string[], { index, unit }: LogColumn): number =>
    CONVERT[unit]?.(numberOf(row[index], decimal)) ?? Number.NaN;
  let kept = 0;
  let start = Number.NaN;
  let dayMin = 0;
  let before = 0;
  for (let at = from; at < rows.length; at++) {
    const row = rows[at] as readonly string[];
    const clock = time.unit === 'clock' ? clockMinutes(row[time.index] ?? '') : valueOf(row, time);
    const values = [clock, valueOf(row, voltage), valueOf(row, current)];
    if (temperature) values.push(valueOf(row, temperature));
    if (values.some(Number.isNaN)) continue;
    if (Number.isNaN(start)) start = clock;
    let minute = clock - start + dayMin;
    // A clock without a date goes over midnight.
    if (time.unit === 'clock' && minute < before - MIDNIGHT_MIN / 2) {
      dayMin += MIDNIGHT_MIN;
      minute += MIDNIGHT_MIN;
    }
    if (minute < before)
      throw new LogError(
        `Row ${at + 1}: its time is before that of the row above; the table must run forwards.`,
      );
    before = minute;
    minutes[kept] = minute;
    volts[kept] = values[1] as number;
    amps[kept] = values[2] as number;
    if (tempC) tempC[kept] = values[3] as number;
    kept += 1;
  }
  if (kept < 2)
    throw new LogError(
      `Only ${kept} of ${count} rows hold time, voltage and current; a log needs two at least.`,
    );
  return {
    minutes: minutes.subarray(0, kept),
    volts: volts.subarray(0, kept),
    amps: amps.subarray(0, kept),
    tempC: tempC?.subarray(0, kept),
    skipped: count - kept,
  };
}

/**
 * Rows that keep the shape of a log: of each stretch of time its first, and where voltage, current and warmth are
 * highest and lowest.
 * @param stretches at most seven rows each
 */
export function keptOf({ minutes, volts, amps, tempC }: Log, stretches: number): number[] {
  const last = minutes.length - 1;
  const width = (minutes[last] as number) / stretches || 1;
  const kept = new Set<number>([0, last]);
  const columns = [volts, amps, ...(tempC ? [tempC] : [])];
  for (let row = 0; row <= last;) {
    const first = row;
    const stretch = Math.floor((minutes[row] as number) / width);
    while (row <= last && Math.floor((minutes[row] as number) / width) === stretch) row += 1;
    kept.add(first);
    for (const column of columns) {
      let low = first;
      let high = first;
      for (let at = first; at < row; at++) {
        if ((column[at] as number) < (column[low] as number)) low = at;
        if ((column[at] as number) > (column[high] as number)) high = at;
      }
      kept.add(low);
      kept.add(high);
    }
  }
  return [...kept].sort((a, b) => a - b);
}
