/** The machine's own time; the only place in the server that asks for it. */
const clock = globalThis.Date;
const stopwatch = globalThis.performance;

export function realNow(): number {
  return clock.now();
}

/** Milliseconds that have passed since a moment before this program began: what nobody can set. */
export function elapsedNow(): number {
  return stopwatch.timeOrigin + stopwatch.now();
}
