/** What a capacity test that is still running will come to, by the belief that has taken its looks in. */
import { useQuery } from '@tanstack/react-query';
import type { Interval } from '@cork-ember/core/belief/figures.ts';
import { courseOf, settingOf } from '@cork-ember/core/belief/fromJob.ts';
import type { JobState } from '@cork-ember/core/runsheet/state.ts';
import { believer, useBelief } from './useBelief.ts';

/**
 * @param amps drawn; undefined asks nothing
 * @returns minutes until 1.75 V a cell; undefined while it is weighed
 */
export function useReserve(state: JobState, amps: number | undefined): Interval | undefined {
  const { believed } = useBelief(state);
  const course = courseOf(state);
  const { data } = useQuery({
    queryKey: ['reserve', state.job, settingOf(state, course), course.readings, amps],
    queryFn: async () => (amps === undefined ? null : ((await believer().reserve(amps)) ?? null)),
    enabled: believed !== undefined && amps !== undefined,
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: (before: Interval | null | undefined) => before,
    retry: false,
  });
  return data ?? undefined;
}
