/** Courses held against each other on a belief: odds of each grade, time, hands, cost and worth; and which to take. */
import { mean as meanOf, quantile } from 'd3-array';
import type { Setting } from '../belief/traits.ts';
import type { Course } from './courses.ts';
import { handsMinOf, spentBy, type Outcome } from './outcome.ts';
import { costOf, NOTHING_SPENT, valueOf, type Costs, type Valued } from './worth.ts';

export const GRADES = ['A', 'B', 'C', 'R'] as const;
export type Mark = (typeof GRADES)[number];

export interface Scored {
  readonly course: Course;
  readonly odds: Readonly<Record<Mark, number>>;
  /** Means over the belief. */
  readonly hours: number;
  readonly handsMin: number;
  readonly mainsWh: number;
  readonly waterMl: number;
  readonly cost: number;
  /** What it brings less what it costs, in the shop's money; a mean, and where eight of ten lie. */
  readonly worth: number;
  readonly worthLow: number;
  readonly worthHigh: number;
}

export interface Comparison {
  /** The most worth first. */
  readonly scored: readonly Scored[];
  /** By course in the order asked for, by candidate. */
  readonly worths: readonly (readonly number[])[];
}

const mean = (values: readonly number[]): number => meanOf(values) ?? 0;

const markOf = ({ grade }: Outcome): Mark => (grade === 'A pending' ? 'A' : grade);

/** Steps of every route, as minutes. */
export type StepsOf = Parameters<typeof handsMinOf>[2];

/** What is known of the job besides its battery's condition. */
export interface Standing {
  /** Whose it is and what a new one costs; its size alone where nothing was said. */
  readonly battery?: Valued;
  /** Batteries whose charges are looked at in one round, this one included. */
  readonly together?: number;
}

/** Retiring is not a forecast: whatever the battery, it is a core. */
const isRetiring = ({ id }: Course): boolean => id === 'retire';

/**
 * @param outcomes of every candidate under every course, in the order of `courses`
 */
export function compare(
  courses: readonly Course[],
  outcomes: readonly (readonly Outcome[])[],
  setting: Setting,
  costs: Costs,
  steps: StepsOf,
  { battery = setting.rating, together = 1 }: Standing = {},
): Comparison {
  const rows = courses.map((course, index) => {
    const all = outcomes[index] ?? [];
    const spent = all.map((outcome) =>
      isRetiring(course)
        ? { ...NOTHING_SPENT, handsMin: handsMinOf(course, { chargedH: [] }, steps) }
        : spentBy(outcome, handsMinOf(course, outcome, steps, together)),
    );
    const marks = all.map((outcome): Mark => (isRetiring(course) ? 'R' : markOf(outcome)));
    const worths = marks.map(
      (mark, at) => valueOf(mark, battery, costs) - costOf(spent[at] ?? NOTHING_SPENT, costs),
    );
    const share = (mark: Mark): number =>
      marks.filter((one) => one === mark).length / Math.max(1, marks.length);
    const scored: Scored = {
      course,
      odds: { A: share('A'), B: share('B'), C: share('C'), R: share('R') },
      hours: isRetiring(course) ? 0 : mean(all.map(({ hours }) => hours)),
      handsMin: mean(spent.map(({ handsMin }) => handsMin)),
      mainsWh: mean(spent.map(({ mainsWh }) => mainsWh)),
      waterMl: mean(spent.map(({ waterMl }) => waterMl)),
      cost: mean(spent.map((one) => costOf(one, costs))),
      worth: mean(worths),
      worthLow: quantile(worths, 0.1) ?? 0,
      worthHigh: quantile(worths, 0.9) ?? 0,
    };
    return { scored, worths };
  });
  return {
    scored: rows.map(({ scored }) => scored).sort((a, b) => b.worth - a.worth),
    worths: rows.map(({ worths }) => worths),
  };
}
