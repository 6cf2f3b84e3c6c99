/** One pair of hands: which visit comes when, what waits for another bay, and what cannot wait that long. */
import type { Hand } from './hand.ts';

export interface Turn extends Hand {
  /** When hands get to it. */
  readonly startAt: number;
  /** The visit that keeps them until then, where they are wanted sooner. */
  readonly behind?: Hand;
  /** Hands would come after it is overdue: to be put right before it happens. */
  readonly isClash: boolean;
}

const MINUTE = 60_000;

/**
 * Lays the visits of a bench one after the other.
 * @param hands in order of urgency, as `nextHands` gives them
 * @param now shop time, ms
 * @param pairs pairs of hands at the bench
 * @returns in order of their start; no more than `pairs` of them run at once
 */
export function inTurn(hands: readonly Hand[], now: number, pairs = 1): Turn[] {
  const free = Array.from({ length: Math.max(1, pairs) }, () => ({
    at: now,
    with: undefined as Hand | undefined,
  }));
  return hands
    .map((hand): Turn => {
      const next = free.reduce((best, one) => (one.at < best.at ? one : best));
      const wantedAt = Math.max(now, hand.at);
      const startAt = Math.max(wantedAt, next.at);
      const behind = startAt > wantedAt ? next.with : undefined;
      next.at = startAt + hand.minutes * MINUTE;
      next.with = hand;
      return {
        ...hand,
        startAt,
        ...(behind ? { behind } : {}),
        isClash: hand.latestAt > now && startAt > hand.latestAt,
      };
    })
    .sort((a, b) => a.startAt - b.startAt);
}
