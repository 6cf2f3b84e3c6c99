/** Long lists gone through without holding up whoever asks something small meanwhile. */
import { setImmediate } from 'node:timers/promises';

/** Between two pauses; of entries, findings and the like a few milliseconds. */
const AT_ONCE = 500;

/** A list in pieces, others let in before each but the first. */
export async function* inPieces<T>(list: readonly T[]): AsyncIterable<readonly T[]> {
  for (let from = 0; from < list.length; from += AT_ONCE) {
    if (from > 0) await setImmediate();
    yield list.slice(from, from + AT_ONCE);
  }
}
