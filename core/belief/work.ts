/** Work that pauses now and then, so that whoever does it can see to something else in between. */
export type Work<T = void> = Generator<undefined, T>;

/** Does the work without a pause. */
export function done<T>(work: Work<T>): T {
  for (;;) {
    const step = work.next();
    if (step.done) return step.value;
  }
}
