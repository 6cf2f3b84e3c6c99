/** Resistance of a battery without a cranking rating, as a bay with an electronic load and a meter at the posts measures it. */
import type { StepPlan } from '../devices/bay/stepEngine.ts';
import { STEP } from '../runsheet/definition/stepIds.ts';
import { RunSheetError } from '../runsheet/entries/errors.ts';
import type { Entry } from '../runsheet/entries/events.ts';
import { atHand } from '../runsheet/plan/atHand.ts';
import type { JobState } from '../runsheet/state/jobState.ts';
import type { BayOutfit } from './bayRoom.ts';

export interface BayStep {
  readonly kind: 'step';
  /** Key of its step on the sheet. */
  readonly step: string;
  readonly plan: StepPlan;
  readonly isAttended: false;
  readonly restingV?: number;
  /** What it came to, Ω. */
  readonly measured: (ohms: number, source: string) => Entry;
}

/** The large current is that of an hour, the small one a fifth of it; less than a fifth of an hour's shows too little. @see IEC 61960-3:2017, 7.7.3 */
const SMALL_SHARE = 0.2;
const LEAST_SHARE = 0.2;

const refuse = (sentence: string): RunSheetError => new RunSheetError('held', sentence);

/** Whether it is graded by its resistance at this step, and not by what it cranks. */
export const isStepAt = ({ opened: { type } }: JobState, stepId: string): boolean =>
  stepId === STEP.proveLoad && type.cranking === undefined;

/**
 * @param now shop time, ms
 * @throws RunSheetError where the step at hand asks for no resistance, or the load draws too little for one
 */
export function bayStepOf(state: JobState, now: number, { source: load }: BayOutfit): BayStep {
  const hand = atHand(state, now);
  if (!hand || !isStepAt(state, hand.step.stepId)) throw refuse('The step at hand asks for no resistance.');
  if (hand.hold) throw refuse(hand.hold.why);
  const { cells, capacityAh } = state.opened.type;
  const secondA = Math.min(load.ranges.amps?.most ?? 0, capacityAh);
  if (secondA < LEAST_SHARE * capacityAh)
    throw refuse(
      `The load of this bay draws ${secondA} A at most; a step that shows its resistance takes ${(LEAST_SHARE * capacityAh).toFixed(0)} A.`,
    );
  const restingV = hand.context.standingV();
  return {
    kind: 'step',
    step: hand.step.key,
    plan: { firstA: SMALL_SHARE * secondA, secondA, cells },
    isAttended: false,
    ...(restingV === undefined ? {} : { restingV }),
    measured: (ohms, source) => ({
      kind: 'measured',
      payload: {
        step: hand.step.key,
        values: { method: 'ohm', milliohm: Number((ohms * 1000).toFixed(1)) },
        source: `${source}, by a step of current`,
      },
    }),
  };
}
