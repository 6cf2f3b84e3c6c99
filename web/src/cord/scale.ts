/** Where moments fall on a cord, and how knots that crowd are told apart. */
import { zoneOffsetMs } from '@cork-ember/core/clock/localTime.ts';

export interface TimeScale {
  readonly from: number;
  readonly to: number;
  readonly width: number;
}

export function xOf(scale: TimeScale, at: number): number {
  return ((at - scale.from) / (scale.to - scale.from)) * scale.width;
}

export function isInside(scale: TimeScale, at: number): boolean {
  return at >= scale.from && at <= scale.to;
}

/** The cord's gentle sway, px above and below its line, tied to time so that it does not swim. */
export function swayAt(scale: TimeScale, x: number, amplitude: number): number {
  const anchor = xOf(scale, 0) % 132;
  return Math.sin(((x - anchor) / 132) * 2 * Math.PI) * amplitude;
}

/** A path along the cord between two x. */
export function cordPath(scale: TimeScale, fromX: number, toX: number, y: number, amplitude: number): string {
  const points: string[] = [];
  const add = (x: number): number =>
    points.push(`${x.toFixed(1)} ${(y + swayAt(scale, x, amplitude)).toFixed(1)}`);
  for (let x = fromX; x < toX; x += 6) add(x);
  add(toX);
  return `M${points.join('L')}`;
}

export interface Placed<T> {
  readonly x: number;
  readonly items: readonly T[];
}

/** Merges what would lie closer than `gap` px. */
export function cluster<T>(items: readonly T[], xOfItem: (item: T) => number, gap: number): Placed<T>[] {
  const sorted = [...items].sort((a, b) => xOfItem(a) - xOfItem(b));
  const clusters: { x: number; items: T[] }[] = [];
  for (const item of sorted) {
    const x = xOfItem(item);
    const last = clusters.at(-1);
    if (last && x - last.x < gap) last.items.push(item);
    else clusters.push({ x, items: [item] });
  }
  return clusters;
}

/** Rows (0 nearest the cord) for labels of a width, so that none overlap; undefined where none is free. */
export function labelRows(xs: readonly number[], width: number, rows: number): (number | undefined)[] {
  const ends = Array.from({ length: rows }, () => Number.NEGATIVE_INFINITY);
  return xs.map((x) => {
    const row = ends.findIndex((end) => x - width / 2 >= end + 4);
    if (row < 0) return undefined;
    ends[row] = x + width / 2;
    return row;
  });
}

/** Whole hours of the shop for an axis, or its midnights: at most as many as stay legible. */
export function axisHours(scale: TimeScale, timeZone: string): number[] {
  const offsetMs = zoneOffsetMs(scale.from, timeZone);
  const hour = 3_600_000;
  const perHour = scale.width / ((scale.to - scale.from) / hour);
  const stepHours = [1, 2, 3, 6, 12, 24].find((step) => step * perHour >= 52) ?? 48;
  const step = stepHours * hour;
  const first = Math.ceil((scale.from + offsetMs) / step) * step - offsetMs;
  const ticks: number[] = [];
  for (let at = first; at <= scale.to; at += step) ticks.push(at);
  return ticks;
}
