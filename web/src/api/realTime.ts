/** The machine's own stopwatch; the only place in the interface that reads it. */
const stopwatch = globalThis.performance;

/** Milliseconds since this page was opened: for what lasts while it is open. */
export function realNow(): number {
  return stopwatch.now();
}

/** Milliseconds on a clock that all tabs and the page after a reload share: for what is kept or passed between them. */
export function sharedNow(): number {
  return stopwatch.timeOrigin + stopwatch.now();
}
