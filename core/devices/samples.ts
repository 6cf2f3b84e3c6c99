/**
 * What a bay shows each second, and how ten minutes of it are written down: in whole millivolts, milliamperes and tenths of a kelvin, column by column,
 * each as what it differs by from the one before. @see Pelkonen et al. 2015, Gorilla (differences of time series); Protocol Buffers, base 128 varints
 */

export interface Sample {
  /** Shop time, ms. */
  readonly at: number;
  readonly volts: number;
  readonly amps: number;
  /** None where the bay has no probe. */
  readonly tempC?: number;
}

/** A stretch drawn as one: least and most of each. */
export interface Stretch {
  readonly from: number;
  readonly to: number;
  readonly volts: readonly [least: number, most: number];
  readonly amps: readonly [least: number, most: number];
  readonly tempC?: readonly [least: number, most: number];
}

const VERSION = 1;
const USUAL_MS = 1000;
const PER_V = 1000;
const PER_A = 1000;
const PER_K = 10;
/** Stands for no probe: further below nought than anything is. */
const NO_PROBE = -10_000;

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
  writer.column(samples.map(({ volts }) => Math.round(volts * PER_V)));
  writer.column(samples.map(({ amps }) => Math.round(amps * PER_A)));
  writer.column(samples.map(({ tempC }) => (tempC === undefined ? NO_PROBE : Math.round(tempC * PER_K))));
  return Uint8Array.from(writer.bytes);
}

/** @throws RangeError where they are of another version, or cut off */
export function unpacked(bytes: Uint8Array): Sample[] {
  const reader = new Reader(bytes);
  if (reader.take() !== VERSION) throw new RangeError('These readings are of another version.');
  const [count, first] = [reader.take(), reader.take()];
  const [times, volts, amps, warmths] = [
    reader.column(count),
    reader.column(count),
    reader.column(count),
    reader.column(count),
  ];
  return times.map((time, index) => {
    const warmth = warmths[index] ?? NO_PROBE;
    return {
      at: first + time + index * USUAL_MS,
      volts: (volts[index] ?? 0) / PER_V,
      amps: (amps[index] ?? 0) / PER_A,
      ...(warmth === NO_PROBE ? {} : { tempC: warmth / PER_K }),
    };
  });
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
    let [volts, amps, tempC]: (readonly [number, number] | undefined)[] = [undefined, undefined, undefined];
    for (const sample of part) {
      volts = wider(volts, sample.volts);
      amps = wider(amps, sample.amps);
      if (sample.tempC !== undefined) tempC = wider(tempC, sample.tempC);
    }
    const [first, last] = [part[0], part.at(-1)];
    if (first && last && volts && amps)
      stretches.push({ from: first.at, to: last.at, volts, amps, ...(tempC ? { tempC } : {}) });
  }
  return stretches;
}
