/** The moves every entry is made of: mark the step at hand, hold it, go on, end the job. */
import { checkReading } from '../../units/reading.ts';
import { openNext } from '../state/ahead.ts';
import { RunSheetError } from '../entries/errors.ts';
import { definitionOf } from '../state/sheet.ts';
import type { JobState, StepState } from '../state/jobState.ts';
import type { Outcome } from '../definition/step.ts';

/** Letters of a reason that stands on the record. */
export const LEAST_REASON = 8;

export function withStep(state: JobState, patch: Partial<StepState>, index = state.cursor): JobState {
  const steps = state.steps.slice();
  const before = steps[index];
  if (before) steps[index] = { ...before, ...patch };
  return { ...state, steps };
}

/** Marks the step at hand and opens the next that has something to ask. */
export function advance(state: JobState, at: number, patch: Partial<StepState>): JobState {
  return openNext(withStep(state, { ...patch, doneAt: at }), state.cursor + 1, at);
}

export function hold(
  state: JobState,
  why: string,
  canOverride: boolean,
  patch: Partial<StepState> = {},
): JobState {
  return withStep(state, { ...patch, status: 'held', why, canOverride });
}

/**
 * Leaves out what is left of the round, up to the step at which the next route is chosen.
 * @param patch what becomes of the step at hand
 */
export function skipToRoute(state: JobState, at: number, patch: Partial<StepState>): JobState {
  const next = state.steps.findIndex(
    (step, index) => index > state.cursor && definitionOf(state, step).kind === 'route',
  );
  if (next < 0) return state;
  const steps = state.steps.map((step, index): StepState => {
    if (index === state.cursor) return { ...step, ...patch, doneAt: at };
    if (index > state.cursor && index < next) return { ...step, status: 'skipped', openedAt: at, doneAt: at };
    return index === next ? { ...step, status: 'open', openedAt: at } : step;
  });
  return { ...state, steps, cursor: next };
}

export function endJob(state: JobState, at: number, outcome: Outcome, outcomeNote: string): JobState {
  return { ...state, outcome, outcomeNote, endedAt: at };
}

/** "1 h 05 min" until a moment. */
export function timeLeft(fromMs: number, toMs: number): string {
  const minutes = Math.max(1, Math.ceil((toMs - fromMs) / 60_000));
  return minutes < 60
    ? `${minutes} min`
    : `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, '0')} min`;
}

export function possibleNumber(value: unknown, spec: Parameters<typeof checkReading>[1]): number {
  if (typeof value !== 'number' || !Number.isFinite(value))
    throw new RunSheetError(
      'bad-entry',
      `${spec.label}: a number is needed, ${spec.possible.min} to ${spec.possible.max} ${spec.unit}.`,
    );
  const checked = checkReading(value, spec);
  if (checked.kind === 'refused') throw new RunSheetError('bad-entry', checked.sentence);
  if (checked.kind === 'ask' && checked.value === undefined)
    throw new RunSheetError(
      'bad-entry',
      `${spec.label}: ${value} ${spec.unit} cannot be; did you mean ${checked.question}`,
    );
  return value;
}
