/**
 * A logger's table of a charge: which column is what, in which unit, and what it says. Files differ in delimiter,
 * decimal sign, units and clocks; what cannot be recognised is asked for, never guessed silently.
 */

import { clockColumn, isOrderOpen, type DateOrder } from './clock.ts';
import type { LogColumn, LogQuantity, LogShape } from './columns.ts';
import { LogError } from './logError.ts';
import { numberOf } from './number.ts';

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
  d: (value) => value * 1440,
};

/** Days of clocks whose day and month could stand either way: the way in which the log runs on, and shorter. */
function orderOf(texts: readonly (string | undefined)[], timeZone: string): DateOrder {
  if (!texts.some((text) => text !== undefined && isOrderOpen(text))) return 'dmy';
  const [day, month] = (['dmy', 'mdy'] as const).map((order) => {
    const minutes = clockColumn(texts, order, timeZone);
    const known = minutes.filter((minute) => !Number.isNaN(minute));
    const runsOn = known.every((minute, at) => at === 0 || minute >= (known[at - 1] ?? 0));
    const span = (known.at(-1) ?? 0) - (known[0] ?? 0);
    return known.length === texts.filter((text) => text?.trim()).length && runsOn
      ? span
      : Number.POSITIVE_INFINITY;
  });
  return (month ?? 0) < (day ?? 0) ? 'mdy' : 'dmy';
}

/** Minutes of every row, from any beginning; NaN where a row has none. */
function minutesOf(
  rows: readonly (readonly string[])[],
  { from, decimal }: LogShape,
  { index, unit, dateIndex }: LogColumn,
  timeZone: string,
): Float64Array {
  const cells = rows.slice(from);
  if (unit !== 'clock')
    return Float64Array.from(cells, (row) => CONVERT[unit]?.(numberOf(row[index], decimal)) ?? Number.NaN);
  const texts = cells.map((row) =>
    dateIndex === undefined ? row[index] : `${row[dateIndex] ?? ''} ${row[index] ?? ''}`,
  );
  const minutes = clockColumn(texts, orderOf(texts, timeZone), timeZone);
  const wrong = texts.findIndex(
    (text, at) => Number.isNaN(minutes[at]) && text !== undefined && text.trim() !== '',
  );
  if (wrong >= 0)
    throw new LogError(
      `Row ${from + wrong + 1}: “${(texts[wrong] ?? '').trim().slice(0, 40)}” is no date and time of day.`,
    );
  return minutes;
}

/** @throws LogError where a column or its unit is not known */
function columnFor(quantity: LogQuantity, { columns, open, names }: LogShape): LogColumn {
  const column = columns[quantity];
  const could = open[quantity]?.map((index) => `“${names[index] ?? ''}”`).join(' or ');
  if (!column)
    throw new LogError(
      `Say which column holds the ${quantity}: ${could === undefined ? 'no heading names it' : `${could} could`}.`,
    );
  if (column.unit === '')
    throw new LogError(
      `Say in which unit “${names[column.index] ?? ''}” gives the ${quantity}: neither heading nor numbers tell.`,
    );
  return column;
}

/**
 * Reads the whole table; time counts from its first row.
 * @param timeZone of the logger's clock, where that is a wall clock: the shop's
 * @throws LogError where a column or a unit is missing, time runs backwards or too few rows hold numbers
 */
export function readLog(rows: readonly (readonly string[])[], shape: LogShape, timeZone: string): Log {
  const { decimal, from, columns } = shape;
  const time = columnFor('time', shape);
  const voltage = columnFor('voltage', shape);
  const current = columnFor('current', shape);
  const temperature = columns.temperature && columnFor('temperature', shape);
  const count = rows.length - from;
  const clock = minutesOf(rows, shape, time, timeZone);
  const minutes = new Float64Array(count);
  const volts = new Float64Array(count);
  const amps = new Float64Array(count);
  const tempC = temperature ? new Float64Array(count) : undefined;
  const valueOf = (row: readonly string[], { index, unit }: LogColumn): number =>
    CONVERT[unit]?.(numberOf(row[index], decimal)) ?? Number.NaN;
  let kept = 0;
  let start = Number.NaN;
  let before = 0;
  for (let at = 0; at < count; at++) {
    const row = rows[from + at] as readonly string[];
    const values = [clock[at] as number, valueOf(row, voltage), valueOf(row, current)];
    if (temperature) values.push(valueOf(row, temperature));
    if (values.some(Number.isNaN)) continue;
    if (Number.isNaN(start)) start = values[0] as number;
    const minute = (values[0] as number) - start;
    if (minute < before)
      throw new LogError(
        `Row ${from + at + 1}: its time is before that of the row above; the table must run forwards.`,
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

/** What a room's logger has: a moment and a temperature a row. */
export interface RoomLog {
  /** Shop time, ms. */
  readonly at: Float64Array;
  readonly tempC: Float64Array;
}

const MINUTE_MS = 60_000;
/** A clock that is no day's: it has a date. */
const DATED_MIN = 365 * 1440;

/**
 * Reads a table of a room's warmth; its clock must say the day.
 * @param timeZone of the logger's clock, where that is a wall clock: the shop's
 * @throws LogError where a column or a unit is missing, or its rows have no dates
 */
export function readRoomLog(
  rows: readonly (readonly string[])[],
  shape: LogShape,
  timeZone: string,
): RoomLog {
  const time = columnFor('time', shape);
  const temperature = columnFor('temperature', shape);
  const minutes = minutesOf(rows, shape, time, timeZone);
  const at: number[] = [];
  const tempC: number[] = [];
  rows.slice(shape.from).forEach((row, index) => {
    const [minute, value] = [
      minutes[index] as number,
      CONVERT[temperature.unit]?.(numberOf(row[temperature.index], shape.decimal)),
    ];
    if (Number.isNaN(minute) || value === undefined || Number.isNaN(value)) return;
    if (minute < DATED_MIN) throw new LogError('Its clock says no day: a room’s log needs dates.');
    if (minute * MINUTE_MS < (at.at(-1) ?? 0))
      throw new LogError(
        `Row ${shape.from + index + 1}: its time is before that of the row above; the table must run forwards.`,
      );
    at.push(minute * MINUTE_MS);
    tempC.push(value);
  });
  if (at.length < 2) throw new LogError(`Only ${at.length} of its rows hold a time and a temperature.`);
  return { at: Float64Array.from(at), tempC: Float64Array.from(tempC) };
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
