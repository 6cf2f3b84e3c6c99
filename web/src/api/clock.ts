/** The shop's clock as this browser knows it: the server's last word, carried on at its pace. */
import { useSyncExternalStore } from 'react';
import { shopTimeAt, type ClockFace, type Pace } from '@cork-ember/core/clock/clock.ts';
import type { ClockAnswer } from '@cork-ember/core/contract/answers.ts';
import { ask, ServerAway } from './client.ts';
import { Shelf } from '../store/shelf.ts';
import { realNow, sharedNow } from './realTime.ts';

let face: ClockFace | undefined;
let isPaced = false;
let shown = 0;
const watchers = new Set<() => void>();

function tick(): void {
  if (face) shown = Math.floor(shopTimeAt(face, realNow()));
  for (const watcher of watchers) watcher();
}

let saidAt = Number.NEGATIVE_INFINITY;

let machineAheadMs: number | undefined;

/** A server that was away begins to count anew. */
export function forgetClock(): void {
  saidAt = Number.NEGATIVE_INFINITY;
}

/** Takes the server's word, unless a later one was heard already. */
export function setClock(answer: ClockAnswer): void {
  if (answer.saidAt < saidAt) return;
  ({ saidAt } = answer);
  face = { realMs: realNow(), shopMs: answer.shopMs, pace: answer.pace };
  isPaced = answer.isPaced;
  machineAheadMs = answer.machineAheadMs;
  CLOCK_KEPT.write({ answer, heardAt: sharedNow() });
  tick();
}

/** Shop time at this moment, ms. */
export function shopNow(): number {
  return face ? Math.floor(shopTimeAt(face, realNow())) : 0;
}

const TICK_MS = 1000;

let timer: ReturnType<typeof setInterval> | undefined;

/** Calls each second, and when the clock is set: one timer for all that shows or hears time. */
export function watchClock(watcher: () => void): () => void {
  watchers.add(watcher);
  timer ??= setInterval(tick, TICK_MS);
  return () => {
    watchers.delete(watcher);
    if (watchers.size > 0) return;
    clearInterval(timer);
    timer = undefined;
  };
}

/** Shop time for drawing, moving on each second. */
export function useNow(): number {
  return useSyncExternalStore(watchClock, () => shown);
}

const MINUTE = 60_000;

/** Shop time for whatever says hours and minutes: it moves on with the minute. */
export function useMinute(): number {
  useSyncExternalStore(watchClock, () => Math.floor(shown / MINUTE));
  return shown;
}

export function usePace(): { pace: Pace; isPaced: boolean } {
  const pace = useSyncExternalStore(watchClock, () => face?.pace ?? 1);
  return { pace, isPaced };
}

/** How far the machine's clock has gone away from the shop's, ms; undefined while they agree. */
export function useMachineAhead(): number | undefined {
  return useSyncExternalStore(watchClock, () => machineAheadMs);
}

/** The server's last word and when it was heard, on the clock all pages share. */
interface KeptClock {
  readonly answer: ClockAnswer;
  readonly heardAt: number;
}

const isKeptClock = (value: unknown): value is KeptClock =>
  typeof value === 'object' && value !== null && 'answer' in value && 'heardAt' in value;

const CLOCK_KEPT = new Shelf<KeptClock>('cork-ember-clock', 'The shop’s clock', 1, isKeptClock);

/** Asks the server; where it is away the clock goes on from its last word, however long ago a page heard it. */
export async function fetchClock(): Promise<ClockAnswer> {
  try {
    const answer = await ask<ClockAnswer>('/api/clock');
    setClock(answer);
    return answer;
  } catch (error) {
    const kept = CLOCK_KEPT.read();
    if (!kept || !(error instanceof ServerAway)) throw error;
    if (!face) {
      const { answer, heardAt } = kept;
      setClock({ ...answer, shopMs: answer.shopMs + (sharedNow() - heardAt) * answer.pace });
      // Whatever the server says once it is back is newer.
      forgetClock();
    }
    return kept.answer;
  }
}

export async function changeClock(
  change: { pace: Pace } | { jump: 'next-hands' } | { follow: true },
): Promise<void> {
  setClock(await ask<ClockAnswer>('/api/clock', change));
}
