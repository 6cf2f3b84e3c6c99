/** A charge ended: its time is over, its readings prove it full, or its charger says so and they do not contradict. */
import { isOfEdition } from '../../entries/edition.ts';
import { RunSheetError } from '../../entries/errors.ts';
import type { StepPayloads } from '../../entries/events.ts';
import type { ChargeStep } from '../../definition/step.ts';
import { minutesLeft } from '../../plan/chargeDone.ts';
import { evidenceOf } from '../../state/context.ts';
import { isOn, minutesOnCharge } from '../../state/looks.ts';
import type { ChargeState, JobState } from '../../state/jobState.ts';
import { againstFullSignal } from '../../verdict/fullSignal.ts';
import type { AtStep } from '../atStep.ts';
import { advance, timeLeft } from '../moves.ts';
import { charging, switchedOff } from './charging.ts';

/** A lamp beside readings: they must have been taken, and must not speak against it. */
function checkFullSignal({ state, step, at, context }: AtStep, charge: ChargeState): void {
  const evidence = evidenceOf(state, step);
  if (!evidence || !isOfEdition(state.opened, 2)) return;
  const why = againstFullSignal(context, evidence, minutesOnCharge(charge, at), at);
  if (why !== undefined) throw new RunSheetError('held', why);
}

function ended({ state, at, by }: AtStep<ChargeStep>, charge: ChargeState, fullSignal: boolean): JobState {
  const { pausedFor: _over, ...rest } = switchedOff(charge, at);
  return advance(state, at, { status: 'done', charge: { ...rest, fullSignal }, by });
}

export function chargeEnded(at: AtStep, { fullSignal }: StepPayloads['chargeEnded']): JobState {
  const { charge, entry } = charging(at);
  if (charge.stopped) {
    if (isOn(charge))
      throw new RunSheetError('held', `${charge.stopped.why} Record first that the charger is off.`);
    if (entry.definition.treatment)
      throw new RunSheetError('held', `${charge.stopped.why} Leave this route and choose another way.`);
    return ended(entry, charge, false);
  }
  if (fullSignal) checkFullSignal(entry, charge);
  const leftMin = minutesLeft(entry.state, entry.step, entry.at);
  if (leftMin > 0 && !fullSignal)
    throw new RunSheetError(
      'too-early',
      `${timeLeft(0, leftMin * 60_000)} of charge are still due. Pause it, or go on until it is proven full.`,
    );
  return ended(entry, charge, fullSignal);
}
