/** Whether a charger of the shop can give the charge of a recovery that is at hand. */
import { STEP } from '../definition/stepIds.ts';
import type { Charger } from '../../charge/charger.ts';
import { chargerRefusal } from '../../charge/judge.ts';
import type { StepContext, Treatment } from '../definition/step.ts';

/**
 * @param stepId the charge at hand; beside a donor the charger sees the donor
 * @returns why not, in one sentence; undefined when it suits
 */
export function chargerMisfit(
  charger: Charger,
  { setA, mostA, ceilingV, isPulsed, isAttended, end }: Treatment,
  context: StepContext,
  stepId: string,
): string | undefined {
  const { type } = context.opened;
  const donorV = stepId === STEP.donorHour ? context.valuesOf(STEP.donorCheck)['donorV'] : undefined;
  return chargerRefusal(charger, {
    construction: type.construction,
    cells: type.cells,
    askedA: setA,
    mostA,
    ceilingV,
    standsV: typeof donorV === 'number' ? donorV : (context.standingV() ?? 0),
    current: isPulsed ? 'pulsed' : 'either',
    // What only wakes it, or goes by the clock, need not fill it.
    fills: end.on === 'full' || end.on === 'flat',
    isWatched: isAttended,
  });
}
