/** Entries of a charge: on, looked at, off because hot, on again, ended. */
import { SHELF } from './place.ts';
import { MOST_HOT_PAUSES } from '../charge/engine.ts';
import { absoluteCeilingA } from '../charge/firstCharge.ts';
import { fitFirstCharge } from '../charge/firstChargeFit.ts';
import type { Charger } from '../charge/chargers.ts';
import type { ChargeReading } from '../charge/proofOfFull.ts';
import { findingWords, firstStop, timedLook, watched, type Finding, type Watch } from '../charge/watch.ts';
import { hydrometerTo25 } from '../electrolyte/density.ts';
import { minutesLeft } from './chargeDone.ts';
import { limitsOf, watchOf } from './chargeLimits.ts';
import { againstFullSignal } from './fullSignal.ts';
import { chargerMisfit } from './chargerFit.ts';
import { isOfEdition } from './edition.ts';
import { RunSheetError } from './errors.ts';
import { cellDensitySpec, CHARGE_DENSITY, chargeSpecs, TEMPERATURE_SPEC } from './fields.ts';
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
  evidenceOf,
  minutesOnCharge,
  type ChargeState,
  type JobState,
  type ReadingChain,
  type StepState,
} from './state.ts';
import type { ChargeStep, Treatment } from './step.ts';

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

/** Chargers of older logs were let on by looser rules. */
const isJudged = ({ opened }: JobState): boolean => isOfEdition(opened, 3);

/** Pulses go on as long as the charger's own programme; another charge as long as its way says. */
const programmeMin = ({ isPulsed, dueMin, mostMin }: Treatment, charger: Charger | undefined): number =>
  isPulsed && charger?.pulses ? Math.min(charger.pulses.programmeH * 60, mostMin) : dueMin;

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
  const why =
    isJudged(state) && charger && chargerMisfit(charger, treatment, contextOf(state, round), stepId);
  if (why) throw new RunSheetError('held', why);
  if (charger && payload.currentA > charger.mostA + 1e-9)
    throw new RunSheetError(
      'bad-entry',
      `${charger.name}: gives ${charger.mostA} A at most; it cannot be set to ${payload.currentA} A.`,
    );
  const charge: ChargeState = {
    currentA: payload.currentA,
    dueMin: programmeMin(treatment, charger),
    ...(charger ? { charger } : {}),
    runs: [{ from: at }],
    hotPauses: 0,
    fullSignal: false,
  };
  return withStep(state, { charge, by });
}

/** @throws RunSheetError on the shelf */
function assertInBay({ bay }: JobState): void {
  if (bay === SHELF)
    throw new RunSheetError(
      'held',
      'It stands on the shelf, where there is no charger: move it to a bay first.',
    );
}

export function chargeStarted(state: JobState, { at, by, payload }: EventOf<'chargeStarted'>): JobState {
  const { step, definition } = chargeAtHand(state, payload.step, at);
  if (step.charge) throw new RunSheetError('bad-entry', `“${definition.title}” is already running.`);
  assertInBay(state);
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
  if (charger && isJudged(state)) {
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
    hotPauses: 0,
    fullSignal: false,
  };
  return withStep(state, { charge, by });
}

/** What the looks of the charge at hand are held against: the same for all of them. */
const watches = new WeakMap<readonly StepState[], Watch>();

export function watchAt(state: JobState, step: StepState, definition: ChargeStep, tempC: number): Watch {
  const known = watches.get(state.steps);
  if (known) return known;
  const setA = step.charge?.currentA ?? 0;
  const watch = watchOf(contextOf(state, step.round), definition, setA, step.charge?.dueMin ?? 0, tempC);
  watches.set(state.steps, watch);
  return watch;
}

/**
 * Puts a look behind those before it.
 * @returns the link, and what stops the charge, if something does
 */
export function linked(
  watch: Watch,
  charge: ChargeState,
  before: ReadingChain | undefined,
  step: string,
  reading: ChargeReading,
): { readonly link: ReadingChain; readonly finding: Finding | undefined } {
  const previous = before?.step === step ? before : undefined;
  const state = watched(watch, previous?.watch, timedLook(reading, previous?.reading, charge.runs));
  const finding = firstStop(watch, state, previous?.watch);
  return { link: { step, reading, watch: state, ...(before ? { before } : {}) }, finding };
}

function checkCells(densities: readonly number[], cells: number): void {
  if (densities.length !== cells)
    throw new RunSheetError(
      'bad-entry',
      `Density of every cell: ${cells} are needed, ${densities.length} came.`,
    );
  densities.forEach((density, index) =>
    possibleNumber(density, cellDensitySpec(`Density, cell ${index + 1}`)),
  );
}

export function chargeRead(state: JobState, { at, payload }: EventOf<'chargeRead'>): JobState {
  const { charge, step: here, definition } = runningCharge(state, payload.step, at);
  const specs = chargeSpecs(state.opened.type, charge.currentA);
  const { voltageV, currentA, tempC, density, cellDensities } = payload.values;
  possibleNumber(voltageV, specs.voltageV);
  possibleNumber(currentA, specs.currentA);
  possibleNumber(tempC, specs.tempC);
  if (density !== undefined) possibleNumber(density, CHARGE_DENSITY);
  if (cellDensities) checkCells(cellDensities, state.opened.type.cells);
  const reading = {
    at,
    voltageV,
    currentA,
    tempC,
    ...(density === undefined ? {} : { density: hydrometerTo25(density, tempC) }),
    ...(cellDensities ? { cellDensities: cellDensities.map((one) => hydrometerTo25(one, tempC)) } : {}),
  };
  const watch = watchAt(state, here, definition, tempC);
  const { link, finding } = linked(watch, charge, state.readings, payload.step, reading);
  // Written out, since a long charge does little else; a job with a charge running has no ending yet.
  const { job, opened, openedAt, bay, steps, cursor, notes, photos, routes, evidence } = state;
  const plain: JobState = { job, opened, openedAt, bay, steps, cursor, notes, photos, readings: link };
  const read: JobState =
    routes || evidence
      ? { ...plain, ...(routes ? { routes } : {}), ...(evidence ? { evidence } : {}) }
      : plain;
  return judged(read, here, definition, charge, reading, finding);
}

/** A look judged: hot is a pause, a stop rule is the end of the charge. */
export function judged(
  read: JobState,
  step: StepState,
  definition: ChargeStep,
  charge: ChargeState,
  { at, tempC }: ChargeReading,
  finding: Finding | undefined,
): JobState {
  if (!isOn(charge) || charge.stopped) return read;
  // Off since the look that first said so: another one changes nothing of when it was due.
  const heldAt = step.status === 'held' ? (step.heldAt ?? at) : at;
  if (finding) {
    const why = findingWords(finding);
    return hold(read, why, false, { heldAt, charge: { ...charge, stopped: { rule: finding.rule, why } } });
  }
  const limitC = hotLimitC(read, step, definition);
  return tempC > limitC
    ? hold(read, `${tempC.toFixed(1)} °C: charger off now. ${limitC} °C is the limit.`, false, { heldAt })
    : read;
}

/** Asked for with every reading of a charge, and the same for all of them. */
const hotLimits = new WeakMap<readonly StepState[], number>();

function hotLimitC(state: JobState, { round, charge }: StepState, definition: ChargeStep): number {
  const known = hotLimits.get(state.steps);
  if (known !== undefined) return known;
  const { hotC } = limitsOf(contextOf(state, round), definition, charge?.dueMin ?? 0);
  hotLimits.set(state.steps, hotC);
  return hotC;
}

const OVER = 'It does not go on again.';

/** Lower than this nothing is charged, V a cell: twelve on six. */
const WAKES_CELL_V = 2;

/** Less than this of what is set is not yet taken: more is of no use to it. */
const TAKES_SHARE = 0.9;

/**
 * Another current for a charge that somebody stands by: never above what its way allows or its charger gives, and
 * more only once a look has shown that it takes what is set.
 */
export function chargeSet(state: JobState, { at, by, payload }: EventOf<'chargeSet'>): JobState {
  const { charge, step, definition } = runningCharge(state, payload.step, at);
  const treatment = definition.treatment?.(contextOf(state, step.round));
  if (!treatment?.isAttended)
    throw new RunSheetError('held', `“${definition.title}” keeps the current it was started with.`);
  if (!isOn(charge) || charge.stopped)
    throw new RunSheetError('held', 'The charger is off: set the current as it goes on again.');
  const { setA, mostA, ceilingV } = treatment;
  const { currentA = charge.currentA, voltageV } = payload;
  const leastV = WAKES_CELL_V * state.opened.type.cells;
  if (voltageV !== undefined && !(voltageV >= leastV - 1e-9 && voltageV <= ceilingV + 1e-9))
    throw new RunSheetError(
      'bad-entry',
      `Charge voltage: ${voltageV} V is outside ${leastV.toFixed(1)} to ${ceilingV.toFixed(1)} V for this route.`,
    );
  const most = Math.min(mostA, charge.charger?.mostA ?? mostA);
  const least = Math.max(setA / 10, charge.charger?.leastA ?? 0);
  if (!(currentA >= least - 1e-9 && currentA <= most + 1e-9))
    throw new RunSheetError(
      'bad-entry',
      `Charge current: ${currentA} A is outside ${least.toFixed(2)} to ${most.toFixed(2)} A for this route.`,
    );
  if (voltageV === undefined && Math.abs(currentA - charge.currentA) < 1e-9)
    throw new RunSheetError('bad-entry', `It is set to ${currentA.toFixed(2)} A already.`);
  const setAt = charge.wasSet?.at(-1)?.to ?? charge.runs[0]?.from ?? at;
  const look = state.readings?.step === payload.step ? state.readings.reading : undefined;
  if (
    currentA > charge.currentA &&
    !(look && look.at > setAt && look.currentA >= TAKES_SHARE * charge.currentA)
  )
    throw new RunSheetError(
      'held',
      look && look.at > setAt
        ? `It takes ${look.currentA.toFixed(2)} of ${charge.currentA.toFixed(2)} A: more is set once it takes what is set.`
        : `Look first: more than ${charge.currentA.toFixed(2)} A is set once a look shows that it takes that.`,
    );
  const setV = voltageV === undefined ? {} : { setV: voltageV };
  if (Math.abs(currentA - charge.currentA) < 1e-9)
    return withStep(state, { charge: { ...charge, ...setV }, by });
  const wasSet = [...(charge.wasSet ?? []), { currentA: charge.currentA, to: at }];
  return withStep(state, { charge: { ...charge, ...setV, currentA, wasSet }, by });
}

export function chargePaused(state: JobState, { at, by, payload }: EventOf<'chargePaused'>): JobState {
  const { charge } = runningCharge(state, payload.step, at);
  if (!isOn(charge)) throw new RunSheetError('bad-entry', 'The charger is already off.');
  const isHot = payload.reason === 'hot';
  const hotPauses = charge.hotPauses + (isHot ? 1 : 0);
  const paused: ChargeState = { ...stopped(charge, at), pausedFor: payload.reason, hotPauses };
  const ended =
    charge.stopped ??
    (isHot && hotPauses >= MOST_HOT_PAUSES && isOfEdition(state.opened, 2)
      ? {
          rule: 'hot' as const,
          why: 'Too hot for the third time: a sound battery cools once. Suspect a shorted cell.',
        }
      : undefined);
  if (ended)
    return hold(state, `Stopped: ${ended.why} ${OVER}`, false, { charge: { ...paused, stopped: ended }, by });
  const why = isHot
    ? 'Too hot: the charger is off while it cools. The lost time is added.'
    : 'The charger is off. The lost time is added; what was flat before proves nothing.';
  return hold(state, why, false, { charge: paused, by });
}

export function chargeResumed(state: JobState, { at, by, payload }: EventOf<'chargeResumed'>): JobState {
  const { step, charge } = runningCharge(state, payload.step, at);
  if (isOn(charge)) throw new RunSheetError('bad-entry', 'The charger is already on.');
  assertInBay(state);
  if (charge.stopped) throw new RunSheetError('held', `${charge.stopped.why} It is not switched on again.`);
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

/** A lamp beside readings: they must have been taken, and must not speak against it. */
function checkFullSignal(state: JobState, step: StepState, charge: ChargeState, at: number): void {
  const evidence = evidenceOf(state, step);
  if (!evidence || !isOfEdition(state.opened, 2)) return;
  const why = againstFullSignal(contextOf(state, step.round), evidence, minutesOnCharge(charge, at), at);
  if (why !== undefined) throw new RunSheetError('held', why);
}

export function chargeEnded(state: JobState, { at, by, payload }: EventOf<'chargeEnded'>): JobState {
  const { step, charge, definition } = runningCharge(state, payload.step, at);
  if (charge.stopped) {
    if (isOn(charge))
      throw new RunSheetError('held', `${charge.stopped.why} Record first that the charger is off.`);
    if (definition.treatment)
      throw new RunSheetError('held', `${charge.stopped.why} Leave this route and choose another way.`);
    return ended(state, charge, false, at, by);
  }
  if (payload.fullSignal) checkFullSignal(state, step, charge, at);
  const leftMin = minutesLeft(state, step, at);
  if (leftMin > 0 && !payload.fullSignal)
    throw new RunSheetError(
      'too-early',
      `${timeLeft(0, leftMin * 60_000)} of charge are still due. Pause it, or go on until it is proven full.`,
    );
  return ended(state, charge, payload.fullSignal, at, by);
}

function ended(state: JobState, charge: ChargeState, fullSignal: boolean, at: number, by: string): JobState {
  const { pausedFor: _over, ...rest } = stopped(charge, at);
  return advance(state, at, { status: 'done', charge: { ...rest, fullSignal }, by });
}
