/** A verdict signed: what the readings say, or stricter; a repeat puts the loop's steps in again. */
import { RunSheetError } from '../entries/errors.ts';
import type { StepPayloads, Verdict } from '../entries/events.ts';
import { keyOf, type JobState, type StepState } from '../state/jobState.ts';
import { applicableSteps, procedureOf } from '../state/sheet.ts';
import type { AtStep } from './atStep.ts';
import { advance, endJob, skipToRoute, withStep } from './moves.ts';

function rejected({ state, step, at, by }: AtStep, verdict: Verdict): JobState {
  const marked = withStep(state, { status: 'done', verdict, by, doneAt: at });
  return procedureOf(state).routes
    ? endJob(marked, at, 'retired', 'Graded R: to the recycler.')
    : endJob(marked, at, 'rejected', `Rejected at the test of charge ${step.round}.`);
}

export function decided(entry: AtStep, { verdict }: StepPayloads['decided']): JobState {
  const { state, step, at, by, context, definition } = entry.as('decide');
  const { verdict: judged } = definition.judge(context);
  // A person may sign what the readings say, or a stricter verdict.
  if (verdict !== judged && verdict !== 'reject')
    throw new RunSheetError('held', `The readings do not allow “${verdict}”; they say “${judged}”.`);
  if (verdict === 'reject') return rejected(entry, verdict);
  const signed = { status: 'done', verdict, by } as const;
  if (verdict === 'pass') return advance(state, at, signed);
  if (procedureOf(state).routes) return skipToRoute(state, at, signed);
  return advance(withRepeat(state, step.round + 1), at, signed);
}

/** Puts the loop's steps in again behind the verdict. */
function withRepeat(state: JobState, round: number): JobState {
  const procedure = procedureOf(state);
  const steps = applicableSteps(procedure, state.opened, true);
  const from = steps.findIndex((step) => procedure.loop.from.includes(step.id));
  const to = steps.findIndex((step) => step.id === procedure.loop.to);
  const again = steps
    .slice(from, to + 1)
    .filter((step) => !step.oncePerJob)
    .map((step): StepState => ({ key: keyOf(step.id, round), stepId: step.id, round, status: 'ahead' }));
  return {
    ...state,
    steps: [...state.steps.slice(0, state.cursor + 1), ...again, ...state.steps.slice(state.cursor + 1)],
  };
}
