/** The machine's own stopwatch; the only place in the interface that reads it. */
const stopwatch = globalThis.performance;

export function realNow(): number {
  return stopwatch.now();
}
