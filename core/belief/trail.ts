/** How the odds moved as one reading after the other was taken in: what is said of each reading adds up to what is shown. */
import type { Reading } from '../observation/readings.ts';
import type { Causes } from './summary.ts';

export interface Step {
  readonly reading: Reading;
  /** As they were believed once it was taken in. */
  readonly causes: Causes;
}

export interface Trail {
  /** By kind, age and history alone. */
  readonly before: Causes;
  readonly steps: readonly Step[];
}

export interface Moved {
  readonly before: Causes;
  readonly after: Causes;
}

/**
 * What each group of readings moved, the groups in their order: where one ends the next begins, and the last ends at what is shown.
 * @param now what is shown
 * @returns undefined for a group that is not taken in yet
 */
export function movedBy(
  groups: readonly (readonly Reading[])[],
  { before, steps }: Trail,
  now: Causes,
): readonly (Moved | undefined)[] {
  const places = new Map(steps.map(({ reading }, place) => [JSON.stringify(reading), place]));
  const ends = groups.map((group) => {
    const own = group.map((reading) => places.get(JSON.stringify(reading)));
    return own.some((place) => place === undefined) ? undefined : Math.max(...own.map((place) => place ?? 0));
  });
  const lastKnown = ends.findLastIndex((end) => end !== undefined);
  let from = before;
  let reached = -1;
  return ends.map((end, index) => {
    if (end === undefined) return undefined;
    reached = Math.max(reached, end);
    const after = index === lastKnown ? now : (steps[reached]?.causes ?? from);
    const moved = { before: from, after };
    from = after;
    return moved;
  });
}
