/** Dwells end by themselves: time alone moves a job past them. */
import { openNext } from './ahead.ts';
import { contextOf } from './context.ts';
import { definitionOf } from './sheet.ts';
import { latest, type JobState, type StepState } from './jobState.ts';

const MINUTE = 60_000;

/** When a dwell's minimum is over; undefined until its clock has started. */
export function dwellEnd(state: JobState, step: StepState): number | undefined {
  const definition = definitionOf(state, step);
  if (definition.kind !== 'dwell') return undefined;
  const context = contextOf(state, step.round);
  const start = latest(state, definition.clockStart(context), step.round)?.doneAt;
  if (start === undefined) return undefined;
  return start + context.threshold(definition.minimum).value * MINUTE;
}

/**
 * The state at a moment: every dwell whose minimum is over by then is done, at the time it was over.
 * The next step opens at that time.
 */
export function settle(state: JobState, at: number): JobState {
  let settled = state;
  while (!settled.outcome) {
    const step = settled.steps[settled.cursor];
    if (!step || definitionOf(settled, step).kind !== 'dwell') return settled;
    const end = dwellEnd(settled, step);
    if (end === undefined || end > at) return settled;
    const doneAt = Math.max(end, step.openedAt ?? end);
    const steps = settled.steps.slice();
    steps[settled.cursor] = { ...step, status: 'done', doneAt };
    settled = openNext({ ...settled, steps }, settled.cursor + 1, doneAt);
  }
  return settled;
}
