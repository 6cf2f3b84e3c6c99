/** A job's procedure, and the definitions behind its steps. */
import type { Procedure, Step } from '../definition/step.ts';
import { RunSheetError } from '../entries/errors.ts';
import type { OpenedPayload } from '../entries/events.ts';
import { procedureById } from '../procedures/procedures.ts';
import type { JobState, StepState } from './jobState.ts';

export function procedureOf(state: JobState): Procedure {
  return procedureById(state.opened.procedure, state.opened.edition ?? 1);
}

/** Rounds a job may go through its loop. */
export const mostRounds = (state: JobState): number => procedureOf(state).loop.repeats + 1;

/** Steps by name, looked up once per procedure. */
const stepsById = new WeakMap<Procedure, Map<string, Step>>();

function stepIndex(procedure: Procedure): Map<string, Step> {
  const known = stepsById.get(procedure);
  if (known) return known;
  const all = [...procedure.steps, ...(procedure.routes ?? []).flatMap(({ steps }) => steps)];
  const index = new Map(all.map((step) => [step.id, step]));
  stepsById.set(procedure, index);
  return index;
}

/** What stands behind a step's key, "charge#2"; undefined where this procedure has none of the name. */
export const stepOf = (state: JobState, key: string): Step | undefined =>
  stepIndex(procedureOf(state)).get(key.split('#', 1)[0] ?? key);

/** The definition behind a step of a job. */
export function definitionOf(state: JobState, step: StepState): Step {
  const found = stepIndex(procedureOf(state)).get(step.stepId);
  if (!found) throw new RunSheetError('bad-entry', `The run sheet has no step “${step.stepId}”.`);
  return found;
}

/**
 * Of these steps the ones a house goes through, in one round.
 * @param isRepeat a house may leave a step out the first time, and go through it in repeats
 */
export function applicableSteps(
  { steps }: Pick<Procedure, 'steps'>,
  opened: OpenedPayload,
  isRepeat = false,
): Step[] {
  const edition = opened.edition ?? 1;
  return steps.filter(
    ({ when, asked, inRepeats, editions: { from = 1, to = edition } = {}, isFor }) =>
      (!when || (isRepeat && inRepeats) || when.isOneOf.includes(opened.rules[when.rule])) &&
      (asked === undefined || opened[asked] === true) &&
      edition >= from &&
      edition <= to &&
      (isFor?.(opened.type) ?? true),
  );
}
