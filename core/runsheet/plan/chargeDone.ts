/** Whether a charge may be ended well: its looks say so, or its time is up. */
import { isDone } from '../verdict/chargeLimits.ts';
import { chargeDueMin } from './forecast.ts';
import { contextOf, evidenceOf } from '../state/context.ts';
import { definitionOf } from '../state/sheet.ts';
import { minutesOnCharge } from '../state/looks.ts';
import type { JobState, StepState } from '../state/jobState.ts';

/** Whether the looks say that it is done, not before the least time its kind or its label asks for. */
export function isDoneByLooks(state: JobState, step: StepState, at: number): boolean {
  const evidence = evidenceOf(state, step);
  const definition = definitionOf(state, step);
  if (!evidence || !step.charge || definition.kind !== 'charge') return false;
  const context = contextOf(state, step.round);
  const leastMin = definition.treatment ? 0 : context.chargeSetting(step.charge.currentA).leastMin;
  return minutesOnCharge(step.charge, at) >= leastMin && isDone(context, evidence);
}

/** Minutes of charge still due; 0 once it may be ended. */
export function minutesLeft(state: JobState, step: StepState, at: number): number {
  if (!step.charge || isDoneByLooks(state, step, at)) return 0;
  return Math.max(0, chargeDueMin(state, step) - minutesOnCharge(step.charge, at));
}
