/**
 * A course that is decided on the way: its first step is done, what it shows is looked at, and only then one goes on, changes or stops.
 * The candidates are run once, under every way on. Each in turn plays the battery; the others, weighed by what it would then read, decide;
 * what the decision is worth is judged on the one that played (nested belief on one sample).
 * @see Raiffa & Schlaifer 1961 (extensive form); Ades, Lu & Claxton 2004, Expected value of sample information calculations
 */
import { chanceFrom, normal } from '../chance/chance.ts';
import type { Setting } from '../belief/traits.ts';
import { LATER_CHECKS, laterScale, type Later, type LaterCheck } from './later.ts';

/** Degrees of freedom of the error's tail, as in `belief/likelihood.ts`. */
const TAIL = 5;

/** Log likelihood of what each would read, were it each of the others: by player, by candidate. */
export type Evidence = readonly Float64Array[];

/** What each plays, read with its error. */
export interface Played {
  readonly values: readonly (readonly number[])[];
  readonly evidence: Evidence;
}

/** What a reading says of each candidate: logarithms of its likelihood. @param seen what each would show */
export function evidenceOf(
  check: LaterCheck,
  read: readonly number[],
  seen: readonly Later[],
  setting: Setting,
): Float64Array {
  return Float64Array.from(seen, (later) =>
    later[check].reduce((sum, value, place) => {
      const scale = laterScale(check, place, value, setting);
      const z = ((read[place] ?? value) - value) / scale;
      return sum - ((TAIL + 1) / 2) * Math.log1p((z * z) / TAIL) - Math.log(scale);
    }, 0),
  );
}

/** Of one check: what everybody would read, and what that says of everybody else. */
export function playedOf(check: LaterCheck, seen: readonly Later[], setting: Setting): Played {
  const chance = chanceFrom(`later ${check}`);
  const values = seen.map((later) =>
    later[check].map((value, place) => value + laterScale(check, place, value, setting) * normal(chance)),
  );
  return { values, evidence: values.map((read) => evidenceOf(check, read, seen, setting)) };
}

/**
 * The way on that is worth most, by candidates weighed by what was read.
 * @param worths by way on, by candidate
 * @param logs of the weights, but for a constant
 */
export function bestWay(worths: readonly (readonly number[])[], logs: Float64Array): number {
  const most = logs.reduce((high, log) => Math.max(high, log), Number.NEGATIVE_INFINITY);
  const weights = logs.map((log) => Math.exp(log - most));
  let [best, bestWorth] = [0, Number.NEGATIVE_INFINITY];
  worths.forEach((row, way) => {
    const worth = weights.reduce((sum, weight, at) => sum + weight * (row[at] as number), 0);
    if (worth > bestWorth) [best, bestWorth] = [way, worth];
  });
  return best;
}

/** Logarithms of what one player's readings say of all others; of itself and its like they say nothing. */
function othersBy(player: number, evidence: readonly Evidence[], kin: readonly number[]): Float64Array {
  const logs = new Float64Array(kin.length);
  for (const one of evidence)
    one[player]?.forEach((log, other) => (logs[other] = (logs[other] as number) + log));
  const own = kin[player];
  const isAlone = kin.every((one) => one === own);
  kin.forEach((one, other) => {
    if (one === own && !(isAlone && other !== player)) logs[other] = Number.NEGATIVE_INFINITY;
  });
  return logs;
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
  return kin.map((_, player) => bestWay(worths, othersBy(player, evidence, kin)));
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

/** What breaking off early is held against. */
export interface Early {
  readonly worths: readonly number[];
  readonly comesBack: readonly boolean[];
  /** Odds of coming back from which on none is given up. */
  readonly keptFrom: number;
}

/** Share of those a reading speaks for, weighed by how much. */
export function shareOf(is: readonly boolean[], logs: Float64Array): number {
  const most = logs.reduce((high, log) => Math.max(high, log), Number.NEGATIVE_INFINITY);
  let [all, some] = [0, 0];
  logs.forEach((log, at) => {
    const weight = Math.exp(log - most);
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
  return chosenBy([goingOn, worths], [begun], kin).map(
    (way, player) => way === 1 && shareOf(comesBack, othersBy(player, [begun], kin)) < keptFrom,
  );
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
  const evidenceBy = (checks: readonly LaterCheck[]): Evidence[] =>
    checks.flatMap((check) => {
      const one = played.by.get(check);
      return one ? [one.evidence] : [];
    });
  const gains = (checks: readonly LaterCheck[]): { choices: number[]; worth: number } => {
    const choices = chosenBy(worths, evidenceBy(checks), played.kin);
    return {
      choices,
      worth: meanOf(worths, choices) - checks.reduce((sum, check) => sum + costOf(check), 0),
    };
  };
  let checks: readonly LaterCheck[] = ALWAYS;
  let now = gains(checks);
  for (;;) {
    const more = [...played.by.keys()]
      .filter((check) => !checks.includes(check))
      .map((check) => ({ with: [...checks, check], ...gains([...checks, check]) }))
      .reduce<({ with: LaterCheck[] } & typeof now) | undefined>(
        (best, one) => (one.worth > (best?.worth ?? now.worth) ? one : best),
        undefined,
      );
    if (!more) break;
    checks = more.with;
    now = more;
  }
  const paid = checks.reduce((sum, check) => sum + costOf(check), 0);
  const goingOn = now.choices.map((way, player) => (worths[way]?.[player] ?? 0) - paid);
  const begun = played.by.get('early')?.evidence;
  return {
    checks,
    choices: now.choices,
    givenUp: begun ? givenUpBy(goingOn, early, begun, played.kin) : goingOn.map(() => false),
    read: Object.fromEntries(checks.map((check) => [check, played.by.get(check)?.values ?? []])),
  };
}
