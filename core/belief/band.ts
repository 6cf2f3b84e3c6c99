/** What a charge will probably show: where eight of ten candidates lie, over its planned time. */
import type { TraceColumn } from '../charge/trace.ts';
import { intervalOf, type Interval } from './figures.ts';
import type { Candidate } from './sample.ts';

export const BAND_COLUMNS = [
  'volts',
  'amps',
  'tempC',
  'chargeShare',
] as const satisfies readonly TraceColumn[];
export type BandColumn = (typeof BAND_COLUMNS)[number];

export interface Band {
  /** Since the charge began. */
  readonly minutes: readonly number[];
  readonly columns: Readonly<Record<BandColumn, readonly Interval[]>>;
  /** When it is proven full, min: the current below C/50. Infinite where it is not within the time. */
  readonly doneMin: Interval;
}

const POINTS = 48;
const TAPERED = 1 / 50;

/**
 * @param candidates each standing for as much as any other
 * @param stage passages behind the charge
 * @param minutes its planned time
 */
export function bandOf(
  candidates: readonly Candidate[],
  stage: number,
  minutes: number,
  capacityAh: number,
): Band {
  const before = candidates.map(({ shown }) => shown.after(stage));
  const even = new Float64Array(before.length).fill(1 / Math.max(1, before.length));
  const grid = Array.from({ length: POINTS + 1 }, (_, index) => (index * minutes) / POINTS);
  const interval = (values: readonly number[]): Interval => intervalOf(values, even);
  const column = (name: BandColumn): Interval[] =>
    grid.map((minute) => interval(before.map((shown) => shown.onCharge(minute, name))));
  const done = before.map(
    (shown) =>
      grid.find((minute) => minute > 0 && shown.onCharge(minute, 'amps') < TAPERED * capacityAh) ??
      Number.POSITIVE_INFINITY,
  );
  return {
    minutes: grid,
    columns: {
      volts: column('volts'),
      amps: column('amps'),
      tempC: column('tempC'),
      chargeShare: column('chargeShare'),
    },
    doneMin: interval(done),
  };
}

/** A column of a band at any minute, straight between its points. */
export function bandAt(band: Band, name: BandColumn, minute: number): Interval {
  const { minutes, columns } = band;
  const step = (minutes[1] ?? 1) - (minutes[0] ?? 0) || 1;
  const place = Math.min(minutes.length - 1, Math.max(0, minute / step));
  const from = columns[name][Math.floor(place)];
  const to = columns[name][Math.ceil(place)];
  if (!from || !to) return { low: Number.NaN, middle: Number.NaN, high: Number.NaN };
  const part = place - Math.floor(place);
  const between = (one: number, other: number): number => one + part * (other - one);
  return {
    low: between(from.low, to.low),
    middle: between(from.middle, to.middle),
    high: between(from.high, to.high),
  };
}
