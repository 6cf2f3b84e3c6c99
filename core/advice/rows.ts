/** What came of a course, in the shop's terms: graded, and what it took, by candidate. */
import type { Setting } from '../belief/traits.ts';
import type { Course } from './courses.ts';
import { handsBy, spentBy, type StepsOf } from './hands.ts';
import type { Outcome } from './outcome.ts';
import { costOf, NOTHING_SPENT, valueOf, type Costs, type Spent, type Valued } from './worth.ts';

export const GRADES = ['A', 'B', 'C', 'R'] as const;
export type Mark = (typeof GRADES)[number];

export const markOf = ({ grade }: Outcome): Mark => (grade === 'A pending' ? 'A' : grade);

/** Charged to the end and proved as it is. */
export const isBack = (outcome: Outcome): boolean => markOf(outcome) !== 'R';

/** Retiring is not a forecast: whatever the battery, it is a core. */
export const isRetiring = ({ id }: Pick<Course, 'id'>): boolean => id === 'retire';

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

/** The same of a way that is none of the courses asked for. */
export type Come = Omit<Row, 'course'>;

export function rowOf(
  course: Pick<Course, 'id' | 'routes'>,
  all: readonly Outcome[],
  { steps, together }: Terms,
): Come {
  const hands = handsBy(course, steps, together);
  if (isRetiring(course)) {
    const spent = { ...NOTHING_SPENT, handsMin: hands({ chargedH: [] }) };
    return { marks: all.map(() => 'R'), spent: all.map(() => spent), hours: all.map(() => 0) };
  }
  return {
    marks: all.map(markOf),
    spent: all.map((outcome) => spentBy(outcome, hands(outcome))),
    hours: all.map(({ hours }) => hours),
  };
}

/** What each candidate is worth that way, in the shop's money. */
export const worthsOf = ({ marks, spent }: Come, { battery, costs }: Priced): number[] =>
  marks.map((mark, at) => valueOf(mark, battery, costs) - costOf(spent[at] ?? NOTHING_SPENT, costs));
