/**
 * Whether ways bring back here what was expected of them. What was believed as each was chosen stands beside what came of it,
 * so that a way that gets the easy ones is not praised for it. Each is credited by its place: one that another way had to follow
 * did not bring it back, and the last did, or did not.
 * @see Gelman et al. 2013, Bayesian Data Analysis, 2.4 (binomial data, beta prior)
 */
import { group, sum } from 'd3-array';
import type { Construction } from '../battery/construction.ts';
import { betaQuantile } from '../chance/distributions.ts';
import type { Lesson } from './lesson.ts';

/** What was expected counts for as many attempts as these (reasoned: the forecast is a model's, held against its own in docs/belief.md). */
export const FORECAST_COUNTS = 10;

/** No forecast is surer than this. */
const LEAST_ODDS = 0.01;

export interface WayHere {
  readonly way: string;
  readonly construction: Construction;
  readonly tried: number;
  /** How many would have come back by what was believed as each was chosen; and how many did. */
  readonly expected: number;
  readonly back: number;
  /** Odds that one such comes back, by forecast and by what came: middle, and where eight of ten lie. */
  readonly odds: number;
  readonly low: number;
  readonly high: number;
}

/** What becomes of a forecast here. */
export interface WayFactor {
  /** Of those forecast to come back, the share that does. */
  readonly kept: number;
  /** Of those forecast to be cores, the share that comes back all the same. */
  readonly gained: number;
}

/** By construction, by way. */
export type WayFactors = Readonly<Partial<Record<Construction, Readonly<Record<string, WayFactor>>>>>;

const forecastOf = (expected: number, tried: number): number =>
  Math.min(1 - LEAST_ODDS, Math.max(LEAST_ODDS, expected / tried));

/** Those tried most often first. */
export function waysHere(lessons: readonly Lesson[]): WayHere[] {
  const all = lessons.flatMap(({ history: { construction }, attempts }) =>
    attempts.map((attempt) => ({ ...attempt, construction })),
  );
  return [...group(all, ({ construction, way }) => `${construction} ${way}`).values()]
    .flatMap((attempts): WayHere[] => {
      const [first] = attempts;
      if (!first) return [];
      const tried = attempts.length;
      const expected = sum(attempts, (one) => one.expected);
      const back = attempts.filter(({ isBack }) => isBack).length;
      const mean = forecastOf(expected, tried);
      const hits = FORECAST_COUNTS * mean + back;
      const misses = FORECAST_COUNTS + tried - hits;
      return [
        {
          way: first.way,
          construction: first.construction,
          tried,
          expected,
          back,
          odds: hits / (hits + misses),
          low: betaQuantile(0.1, hits, misses),
          high: betaQuantile(0.9, hits, misses),
        },
      ];
    })
    .sort((a, b) => b.tried - a.tried || a.way.localeCompare(b.way));
}

/** What a forecast becomes so that such ones come back as often as they do here. */
export function wayFactor({ tried, expected, odds }: WayHere): WayFactor {
  const mean = forecastOf(expected, tried);
  return odds <= mean ? { kept: odds / mean, gained: 0 } : { kept: 1, gained: (odds - mean) / (1 - mean) };
}

export function wayFactors(ways: readonly WayHere[]): WayFactors {
  const factors: Partial<Record<Construction, Record<string, WayFactor>>> = {};
  for (const one of ways) (factors[one.construction] ??= {})[one.way] = wayFactor(one);
  return factors;
}
