/** A charge in a bay that gives and watches it by itself: nobody is asked for its looks, nor to switch it off. */
import { isOfABay } from '../../charge/charger.ts';
import type { ChargeStep } from '../definition/step.ts';
import { contextOf } from '../state/context.ts';
import type { JobState, StepState } from '../state/jobState.ts';
import { isOn, lastReadingOf } from '../state/looks.ts';

/** Looks of such a bay come onto the run sheet so often, min. */
export const BAY_LOOK_MIN = 15;
const MINUTE = 60_000;

/**
 * Whether a charge that is on is seen to by its bay. Without a look for two of its turns it is not: nothing reads its warmth there, and hands
 * are asked for as at any other.
 * @param at shop time, ms
 */
export function isWatched(state: JobState, step: StepState, definition: ChargeStep, at: number): boolean {
  const { charge } = step;
  if (!charge?.charger || !isOfABay(charge.charger) || !isOn(charge) || charge.stopped) return false;
  if (definition.treatment?.(contextOf(state, step.round)).isAttended) return false;
  const since = Math.max(charge.runs.at(-1)?.from ?? 0, lastReadingOf(state, step.key)?.at ?? 0);
  return at - since <= 2 * BAY_LOOK_MIN * MINUTE;
}
