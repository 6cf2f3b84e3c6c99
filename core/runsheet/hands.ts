/** What hands are needed, on which battery, by when: one list for the whole bench, in order of time. */
import { atHand, type AtHand } from './atHand.ts';
import { forecast, type Knot } from './forecast.ts';
import type { JobState } from './state.ts';

export type Urgency = 'danger' | 'overdue' | 'due' | 'blocked' | 'later';

export interface Hand {
  readonly job: string;
  readonly tag: string;
  readonly bay: number;
  readonly stepKey: string;
  readonly title: string;
  /** Why now, or what blocks it; one line. */
  readonly note: string;
  readonly at: number;
  readonly urgency: Urgency;
}

const MINUTE = 60_000;
/** Knots closer than this are one visit to the bay. */
const VISIT_MIN = 10;
/** How many visits of each job stand on the list. */
const VISITS_SHOWN = 3;

function urgencyOf(hand: AtHand, now: number): Urgency {
  if (hand.phase === 'tooHot') return 'danger';
  if (hand.hold && hand.phase === undefined) return 'blocked';
  if (now >= hand.overdueAt) return 'overdue';
  return now >= hand.dueAt ? 'due' : 'later';
}

/** First knot of each visit still to come. */
function visits(knots: readonly Knot[]): Knot[] {
  const firsts: Knot[] = [];
  let lastAt = Number.NEGATIVE_INFINITY;
  for (const knot of knots) {
    if (knot.isDone) continue;
    if (knot.at - lastAt > VISIT_MIN * MINUTE) firsts.push(knot);
    lastAt = knot.at;
  }
  return firsts;
}

/** A bench asks for the same job's visits with every tick; within these few seconds nothing about them changes. */
const SAME_MS = 10_000;
const knownVisits = new WeakMap<JobState, { readonly at: number; readonly hands: Hand[] }>();

/** The coming visits of one job, the soonest first. */
export function handsOf(state: JobState, now: number): Hand[] {
  const at = Math.floor(now / SAME_MS);
  const known = knownVisits.get(state);
  if (known?.at === at) return known.hands;
  const hands = visitsOf(state, now);
  knownVisits.set(state, { at, hands });
  return hands;
}

function visitsOf(state: JobState, now: number): Hand[] {
  const hand = atHand(state, now);
  if (!hand) return [];
  const { tag } = state.opened.battery;
  const { bay } = state.opened;
  const isDwell = hand.definition.kind === 'dwell';
  const first: Hand = {
    job: state.job,
    tag,
    bay,
    stepKey: hand.step.key,
    title: hand.title,
    note: hand.hold?.why ?? '',
    at: hand.dueAt,
    urgency: urgencyOf(hand, now),
  };
  const ahead = visits(forecast(state, now).knots).map((knot): Hand => ({
    job: state.job,
    tag,
    bay,
    stepKey: knot.key,
    title: knot.title,
    note: '',
    at: knot.at,
    urgency: 'later',
  }));
  // While a dwell runs nobody stands by; otherwise the first visit is the step at hand itself.
  if (isDwell) return ahead.slice(0, VISITS_SHOWN);
  return [first, ...ahead.filter((later) => later.at > Math.max(now, first.at) + VISIT_MIN * MINUTE)].slice(
    0,
    VISITS_SHOWN,
  );
}

const RANK: Record<Urgency, number> = { danger: 0, overdue: 1, due: 2, blocked: 3, later: 4 };

/** All jobs' visits: danger, overdue and due first, then by time. */
export function nextHands(states: readonly JobState[], now: number): Hand[] {
  return states
    .flatMap((state) => handsOf(state, now))
    .sort((a, b) => RANK[a.urgency] - RANK[b.urgency] || a.at - b.at || a.bay - b.bay);
}

/**
 * The next moment after now at which some job comes to need hands. What already waits for hands does not
 * count, nor what would follow it.
 * @returns undefined when every job waits for hands already
 */
export function nextHandsMoment(states: readonly JobState[], now: number): number | undefined {
  const moments = states
    .flatMap((state) => handsOf(state, now).slice(0, 1))
    .map((hand) => hand.at)
    .filter((at) => at > now);
  return moments.length === 0 ? undefined : Math.min(...moments);
}
