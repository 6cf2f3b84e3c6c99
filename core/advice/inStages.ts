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

/**
 * What each player would choose, by the others: left out of the judgement, it cannot flatter itself.
 * @param evidence of every check that was made; none chooses by what was believed before
 * @returns the place of the way on, by player
 */
export function chosenBy(worths: readonly (readonly number[])[], evidence: readonly Evidence[]): number[] {
  const count = worths[0]?.length ?? 0;
  return Array.from({ length: count }, (_, player) => {
    const logs = new Float64Array(count);
    for (const one of evidence) {
      const row = one[player];
      if (row)
        for (let other = 0; other < count; other++)
          logs[other] = (logs[other] as number) + (row[other] as number);
    }
    logs[player] = Number.NEGATIVE_INFINITY;
    return bestWay(worths, logs);
  });
}

const meanOf = (worths: readonly (readonly number[])[], choices: readonly number[]): number =>
  choices.reduce((sum, way, player) => sum + (worths[way]?.[player] ?? 0), 0) / Math.max(1, choices.length);

/** Made whatever comes: nobody charges a battery without seeing how it goes and where it stands after. */
const ALWAYS: readonly LaterCheck[] = ['charge', 'rest'];

export interface InStages {
  /** The checks that are worth making before one decides, in the order they pay. */
  readonly checks: readonly LaterCheck[];
  /** The way on, by candidate. */
  readonly choices: readonly number[];
  /** What is read of each check made, by candidate. */
  readonly read: Readonly<Partial<Record<LaterCheck, readonly (readonly number[])[]>>>;
}

/** What is known of a course that is decided on the way, whatever things cost. */
export type PlayedChecks = ReadonlyMap<LaterCheck, Played>;

export function playedChecks(seen: readonly Later[], setting: Setting): PlayedChecks {
  const made = LATER_CHECKS.filter((check) => (seen[0]?.[check].length ?? 0) > 0);
  return new Map(made.map((check) => [check, playedOf(check, seen, setting)]));
}

/**
 * Decides for every candidate, with the checks that pay: one is added as long as what it gains is more than it costs.
 * @param worths by way on, by candidate
 * @param costOf a check, in the shop's money
 */
export function decideInStages(
  worths: readonly (readonly number[])[],
  played: PlayedChecks,
  costOf: (check: LaterCheck) => number,
): InStages {
  const evidenceBy = (checks: readonly LaterCheck[]): Evidence[] =>
    checks.map((check) => played.get(check)?.evidence ?? []);
  const gains = (checks: readonly LaterCheck[]): { choices: number[]; worth: number } => {
    const choices = chosenBy(worths, evidenceBy(checks));
    return {
      choices,
      worth: meanOf(worths, choices) - checks.reduce((sum, check) => sum + costOf(check), 0),
    };
  };
  let checks: readonly LaterCheck[] = ALWAYS;
  let now = gains(checks);
  for (;;) {
    const more = [...played.keys()]
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
  return {
    checks,
    choices: now.choices,
    read: Object.fromEntries(checks.map((check) => [check, played.get(check)?.values ?? []])),
  };
}
