/**
 * What stands on the bench, for its page, the band and the alarms. A page that has just been opened is told by the server, which
 * has worked it out; then the means to do so are fetched, and from there on it goes on with the server away.
 */
import { QueryObserver } from '@tanstack/react-query';
import { useSyncExternalStore } from 'react';
import type { BenchPicture } from '@cork-ember/core/runsheet/plan/benchPicture.ts';
import { agedHands, type Hand } from '@cork-ember/core/runsheet/plan/hand.ts';
import { parcelsNow } from '../store/outbox.ts';
import { partOf } from '../ui/later.tsx';
import type { BenchSource } from './benchSource.ts';
import { ask } from './client.ts';
import { idle, painted } from './gently.ts';
import { onNews } from './news.ts';
import { queryClient } from './queries.ts';

interface Known {
  /** Nothing while nobody knows. */
  readonly source?: BenchSource;
  /** Why nobody does. */
  readonly failed?: unknown;
}

let known: Known = {};
const watchers = new Set<() => void>();

export const benchSource = (): BenchSource | undefined => known.source;

function set(next: Known): void {
  known = next;
  for (const watcher of watchers) watcher();
}

/** Calls whenever something else stands on the bench, or it is known at last. */
export function watchBench(watcher: () => void): () => void {
  watchers.add(watcher);
  return () => watchers.delete(watcher);
}

function toldSource({ bays, hands }: BenchPicture): BenchSource {
  let aged: readonly Hand[] = hands;
  return { count: bays.length, handsAt: (at) => (aged = agedHands(aged, at)), baysAt: () => bays };
}

/** While the page cannot work it out, the server is asked so often, ms. */
const TOLD_EVERY_MS = 30_000;
/** The means that could not be fetched are asked for again after, ms. */
const AGAIN_MS = 5000;

const reckoning = partOf(() => import('./reckoned.ts'));
let endTold: (() => void) | undefined;

/** The page knows itself from here on. */
function takeOver(source: BenchSource): void {
  endTold?.();
  endTold = undefined;
  set({ source });
}

/** What the page would work it out from could not be had: what the server said stands. */
function failToReckon(failed: unknown): void {
  if (!known.source) set({ failed });
}

async function fetchReckoning(): Promise<void> {
  await painted();
  await idle();
  try {
    (await reckoning.fetch()).beginReckoning(takeOver, failToReckon);
  } catch (error) {
    failToReckon(error);
    reckoning.forgetFailed();
    setTimeout(() => void fetchReckoning(), AGAIN_MS);
  }
}

export function beginBench(): void {
  const observer = new QueryObserver(queryClient, {
    queryKey: ['bench'],
    queryFn: () => ask<BenchPicture>('/api/bench'),
    retry: false,
    refetchInterval: TOLD_EVERY_MS,
  });
  let isBegun = false;
  const ends = [
    observer.subscribe(({ data, isFetching }) => {
      // What is on its way from here the server does not know.
      if (data && parcelsNow().length === 0) set({ source: toldSource(data) });
      if (isFetching || isBegun) return;
      isBegun = true;
      void fetchReckoning();
    }),
    onNews(() => void observer.refetch()),
  ];
  endTold = () => {
    for (const end of ends) end();
  };
}

/** What a view of the bench draws, or waits for. */
export function useBench(): Known {
  return useSyncExternalStore(watchBench, () => known);
}

/** Asks anew for what was not to be had. */
export function askBenchAnew(): void {
  void queryClient.invalidateQueries({
    predicate: ({ queryKey }) => queryKey[0] === 'bench' || queryKey[0] === 'jobs',
  });
}
