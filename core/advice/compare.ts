/** Courses held against each other on a belief: odds of each grade, time, hands, cost and worth; and which to take. */
import { mean as meanOf, quantile } from 'd3-array';
import type { Setting } from '../belief/traits.ts';
import { isWake, type Course } from './courses.ts';
import { handsMinOf, spentBy } from './hands.ts';
import type { Outcome } from './outcome.ts';
import { decideInStages, playedChecks, type PlayedChecks } from './inStages.ts';
import { LATER_COSTS, type LaterCheck } from './later.ts';
import { treeOf, type Tree } from './tree.ts';
import { costOf, NOTHING_SPENT, valueOf, type Costs, type Spent, type Valued } from './worth.ts';

export const GRADES = ['A', 'B', 'C', 'R'] as const;
export type Mark = (typeof GRADES)[number];

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

/** Charged to the end and proved as it is. */
const isBack = (outcome: Outcome): boolean => markOf(outcome) !== 'R';

const markOf = ({ grade }: Outcome): Mark => (grade === 'A pending' ? 'A' : grade);

/** Steps of every route, as minutes. */
export type StepsOf = Parameters<typeof handsMinOf>[2];

/** What is known of the job besides its battery's condition. */
export interface Standing {
  /** Whose it is and what a new one costs; its size alone where nothing was said. */
  readonly battery?: Valued;
  /** Batteries whose charges are looked at in one round, this one included. */
  readonly together?: number;
  /** Nobody has charged it yet: it is condemned by its odds, and not by what it would bring. */
  readonly isUncharged?: boolean;
}

/** Under these odds no charge changes what an uncharged battery is (reasoned: nine of ten are cores all the same). */
export const NO_CHARGE_CHANGES = 0.1;

/** Retiring is not a forecast: whatever the battery, it is a core. */
const isRetiring = ({ id }: Pick<Course, 'id'>): boolean => id === 'retire';

/** What a way takes and ends in, by candidate. */
export interface Row {
  readonly course: Course;
  readonly marks: readonly Mark[];
  readonly spent: readonly Spent[];
  readonly hours: readonly number[];
}

/** What a shop and its battery make of what came of it. */
export interface Terms extends Priced {
  readonly setting: Setting;
  readonly steps: StepsOf;
  readonly together: number;
  /** Odds of coming back from which on no charge is broken off early; infinite where money alone decides. */
  readonly keptFrom: number;
}

export interface Priced {
  readonly costs: Costs;
  readonly battery: Valued;
}

type Come = Omit<Row, 'course'>;

function rowOf(
  course: Pick<Course, 'id' | 'routes'>,
  all: readonly Outcome[],
  { steps, together }: Terms,
): Come {
  return {
    marks: all.map((outcome) => (isRetiring(course) ? 'R' : markOf(outcome))),
    spent: all.map((outcome) =>
      isRetiring(course)
        ? { ...NOTHING_SPENT, handsMin: handsMinOf(course, { chargedH: [] }, steps) }
        : spentBy(outcome, handsMinOf(course, outcome, steps, together)),
    ),
    hours: all.map(({ hours }) => (isRetiring(course) ? 0 : hours)),
  };
}

/** What each candidate is worth that way, in the shop's money. */
export const worthsOf = ({ marks, spent }: Come, { battery, costs }: Priced): number[] =>
  marks.map((mark, at) => valueOf(mark, battery, costs) - costOf(spent[at] ?? NOTHING_SPENT, costs));

/** What the checks show does not hang on what things cost: it is worked out once for what was run. */
const playedFor = new WeakMap<readonly Outcome[], PlayedChecks>();

function playedOn(all: readonly Outcome[], setting: Setting): PlayedChecks {
  const known = playedFor.get(all);
  if (known) return known;
  const played = playedChecks(
    all.flatMap(({ staged }) => staged?.later ?? []),
    setting,
  );
  playedFor.set(all, played);
  return played;
}

/** Retired after its first step: that was paid for, and nothing is proved. */
function retiredAfter(first: Outcome, course: Course, { steps, together }: Terms): Spent {
  const proof = handsMinOf({ id: 'prove', routes: [] }, { chargedH: [] }, steps);
  const tray = handsMinOf({ id: 'retire', routes: ['retire'] }, { chargedH: [] }, steps);
  return spentBy(first, handsMinOf(course, first, steps, together) - proof + tray);
}

/** Its charge broken off as soon as it is looked at, and retired. */
export function brokenOff(course: Course, all: readonly Outcome[], { steps }: Terms): Come {
  const proof = handsMinOf({ id: 'prove', routes: [] }, { chargedH: [] }, steps);
  const tray = handsMinOf({ id: 'retire', routes: ['retire'] }, { chargedH: [] }, steps);
  const [first = ''] = course.routes.filter((id) => !isWake(id));
  return {
    marks: all.map(() => 'R'),
    spent: all.map(({ staged }) => {
      const { hours = 0, mainsWh = 0 } = staged?.early ?? {};
      const begun = { chargedH: [{ route: first, hours }] };
      return {
        handsMin: handsMinOf(course, begun, steps) - proof + tray,
        bayH: hours,
        mainsWh,
        waterMl: course.routes.includes('water-back') ? (staged?.onward[0]?.waterMl ?? 0) : 0,
      };
    }),
    hours: all.map(({ staged }) => staged?.early.hours ?? 0),
  };
}

/** What each way on takes and ends in, its first step included. */
export function onwardRows(course: Course, all: readonly Outcome[], terms: Terms): Come[] {
  const { onward = [] } = course;
  const { steps, together } = terms;
  return onward.map((way, place): Come => {
    const ends = all.flatMap(({ staged }) => staged?.onward[place] ?? []);
    if (way.id === 'retire')
      return {
        marks: all.map(() => 'R'),
        spent: all.map((first) => retiredAfter(first, course, terms)),
        hours: all.map(({ hours }) => hours),
      };
    const whole = { id: way.id, routes: [...course.routes, ...way.routes] };
    return {
      ...rowOf(whole, ends, terms),
      spent: ends.map((end) => spentBy(end, handsMinOf(whole, end, steps, together))),
    };
  });
}

/** What a check costs that is made before one decides. */
export function laterCost(check: LaterCheck, costs: Costs): number {
  const { minutes, bayH } = LATER_COSTS[check];
  return costOf({ ...NOTHING_SPENT, handsMin: minutes, bayH }, { ...costs, consumables: 0 });
}

/** A course that is decided on the way, by what it then shows. */
function stagedRow(course: Course, all: readonly Outcome[], terms: Terms): Come & { readonly tree: Tree } {
  const { onward = [] } = course;
  const rows = onwardRows(course, all, terms);
  const worths = rows.map((row) => worthsOf(row, terms));
  const stopped = brokenOff(course, all, terms);
  const decided = decideInStages(
    worths,
    { worths: worthsOf(stopped, terms), comesBack: all.map(isBack), keptFrom: terms.keptFrom },
    playedOn(all, terms.setting),
    (check) => laterCost(check, terms.costs),
  );
  const more = decided.checks.map((check) => LATER_COSTS[check]);
  const sumOf = (what: 'minutes' | 'hours' | 'bayH'): number => more.reduce((sum, one) => sum + one[what], 0);
  const at = <T>(player: number, from: (row: Come) => readonly T[], none: T): T => {
    const row = decided.givenUp[player] ? stopped : rows[decided.choices[player] ?? 0];
    return (row && from(row)[player]) ?? none;
  };
  /** What is asked only at the end is asked only of those that come there. */
  const then = (player: number, sum: number): number => (decided.givenUp[player] ? 0 : sum);
  const players = all.map((_, player) => player);
  return {
    marks: players.map((player) => at<Mark>(player, ({ marks }) => marks, 'R')),
    spent: players.map((player) => {
      const spent = at(player, (row) => row.spent, NOTHING_SPENT);
      return {
        ...spent,
        handsMin: spent.handsMin + then(player, sumOf('minutes')),
        bayH: spent.bayH + then(player, sumOf('bayH')),
      };
    }),
    hours: players.map((player) => at(player, ({ hours }) => hours, 0) + then(player, sumOf('hours'))),
    tree: treeOf(onward, decided),
  };
}

/**
 * @param outcomes of every candidate under every course, in the order of `courses`
 */
export function compare(
  courses: readonly Course[],
  outcomes: readonly (readonly Outcome[])[],
  setting: Setting,
  costs: Costs,
  steps: StepsOf,
  { battery = setting.rating, together = 1, isUncharged = false }: Standing = {},
): Comparison {
  const keptFrom = isUncharged ? NO_CHARGE_CHANGES : Number.POSITIVE_INFINITY;
  const terms = { setting, costs, steps, battery, together, keptFrom };
  const rows = courses.map((course, index) => {
    const all = outcomes[index] ?? [];
    const row: Come & { readonly tree?: Tree } = course.onward
      ? stagedRow(course, all, terms)
      : rowOf(course, all, terms);
    const { marks, spent, hours, tree } = row;
    const worths = worthsOf(row, terms);
    const share = (mark: Mark): number =>
      marks.filter((one) => one === mark).length / Math.max(1, marks.length);
    const scored: Scored = {
      course,
      odds: { A: share('A'), B: share('B'), C: share('C'), R: share('R') },
      carried: isRetiring(course) ? 0 : all.filter(isBack).length / Math.max(1, all.length),
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
    const committed = course.onward ? worthsOf(rowOf(course, all, terms), terms) : worths;
    return { scored, worths, committed, row: { course, marks, spent, hours } };
  });
  return {
    scored: rows.map(({ scored }) => scored).sort((a, b) => b.worth - a.worth),
    worths: rows.map(({ worths }) => worths),
    committed: rows.map(({ committed }) => committed),
    rows: rows.map(({ row }) => row),
  };
}
