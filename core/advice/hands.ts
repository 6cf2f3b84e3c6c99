/** What a course takes of hands and of the bay, from how it went. */
import type { Course } from './courses.ts';
import type { Outcome } from './outcome.ts';
import type { Spent } from './worth.ts';

/** Of hands at the run sheet for one look at a running charge (practice). */
const LOOK_MIN = 1;

/**
 * Minutes of hands of a course, by its run sheet: each step's own, and a look as often as each charge wants one.
 * @param stepsOf steps of a route by its name
 * @param together batteries looked at in one round: a look is shared by them
 */
export function handsMinOf(
  course: Pick<Course, 'id' | 'routes'>,
  outcome: Pick<Outcome, 'chargedH'>,
  stepsOf: (route: string) => readonly { readonly handsMin: number; readonly lookEveryMin?: number }[],
  together = 1,
): number {
  const prove = course.id === 'retire' ? [] : ['prove'];
  const routes = [...new Set([...course.routes, ...prove])];
  const own = routes.flatMap(stepsOf).reduce((sum, { handsMin }) => sum + handsMin, 0);
  const looks = outcome.chargedH.reduce((sum, { route, hours }) => {
    const everyMin = Math.min(...stepsOf(route).map(({ lookEveryMin }) => lookEveryMin ?? Infinity));
    return sum + (Number.isFinite(everyMin) ? (Math.ceil((hours * 60) / everyMin) * LOOK_MIN) / together : 0);
  }, 0);
  return own + looks;
}

export const spentBy = (outcome: Outcome, handsMin: number): Spent => ({
  handsMin,
  bayH: outcome.chargedH.reduce((sum, { hours }) => sum + hours, 0),
  mainsWh: outcome.mainsWh,
  waterMl: outcome.waterMl,
});
