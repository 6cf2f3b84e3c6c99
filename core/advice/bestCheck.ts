/** Which check to make next, of those whose worth is known; and what each is called and costs. */
import type { Check } from '../observation/checks.ts';
import { MINUTES } from '../observation/readings.ts';

export const CHECK_NAMES: Record<Check, string> = {
  load: 'Load test',
  tester: 'Tester',
  acceptance: 'What it takes',
  mass: 'Mass',
  density: 'Density of every cell',
  level: 'Level of every cell',
  dips: 'Voltage along the cells',
};

/** Minutes of hands of a whole check, every cell included. */
export function minutesOf(check: Check, cells: number): number {
  return check === 'density' || check === 'level' ? MINUTES[check] * cells : MINUTES[check];
}

export interface Meaning {
  /** "about 8.1 V" */
  readonly result: string;
  /** How likely it is to come out so, 0–1. */
  readonly share: number;
  /** What one would then do. */
  readonly then: string;
}

export interface Advised {
  readonly check: Check;
  readonly minutes: number;
  /** What knowing the result is worth, in the shop's money; a mean. */
  readonly worth: number;
  readonly perMinute: number;
  /** How often the result would change what is done, 0–1. */
  readonly changes: number;
  readonly meanings: readonly Meaning[];
}

/**
 * Candidates a decision rests on: with fewer, chance alone would turn it between ways that are worth nearly the
 * same (docs/belief.md).
 */
export const JUDGES = 120;
/** Where no check left would change what is done more often than this, it is settled. */
const SETTLED = 0.02;

export interface NextBest {
  readonly advised: Advised;
  /** Whether it gains more than its hands cost; otherwise it only settles what is done. */
  readonly pays: boolean;
}

/**
 * The check to make next: first whatever gains most per minute and pays for its hands; then, until what is done is
 * settled, whatever would change it most often per minute.
 * @returns undefined once it is settled: then it is time to go on
 */
export function bestCheck(checks: readonly Advised[], handsPerHour: number): NextBest | undefined {
  const paying = checks.find(({ worth, minutes }) => worth > (minutes / 60) * handsPerHour);
  if (paying) return { advised: paying, pays: true };
  const [settling] = checks
    .filter(({ changes }) => changes > SETTLED)
    .sort((a, b) => b.changes / b.minutes - a.changes / a.minutes);
  return settling && { advised: settling, pays: false };
}
