/** What hands are needed, on which battery, by when: one list for the whole bench, in order of time. */
import { atHand, type AtHand } from './atHand.ts';
import { forecast, type Knot } from './forecast.ts';
import { byUrgency, type Hand, type Urgency } from './hand.ts';
import { definitionOf } from '../state/sheet.ts';
import type { JobState } from '../state/jobState.ts';

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

interface Stop extends Knot {
  readonly minutes: number;
  readonly overdueAfterMin: number;
}

function stopsOf(state: JobState, now: number): Stop[] {
  const steps = new Map(state.steps.map((step) => [step.key, definitionOf(state, step)]));
  return forecast(state, now)
    .knots.filter(({ isDone }) => !isDone)
    .map((knot) => {
      const definition = steps.get(knot.key);
      return {
        ...knot,
        minutes: definition?.handsMin ?? 0,
        overdueAfterMin: definition?.overdueAfterMin ?? 0,
      };
    });
}

/** First stop of each visit still to come, with the minutes of the whole visit. */
function visits(stops: readonly Stop[]): Stop[] {
  const firsts: Stop[] = [];
  let lastAt = Number.NEGATIVE_INFINITY;
  for (const stop of stops) {
    const before = firsts.at(-1);
    if (!before || stop.at - lastAt > VISIT_MIN * MINUTE) firsts.push(stop);
    else firsts[firsts.length - 1] = { ...before, minutes: before.minutes + stop.minutes };
    lastAt = stop.at;
  }
  return firsts;
}

/** A bench asks for the same job's visits with every tick; within these few seconds little about them changes. */
const SAME_MS = 10_000;
const knownVisits = new WeakMap<
  JobState,
  { readonly from: number; readonly to: number; readonly hands: Hand[] }
>();

/** The coming visits of one job, the soonest first. */
export function handsOf(state: JobState, now: number): Hand[] {
  const known = knownVisits.get(state);
  if (known && now >= known.from && now < known.to) return known.hands;
  const hands = visitsOf(state, now);
  // What falls due or becomes overdue is seen at once.
  const changes = hands.flatMap(({ at, latestAt }) => [at, latestAt]).filter((moment) => moment > now);
  knownVisits.set(state, { from: now, to: Math.min(now + SAME_MS, ...changes), hands });
  return hands;
}

function visitsOf(state: JobState, now: number): Hand[] {
  const hand = atHand(state, now);
  if (!hand) return [];
  const { tag } = state.opened.battery;
  const { bay } = state;
  const isDwell = hand.definition.kind === 'dwell';
  const stops = stopsOf(state, now);
  const here = Math.max(now, hand.dueAt) + VISIT_MIN * MINUTE;
  const first: Hand = {
    job: state.job,
    tag,
    bay,
    stepKey: hand.step.key,
    title: hand.title,
    note: hand.hold?.why ?? hand.note ?? '',
    at: hand.dueAt,
    latestAt: hand.overdueAt,
    minutes: stops.filter(({ at }) => at <= here).reduce((sum, stop) => sum + stop.minutes, 0),
    urgency: urgencyOf(hand, now),
    isRunning: hand.isRunning,
  };
  const ahead = visits(stops).map((stop): Hand => ({
    job: state.job,
    tag,
    bay,
    stepKey: stop.key,
    title: stop.title,
    note: '',
    at: stop.at,
    latestAt: stop.at + stop.overdueAfterMin * MINUTE,
    minutes: stop.minutes,
    urgency: 'later',
    isRunning: false,
  }));
  // While a dwell runs nobody stands by; otherwise the first visit is the step at hand itself.
  if (isDwell) return ahead.slice(0, VISITS_SHOWN);
  return [first, ...ahead.filter((later) => later.at > here)].slice(0, VISITS_SHOWN);
}

/** All jobs' visits: danger, overdue and due first, of these what is under current, then by time. */
export function nextHands(states: readonly JobState[], now: number): Hand[] {
  return states.flatMap((state) => handsOf(state, now)).sort(byUrgency);
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
