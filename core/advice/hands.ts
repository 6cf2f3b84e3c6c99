/** What a course takes of hands and of the bay, from how it went. */
import type { Course } from './courses.ts';
import type { Outcome } from './outcome.ts';
import type { Spent } from './worth.ts';

/** Of hands at the run sheet for one look at a running charge (practice). */
const LOOK_MIN = 1;

/** Steps of a route by its name. */
export type StepsOf = (
  route: string,
) => readonly { readonly handsMin: number; readonly lookEveryMin?: number }[];

type Charged = Pick<Outcome, 'chargedH'>;

/**
 * Minutes of hands of a course, by its run sheet: each step's own, and a look as often as each charge wants one.
 * @param together batteries looked at in one round: a look is shared by them
 * @returns what it takes of hands as it went on one battery; asked of many, the sheet is read once
 */
export function handsBy(
  course: Pick<Course, 'id' | 'routes'>,
  stepsOf: StepsOf,
  together = 1,
): (outcome: Charged) => number {
  const prove = course.id === 'retire' ? [] : ['prove'];
  const routes = [...new Set([...course.routes, ...prove])];
  const own = routes.flatMap(stepsOf).reduce((sum, { handsMin }) => sum + handsMin, 0);
  const known = new Map<string, number>();
  const everyMinOf = (route: string): number => {
    const everyMin =
      known.get(route) ?? Math.min(...stepsOf(route).map(({ lookEveryMin }) => lookEveryMin ?? Infinity));
    known.set(route, everyMin);
    return everyMin;
  };
  return ({ chargedH }) =>
    chargedH.reduce((sum, { route, hours }) => {
      const everyMin = everyMinOf(route);
      return Number.isFinite(everyMin)
        ? sum + (Math.ceil((hours * 60) / everyMin) * LOOK_MIN) / together
        : sum;
    }, own);
}

/** The same of one battery alone. */
export const handsMinOf = (
  course: Pick<Course, 'id' | 'routes'>,
  outcome: Charged,
  stepsOf: StepsOf,
  together = 1,
): number => handsBy(course, stepsOf, together)(outcome);

export const spentBy = (outcome: Outcome, handsMin: number): Spent => ({
  handsMin,
  bayH: outcome.chargedH.reduce((sum, { hours }) => sum + hours, 0),
  mainsWh: outcome.mainsWh,
  waterMl: outcome.waterMl,
});
