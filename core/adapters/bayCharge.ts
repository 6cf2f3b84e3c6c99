/** The charge at hand of a run sheet, as a bay with a supply of its own gives it; and what a look at it asks the bay to do. */
import { CONSTRUCTION } from '../battery/construction.ts';
import { onSix } from '../battery/types.ts';
import { planFor, wakingPlan } from '../charge/library.ts';
import { heldPlan } from '../charge/held.ts';
import type { Profile, Subject } from '../charge/profile.ts';
import { subjectOfType } from '../charge/subject.ts';
import type { Treatment } from '../runsheet/definition/step.ts';
import { STEP } from '../runsheet/definition/stepIds.ts';
import { isDrawnDown } from '../runsheet/definition/restedSteps.ts';
import { RunSheetError } from '../runsheet/entries/errors.ts';
import type { Entry } from '../runsheet/entries/events.ts';
import { atHand, treatmentOf } from '../runsheet/plan/atHand.ts';
import { isDoneByLooks } from '../runsheet/plan/chargeDone.ts';
import type { JobState } from '../runsheet/state/jobState.ts';
import { limitsOf } from '../runsheet/verdict/chargeLimits.ts';
import { chargerOf, gassingOf, type BayOutfit, type Gassing } from './bayRoom.ts';

export interface BayCharge {
  readonly kind: 'charge';
  /** Key of its step. */
  readonly step: string;
  readonly plan: Profile;
  readonly subject: Subject;
  /** As the sheet has it set, A. */
  readonly setA: number;
  /** Somebody stands beside it as long as it is on. */
  readonly isAttended: boolean;
  readonly gassing: Gassing;
  /** What it last stood at by its readings, V; none once a charge has lifted it, or it was drawn down. */
  readonly restingV?: number;
  /** What is recorded when it goes on. @throws RunSheetError where it goes on again and nothing reads its warmth */
  readonly begins: (tempC: number | undefined) => Entry;
}

const refuse = (sentence: string): RunSheetError => new RunSheetError('held', sentence);

/** Ways with stages of their own: a wake that begins small, and pulses. Every other is held as the sheet sets it. */
function planAt(step: string, subject: Subject, treatment: Treatment | undefined): Profile | undefined {
  if (step === STEP.supplyCharge) return wakingPlan(subject);
  return treatment?.isPulsed ? planFor('pulse', subject) : undefined;
}

/**
 * @param now shop time, ms
 * @param outfit what stands in the bay, where the sheet is to know its supply as a charger
 * @throws RunSheetError where the step at hand is no charge that may go on now, or none a supply can give
 */
export function bayChargeOf(state: JobState, now: number, outfit?: BayOutfit): BayCharge {
  const hand = atHand(state, now);
  if (hand?.definition.kind !== 'charge') throw refuse('The step at hand is no charge.');
  const { definition, context, step, phase } = hand;
  const isResumed = phase === 'stopped' || phase === 'cooling';
  if (hand.hold && !isResumed) throw refuse(hand.hold.why);
  if (phase !== 'ready' && !isResumed)
    throw refuse('A charger is on by the run sheet, or the charge is over: end or pause it there first.');
  const treatment = definition.treatment?.(context);
  const setting = treatment ? undefined : context.chargeSetting();
  const setA = step.charge?.currentA ?? treatment?.setA ?? setting?.current.value ?? 0;
  const dueMin = step.charge?.dueMin ?? treatment?.dueMin ?? context.chargeSetting(setA).totalMin;
  const limits = limitsOf(context, definition, dueMin);
  const { type } = state.opened;
  const charger = outfit && chargerOf(outfit);
  const wasCharged = state.steps.some(({ charge }) => charge !== undefined);
  const restingV = wasCharged || isDrawnDown(context) ? undefined : context.standingV();
  // Above what the cold may bring a charge to, a way wakes the battery, at a small current.
  const isWaking = limits.ceilingV > onSix(CONSTRUCTION[type.construction].coldMostV, type);
  const purpose = treatment ? (isWaking ? 'wake' : 'charge') : 'first-charge';
  const subject = subjectOfType(type, context.basis.entered);
  return {
    kind: 'charge',
    step: step.key,
    plan:
      planAt(step.stepId, subject, treatment) ??
      heldPlan(setA, limits.ceilingV, limits.mostMin * 60, purpose, limits.isCompensated),
    subject,
    setA,
    isAttended: treatment?.isAttended ?? false,
    gassing: gassingOf(state, setA, limits.ceilingV),
    ...(restingV === undefined ? {} : { restingV }),
    begins: (tempC) => {
      if (!isResumed)
        return {
          kind: 'chargeStarted',
          payload: {
            step: step.key,
            currentA: setA,
            ...(treatment ? {} : { dueMin }),
            ...(charger ? { charger } : {}),
          },
        };
      if (tempC === undefined)
        throw refuse('A charge goes on again by its warmth, and nothing here reads it: resume it by hand.');
      return { kind: 'chargeResumed', payload: { step: step.key, tempC } };
    },
  };
}

/** What the run sheet makes of the looks so far: go on, off because it is done, or off because of what was seen. */
export type BayVerdict =
  | { readonly go: 'on' }
  | { readonly go: 'done' }
  | { readonly go: 'off'; readonly why: string; readonly isHot: boolean };

/** @param step key of the charge; one that is not at hand any more is off */
export function bayVerdict(state: JobState, step: string, now: number): BayVerdict {
  const hand = atHand(state, now);
  if (hand?.step.key !== step || !hand.step.charge)
    return { go: 'off', why: 'The charge was ended on the run sheet.', isHot: false };
  const { charge } = hand.step;
  if (charge.pausedFor !== undefined)
    return { go: 'off', why: 'The charge was paused on the run sheet.', isHot: false };
  if (hand.phase === 'tooHot')
    return { go: 'off', why: hand.hold?.why ?? 'The run sheet says: charger off.', isHot: !charge.stopped };
  // A way's charge is over when its time is, whatever it reads; a first charge goes on until it is proven.
  const isOver = hand.phase === 'complete' && treatmentOf(hand.state, hand.step) !== undefined;
  return isOver || isDoneByLooks(hand.state, hand.step, now) ? { go: 'done' } : { go: 'on' };
}
