/** A visit to a bay that somebody must make: which comes first, and how it stands as time goes on. */

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
  /** From when on it counts as overdue. */
  readonly latestAt: number;
  /** How long the visit keeps a pair of hands busy. */
  readonly minutes: number;
  readonly urgency: Urgency;
  /** Current flows, in or out: it is looked at before whatever can wait. */
  readonly isRunning: boolean;
}

const RANK: Record<Urgency, number> = { danger: 0, overdue: 1, due: 2, blocked: 3, later: 4 };

/** Of what is due already; of what is to come the clock alone decides. */
const currentFirst = (a: Hand, b: Hand): number =>
  a.urgency === 'later' ? 0 : Number(b.isRunning) - Number(a.isRunning);

/** Danger, overdue and due first, of these what is under current, then by time. */
export const byUrgency = (a: Hand, b: Hand): number =>
  RANK[a.urgency] - RANK[b.urgency] || currentFirst(a, b) || a.at - b.at || a.bay - b.bay;

const BY_TIME: ReadonlySet<Urgency> = new Set(['later', 'due', 'overdue']);

function urgencyAt({ urgency, at, latestAt }: Hand, now: number): Urgency {
  if (!BY_TIME.has(urgency)) return urgency;
  if (now >= latestAt) return 'overdue';
  return now >= at ? 'due' : 'later';
}

/**
 * Hands that were worked out before, as far as the clock alone tells: what a battery wants first falls due and becomes overdue.
 * What follows waits for that.
 * @param hands in order of urgency
 * @param now shop time, ms, not before they were worked out
 * @returns the very same list while nothing in it changes
 */
export function agedHands(hands: readonly Hand[], now: number): readonly Hand[] {
  const firstOf = new Map<string, Hand>();
  for (const hand of hands) {
    const first = firstOf.get(hand.job);
    if (!first || hand.at < first.at) firstOf.set(hand.job, hand);
  }
  const aged = hands.map((hand) => {
    const urgency = firstOf.get(hand.job) === hand ? urgencyAt(hand, now) : hand.urgency;
    return urgency === hand.urgency ? hand : { ...hand, urgency };
  });
  return aged.every((hand, index) => hand === hands[index]) ? hands : aged.sort(byUrgency);
}
