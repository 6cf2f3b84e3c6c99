/** What a capacity test that is still running will come to, by the belief that has taken its looks in. */
import { useQuery } from '@tanstack/react-query';
import type { Interval } from '@cork-ember/core/belief/figures.ts';
import type { JobState } from '@cork-ember/core/runsheet/state/jobState.ts';
import { believer, useBelief } from './useBelief.ts';

/**
 * @param amps drawn; undefined asks nothing
 * @returns minutes until 1.75 V a cell; undefined while it is weighed
 */
export function useReserve(state: JobState, amps: number | undefined): Interval | undefined {
  const { question, believed } = useBelief(state);
  const { data } = useQuery({
    queryKey: ['reserve', state.job, amps, question],
    queryFn: () => (amps === undefined ? null : believer.ask((worker) => worker.reserve(question, amps))),
    enabled: believed?.isAtRest === true && amps !== undefined,
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: (before: Interval | null | undefined, query) =>
      query?.queryKey[1] === state.job && query.queryKey[2] === amps ? before : undefined,
    retry: false,
  });
  return data ?? undefined;
}
