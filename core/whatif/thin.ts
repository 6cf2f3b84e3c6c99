/** Fewer points for a chart, with every peak and dip still there. */
import type { Trace, TraceColumn } from '../charge/trace.ts';

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
