/** The belief about a job's battery: answered at once, then refined while nobody waits. */
import { useQuery } from '@tanstack/react-query';
import { wrap, type Remote } from 'comlink';
import type { Summary } from '@cork-ember/core/belief/figures.ts';
import type { Reading } from '@cork-ember/core/belief/readings.ts';
import type { Setting } from '@cork-ember/core/belief/traits.ts';
import { courseOf, settingOf } from '@cork-ember/core/belief/fromJob.ts';
import type { JobState } from '@cork-ember/core/runsheet/state.ts';
import type { Believed, Believer } from '../workers/belief.worker.ts';

let running: Remote<Believer> | undefined;

export function believer(): Remote<Believer> {
  running ??= wrap<Believer>(
    new Worker(new URL('../workers/belief.worker.ts', import.meta.url), { type: 'module' }),
  );
  return running;
}

/** The same battery always begins with the same candidates. */
function seedOf(tag: string): number {
  return [...tag].reduce((sum, letter) => (sum * 31 + letter.charCodeAt(0)) % 1_000_003, 7);
}

/** Moved about until it rests, a move at a time, so that a reading never waits for more than one. */
async function atRest(setting: Setting, readings: readonly Reading[]): Promise<Summary | null> {
  let refined = await believer().refined(setting, readings);
  for (let moves = 1; refined && moves < refined.wanted; moves++)
    refined = await believer().refined(setting, readings);
  return refined?.summary ?? null;
}

export interface Believing {
  readonly believed: Believed | undefined;
  /** Moved about since the last reading: what is run forward on it may rest on it. */
  readonly isRefined: boolean;
  readonly error: unknown;
}

export function useBelief(state: JobState): Believing {
  const course = courseOf(state);
  const setting = settingOf(state, course);
  const { readings } = course;
  const key = ['belief', state.job, setting, readings];
  const first = useQuery({
    queryKey: key,
    queryFn: () => believer().believe(setting, readings, seedOf(state.opened.battery.tag)),
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: (before: Believed | undefined) => before,
    retry: false,
  });
  const { data: refined } = useQuery({
    queryKey: [...key, 'refined'],
    queryFn: () => atRest(setting, readings),
    enabled: first.data !== undefined && !first.isPlaceholderData,
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
  const believed = first.data && refined ? { ...first.data, summary: refined } : first.data;
  return { believed, isRefined: refined !== undefined, error: first.error };
}
