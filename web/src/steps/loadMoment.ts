/** What to do in each second of a load test. */

/** The last seconds, in which the lowest voltage is read. */
const READ_S = 3;
/** How long after the load came off it is read once more, s. */
export const BACK_S = 60;

export interface Moment {
  readonly words: string;
  readonly isNow: boolean;
}

/** @param at seconds since the load went on */
export function momentAt(at: number, seconds: number, isWatched: boolean): Moment {
  if (isWatched && at < 2) return { words: 'Load on. What does it show at once?', isNow: true };
  if (at < seconds - READ_S) return { words: 'Watch the lowest.', isNow: false };
  if (at < seconds) return { words: 'Read the lowest now.', isNow: true };
  if (!isWatched) return { words: 'Load off. Enter the lowest it showed.', isNow: true };
  return at < seconds + BACK_S
    ? { words: 'Load off. Enter what it showed; one more reading to come.', isNow: false }
    : { words: 'What has it sprung back to?', isNow: true };
}
