/** A charger off for a while, because it was too hot or for another reason, and on again. */
import { MOST_HOT_PAUSES } from '../../../charge/engine.ts';
import { TEMPERATURE_SPEC } from '../../definition/fields.ts';
import { isOfEdition } from '../../entries/edition.ts';
import { RunSheetError } from '../../entries/errors.ts';
import type { StepPayloads } from '../../entries/events.ts';
import type { ChargeState, JobState } from '../../state/jobState.ts';
import { isOn } from '../../state/looks.ts';
import type { AtStep } from '../atStep.ts';
import { hold, possibleNumber, withStep } from '../moves.ts';
import { assertInBay, charging, switchedOff } from './charging.ts';

const OVER = 'It does not go on again.';

/** A sound battery cools once: hot again and again is the end of it. */
function stoppedByHeat({ state }: AtStep, isHot: boolean, hotPauses: number): ChargeState['stopped'] {
  return isHot && hotPauses >= MOST_HOT_PAUSES && isOfEdition(state.opened, 2)
    ? { rule: 'hot', why: 'Too hot for the third time: a sound battery cools once. Suspect a shorted cell.' }
    : undefined;
}

export function chargePaused(at: AtStep, { reason }: StepPayloads['chargePaused']): JobState {
  const { charge, entry } = charging(at);
  const { state, by } = entry;
  if (!isOn(charge)) throw new RunSheetError('bad-entry', 'The charger is already off.');
  const isHot = reason === 'hot';
  const hotPauses = charge.hotPauses + (isHot ? 1 : 0);
  const paused: ChargeState = { ...switchedOff(charge, entry.at), pausedFor: reason, hotPauses };
  const stopped = charge.stopped ?? stoppedByHeat(entry, isHot, hotPauses);
  if (stopped)
    return hold(state, `Stopped: ${stopped.why} ${OVER}`, false, { charge: { ...paused, stopped }, by });
  const why = isHot
    ? 'Too hot: the charger is off while it cools. The lost time is added.'
    : 'The charger is off. The lost time is added; what was flat before proves nothing.';
  return hold(state, why, false, { charge: paused, by });
}

export function chargeResumed(at: AtStep, { tempC }: StepPayloads['chargeResumed']): JobState {
  const { charge, entry } = charging(at);
  const { state, by, context } = entry;
  if (isOn(charge)) throw new RunSheetError('bad-entry', 'The charger is already on.');
  assertInBay(state);
  if (charge.stopped) throw new RunSheetError('held', `${charge.stopped.why} It is not switched on again.`);
  possibleNumber(tempC, TEMPERATURE_SPEC);
  const below = context.threshold('hotResumeC').value;
  if (tempC >= below)
    throw new RunSheetError(
      'held',
      `${tempC.toFixed(1)} °C: it must be below ${below} °C before the charger goes on again.`,
    );
  const { pausedFor: _over, ...rest } = charge;
  const runs = [...charge.runs, { from: entry.at }];
  return withStep(state, { status: 'open', charge: { ...rest, runs }, by });
}
