/** What the ways by charging share: the vetoes of a deep battery, and the reading after a charge. */
import { onSix } from '../../../battery/types.ts';
import { refusalOf } from '../../../charge/library.ts';
import type { ProfileId } from '../../../charge/profile.ts';
import { subjectOfType } from '../../../charge/subject.ts';
import { temperatureField, voltageField } from '../../definition/fields.ts';
import { isOfEdition } from '../../entries/edition.ts';
import type { Step, StepContext, Veto } from '../../definition/step.ts';
import { restedV } from '../../definition/restedSteps.ts';

export const isFlooded = ({ opened: { type } }: StepContext): boolean => type.construction === 'flooded';
/** No reason passes over it. */
export const hard = (why: string): Veto => ({ why, canOverride: false });
/** Why a plan is not for this battery, in the plan's own words. */
export const refusedPlan = (id: ProfileId, { opened: { type } }: StepContext): string =>
  refusalOf(id, subjectOfType(type)) ?? '';
/** A reason on the record passes over it. */
export const byHouse = (why: string): Veto => ({ why, canOverride: true });

export const tooDeep = (context: StepContext): Veto | undefined => {
  const volts = restedV(context);
  const wakes = onSix(10.5, context.opened.type);
  // Every wake ends with a reading; until one says otherwise it is as deep as it was, whatever way was left.
  const isAsItCame = isOfEdition(context.opened, 3) || context.routes.length === 0;
  return volts !== undefined && volts < wakes && isAsItCame
    ? byHouse(
        `${volts.toFixed(2)} V: below ${wakes.toFixed(2)} V it is woken first, or the charger will not see it.`,
      )
    : undefined;
};

/** Rested after a charge, whichever route it was. */
export const readRested: Step = {
  kind: 'measure',
  id: 'after-charge',
  title: 'Read it rested',
  detail: () => 'Nothing connected for an hour at least: sooner the meter reads surface charge.',
  fields: [
    voltageField({
      id: 'ocvV',
      label: 'Open-circuit voltage',
      plausible: [10, 13.2],
      quantity: 'voltage',
    }),
    temperatureField,
  ],
  holds: () => undefined,
  denials: [],
  lookAfterMin: () => 60,
  handsMin: 1,
  overdueAfterMin: 240,
  cautions: [],
};
