/** A charger switched on: for a first charge, or for a way back with its own limits. */
import type { Charger } from '../../../charge/charger.ts';
import { absoluteCeilingA } from '../../../charge/firstCharge.ts';
import { fitFirstCharge } from '../../../charge/firstChargeFit.ts';
import { STEP } from '../../definition/stepIds.ts';
import type { ChargeStep, Treatment } from '../../definition/step.ts';
import { isOfEdition } from '../../entries/edition.ts';
import { RunSheetError } from '../../entries/errors.ts';
import type { StepPayloads } from '../../entries/events.ts';
import type { ChargeState, JobState } from '../../state/jobState.ts';
import { chargerMisfit } from '../../verdict/chargerFit.ts';
import type { AtStep } from '../atStep.ts';
import { withStep } from '../moves.ts';
import { assertInBay, HAIR } from './charging.ts';

type Started = StepPayloads['chargeStarted'];

/** Longest first charge: two days. */
const MOST_DUE_MIN = 48 * 60;

/** Chargers of older logs were let on by looser rules. */
const isJudged = ({ opened }: JobState): boolean => isOfEdition(opened, 3);

/** @throws RunSheetError outside a tenth of what is set, and the most that may be */
function checkCurrent(amps: number, setA: number, mostA: number, what: string): void {
  if (!(amps >= setA / 10 && amps <= mostA + HAIR))
    throw new RunSheetError(
      'bad-entry',
      `Charge current: ${amps} A is outside ${(setA / 10).toFixed(2)} to ${mostA.toFixed(2)} A for this ${what}.`,
    );
}

function switchedOn(
  at: number,
  currentA: number,
  charger: Charger | undefined,
  dueMin?: number,
): ChargeState {
  return {
    currentA,
    ...(dueMin === undefined ? {} : { dueMin }),
    ...(charger ? { charger } : {}),
    runs: [{ from: at }],
    hotPauses: 0,
    fullSignal: false,
  };
}

/** Pulses go on as long as the charger's own programme; another charge as long as its way says. */
const programmeMin = ({ isPulsed, dueMin, mostMin }: Treatment, charger: Charger | undefined): number =>
  isPulsed && charger?.pulses ? Math.min(charger.pulses.programmeH * 60, mostMin) : dueMin;

/** A charge of a recovery: its own limits, and no charger that gives more. */
function treatmentStarted(
  { state, step, at, by, context }: AtStep<ChargeStep>,
  { currentA, charger }: Started,
  treatment: Treatment,
): JobState {
  checkCurrent(currentA, treatment.setA, treatment.mostA, 'route');
  const why = isJudged(state) && charger && chargerMisfit(charger, treatment, context, step.stepId);
  if (why) throw new RunSheetError('held', why);
  if (charger && currentA > charger.mostA + HAIR)
    throw new RunSheetError(
      'bad-entry',
      `${charger.name}: gives ${charger.mostA} A at most; it cannot be set to ${currentA} A.`,
    );
  const charge = switchedOn(at, currentA, charger, programmeMin(treatment, charger));
  return withStep(state, { charge, by });
}

/** @throws RunSheetError where this charger cannot give a first charge, or may not */
function checkFits({ state, step, context }: AtStep, charger: Charger, setA: number): void {
  const { ocvV } = context.valuesOf(step.round === 1 ? STEP.ocvSoak : STEP.testOcv);
  const fitting = fitFirstCharge(charger, {
    type: state.opened.type,
    setA,
    ceilingV: context.threshold('ceilingV').value,
    rules: state.opened.rules,
    ...(typeof ocvV === 'number' ? { restedV: ocvV } : {}),
  });
  if ('reason' in fitting) throw new RunSheetError('held', fitting.reason);
}

export function chargeStarted(entry: AtStep, payload: Started): JobState {
  const here = entry.as('charge');
  const { state, step, at, by, context, definition } = here;
  if (step.charge) throw new RunSheetError('bad-entry', `“${definition.title}” is already running.`);
  assertInBay(state);
  const treatment = definition.treatment?.(context);
  if (treatment) return treatmentStarted(here, payload, treatment);
  const { currentA, dueMin, charger } = payload;
  const setA = context.chargeSetting().current.value;
  const ceilingA = Math.min(setA, absoluteCeilingA(context.basis));
  checkCurrent(currentA, ceilingA, ceilingA, 'first charge');
  if (charger && isJudged(state)) checkFits(here, charger, setA);
  const tailMin = context.threshold('fullTailMin').value;
  if (dueMin !== undefined && !(dueMin >= tailMin && dueMin <= MOST_DUE_MIN))
    throw new RunSheetError(
      'bad-entry',
      `Time on charge: ${dueMin} min is outside ${tailMin} to ${MOST_DUE_MIN} min for a first charge.`,
    );
  return withStep(state, { charge: switchedOn(at, currentA, charger, dueMin), by });
}
