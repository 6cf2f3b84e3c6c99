/**
 * What a bay shows each second, and how ten minutes of it are written down: in whole millivolts, milliamperes and tenths of a kelvin, column by column,
 * each as what it differs by from the one before. @see Pelkonen et al. 2015, Gorilla (differences of time series); Protocol Buffers, base 128 varints
 */
import { greatest, least } from 'd3-array';

export interface Sample {
  /** Shop time, ms. */
  readonly at: number;
  /** Each where something reads it. */
  readonly volts?: number;
  readonly amps?: number;
  readonly tempC?: number;
}

/** Of a bay under control: its supply shows both. */
export interface BaySample extends Sample {
  readonly volts: number;
  readonly amps: number;
}

/** A stretch drawn as one: least and most of each. */
export interface Stretch {
  readonly from: number;
  readonly to: number;
  readonly volts?: readonly [least: number, most: number];
  readonly amps?: readonly [least: number, most: number];
  readonly tempC?: readonly [least: number, most: number];
}

const VERSION = 1;
const USUAL_MS = 1000;

/** In whole parts of which each is written; `none` stands where nothing read it: further below nought than anything is. */
const COLUMNS = {
  volts: { per: 1000, none: -10_000_000 },
  amps: { per: 1000, none: -10_000_000 },
  tempC: { per: 10, none: -10_000 },
} as const;
type Column = keyof typeof COLUMNS;
const COLUMN_NAMES = Object.keys(COLUMNS) as readonly Column[];

/** Small numbers of either sign as small ones. */
const zigzag = (value: number): number => (value < 0 ? -2 * value - 1 : 2 * value);
const unzigzag = (value: number): number => (value % 2 === 1 ? -(value + 1) / 2 : value / 2);

class Writer {
  readonly bytes: number[] = [];

  put(value: number): void {
    let left = value;
    // Shop time has more than 32 bits: no shifts.
    while (left >= 128) {
      this.bytes.push((left % 128) + 128);
      left = Math.floor(left / 128);
    }
    this.bytes.push(left);
  }

  /** A column by its differences. */
  column(values: readonly number[]): void {
    let before = 0;
    for (const value of values) {
      this.put(zigzag(value - before));
      before = value;
    }
  }
}

class Reader {
  private readonly bytes: Uint8Array;
  private at = 0;

  constructor(bytes: Uint8Array) {
    this.bytes = bytes;
  }

  /** @throws RangeError where they end too soon */
  take(): number {
    let [value, scale] = [0, 1];
    for (;;) {
      const byte = this.bytes[this.at++];
      if (byte === undefined) throw new RangeError('These readings are cut off.');
      value += (byte % 128) * scale;
      if (byte < 128) return value;
      scale *= 128;
    }
  }

  column(count: number): number[] {
    let before = 0;
    return Array.from({ length: count }, () => (before += unzigzag(this.take())));
  }
}

/** @param samples in order of time */
export function packed(samples: readonly Sample[]): Uint8Array {
  const writer = new Writer();
  const [first] = samples;
  writer.put(VERSION);
  writer.put(samples.length);
  writer.put(first?.at ?? 0);
  writer.column(samples.map(({ at }, index) => Math.round(at - (first?.at ?? 0)) - index * USUAL_MS));
  for (const name of COLUMN_NAMES) {
    const { per, none } = COLUMNS[name];
    writer.column(samples.map(({ [name]: value }) => (value === undefined ? none : Math.round(value * per))));
  }
  return Uint8Array.from(writer.bytes);
}

/** @throws RangeError where they are of another version, or cut off */
export function unpacked(bytes: Uint8Array): Sample[] {
  const reader = new Reader(bytes);
  if (reader.take() !== VERSION) throw new RangeError('These readings are of another version.');
  const [count, first] = [reader.take(), reader.take()];
  const times = reader.column(count);
  const columns = COLUMN_NAMES.map((name) => [name, reader.column(count)] as const);
  return times.map((time, index) => {
    const figures: Partial<Record<Column, number>> = {};
    for (const [name, values] of columns) {
      const { per, none } = COLUMNS[name];
      const value = values[index] ?? none;
      if (value !== none) figures[name] = value / per;
    }
    return { at: first + time + index * USUAL_MS, ...figures };
  });
}

/** So many months readings are kept whole where a shop says nothing else. */
export const READINGS_MONTHS = 24;

const MINUTE_MS = 60_000;

/** In pieces no longer than so many ms, each from its own first on. @param samples in order of time */
export function inPieces(samples: readonly Sample[], mostMs: number): Sample[][] {
  const parts: Sample[][] = [];
  for (const sample of samples) {
    const part = parts.at(-1);
    if (part && sample.at - (part[0]?.at ?? 0) < mostMs) part.push(sample);
    else parts.push([sample]);
  }
  return parts;
}

/**
 * What is left of readings once they are old: of each minute the first, and where each figure was least and most.
 * @param samples in order of time
 */
export function shapeOf(samples: readonly Sample[]): Sample[] {
  const kept = new Set<Sample>();
  for (const minute of inPieces(samples, MINUTE_MS))
    for (const one of [minute[0], ...COLUMN_NAMES.flatMap((name) => endsOf(minute, name))])
      if (one) kept.add(one);
  return samples.filter((sample) => kept.has(sample));
}

/** The samples in which a figure was least and most; none where nothing read it. */
function endsOf(samples: readonly Sample[], name: Column): (Sample | undefined)[] {
  const read = samples.filter(({ [name]: value }) => value !== undefined);
  return [least(read, ({ [name]: value = 0 }) => value), greatest(read, ({ [name]: value = 0 }) => value)];
}

const wider = (range: readonly [number, number] | undefined, value: number): readonly [number, number] =>
  range ? [Math.min(range[0], value), Math.max(range[1], value)] : [value, value];

/**
 * No more stretches than can be drawn; nothing that stood out is lost.
 * @param most stretches, 1 at least
 */
export function thinned(samples: readonly Sample[], most: number): Stretch[] {
  const each = Math.ceil(samples.length / most);
  const stretches: Stretch[] = [];
  for (let from = 0; from < samples.length; from += each) {
    const part = samples.slice(from, from + each);
    const ranges: Partial<Record<Column, readonly [number, number]>> = {};
    for (const sample of part)
      for (const name of COLUMN_NAMES) {
        const value = sample[name];
        if (value !== undefined) ranges[name] = wider(ranges[name], value);
      }
    const [first, last] = [part[0], part.at(-1)];
    if (first && last) stretches.push({ from: first.at, to: last.at, ...ranges });
  }
  return stretches;
}
