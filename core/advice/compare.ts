/** Courses held against each other on a belief: odds of each grade, time, hands, cost and worth; and which to take. */
import { mean as meanOf, quantile } from 'd3-array';
import type { Setting } from '../candidate/traits.ts';
import type { Course } from './courses.ts';
import type { StepsOf } from './hands.ts';
import type { Outcome } from './outcome.ts';
import { isRetiring, oddsOf, rowOf, worthsOf, type Come, type Mark, type Row, type Terms } from './rows.ts';
import { stagedRow } from './staged.ts';
import type { Tree } from './tree.ts';
import { costOf, type Costs, type Valued } from './worth.ts';

export interface Scored {
  readonly course: Course;
  readonly odds: Readonly<Record<Mark, number>>;
  /** Odds of coming back, were it followed to its end whatever shows on the way. */
  readonly carried: number;
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
  /** Of one that is decided on the way: what will be done, by what it then shows. */
  readonly tree?: Tree;
}

export interface Comparison {
  /** The most worth first. */
  readonly scored: readonly Scored[];
  /** By course in the order asked for, by candidate. */
  readonly worths: readonly (readonly number[])[];
  /**
   * The same, were each followed to its end whatever shows on the way. A check now is weighed by these: what would be saved by looking later
   * rests on odds that hardly anything has been asked about yet (docs/belief.md).
   */
  readonly committed: readonly (readonly number[])[];
  /** What came of each course, in the order asked for: what it is worth at other costs. */
  readonly rows: readonly Row[];
}

const mean = (values: readonly number[]): number => meanOf(values) ?? 0;

/** What is known of the job besides its battery's condition. */
export interface Standing {
  /** Whose it is and what a new one costs; its size alone where nothing was said. */
  readonly battery?: Valued;
  /** Batteries whose charges are looked at in one round, this one included. */
  readonly together?: number;
  /** Nobody has charged it yet: it is condemned by its odds, and not by what it would bring. */
  readonly isUncharged?: boolean;
  /** What the shop has learned of its ways with batteries built like this one. */
  readonly ways?: Terms['ways'];
}

/** Under these odds no charge changes what an uncharged battery is (reasoned: nine of ten are cores all the same). */
export const NO_CHARGE_CHANGES = 0.1;

/**
 * @param outcomes of every candidate under every course, in the order of `courses`
 */
export function compare(
  courses: readonly Course[],
  outcomes: readonly (readonly Outcome[])[],
  setting: Setting,
  costs: Costs,
  steps: StepsOf,
  { battery = setting.rating, together = 1, isUncharged = false, ways = {} }: Standing = {},
): Comparison {
  const keptFrom = isUncharged ? NO_CHARGE_CHANGES : Number.POSITIVE_INFINITY;
  const terms: Terms = { setting, costs, steps, battery, together, keptFrom, ways };
  const rows = courses.map((course, index) => {
    const all = outcomes[index] ?? [];
    const row: Come & { readonly tree?: Tree } = course.onward
      ? stagedRow(course, all, terms)
      : rowOf(course, all, terms);
    const { ends, spent, hours, tree } = row;
    const worths = worthsOf(row, terms);
    const followed = course.onward ? rowOf(course, all, terms) : row;
    const odds = (mark: Mark): number => oddsOf(mark, row);
    const scored: Scored = {
      course,
      odds: { A: odds('A'), B: odds('B'), C: odds('C'), R: odds('R') },
      carried: isRetiring(course) ? 0 : 1 - oddsOf('R', followed),
      hours: mean(hours),
      handsMin: mean(spent.map(({ handsMin }) => handsMin)),
      mainsWh: mean(spent.map(({ mainsWh }) => mainsWh)),
      waterMl: mean(spent.map(({ waterMl }) => waterMl)),
      cost: mean(spent.map((one) => costOf(one, costs))),
      worth: mean(worths),
      worthLow: quantile(worths, 0.1) ?? 0,
      worthHigh: quantile(worths, 0.9) ?? 0,
      ...(tree ? { tree } : {}),
    };
    const committed = course.onward ? worthsOf(followed, terms) : worths;
    return { scored, worths, committed, row: { course, ends, spent, hours } };
  });
  return {
    scored: rows.map(({ scored }) => scored).sort((a, b) => b.worth - a.worth),
    worths: rows.map(({ worths }) => worths),
    committed: rows.map(({ committed }) => committed),
    rows: rows.map(({ row }) => row),
  };
}
