/** The bench worked out by the page itself, from what stands on it and what is on its way. */
import { bayPicture, byBay, type BayPicture } from '@cork-ember/core/runsheet/plan/benchPicture.ts';
import type { Hand } from '@cork-ember/core/runsheet/plan/hand.ts';
import { nextHands } from '@cork-ember/core/runsheet/plan/hands.ts';
import type { Outline } from '@cork-ember/core/runsheet/log/outline.ts';
import type { BenchSource } from './benchSource.ts';
import { watchOpenJobs } from './jobs.ts';
import { beginKeeping, fetchAhead } from './keeping.ts';
import { whenThere } from './news.ts';

/** Times are said in minutes. */
const MINUTE = 60_000;

/** What was drawn of a battery last: one that nothing was entered of is not worked out anew with another's entry. */
const drawn = new WeakMap<Outline, { readonly at: number; readonly bay: BayPicture }>();

function drawnAt(outline: Outline, at: number): BayPicture {
  const known = drawn.get(outline);
  if (known?.at === at) return known.bay;
  const bay = bayPicture(outline, at);
  drawn.set(outline, { at, bay });
  return bay;
}

/** Hands of a moment, which stand until the time alone changes them. */
interface Seen {
  readonly from: number;
  readonly until: number;
  readonly hands: readonly Hand[];
}

function sourceOf(outlines: readonly Outline[]): BenchSource {
  let seen: Seen | undefined;
  const states = outlines.map(({ state }) => state);
  return {
    count: outlines.length,
    handsAt: (at) => {
      if (seen && at >= seen.from && at < seen.until) return seen.hands;
      const hands = nextHands(states, at);
      const turns = hands.flatMap((hand) => [hand.at, hand.latestAt]).filter((turn) => turn > at);
      seen = { from: at, until: Math.min(Math.floor(at / MINUTE) * MINUTE + MINUTE, ...turns), hands };
      return hands;
    },
    baysAt: (at) => outlines.map((outline) => drawnAt(outline, at)).sort(byBay),
  };
}

/** A page that stays so long open fetches ahead what it may need with the server away, ms. */
const AHEAD_AFTER_MS = 4000;

/**
 * From here on the page knows by itself.
 * @param know told the bench whenever something else stands on it
 * @param fail told why nobody knows
 */
export function beginReckoning(know: (source: BenchSource) => void, fail: (why: unknown) => void): void {
  watchOpenJobs((outlines, failed) => {
    if (outlines) know(sourceOf(outlines));
    else if (failed !== null) fail(failed);
  });
  beginKeeping();
  let ahead: ReturnType<typeof setTimeout> | undefined;
  whenThere(() => (ahead ??= setTimeout(() => void fetchAhead(), AHEAD_AFTER_MS)));
}
