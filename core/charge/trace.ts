/** What a run leaves behind: columns over time, grown in place. */
import { bisectRight } from 'd3-array';

/** One number per moment. */
export const TRACE_COLUMNS = [
  'volts',
  'amps',
  'tempC',
  'hottestC',
  'chargeShare',
  'density',
  'gasL',
  'waterLostG',
  'lowestCellV',
  'highestCellV',
  /** Which cell is lowest, from the positive post, from 1; the first of several alike. */
  'lowestCell',
] as const;
export type TraceColumn = (typeof TRACE_COLUMNS)[number];

const FIRST_ROOM = 256;
const WIDTH = TRACE_COLUMNS.length;
/** Where each column stands in a row. */
const PLACE = Object.fromEntries(TRACE_COLUMNS.map((name, place) => [name, place])) as Record<
  TraceColumn,
  number
>;

export class Trace {
  private times = new Float64Array(FIRST_ROOM);
  private cells = new Float32Array(FIRST_ROOM * WIDTH);
  length = 0;

  /** Adds a row; the caller fills it through {@link set}. */
  open(seconds: number): void {
    if (this.length === this.times.length) this.grow();
    this.times[this.length] = seconds;
    this.length += 1;
  }

  /** Sets a column of the latest row. */
  set(column: number, value: number): void {
    this.cells[(this.length - 1) * WIDTH + column] = value;
  }

  seconds(row: number): number {
    return this.times[row] ?? Number.NaN;
  }

  value(row: number, column: TraceColumn): number {
    return this.cells[row * WIDTH + PLACE[column]] ?? Number.NaN;
  }

  /** A column at any moment, straight between rows. */
  at(seconds: number, column: TraceColumn): number {
    if (this.length === 0) return Number.NaN;
    const high = Math.max(0, Math.min(this.length - 1, bisectRight(this.times, seconds, 0, this.length)));
    const low = Math.max(0, high - 1);
    const from = this.seconds(low);
    const to = this.seconds(high);
    if (to === from || seconds <= from) return this.value(low, column);
    const part = Math.min(1, (seconds - from) / (to - from));
    return this.value(low, column) * (1 - part) + this.value(high, column) * part;
  }

  private grow(): void {
    const times = new Float64Array(this.times.length * 2);
    times.set(this.times);
    this.times = times;
    const cells = new Float32Array(this.cells.length * 2);
    cells.set(this.cells);
    this.cells = cells;
  }
}
