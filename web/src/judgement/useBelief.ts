/** The belief about a job's battery: answered at once, then refined while nobody waits. */
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useMemo } from 'react';
import type { Believed, Question } from '@cork-ember/core/belief/believer.ts';
import { courseOf, type Course } from '@cork-ember/core/adapters/fromJob.ts';
import { questionOf } from '@cork-ember/core/adapters/questionOf.ts';
import type { JobState } from '@cork-ember/core/runsheet/state/jobState.ts';
import type { Believing } from '../workers/belief.worker.ts';
import { useLearned } from '../api/queries.ts';
import { Hired } from '../workers/hired.ts';

export const believer = new Hired<Believing>(
  () => new Worker(new URL('../workers/belief.worker.ts', import.meta.url), { type: 'module' }),
);

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
  const learned = useLearned();
  const inForce = learned.data?.inForce;
  const question = useMemo(() => questionOf(state, course, inForce), [state, course, inForce]);
  const key = ['belief', state.job, question];
  const { data, isPlaceholderData, error, refetch } = useQuery({
    queryKey: key,
    queryFn: () => believer.ask((worker) => worker.answer(question)),
    // What the shop has learned comes first; where it cannot be asked, the handbook's odds hold.
    enabled: !learned.isPending,
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
