/** Fewer points for a chart, with every peak and dip still there. */
import type { Trace, TraceColumn } from './trace.ts';

/**
 * Rows of a trace that keep its shape: of each stretch of time its first row and, for each column, the rows
 * where it is highest and lowest.
 * @param stretches how many stretches the time is cut into
 */
export function keptRows(trace: Trace, columns: readonly TraceColumn[], stretches: number): number[] {
  const last = trace.length - 1;
  if (last < 1) return last === 0 ? [0] : [];
  const start = trace.seconds(0);
  const width = (trace.seconds(last) - start) / stretches;
  const kept = new Set<number>([0, last]);
  let row = 0;
  while (row <= last) {
    const stretch = Math.floor((trace.seconds(row) - start) / width);
    const first = row;
    while (row <= last && Math.floor((trace.seconds(row) - start) / width) === stretch) row += 1;
    kept.add(first);
    for (const column of columns) {
      let low = first;
      let high = first;
      for (let each = first; each < row; each++) {
        if (trace.value(each, column) < trace.value(low, column)) low = each;
        if (trace.value(each, column) > trace.value(high, column)) high = each;
      }
      kept.add(low);
      kept.add(high);
    }
  }
  return [...kept].sort((a, b) => a - b);
}

/**
 * Points of a line that matter to the eye: any left out lies closer to the drawn line than the tolerance.
 * @param xs rising
 * @param tolerance in units of y
 * @returns indices kept, first and last among them
 * @see Douglas & Peucker 1973, Algorithms for the reduction of the number of points; distance taken along y
 */
export function simplified(xs: readonly number[], ys: readonly number[], tolerance: number): number[] {
  const last = xs.length - 1;
  if (last < 1) return last === 0 ? [0] : [];
  const kept = new Set<number>([0, last]);
  const spans: [number, number][] = [[0, last]];
  for (let span = spans.pop(); span; span = spans.pop()) {
    const [from, to] = span;
    const [x0 = 0, y0 = 0, x1 = 0, y1 = 0] = [xs[from], ys[from], xs[to], ys[to]];
    let worst = tolerance;
    let at = -1;
    for (let i = from + 1; i < to; i++) {
      const line = x1 === x0 ? y0 : y0 + ((y1 - y0) * ((xs[i] ?? 0) - x0)) / (x1 - x0);
      const off = Math.abs((ys[i] ?? 0) - line);
      if (off > worst) {
        worst = off;
        at = i;
      }
    }
    if (at < 0) continue;
    kept.add(at);
    spans.push([from, at], [at, to]);
  }
  return [...kept].sort((a, b) => a - b);
}
