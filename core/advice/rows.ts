/** What came of a course, in the shop's terms: graded, and what it took, by candidate. */
import type { Setting } from '../candidate/traits.ts';
import type { WayFactor } from '../learning/waysHere.ts';
import { bringsBack, type Course } from './courses.ts';
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

/** How one candidate ends: odds of each grade, 0–1; what is not there is none. They sum to 1. */
export type Ends = Readonly<Partial<Record<Mark, number>>>;

export const CORE: Ends = { R: 1 };

/** The same by what such a way brings back in this shop. One that comes back against its forecast does so just about: as C. */
function endsHere(factor: WayFactor | undefined): (mark: Mark) => Ends {
  const { kept, gained } = factor ?? { kept: 1, gained: 0 };
  const ends: Readonly<Record<Mark, Ends>> = {
    A: { A: kept, R: 1 - kept },
    B: { B: kept, R: 1 - kept },
    C: { C: kept, R: 1 - kept },
    R: { C: gained, R: 1 - gained },
  };
  return (mark) => ends[mark];
}

/** What is tried last is what brings it back, or does not. */
const lastTried = (routes: readonly string[]): string | undefined => routes.findLast(bringsBack);

/** What a way takes and ends in, by candidate. */
export interface Row {
  readonly course: Course;
  readonly ends: readonly Ends[];
  readonly spent: readonly Spent[];
  readonly hours: readonly number[];
}

/** What a shop and its battery make of what came of it. */
export interface Terms extends Priced {
  readonly setting: Setting;
  readonly steps: StepsOf;
  readonly together: number;
  /** What becomes here of the forecast of each way, where the shop has learned that. */
  readonly ways?: Readonly<Record<string, WayFactor>>;
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
  { steps, together, ways = {} }: Terms,
): Come {
  const hands = handsBy(course, steps, together);
  if (isRetiring(course)) {
    const spent = { ...NOTHING_SPENT, handsMin: hands({ chargedH: [] }) };
    return { ends: all.map(() => CORE), spent: all.map(() => spent), hours: all.map(() => 0) };
  }
  const here = endsHere(ways[lastTried(course.routes) ?? '']);
  return {
    ends: all.map((outcome) => here(markOf(outcome))),
    spent: all.map((outcome) => spentBy(outcome, hands(outcome))),
    hours: all.map(({ hours }) => hours),
  };
}

/** What each candidate is worth that way, in the shop's money. */
export function worthsOf({ ends, spent }: Come, { battery, costs }: Priced): number[] {
  const values = GRADES.map((grade) => [grade, valueOf(grade, battery, costs)] as const);
  return ends.map((one, at) => {
    const brings = values.reduce((sum, [grade, value]) => sum + (one[grade] ?? 0) * value, 0);
    return brings - costOf(spent[at] ?? NOTHING_SPENT, costs);
  });
}

/** Odds of a grade over all of them. */
export const oddsOf = (mark: Mark, { ends }: Pick<Come, 'ends'>): number =>
  ends.reduce((sum, one) => sum + (one[mark] ?? 0), 0) / Math.max(1, ends.length);
