/** What the devices of each bay showed last, as the shop was heard to say: of a bay under control each second, of a probe whenever it sends. */
import { useSyncExternalStore } from 'react';
import type { StreamMessage } from '@cork-ember/core/contract/answers.ts';
import type { LiveBay } from '@cork-ember/core/devices/bay/messages.ts';
import type { Sample } from '@cork-ember/core/devices/samples.ts';
import { ask } from './client.ts';

/** Of a job. */
export interface Shown {
  /** What a probe of its bay sent. */
  readonly seen?: Sample;
  /** Where the bay has it under control. */
  readonly live?: LiveBay;
}

const shown = new Map<string, Shown>();
const watchers = new Set<() => void>();

export function tellShown(told: Extract<StreamMessage, { readonly kind: 'bay' | 'seen' }>): void {
  if (told.kind === 'seen') shown.set(told.job, { ...shown.get(told.job), seen: told.sample });
  else shown.set(told.live.job, { ...shown.get(told.live.job), live: told.live });
  for (const watcher of watchers) watcher();
}

/** What stands at the clips now: of a bay that went off nothing does. */
export const sampleOf = ({ live, seen }: Shown): Sample | undefined =>
  live?.phase === 'running' && live.sample ? live.sample : seen;

/** How bays stand that were under control before this page listened; what was heard meanwhile is newer. */
export async function fetchBays(): Promise<void> {
  // One that does not answer now is heard of with its next word.
  const bays = await ask<readonly LiveBay[]>('/api/bays').catch(() => []);
  for (const live of bays) if (!shown.has(live.job)) tellShown({ kind: 'bay', live });
}

/** Whatever was heard before a server that was away is no picture of now. */
export function forgetShown(): void {
  shown.clear();
  for (const watcher of watchers) watcher();
}

/** Calls whenever anything is heard. */
export function watchShown(watcher: () => void): () => void {
  watchers.add(watcher);
  return () => watchers.delete(watcher);
}

let called: readonly LiveBay[] = [];

/** Bays that went off by themselves, until somebody has seen it: the same list while they are the same. */
export function callingBays(): readonly LiveBay[] {
  const now = [...shown.values()].flatMap(({ live }) => (live?.calls === undefined ? [] : [live]));
  if (now.length !== called.length || now.some((live, index) => live !== called[index])) called = now;
  return called;
}

/** Of a job; undefined where nothing was heard of it yet. */
export const useShown = (job: string): Shown | undefined =>
  useSyncExternalStore(watchShown, () => shown.get(job));

/** Bays through which current flows under control, in words: "1, 2"; empty where it flows through none. */
export const useRunningBays = (): string =>
  useSyncExternalStore(watchShown, () => {
    const bays = [...shown.values()].flatMap(({ live }) => (live?.phase === 'running' ? [live.bay] : []));
    return bays.sort((a, b) => a - b).join(', ');
  });
