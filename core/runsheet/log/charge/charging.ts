/** A charge that has been switched on, as an entry at its step finds it. */
import type { ChargeStep } from '../../definition/step.ts';
import { RunSheetError } from '../../entries/errors.ts';
import { SHELF } from '../../entries/place.ts';
import type { ChargeState, JobState } from '../../state/jobState.ts';
import type { AtStep } from '../atStep.ts';

/** A knob turned exactly to what is allowed, A and V. */
export const HAIR = 1e-9;

/**
 * The charge of the step at hand.
 * @throws RunSheetError where it is no charge, or the charger has not been on yet
 */
export function charging(entry: AtStep): {
  readonly charge: ChargeState;
  readonly entry: AtStep<ChargeStep>;
} {
  const here = entry.as('charge');
  const { charge } = here.step;
  if (!charge) throw new RunSheetError('bad-entry', 'The charger has not been switched on yet.');
  return { charge, entry: here };
}

/** The charge with its charger off from this moment on. */
export function switchedOff(charge: ChargeState, at: number): ChargeState {
  return { ...charge, runs: charge.runs.map((run) => (run.to === undefined ? { ...run, to: at } : run)) };
}

/** @throws RunSheetError on the shelf */
export function assertInBay({ bay }: JobState): void {
  if (bay === SHELF)
    throw new RunSheetError(
      'held',
      'It stands on the shelf, where there is no charger: move it to a bay first.',
    );
}
