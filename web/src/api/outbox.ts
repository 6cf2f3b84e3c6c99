/**
 * Entries on their way to the server. Each is kept in the browser until the server has it, survives a
 * reload, and is sent with the same key however often it is tried, so it is recorded once.
 */
import { useSyncExternalStore } from 'react';
import type { Entry, JobEvent } from '@cork-ember/core/runsheet/events.ts';
import { ask, ServerAway, sentenceOf } from './client.ts';

export interface Parcel {
  readonly requestKey: string;
  readonly job: string;
  readonly by: string;
  readonly entry: Entry;
  readonly expectedSeq: number;
  readonly enteredAt: number;
  /** The server's sentence when it would not take it; it stays until the person lets go of it. */
  readonly refused?: string;
}

const SHELF = 'cork-ember-outbox';
const RETRY_MS = 2000;

let parcels: readonly Parcel[] = load();
const watchers = new Set<() => void>();

function load(): Parcel[] {
  try {
    return JSON.parse(localStorage.getItem(SHELF) ?? '[]') as Parcel[];
  } catch {
    return [];
  }
}

function keep(next: readonly Parcel[]): void {
  parcels = next;
  localStorage.setItem(SHELF, JSON.stringify(next));
  for (const watcher of watchers) watcher();
}

function watch(watcher: () => void): () => void {
  watchers.add(watcher);
  return () => watchers.delete(watcher);
}

export function useParcels(job: string): readonly Parcel[] {
  const all = useSyncExternalStore(watch, () => parcels);
  return all.filter((parcel) => parcel.job === job);
}

export function parcelsOf(job: string): readonly Parcel[] {
  return parcels.filter((parcel) => parcel.job === job);
}

export function drop(requestKey: string): void {
  keep(parcels.filter((parcel) => parcel.requestKey !== requestKey));
}

async function post(parcel: Parcel, isLate: boolean): Promise<JobEvent> {
  const { requestKey, expectedSeq, by, entry, enteredAt } = parcel;
  const event = await ask<JobEvent>(`/api/jobs/${parcel.job}/events`, {
    requestKey,
    expectedSeq,
    by,
    entry,
    ...(isLate ? { enteredAt } : {}),
  });
  drop(requestKey);
  return event;
}

export type Sent = { readonly kind: 'recorded'; readonly event: JobEvent } | { readonly kind: 'kept' };

/**
 * Sends one entry now; when the server is away it is kept and sent later.
 * @throws Refusal when the server would not take it; nothing is kept then, the form still holds what was typed
 */
export async function send(parcel: Parcel): Promise<Sent> {
  const isWaiting = parcelsOf(parcel.job).some((other) => other.refused === undefined);
  keep([...parcels, parcel]);
  if (isWaiting) return { kind: 'kept' };
  try {
    const event = await post(parcel, false);
    void flush();
    return { kind: 'recorded', event };
  } catch (error) {
    if (error instanceof ServerAway) {
      retryLater();
      return { kind: 'kept' };
    }
    drop(parcel.requestKey);
    throw error;
  }
}

let timer: ReturnType<typeof setTimeout> | undefined;

function retryLater(): void {
  timer ??= setTimeout(() => {
    timer = undefined;
    void flush();
  }, RETRY_MS);
}

/** Sends what waited, in order; one that is refused is kept with the reason. */
export async function flush(): Promise<void> {
  for (const parcel of parcels.filter((one) => one.refused === undefined)) {
    try {
      await post(parcel, true);
    } catch (error) {
      if (error instanceof ServerAway) {
        retryLater();
        return;
      }
      keep(
        parcels.map((one) =>
          one.requestKey === parcel.requestKey ? { ...one, refused: sentenceOf(error) } : one,
        ),
      );
    }
  }
}
