/** Machines that batteries work in, as the page knows them. */
import { useQuery } from '@tanstack/react-query';
import type { Machine } from '@cork-ember/core/battery/machines.ts';
import type { MachineAnswer } from '@cork-ember/core/contract/answers.ts';
import { ask } from './client.ts';
import { askKnown } from './known.ts';
import { onNews } from './news.ts';
import { MACHINES, queryClient } from './queries.ts';

/** What the bench read a moment ago belongs in the picture of a set. */
const FRESH_MS = 5000;

onNews(({ kind }) => {
  if (kind === 'shelf') void queryClient.invalidateQueries({ queryKey: MACHINES });
});

export function useMachines() {
  return useQuery({ queryKey: MACHINES, queryFn: () => askKnown<readonly Machine[]>('/api/machines') });
}

/** @param tag none asks for nothing */
export function useMachine(tag: string) {
  return useQuery({
    queryKey: [...MACHINES, tag],
    queryFn: () => askKnown<MachineAnswer>(`/api/machines/${encodeURIComponent(tag)}`),
    enabled: tag !== '',
    retry: false,
    staleTime: FRESH_MS,
  });
}

/**
 * Puts a machine down, or changes what is known of it.
 * @param tag of the one that is changed; none for a new one
 * @throws Refusal with the sentence to show
 */
export async function keepMachine(machine: Omit<Machine, 'tag'>, by: string, tag?: string): Promise<Machine> {
  const path = tag === undefined ? '/api/machines' : `/api/machines/${encodeURIComponent(tag)}`;
  const kept = await ask<Machine>(path, { by, ...machine });
  void queryClient.invalidateQueries({ queryKey: MACHINES });
  return kept;
}
