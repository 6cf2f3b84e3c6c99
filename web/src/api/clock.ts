/** The shop's clock as this browser knows it: the server's last word, carried on at its pace. */
import { useSyncExternalStore } from 'react';
import { shopTimeAt, type ClockFace, type Pace } from '@cork-ember/core/clock/clock.ts';
import type { ClockAnswer } from '@cork-ember/core/contract/answers.ts';
import { ask } from './client.ts';
import { realNow } from './realTime.ts';

let face: ClockFace | undefined;
let isPaced = false;
let shown = 0;
const watchers = new Set<() => void>();

function tick(): void {
  if (!face) return;
  shown = Math.floor(shopTimeAt(face, realNow()));
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
  tick();
}

/** Shop time at this moment, ms. */
export function shopNow(): number {
  return face ? Math.floor(shopTimeAt(face, realNow())) : 0;
}

const TICK_MS = 500;

function watch(watcher: () => void): () => void {
  watchers.add(watcher);
  const timer = setInterval(tick, TICK_MS);
  return () => {
    watchers.delete(watcher);
    clearInterval(timer);
  };
}

/** Shop time for drawing, moving on twice a second. */
export function useNow(): number {
  return useSyncExternalStore(watch, () => shown);
}

export function usePace(): { pace: Pace; isPaced: boolean } {
  const pace = useSyncExternalStore(watch, () => face?.pace ?? 1);
  return { pace, isPaced };
}

/** How far the machine's clock has gone away from the shop's, ms; undefined while they agree. */
export function useMachineAhead(): number | undefined {
  return useSyncExternalStore(watch, () => machineAheadMs);
}

export async function fetchClock(): Promise<ClockAnswer> {
  const answer = await ask<ClockAnswer>('/api/clock');
  setClock(answer);
  return answer;
}

export async function changeClock(
  change: { pace: Pace } | { jump: 'next-hands' } | { follow: true },
): Promise<void> {
  setClock(await ask<ClockAnswer>('/api/clock', change));
}
