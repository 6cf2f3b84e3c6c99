/**
 * Which column of a logger's table is what. A heading is read word by word, never by letters within a word; what is
 * not certain is left open, with the columns it could be.
 */
import { readClock } from './clock.ts';
import { decimalOf, isNumberLike, numberOf, type Decimal } from './number.ts';
import { LogError } from './logError.ts';

export const LOG_QUANTITIES = ['time', 'voltage', 'current', 'temperature'] as const;
export type LogQuantity = (typeof LOG_QUANTITIES)[number];

/** What stands in a column, and how its numbers become V, A, °C or minutes. */
export interface LogColumn {
  readonly index: number;
  /** Empty where neither heading nor numbers tell. */
  readonly unit: string;
  /** Where the date of a clock stands in a column of its own. */
  readonly dateIndex?: number;
}

export interface LogShape {
  readonly decimal: Decimal;
  /** Names of all columns, for whoever puts right what was recognised. */
  readonly names: readonly string[];
  /** The first row that holds numbers. */
  readonly from: number;
  readonly columns: Readonly<Partial<Record<LogQuantity, LogColumn>>>;
  /** Columns a quantity could be, where more than one could. */
  readonly open: Readonly<Partial<Record<LogQuantity, readonly number[]>>>;
}

/** Units a person may choose for each quantity, where the file does not say or says it wrongly. */
export const LOG_UNITS: Readonly<Record<LogQuantity, readonly string[]>> = {
  time: ['clock', 's', 'min', 'h', 'ms', 'd'],
  voltage: ['V', 'mV'],
  current: ['A', 'mA'],
  temperature: ['°C', '°F', 'K'],
};

/** Words of a heading that name a quantity; a unit alone names it too. */
const WORDS: Readonly<Record<LogQuantity, readonly string[]>> = {
  time: [
    'time',
    'zeit',
    'uhrzeit',
    'date',
    'datum',
    'datetime',
    'timestamp',
    'clock',
    'elapsed',
    'runtime',
    'laufzeit',
    'temps',
    'heure',
    'tid',
    't',
    's',
    'sec',
    'secs',
    'second',
    'seconds',
    'sek',
    'sekunden',
    'min',
    'mins',
    'minute',
    'minutes',
    'minuten',
    'h',
    'hr',
    'hrs',
    'hour',
    'hours',
    'stunden',
    'ms',
  ],
  voltage: [
    'voltage',
    'volt',
    'volts',
    'millivolt',
    'millivolts',
    'spannung',
    'tension',
    'spenning',
    'u',
    'v',
    'mv',
    'vdc',
    'vbat',
    'ubat',
    'vbatt',
  ],
  current: [
    'current',
    'amp',
    'amps',
    'ampere',
    'amperes',
    'milliamp',
    'milliamps',
    'strom',
    'courant',
    'strøm',
    'i',
    'a',
    'ma',
    'adc',
    'ibat',
    'ibatt',
  ],
  temperature: [
    'temperature',
    'temp',
    'temperatur',
    'température',
    '°c',
    '°f',
    'degc',
    'degf',
    'celsius',
    'fahrenheit',
    'kelvin',
    'tbat',
    'tcase',
  ],
};
/** A column with one of these is another quantity, a setting, or a count. */
const NOT_THIS = [
  'set',
  'setpoint',
  'target',
  'limit',
  'max',
  'maximum',
  'avg',
  'average',
  'mean',
  'soll',
  'cell',
  'zelle',
  'ripple',
  'delta',
  'ah',
  'mah',
  'capacity',
  'kapazität',
  'energy',
  'wh',
  'kwh',
  'power',
  'watt',
  'watts',
  'w',
  'ohm',
  'mohm',
  'resistance',
  'soc',
  'cycle',
  'step',
  'status',
  'state',
  'mode',
  'error',
  'flag',
  'range',
  'mains',
  'input',
  'ambient',
  'room',
  'humidity',
];
const COUNTS = [
  'sample',
  'samples',
  'no',
  'nr',
  '#',
  'index',
  'idx',
  'row',
  'record',
  'rec',
  'point',
  'id',
  'n',
  'number',
  'nummer',
  'count',
];

const UNIT_WORDS: Readonly<Record<LogQuantity, Readonly<Record<string, readonly string[]>>>> = {
  time: {
    ms: ['ms', 'millisecond', 'milliseconds'],
    s: ['s', 'sec', 'secs', 'second', 'seconds', 'sek', 'sekunden'],
    min: ['min', 'mins', 'minute', 'minutes', 'minuten'],
    h: ['h', 'hr', 'hrs', 'hour', 'hours', 'stunden'],
    d: ['day', 'days', 'tage'],
  },
  voltage: { mV: ['mv', 'millivolt', 'millivolts'], V: ['v', 'volt', 'volts', 'vdc'] },
  current: { mA: ['ma', 'milliamp', 'milliamps'], A: ['a', 'amp', 'amps', 'ampere', 'amperes', 'adc'] },
  temperature: {
    '°F': ['°f', 'f', 'degf', 'fahrenheit'],
    K: ['k', 'kelvin'],
    '°C': ['°c', 'c', 'degc', 'celsius'],
  },
};

/** "BatteryVoltage (mV)" as battery, voltage, mv. */
function wordsOf(name: string): string[] {
  return name
    .replace(/(\p{Ll}{2})(\p{Lu})/gu, '$1 $2')
    .replace(/°\s+/g, '°')
    .toLowerCase()
    .split(/[^\p{L}\p{N}°#]+/u)
    .filter((word) => word !== '');
}

const hasOne = (words: readonly string[], of: readonly string[]): boolean =>
  words.some((word) => of.includes(word));
/** As a word with its number: "T1", "Temp2". */
const bare = (words: readonly string[]): string[] =>
  words.map((word) => (/^[a-zø°]{1,8}\d$/.test(word) ? word.slice(0, -1) : word));

/** The quantity a unit in brackets at the end names for certain: "Ch A (V)" is a voltage. */
function byBracket(name: string): LogQuantity | undefined {
  const inside = /[([]([^)\]]*)[)\]]\s*$/.exec(name)?.[1];
  if (inside === undefined) return undefined;
  const words = wordsOf(inside);
  return LOG_QUANTITIES.find((quantity) =>
    Object.values(UNIT_WORDS[quantity]).some((of) => hasOne(words, of)),
  );
}

/** Whether a heading names a quantity and nothing else. */
function isNamed(name: string, quantity: LogQuantity): boolean {
  const words = wordsOf(name);
  if (hasOne(words, NOT_THIS) || hasOne(words, COUNTS)) return false;
  const bracket = byBracket(name);
  if (bracket !== undefined) return bracket === quantity;
  // "V min" is the lowest of a stretch, not a time.
  const isStatistic =
    words.includes('min') && hasOne(words, [...WORDS.voltage, ...WORDS.current, ...WORDS.temperature]);
  return !isStatistic && hasOne(quantity === 'temperature' ? bare(words) : words, WORDS[quantity]);
}

const unitOf = (words: readonly string[], quantity: LogQuantity): string =>
  Object.entries(UNIT_WORDS[quantity]).find(([, names]) => hasOne(words, names))?.[0] ?? '';

/** What the numbers can only be, where the heading has no unit; empty where they could be several. */
function unitByValues(quantity: LogQuantity, values: readonly number[]): string {
  const known = values.filter((value) => !Number.isNaN(value)).map(Math.abs);
  if (known.length === 0) return '';
  const most = Math.max(...known);
  switch (quantity) {
    case 'voltage':
      return most <= 80 ? 'V' : most >= 1000 ? 'mV' : '';
    case 'current':
      // A charge that is logged gives more than 20 mA, and this bench no more than 20 A.
      return most <= 20 ? 'A' : '';
    case 'temperature':
      return most <= 60 ? '°C' : most > 250 && most < 350 ? 'K' : '';
    case 'time':
      // Seconds and milliseconds since 1970, and days since 1900 as spreadsheets count them.
      if (most > 1e12) return 'ms';
      if (most > 1e9) return 's';
      return most > 40_000 && most < 60_000 && known.some((value) => !Number.isInteger(value)) ? 'd' : '';
  }
}

/** The unit of a column that was chosen for a quantity: by its heading, else by what stands in it; empty where neither tells. */
export function suggestedUnit(
  quantity: LogQuantity,
  name: string,
  texts: readonly string[],
  decimal: Decimal,
): string {
  if (quantity === 'time' && texts.some((text) => readClock(text) !== undefined)) return 'clock';
  const values = texts.map((text) => numberOf(text, decimal));
  return unitOf(wordsOf(name), quantity) || unitByValues(quantity, values);
}

type Sample = readonly (readonly string[])[];

const columnOf = (sample: Sample, index: number): string[] =>
  sample.map((row) => row[index]?.trim() ?? '').filter((text) => text !== '');

interface Clocks {
  readonly full: readonly number[];
  readonly dates: readonly number[];
  readonly times: readonly number[];
}

/** Columns that hold clocks, by what they say; a date may be written either way round. */
function clocksOf(sample: Sample, width: number): Clocks {
  const kinds = Array.from({ length: width }, (_, index) => {
    const texts = columnOf(sample, index);
    const read = texts.map((text) => readClock(text) ?? readClock(text, 'mdy'));
    if (texts.length === 0 || read.some((clock) => clock === undefined)) return undefined;
    if (read.every((clock) => clock?.minute === undefined)) return 'dates';
    return read.every((clock) => clock?.day === undefined) ? 'times' : 'full';
  });
  const of = (kind: keyof Clocks): number[] => kinds.flatMap((one, index) => (one === kind ? [index] : []));
  return { full: of('full'), dates: of('dates'), times: of('times') };
}

type Found = { readonly column: LogColumn } | { readonly open: readonly number[] };

const oneOf = (indices: readonly number[], column: (index: number) => LogColumn): Found => {
  const [only] = indices;
  return indices.length === 1 && only !== undefined ? { column: column(only) } : { open: indices };
};

function timeOf(heads: readonly string[], sample: Sample, decimal: Decimal): Found {
  const { full, dates, times } = clocksOf(sample, heads.length);
  const clock = (index: number): LogColumn => ({ index, unit: 'clock' });
  if (full.length > 0) return oneOf(full, clock);
  const [date] = dates;
  if (dates.length === 1 && times.length === 1 && date !== undefined)
    return oneOf(times, (index) => ({ index, unit: 'clock', dateIndex: date }));
  if (times.length > 0) return oneOf(times, clock);
  const named = heads.flatMap((name, index) => (isNamed(name, 'time') ? [index] : []));
  return oneOf(named, (index) => {
    const texts = columnOf(sample, index);
    // What is neither number nor clock is refused where it stands, by its row.
    if (!texts.some(isNumberLike)) return clock(index);
    return { index, unit: suggestedUnit('time', heads[index] ?? '', texts, decimal) };
  });
}

function quantityOf(
  quantity: Exclude<LogQuantity, 'time'>,
  heads: readonly string[],
  sample: Sample,
  decimal: Decimal,
  taken: readonly number[],
): Found {
  const named = heads.flatMap((name, index) =>
    !taken.includes(index) && isNamed(name, quantity) ? [index] : [],
  );
  return oneOf(named, (index) => ({
    index,
    unit: suggestedUnit(quantity, heads[index] ?? '', columnOf(sample, index), decimal),
  }));
}

const UNIT_CELL =
  /^[[(]?\s*(s|sec|min|h|ms|v|mv|a|ma|°?\s?c|°?\s?f|k|ah|mah|w|wh|%|-|ohm|mohm|hh:mm:ss)?\s*[\])]?$/i;

/** The heading is the row above the numbers; where that holds only units, the one above it too. */
function headingOf(rows: Sample, from: number, width: number): string[] {
  const above = rows[from - 1];
  if (above?.length !== width) return Array.from({ length: width }, () => '');
  const over = rows[from - 2];
  const isUnits = above.every((text) => UNIT_CELL.test(text.trim()));
  const lines = isUnits && over?.length === width ? [over, above] : [above];
  return Array.from({ length: width }, (_, index) =>
    lines
      .map((line) => line[index]?.trim() ?? '')
      .filter((name) => name !== '')
      .join(' '),
  );
}

const isValue = (text: string): boolean =>
  isNumberLike(text) || readClock(text) !== undefined || readClock(text, 'mdy') !== undefined;

/**
 * Which column is what, as far as that is certain.
 * @param rows the first rows of the table, as text
 * @throws LogError where no row holds numbers
 */
export function recognise(rows: Sample): LogShape {
  const from = rows.findIndex(
    (row) =>
      row.length >= 2 &&
      row.filter((text) => isValue(text.trim()) && text.trim() !== '').length >= 2 &&
      // A state in words may stand beside the numbers; a heading has no numbers at all.
      row.filter((text) => text.trim() !== '' && !isValue(text)).length <= row.length / 2,
  );
  if (from < 0) throw new LogError('The file holds no row of numbers.');
  const width = rows[from]?.length ?? 0;
  const heads = headingOf(rows, from, width);
  const sample = rows.slice(from);
  const decimal = decimalOf(sample);
  const found: Partial<Record<LogQuantity, Found>> = { time: timeOf(heads, sample, decimal) };
  const takenBy = (one: Found | undefined): number[] =>
    one && 'column' in one
      ? [one.column.index, ...(one.column.dateIndex === undefined ? [] : [one.column.dateIndex])]
      : [];
  for (const quantity of ['temperature', 'voltage', 'current'] as const)
    found[quantity] = quantityOf(quantity, heads, sample, decimal, Object.values(found).flatMap(takenBy));
  const entries = Object.entries(found) as [LogQuantity, Found][];
  return {
    decimal,
    names: heads.map((name, index) => (name === '' ? `Column ${index + 1}` : name)),
    from,
    columns: Object.fromEntries(
      entries.flatMap(([quantity, one]) => ('column' in one ? [[quantity, one.column]] : [])),
    ),
    open: Object.fromEntries(
      entries.flatMap(([quantity, one]) =>
        'open' in one && one.open.length > 0 ? [[quantity, one.open]] : [],
      ),
    ),
  };
}
