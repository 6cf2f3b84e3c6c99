/** A step left out, or passed over with a reason where the house may. */
import { RunSheetError } from '../entries/errors.ts';
import type { StepPayloads } from '../entries/events.ts';
import { guardHold } from '../plan/guards.ts';
import type { JobState } from '../state/jobState.ts';
import type { AtStep } from './atStep.ts';
import { advance, LEAST_REASON, withStep } from './moves.ts';

export function skipped({ state, at, by, definition }: AtStep): JobState {
  if (!definition.skipLabel)
    throw new RunSheetError('bad-entry', `“${definition.title}” cannot be left out.`);
  return advance(state, at, { status: 'skipped', by });
}

export function overridden(
  { state, step, at, by, definition }: AtStep,
  payload: StepPayloads['overridden'],
): JobState {
  const reason = payload.reason.trim();
  if (reason.length < LEAST_REASON)
    throw new RunSheetError(
      'bad-entry',
      `Say in a few words why, at least ${LEAST_REASON} letters; it stands on the record.`,
    );
  if (definition.kind === 'gate' && definition.guard && guardHold(definition.guard, state, state.cursor, at))
    return withStep(state, { reason, by });
  const canOverride =
    definition.kind === 'dwell'
      ? definition.canOverride
      : step.status === 'held' && step.canOverride === true;
  if (!canOverride)
    throw new RunSheetError('held', `“${definition.title}” cannot be passed over; it must be met.`);
  return advance(state, at, { status: 'overridden', by, reason });
}
