/** Where a battery is read at rest after something was done to it, and whether it was drawn down since. */
import { STEP } from './stepIds.ts';
import type { StepContext } from './step.ts';

/** Steps whose voltage is a rested one, within a round the latest first. */
export const READ_RESTED: readonly string[] = [
  STEP.holdRead,
  STEP.holdOcv,
  STEP.proveOcv,
  STEP.donorReadLate,
  STEP.supplyReadLate,
  STEP.forcedReadLate,
  STEP.pulseRead,
  STEP.cycleRead,
  STEP.afterCharge,
];

const RESTED = [...READ_RESTED, STEP.firstOcv];

/** The last rested voltage known of it, whichever step read it. */
export function restedV(context: StepContext): number | undefined {
  for (let { round } = context; round > 0; round--)
    for (const step of RESTED) {
      const { ocvV } = context.valuesIn(step, round);
      if (typeof ocvV === 'number') return ocvV;
    }
  return undefined;
}

/** Steps after which it is drawn down, and the readings of the same round that came later. */
const DRAWN_DOWN = [STEP.proveCapacity, STEP.cycleEnd] as const;
const READ_AFTER_DRAWING = [STEP.holdOcv, STEP.cycleRead] as const;

/** Whether it was discharged since it was last read at rest: what was read before says nothing of its charge now. */
export function isDrawnDown(context: StepContext): boolean {
  for (let { round } = context; round > 0; round--) {
    const has = (step: string): boolean => Object.keys(context.valuesIn(step, round)).length > 0;
    if (READ_AFTER_DRAWING.some(has)) return false;
    if (DRAWN_DOWN.some(has)) return true;
    if (RESTED.some(has)) return false;
  }
  return false;
}
