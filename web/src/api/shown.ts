/** What the devices of each bay showed last, as the shop was heard to say: of a bay under control each second, of a probe whenever it sends. */
import { useSyncExternalStore } from 'react';
import type { StreamMessage } from '@cork-ember/core/contract/answers.ts';
import type { LiveBay } from '@cork-ember/core/devices/bay/messages.ts';
import type { Sample } from '@cork-ember/core/devices/samples.ts';
import { ask } from './client.ts';

/** Of a job. */
export interface Shown {
  readonly sample?: Sample;
  /** Where the bay has it under control. */
  readonly live?: LiveBay;
}

const shown = new Map<string, Shown>();
const watchers = new Set<() => void>();

export function tellShown(told: Extract<StreamMessage, { readonly kind: 'bay' | 'seen' }>): void {
  if (told.kind === 'seen') shown.set(told.job, { ...shown.get(told.job), sample: told.sample });
  else {
    const { live } = told;
    const sample = live.sample ?? shown.get(live.job)?.sample;
    shown.set(live.job, { live, ...(sample ? { sample } : {}) });
  }
  for (const watcher of watchers) watcher();
}

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
