/**
 * A course that is decided on the way: its first step is done, what it shows is looked at, and only then one goes on, changes or stops.
 * The candidates are run once, under every way on. Each in turn plays the battery; the others, weighed by what it would then read, decide;
 * what the decision is worth is judged on the one that played (nested belief on one sample).
 * @see Raiffa & Schlaifer 1961 (extensive form); Ades, Lu & Claxton 2004, Expected value of sample information calculations
 */
import { chanceFrom, normal } from '../chance/chance.ts';
import { logTail } from '../chance/tail.ts';
import type { Setting } from '../candidate/traits.ts';
import { normalised } from '../belief/weights.ts';
import { LATER_CHECKS, laterScale, type Later, type LaterCheck } from './later.ts';

/** Log likelihood of what each would read, were it each of the others: by player, by candidate. */
export type Evidence = readonly Float64Array[];

/** What each plays, read with its error. */
export interface Played {
  readonly values: readonly (readonly number[])[];
  readonly evidence: Evidence;
}

/** What each would show of a check, and how well it tells: value by value, all candidates side by side. */
interface Shown {
  readonly values: readonly Float64Array[];
  readonly scales: readonly Float64Array[];
}

function shownBy(check: LaterCheck, seen: readonly Later[], setting: Setting): Shown {
  const places = Math.max(0, ...seen.map((later) => later[check].length));
  const values = Array.from({ length: places }, (_, place) =>
    Float64Array.from(seen, (later) => later[check][place] ?? 0),
  );
  return {
    values,
    scales: values.map((row, place) => row.map((value) => laterScale(check, place, value, setting))),
  };
}

function logsOf(read: readonly number[], { values, scales }: Shown, count: number): Float64Array {
  const logs = new Float64Array(count);
  for (let place = 0; place < values.length; place++) {
    const [row, scale, is] = [values[place], scales[place], read[place]];
    if (!row || !scale || is === undefined) continue;
    for (let at = 0; at < count; at++)
      logs[at] = (logs[at] as number) + logTail(is - (row[at] as number), scale[at] as number);
  }
  return logs;
}

/** What a reading says of each candidate: logarithms of its likelihood. @param seen what each would show */
export const evidenceOf = (
  check: LaterCheck,
  read: readonly number[],
  seen: readonly Later[],
  setting: Setting,
): Float64Array => logsOf(read, shownBy(check, seen, setting), seen.length);

/** Of one check: what everybody would read, and what that says of everybody else. */
export function playedOf(check: LaterCheck, seen: readonly Later[], setting: Setting): Played {
  const chance = chanceFrom(`later ${check}`);
  const shown = shownBy(check, seen, setting);
  const values = seen.map((later, at) =>
    later[check].map((value, place) => value + (shown.scales[place]?.[at] ?? 0) * normal(chance)),
  );
  return { values, evidence: values.map((read) => logsOf(read, shown, seen.length)) };
}

/** The way on that is worth most by weights, which need not sum to 1. */
function bestBy(worths: readonly (readonly number[])[], weights: Float64Array): number {
  let [best, bestWorth] = [0, Number.NEGATIVE_INFINITY];
  for (let way = 0; way < worths.length; way++) {
    const row = worths[way] as readonly number[];
    let worth = 0;
    for (let at = 0; at < weights.length; at++) worth += (weights[at] as number) * (row[at] as number);
    if (worth > bestWorth) [best, bestWorth] = [way, worth];
  }
  return best;
}

/**
 * The way on that is worth most, by candidates weighed by what was read.
 * @param worths by way on, by candidate
 * @param logs of the weights, but for a constant
 */
export const bestWay = (worths: readonly (readonly number[])[], logs: Float64Array): number =>
  bestBy(worths, normalised(logs));

/**
 * What one player's readings make all others weigh, but for a factor; itself and its like weigh nothing, unless there are no others.
 * @param into takes the weights: they are asked for by the ten thousand
 */
function othersBy(
  player: number,
  evidence: readonly Evidence[],
  kin: readonly number[],
  into: Float64Array,
): void {
  const own = kin[player];
  let most = Number.NEGATIVE_INFINITY;
  for (let at = 0; at < into.length; at++) {
    let log = Number.NEGATIVE_INFINITY;
    if (kin[at] !== own) {
      log = 0;
      for (let one = 0; one < evidence.length; one++)
        log += ((evidence[one] as Evidence)[player] as Float64Array)[at] as number;
    }
    into[at] = log;
    if (log > most) most = log;
  }
  if (most === Number.NEGATIVE_INFINITY) into.fill(1);
  else for (let at = 0; at < into.length; at++) into[at] = Math.exp((into[at] as number) - most);
}

/**
 * What each player would choose, by the others: left out of the judgement, it cannot flatter itself.
 * @param evidence of every check that was made; none chooses by what was believed before
 * @returns the place of the way on, by player
 */
export function chosenBy(
  worths: readonly (readonly number[])[],
  evidence: readonly Evidence[],
  kin: readonly number[],
): number[] {
  const weights = new Float64Array(kin.length);
  return kin.map((_, player) => {
    othersBy(player, evidence, kin, weights);
    return bestBy(worths, weights);
  });
}

/** What several checks say together. */
function together(evidence: readonly Evidence[]): Evidence {
  const [first = [], ...rest] = evidence;
  return first.map((row, player) =>
    rest.reduce((sum, one) => {
      const more = one[player];
      if (more) for (let at = 0; at < sum.length; at++) sum[at] = (sum[at] as number) + (more[at] as number);
      return sum;
    }, row.slice()),
  );
}

const meanOf = (worths: readonly (readonly number[])[], choices: readonly number[]): number =>
  choices.reduce((sum, way, player) => sum + (worths[way]?.[player] ?? 0), 0) / Math.max(1, choices.length);

/** Made whatever comes: nobody charges a battery without seeing how it goes and where it stands after. */
const ALWAYS: readonly LaterCheck[] = ['early', 'charge', 'rest'];

export interface InStages {
  /** The checks that are worth making before one decides, in the order they pay. */
  readonly checks: readonly LaterCheck[];
  /** The way on at its end, by candidate. */
  readonly choices: readonly number[];
  /** Which candidates are given up while their first charge has hardly begun. */
  readonly givenUp: readonly boolean[];
  /** What going on to the end is then worth, its checks paid for, by candidate. */
  readonly goingOn: readonly number[];
  /** What is read of each check made, by candidate. */
  readonly read: Readonly<Partial<Record<LaterCheck, readonly (readonly number[])[]>>>;
}

/** What is known of a course that is decided on the way, whatever things cost. */
export interface PlayedChecks {
  readonly by: ReadonlyMap<LaterCheck, Played>;
  /** Candidates drawn more than once are one and the same: who plays one is judged by none of them. */
  readonly kin: readonly number[];
}

/** Each with the place of the first that is the same. */
export function kinOf(seen: readonly unknown[]): number[] {
  const first = new Map<string, number>();
  return seen.map((one, index) => {
    const key = JSON.stringify(one);
    const known = first.get(key) ?? index;
    first.set(key, known);
    return known;
  });
}

export function playedChecks(seen: readonly Later[], setting: Setting): PlayedChecks {
  const made = LATER_CHECKS.filter((check) => (seen[0]?.[check].length ?? 0) > 0);
  return { by: new Map(made.map((check) => [check, playedOf(check, seen, setting)])), kin: kinOf(seen) };
}

/** What checks come to. */
interface Gains {
  readonly checks: readonly LaterCheck[];
  readonly choices: readonly number[];
  readonly worth: number;
}

/** What breaking off early is held against. */
export interface Early {
  readonly worths: readonly number[];
  readonly comesBack: readonly boolean[];
  /** Odds of coming back from which on none is given up. */
  readonly keptFrom: number;
}

/** Share of the weight that lies on some of them. */
function shareOf(is: readonly boolean[], weights: Float64Array): number {
  let [all, some] = [0, 0];
  weights.forEach((weight, at) => {
    all += weight;
    if (is[at]) some += weight;
  });
  return some / all;
}

function givenUpBy(
  goingOn: readonly number[],
  { worths, comesBack, keptFrom }: Early,
  begun: Evidence,
  kin: readonly number[],
): boolean[] {
  const weights = new Float64Array(kin.length);
  return chosenBy([goingOn, worths], [begun], kin).map((way, player) => {
    if (way === 0) return false;
    othersBy(player, [begun], kin, weights);
    return shareOf(comesBack, weights) < keptFrom;
  });
}

/**
 * Decides for every candidate, with the checks that pay: one is added as long as what it gains is more than it costs.
 * Whether one goes on that far at all is decided before, by how the charge begins; what going on is worth is what is then decided.
 * @param worths by way on, by candidate
 * @param early what each is worth if its charge is broken off early, and whether it would come back were it charged to the end: where the
 * house condemns none uncharged, one is given up only if next to none of those that begin alike would
 * @param costOf a check, in the shop's money
 */
export function decideInStages(
  worths: readonly (readonly number[])[],
  early: Early,
  played: PlayedChecks,
  costOf: (check: LaterCheck) => number,
): InStages {
  const evidence = (check: LaterCheck): Evidence[] => {
    const one = played.by.get(check)?.evidence;
    return one ? [one] : [];
  };
  const priceOf = (checks: readonly LaterCheck[]): number =>
    checks.reduce((sum, one) => sum + costOf(one), 0);
  const gains = (checks: readonly LaterCheck[], by: readonly Evidence[]): Gains => {
    const choices = chosenBy(worths, by, played.kin);
    return { checks, choices, worth: meanOf(worths, choices) - priceOf(checks) };
  };
  let known = together(ALWAYS.flatMap(evidence));
  let now = gains(ALWAYS, [known]);
  for (;;) {
    const { checks } = now;
    const [more] = [...played.by.keys()]
      .filter((check) => !checks.includes(check))
      .map((check) => gains([...checks, check], [known, ...evidence(check)]))
      .sort((one, other) => other.worth - one.worth);
    if (!more || more.worth <= now.worth) break;
    known = together([known, ...more.checks.slice(-1).flatMap(evidence)]);
    now = more;
  }
  const { checks } = now;
  const paid = priceOf(checks);
  const goingOn = now.choices.map((way, player) => (worths[way]?.[player] ?? 0) - paid);
  const begun = played.by.get('early')?.evidence;
  return {
    checks,
    choices: now.choices,
    goingOn,
    givenUp: begun ? givenUpBy(goingOn, early, begun, played.kin) : goingOn.map(() => false),
    read: Object.fromEntries(checks.map((check) => [check, played.by.get(check)?.values ?? []])),
  };
}
