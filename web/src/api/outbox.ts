/**
 * Entries on their way to the server. Each is kept in the browser until the server has it, survives a
 * reload, and is sent with the same key however often it is tried, so it is recorded once.
 */
import { useSyncExternalStore } from 'react';
import type { Entry, JobEvent } from '@cork-ember/core/runsheet/entries/events.ts';
import { ask, ServerAway, sentenceOf } from './client.ts';

export interface Parcel {
  readonly requestKey: string;
  readonly job: string;
  readonly by: string;
  readonly entry: Entry;
  readonly expectedSeq: number;
  readonly enteredAt: number;
  /** The server was away when it was to be sent. */
  readonly isKept?: boolean;
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

export function watchParcels(watcher: () => void): () => void {
  watchers.add(watcher);
  return () => watchers.delete(watcher);
}

export const parcelsNow = (): readonly Parcel[] => parcels;

/** Entries on their way, of every job. */
export function useParcels(): readonly Parcel[] {
  return useSyncExternalStore(watchParcels, parcelsNow);
}

export function drop(requestKey: string): void {
  keep(parcels.filter((parcel) => parcel.requestKey !== requestKey));
}

async function post(parcel: Parcel, isLate: boolean): Promise<JobEvent> {
  const { requestKey, expectedSeq, by, entry, enteredAt } = parcel;
  return ask<JobEvent>(`/api/jobs/${parcel.job}/events`, {
    requestKey,
    expectedSeq,
    by,
    entry,
    ...(isLate ? { enteredAt } : {}),
  });
}

export type Sent = { readonly kind: 'recorded'; readonly event: JobEvent } | { readonly kind: 'kept' };

interface Waiter {
  readonly resolve: (sent: Sent) => void;
  readonly reject: (error: unknown) => void;
}

/** Forms that wait to hear of their entry. */
const waiters = new Map<string, Waiter>();

/**
 * Sends one entry after those before it; when the server is away it is kept and sent later.
 * @throws Refusal when the server would not take it; nothing is kept then, the form still holds what was typed
 */
export function send(parcel: Parcel): Promise<Sent> {
  return new Promise((resolve, reject) => {
    waiters.set(parcel.requestKey, { resolve, reject });
    keep([...parcels, parcel]);
    void flush();
  });
}

let timer: ReturnType<typeof setTimeout> | undefined;

function retryLater(): void {
  for (const waiter of waiters.values()) waiter.resolve({ kind: 'kept' });
  waiters.clear();
  if (parcels.some(({ isKept = false }) => !isKept))
    keep(parcels.map((parcel) => ({ ...parcel, isKept: true })));
  timer ??= setTimeout(() => {
    timer = undefined;
    void flush();
  }, RETRY_MS);
}

/** What the server would not take goes back to its form, or, if that has gone, stays with the reason. */
function refuse(parcel: Parcel, error: unknown): void {
  const waiter = waiters.get(parcel.requestKey);
  if (waiter) {
    drop(parcel.requestKey);
    waiter.reject(error);
  } else keep(parcels.map((one) => (one === parcel ? { ...one, refused: sentenceOf(error) } : one)));
}

let tellRecorded: (event: JobEvent) => void = () => undefined;

/** Who takes what the server has recorded into what the page knows. */
export function whenRecorded(take: (event: JobEvent) => void): void {
  tellRecorded = take;
}

let isFlushing = false;

/** Sends what waits, one after the other, until nothing is left or the server is away. */
export async function flush(): Promise<void> {
  if (isFlushing) return;
  isFlushing = true;
  for (;;) {
    const parcel = parcels.find((one) => one.refused === undefined);
    if (!parcel) break;
    const { requestKey } = parcel;
    try {
      const event = await post(parcel, !waiters.has(requestKey));
      // First known as recorded, then no longer on its way: the page never steps back in between.
      tellRecorded(event);
      drop(requestKey);
      waiters.get(requestKey)?.resolve({ kind: 'recorded', event });
    } catch (error) {
      if (error instanceof ServerAway) {
        retryLater();
        break;
      }
      refuse(parcel, error);
    }
    waiters.delete(requestKey);
  }
  isFlushing = false;
}
