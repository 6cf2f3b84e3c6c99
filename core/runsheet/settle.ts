/** Dwells end by themselves: time alone moves a job past them. */
import { openNext } from './ahead.ts';
import { definitionOf, dwellEnd, type JobState } from './state.ts';

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
