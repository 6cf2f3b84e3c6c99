/** The machine's own time; the only place in the server that asks for it. */
const clock = globalThis.Date;

export function realNow(): number {
  return clock.now();
}
