/** The belief about a job's battery: answered at once, then refined while nobody waits. */
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useMemo } from 'react';
import type { Believed, Question } from '@cork-ember/core/belief/believer.ts';
import { courseOf, settingOf, type Course } from '@cork-ember/core/adapters/fromJob.ts';
import type { JobState } from '@cork-ember/core/runsheet/state/jobState.ts';
import type { Believing } from '../workers/belief.worker.ts';
import { Hired } from '../workers/hired.ts';

export const believer = new Hired<Believing>(
  () => new Worker(new URL('../workers/belief.worker.ts', import.meta.url), { type: 'module' }),
);

/** The same battery always begins with the same candidates. */
function seedOf(tag: string): number {
  return [...tag].reduce((sum, letter) => (sum * 31 + letter.charCodeAt(0)) % 1_000_003, 7);
}

/** What a job asks a belief. */
const questionOf = (state: JobState, course: Course): Question => ({
  setting: settingOf(state, course),
  readings: course.readings,
  seed: seedOf(state.opened.battery.tag),
});

export interface BeliefOf {
  readonly question: Question;
  readonly course: Course;
  /** What is believed so far; of the readings before while new ones are weighed. */
  readonly believed: Believed | undefined;
  readonly error: unknown;
  /** Asks once more what could not be answered. */
  readonly again: () => void;
}

export function useBelief(state: JobState): BeliefOf {
  const queries = useQueryClient();
  const course = useMemo(() => courseOf(state), [state]);
  const question = useMemo(() => questionOf(state, course), [state, course]);
  const key = ['belief', state.job, question];
  const { data, isPlaceholderData, error, refetch } = useQuery({
    queryKey: key,
    queryFn: () => believer.ask((worker) => worker.answer(question)),
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: (before: Believed | undefined, query) =>
      query?.queryKey[1] === state.job ? before : undefined,
    retry: false,
  });
  // A piece at a time, so that a reading never waits for more than one; each shows what is believed by then.
  const rest = useQuery({
    queryKey: [...key, 'at rest'],
    queryFn: async ({ signal }) => {
      for (let isAtRest = false; !isAtRest && !signal.aborted;) {
        const further = await believer.ask((worker) => worker.goOn(question));
        queries.setQueryData(key, further);
        ({ isAtRest } = further);
      }
      return true;
    },
    enabled: !isPlaceholderData && data?.isAtRest === false,
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
  const believed = data && { ...data, isAtRest: data.isAtRest && !isPlaceholderData };
  return {
    question,
    course,
    believed,
    error: error ?? rest.error,
    again: () => void (error ? refetch() : rest.refetch()),
  };
}
