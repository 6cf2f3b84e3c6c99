/** Long lists gone through without holding up whoever asks something small meanwhile. */
import { setImmediate } from 'node:timers/promises';
import { elapsedNow } from './clock/realTime.ts';

/** Between two pauses; of entries, findings and the like a few milliseconds. */
const AT_ONCE = 500;

/** A list in pieces, others let in before each but the first. */
export async function* inPieces<T>(list: readonly T[]): AsyncIterable<readonly T[]> {
  for (let from = 0; from < list.length; from += AT_ONCE) {
    if (from > 0) await setImmediate();
    yield list.slice(from, from + AT_ONCE);
  }
}

/** As long as anybody is kept waiting for work that can be paused, ms. */
const BREATH_MS = 8;

/** Lets others in between, where work has gone on long enough since it last did. */
export function breather(): () => Promise<void> {
  let since = elapsedNow();
  return async () => {
    if (elapsedNow() - since < BREATH_MS) return;
    await setImmediate();
    since = elapsedNow();
  };
}

/**
 * Work that many ask for at once is done for all of them together. Whoever asks while it goes on is answered with the next,
 * which has seen all that was there when they asked.
 */
export function together<T>(work: () => Promise<T>): () => Promise<T> {
  let underWay: Promise<T> | undefined;
  let next: Promise<T> | undefined;
  const begin = (): Promise<T> => {
    next = undefined;
    const begun = work().finally(() => {
      if (underWay === begun) underWay = undefined;
    });
    underWay = begun;
    return begun;
  };
  return () => next ?? (underWay ? (next = underWay.then(begin, begin)) : begin());
}
