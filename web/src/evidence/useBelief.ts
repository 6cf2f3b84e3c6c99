/** The belief about a job's battery: answered at once, then refined while nobody waits. */
import { useQuery } from '@tanstack/react-query';
import { wrap, type Remote } from 'comlink';
import { readingsOf, settingOf } from '@cork-ember/core/belief/fromJob.ts';
import type { JobState } from '@cork-ember/core/runsheet/state.ts';
import type { Believed, Believer } from '../workers/belief.worker.ts';

let believer: Remote<Believer> | undefined;

function worker(): Remote<Believer> {
  believer ??= wrap<Believer>(
    new Worker(new URL('../workers/belief.worker.ts', import.meta.url), { type: 'module' }),
  );
  return believer;
}

/** The same battery always begins with the same candidates. */
function seedOf(tag: string): number {
  return [...tag].reduce((sum, letter) => (sum * 31 + letter.charCodeAt(0)) % 1_000_003, 7);
}

export function useBelief(state: JobState): { believed: Believed | undefined; error: unknown } {
  const setting = settingOf(state);
  const readings = readingsOf(state);
  const key = ['belief', state.job, setting, readings];
  const first = useQuery({
    queryKey: key,
    queryFn: () => worker().believe(setting, readings, seedOf(state.opened.battery.tag)),
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: (before: Believed | undefined) => before,
    retry: false,
  });
  const { data: refined } = useQuery({
    queryKey: [...key, 'refined'],
    queryFn: async () => (await worker().refined()) ?? null,
    enabled: first.data !== undefined && !first.isPlaceholderData,
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
  const believed = first.data && refined ? { ...first.data, summary: refined } : first.data;
  return { believed, error: first.error };
}
