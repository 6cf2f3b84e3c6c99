/** Current or voltage of a charge that somebody stands by, set anew. */
import { RunSheetError } from '../../entries/errors.ts';
import type { StepPayloads } from '../../entries/events.ts';
import type { ChargeState, JobState } from '../../state/jobState.ts';
import { isOn } from '../../state/looks.ts';
import type { AtStep } from '../atStep.ts';
import { withStep } from '../moves.ts';
import { charging, HAIR } from './charging.ts';

/** Lower than this nothing is charged, V a cell: twelve on six. */
const WAKES_CELL_V = 2;
/** Less than this of what is set is not yet taken: more is of no use to it. */
const TAKES_SHARE = 0.9;

/** @throws RunSheetError while no look shows that it takes what is set */
function checkTakes({ state, step, at }: AtStep, { currentA, wasSet, runs }: ChargeState): void {
  const setAt = wasSet?.at(-1)?.to ?? runs[0]?.from ?? at;
  const look = state.readings?.step === step.key ? state.readings.reading : undefined;
  if (!look || look.at <= setAt)
    throw new RunSheetError(
      'held',
      `Look first: more than ${currentA.toFixed(2)} A is set once a look shows that it takes that.`,
    );
  if (look.currentA < TAKES_SHARE * currentA)
    throw new RunSheetError(
      'held',
      `It takes ${look.currentA.toFixed(2)} of ${currentA.toFixed(2)} A: more is set once it takes what is set.`,
    );
}

/**
 * Another current or voltage: never above what its way allows or its charger gives, and more only once a look has shown
 * that it takes what is set.
 */
export function chargeSet(at: AtStep, payload: StepPayloads['chargeSet']): JobState {
  const { charge, entry } = charging(at);
  const { state, by, context, definition } = entry;
  const treatment = definition.treatment?.(context);
  if (!treatment?.isAttended)
    throw new RunSheetError('held', `“${definition.title}” keeps the current it was started with.`);
  if (!isOn(charge) || charge.stopped)
    throw new RunSheetError('held', 'The charger is off: set the current as it goes on again.');
  const { setA, mostA, ceilingV } = treatment;
  const { currentA = charge.currentA, voltageV } = payload;
  const leastV = WAKES_CELL_V * state.opened.type.cells;
  if (voltageV !== undefined && !(voltageV >= leastV - HAIR && voltageV <= ceilingV + HAIR))
    throw new RunSheetError(
      'bad-entry',
      `Charge voltage: ${voltageV} V is outside ${leastV.toFixed(1)} to ${ceilingV.toFixed(1)} V for this route.`,
    );
  const most = Math.min(mostA, charge.charger?.mostA ?? mostA);
  const least = Math.max(setA / 10, charge.charger?.leastA ?? 0);
  if (!(currentA >= least - HAIR && currentA <= most + HAIR))
    throw new RunSheetError(
      'bad-entry',
      `Charge current: ${currentA} A is outside ${least.toFixed(2)} to ${most.toFixed(2)} A for this route.`,
    );
  const isSame = Math.abs(currentA - charge.currentA) < HAIR;
  if (voltageV === undefined && isSame)
    throw new RunSheetError('bad-entry', `It is set to ${currentA.toFixed(2)} A already.`);
  if (currentA > charge.currentA) checkTakes(entry, charge);
  const setV = voltageV === undefined ? {} : { setV: voltageV };
  if (isSame) return withStep(state, { charge: { ...charge, ...setV }, by });
  const wasSet = [...(charge.wasSet ?? []), { currentA: charge.currentA, to: entry.at }];
  return withStep(state, { charge: { ...charge, ...setV, currentA, wasSet }, by });
}
