/** Whether a charger of the shop can give the charge of a recovery that is at hand. */
import type { Charger } from '../charge/chargers.ts';
import { treatmentMisfit } from '../charge/treatmentFit.ts';
import { subjectOfType } from '../model/fromType.ts';
import { restedV } from './procedures/recovery/wakeRoutes.ts';
import type { StepContext, Treatment } from './step.ts';

/**
 * @param stepId the charge at hand; beside a donor the charger sees the donor
 * @returns why not, in one sentence; undefined when it suits
 */
export function chargerMisfit(
  charger: Charger,
  treatment: Treatment,
  context: StepContext,
  stepId: string,
): string | undefined {
  const donorV = stepId === 'donor-hour' ? context.valuesOf('donor-check')['donorV'] : undefined;
  return treatmentMisfit(
    charger,
    {
      mostA: treatment.mostA,
      ceilingV: treatment.ceilingV,
      minutes: treatment.dueMin,
      isPulsed: treatment.isPulsed ?? false,
    },
    subjectOfType(context.opened.type, {}),
    typeof donorV === 'number' ? donorV : (restedV(context) ?? 0),
  );
}
