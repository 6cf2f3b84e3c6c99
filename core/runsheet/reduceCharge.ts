/** Entries of a charge: on, looked at, off because hot, on again, ended. */
import { absoluteCeilingA } from '../charge/firstCharge.ts';
import type { ChargeReading } from '../charge/proofOfFull.ts';
import { fitFirstCharge } from '../charge/firstChargeFit.ts';
import { chargerMisfit } from './chargerFit.ts';
import { RunSheetError } from './errors.ts';
import { chargeSpecs, TEMPERATURE_SPEC } from './fields.ts';
import { chargeDueMin } from './forecast.ts';
import {
  advance,
  atHand,
  expectKind,
  hold,
  possibleNumber,
  timeLeft,
  withStep,
  type EventOf,
} from './moves.ts';
import {
  basisOf,
  contextOf,
  minutesOnCharge,
  readingsOf,
  type ChargeState,
  type JobState,
  type StepState,
} from './state.ts';
import type { ChargeStep, Treatment } from './step.ts';
import { firstStop } from './stopRules.ts';
import { resolveThreshold, type Basis } from './thresholds.ts';

function chargeAtHand(
  state: JobState,
  stepKey: string,
  at: number,
): { definition: ChargeStep; step: StepState } {
  const { step, definition } = atHand(state, stepKey, at);
  return { step, definition: expectKind(definition, ['charge']) };
}

export function runningCharge(
  state: JobState,
  stepKey: string,
  at: number,
): { step: StepState; charge: ChargeState; definition: ChargeStep } {
  const { step, definition } = chargeAtHand(state, stepKey, at);
  if (!step.charge) throw new RunSheetError('bad-entry', 'The charger has not been switched on yet.');
  return { step, charge: step.charge, definition };
}

export const isOn = (charge: ChargeState): boolean => charge.pausedFor === undefined;

function stopped(charge: ChargeState, at: number): ChargeState {
  return { ...charge, runs: charge.runs.map((run) => (run.to === undefined ? { ...run, to: at } : run)) };
}

/** Longest first charge: two days. */
const MOST_DUE_MIN = 48 * 60;

/** A charge of a recovery: its own limits, and no charger that gives more. */
function treatmentStarted(
  state: JobState,
  { at, by, payload }: EventOf<'chargeStarted'>,
  treatment: Treatment,
  { stepId, round }: StepState,
): JobState {
  const { setA, mostA } = treatment;
  if (!(payload.currentA >= setA / 10 && payload.currentA <= mostA + 1e-9))
    throw new RunSheetError(
      'bad-entry',
      `Charge current: ${payload.currentA} A is outside ${(setA / 10).toFixed(2)} to ${mostA.toFixed(2)} A for this route.`,
    );
  const { charger } = payload;
  const why = charger && chargerMisfit(charger, treatment, contextOf(state, round), stepId);
  if (why !== undefined) throw new RunSheetError('held', why);
  if (charger && payload.currentA > charger.mostA + 1e-9)
    throw new RunSheetError(
      'bad-entry',
      `${charger.name}: gives ${charger.mostA} A at most; it cannot be set to ${payload.currentA} A.`,
    );
  const charge: ChargeState = {
    currentA: payload.currentA,
    dueMin: treatment.dueMin,
    ...(charger ? { charger } : {}),
    runs: [{ from: at }],
    fullSignal: false,
  };
  return withStep(state, { charge, by });
}

export function chargeStarted(state: JobState, { at, by, payload }: EventOf<'chargeStarted'>): JobState {
  const { step, definition } = chargeAtHand(state, payload.step, at);
  if (step.charge) throw new RunSheetError('bad-entry', `“${definition.title}” is already running.`);
  const treatment = definition.treatment?.(contextOf(state, step.round));
  if (treatment) return treatmentStarted(state, { at, by, payload }, treatment, step);
  const setA = contextOf(state, step.round).chargeSetting().current.value;
  const ceilingA = Math.min(setA, absoluteCeilingA(basisOf(state)));
  if (!(payload.currentA >= ceilingA / 10 && payload.currentA <= ceilingA + 1e-9))
    throw new RunSheetError(
      'bad-entry',
      `Charge current: ${payload.currentA} A is outside ${(ceilingA / 10).toFixed(2)} to ${ceilingA.toFixed(2)} A for this first charge.`,
    );
  const { dueMin, charger } = payload;
  if (charger) {
    const context = contextOf(state, step.round);
    const restedV = context.valuesOf(step.round === 1 ? 'ocv-soak' : 'test-ocv')['ocvV'];
    const fitting = fitFirstCharge(charger, {
      type: state.opened.type,
      setA,
      ceilingV: context.threshold('ceilingV').value,
      rules: state.opened.rules,
      ...(typeof restedV === 'number' ? { restedV } : {}),
    });
    if ('reason' in fitting) throw new RunSheetError('held', fitting.reason);
  }
  const tailMin = contextOf(state, step.round).threshold('fullTailMin').value;
  if (dueMin !== undefined && !(dueMin >= tailMin && dueMin <= MOST_DUE_MIN))
    throw new RunSheetError(
      'bad-entry',
      `Time on charge: ${dueMin} min is outside ${tailMin} to ${MOST_DUE_MIN} min for a first charge.`,
    );
  const charge: ChargeState = {
    currentA: payload.currentA,
    ...(dueMin === undefined ? {} : { dueMin }),
    ...(charger ? { charger } : {}),
    runs: [{ from: at }],
    fullSignal: false,
  };
  return withStep(state, { charge, by });
}

/** Asked for with every reading of a charge, and the same for all of them. */
const hotLimits = new WeakMap<Basis, number>();

export function hotLimitC(basis: Basis): number {
  const known = hotLimits.get(basis);
  if (known !== undefined) return known;
  const limit = resolveThreshold('hotPauseC', basis).value;
  hotLimits.set(basis, limit);
  return limit;
}

export function chargeRead(state: JobState, { at, payload }: EventOf<'chargeRead'>): JobState {
  const { charge, step: here, definition } = runningCharge(state, payload.step, at);
  const specs = chargeSpecs(state.opened.type, charge.currentA);
  const { voltageV, currentA, tempC } = payload.values;
  possibleNumber(voltageV, specs.voltageV);
  possibleNumber(currentA, specs.currentA);
  possibleNumber(tempC, specs.tempC);
  const { step } = payload;
  const reading = { at, voltageV, currentA, tempC };
  const before = state.readings;
  // Written out, since a long charge does little else; a job with a charge running has no ending yet.
  const { job, opened, openedAt, steps, cursor, notes, photos, routes, evidence } = state;
  const readings = before ? { step, reading, before } : { step, reading };
  const plain: JobState = { job, opened, openedAt, steps, cursor, notes, photos, readings };
  const read: JobState =
    routes || evidence
      ? { ...plain, ...(routes ? { routes } : {}), ...(evidence ? { evidence } : {}) }
      : plain;
  if (definition.treatment)
    return treatmentRead(read, here, charge, definition.treatment(contextOf(read, here.round)));
  const limit = hotLimitC(basisOf(state));
  if (isOn(charge) && tempC > limit)
    return hold(read, `${tempC.toFixed(1)} °C: charger off now. ${limit} °C is the limit.`, false);
  return read;
}

/** A look at a recovery's charge: hot is a pause, a stop rule is the end of it. */
export function treatmentRead(
  read: JobState,
  step: StepState,
  charge: ChargeState,
  treatment: Treatment,
  looks: readonly ChargeReading[] = readingsOf(read, step.key),
): JobState {
  if (!isOn(charge)) return read;
  const last = looks.at(-1);
  if (!last) return read;
  if (last.tempC > treatment.hotC)
    return hold(
      read,
      `${last.tempC.toFixed(1)} °C: charger off now. ${treatment.hotC} °C is the limit of this route.`,
      false,
    );
  const why = firstStop(treatment.stops, {
    looks,
    type: read.opened.type,
    setA: charge.currentA,
    ceilingV: treatment.ceilingV,
    minutes: minutesOnCharge(charge, last.at),
    mostMin: treatment.mostMin,
  });
  return why === undefined
    ? read
    : hold(read, `${why} Charger off now.`, false, { charge: { ...charge, endedFor: why } });
}

export function chargePaused(state: JobState, { at, by, payload }: EventOf<'chargePaused'>): JobState {
  const { charge } = runningCharge(state, payload.step, at);
  if (!isOn(charge)) throw new RunSheetError('bad-entry', 'The charger is already off.');
  const paused: ChargeState = { ...stopped(charge, at), pausedFor: payload.reason };
  if (charge.endedFor !== undefined)
    return hold(state, `Stopped: ${charge.endedFor} It does not go on again; choose another way.`, false, {
      charge: paused,
      by,
    });
  const why =
    payload.reason === 'hot'
      ? 'Too hot: the charger is off while it cools. The lost time is added.'
      : 'The charger is off. The lost time is added.';
  return hold(state, why, false, { charge: paused, by });
}

export function chargeResumed(state: JobState, { at, by, payload }: EventOf<'chargeResumed'>): JobState {
  const { step, charge } = runningCharge(state, payload.step, at);
  if (isOn(charge)) throw new RunSheetError('bad-entry', 'The charger is already on.');
  if (charge.endedFor !== undefined)
    throw new RunSheetError('held', `${charge.endedFor} It is not switched on again; choose another way.`);
  possibleNumber(payload.tempC, TEMPERATURE_SPEC);
  const below = contextOf(state, step.round).threshold('hotResumeC').value;
  if (payload.tempC >= below)
    throw new RunSheetError(
      'held',
      `${payload.tempC.toFixed(1)} °C: it must be below ${below} °C before the charger goes on again.`,
    );
  const { pausedFor: _over, ...rest } = charge;
  return withStep(state, { status: 'open', charge: { ...rest, runs: [...charge.runs, { from: at }] }, by });
}

export function chargeEnded(state: JobState, { at, by, payload }: EventOf<'chargeEnded'>): JobState {
  const { step, charge, definition } = runningCharge(state, payload.step, at);
  if (charge.endedFor !== undefined && isOn(charge))
    throw new RunSheetError(
      'held',
      `${charge.endedFor} Record that the charger is off, then choose another way.`,
    );
  const treatment = definition.treatment?.(contextOf(state, step.round));
  if (treatment?.isDone(readingsOf(state, step.key))) return ended(state, charge, payload.fullSignal, at, by);
  const dueMin = chargeDueMin(state, step);
  const leftMin = dueMin - minutesOnCharge(charge, at);
  if (leftMin > 0 && !payload.fullSignal)
    throw new RunSheetError(
      'too-early',
      `${timeLeft(0, leftMin * 60_000)} of charge are still due. Pause it, or record the charger’s full signal.`,
    );
  return ended(state, charge, payload.fullSignal, at, by);
}

function ended(state: JobState, charge: ChargeState, fullSignal: boolean, at: number, by: string): JobState {
  const { pausedFor: _over, ...rest } = stopped(charge, at);
  return advance(state, at, { status: 'done', charge: { ...rest, fullSignal }, by });
}
