/** When each bay of the bench is free, batteries that wait on the shelf for one counted in. */
import { forecast } from '../runsheet/plan/forecast.ts';
import { SHELF } from '../runsheet/entries/place.ts';
import type { JobState } from '../runsheet/state/jobState.ts';

export interface BayTime {
  readonly number: number;
  /** Shop time, ms; now where nothing stands in it. */
  readonly freeAt: number;
}

/** Whether a battery on the shelf waits for its first bay: nothing was done to it yet. */
export const isWaiting = ({ bay, cursor, outcome }: JobState): boolean =>
  bay === SHELF && cursor === 0 && outcome === undefined;

/** How long a job holds its bay from the moment it gets one, ms. */
const holdsFor = (state: JobState, now: number): number =>
  Math.max(0, forecast(state, now).readyAt - Math.max(now, state.steps[0]?.openedAt ?? now));

/**
 * @param states of the open jobs; those that rest on the shelf need no bay, those that wait there get the first free one
 * @param now shop time, ms
 */
export function bayTimes(
  bays: readonly Pick<BayTime, 'number'>[],
  states: readonly JobState[],
  now: number,
): BayTime[] {
  const times = bays.map(({ number }) => {
    const inIt = states.find(({ bay }) => bay === number);
    return { number, freeAt: inIt ? Math.max(now, forecast(inIt, now).readyAt) : now };
  });
  const plannedAt = ({ steps }: JobState): number => steps[0]?.openedAt ?? now;
  for (const state of states.filter(isWaiting).sort((a, b) => plannedAt(a) - plannedAt(b))) {
    const first = firstFree(times);
    if (!first) break;
    first.freeAt = Math.max(first.freeAt, plannedAt(state)) + holdsFor(state, now);
  }
  return times;
}

/** The bay that is free first; undefined where there is none. */
export function firstFree<T extends BayTime>(times: readonly T[]): T | undefined {
  return times.reduce<T | undefined>(
    (first, one) => (first === undefined || one.freeAt < first.freeAt ? one : first),
    undefined,
  );
}
