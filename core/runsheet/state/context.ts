/** What the steps of a job are read in: its numbers, its readings, its charges. */
import { STEP } from '../definition/stepIds.ts';
import { ageInMonths } from '../../battery/dateCode.ts';
import { firstChargeQuestion, settingFor, type BeforeCharge } from '../../charge/firstCharge.ts';
import { resolveThreshold, type Basis } from '../../rules/thresholds.ts';
import type { StepValues } from '../../units/values.ts';
import type { ChargeEvidence, StepContext } from '../definition/step.ts';
import { limitsOf, missingAhOf } from '../verdict/chargeLimits.ts';
import { latest, type JobState, type StepState } from './jobState.ts';
import { readingsOf } from './looks.ts';
import { newestDensities } from './newestDensities.ts';
import { definitionOf, mostRounds } from './sheet.ts';

/** The basis depends on nothing but the opening and the steps, which most entries leave as they are. */
const knownBases = new WeakMap<readonly StepState[], Basis>();

export function basisOf(state: JobState): Basis {
  const known = knownBases.get(state.steps);
  if (known) return known;
  const { type, rules } = state.opened;
  const basis = { type, rules, entered: latest(state, STEP.label)?.values ?? {} };
  knownBases.set(state.steps, basis);
  return basis;
}

export function contextOf(state: JobState, round: number): StepContext {
  const basis = basisOf(state);
  const valuesOf = (stepId: string): StepValues => latest(state, stepId, round)?.values ?? {};
  return {
    opened: state.opened,
    bay: state.bay,
    basis,
    round,
    get mostRounds() {
      return mostRounds(state);
    },
    get ageMonths() {
      return ageInMonths(state.opened.battery.dateCode, state.openedAt);
    },
    get isCharged() {
      return latest(state, STEP.charge) !== undefined;
    },
    threshold: (id) => resolveThreshold(id, basis),
    valuesOf,
    valuesIn: (stepId, inRound) =>
      state.steps.find((step) => step.stepId === stepId && step.round === inRound)?.values ?? {},
    chargeSetting: (setA) => settingFor(basis, beforeCharge(state, round), setA),
    routes: state.routes ?? [],
    newestDensities: () => newestDensities(state, round),
    chargeQuestion: (setA) => firstChargeQuestion(basis, beforeCharge(state, round), setA),
    charge: () => evidenceOf(state, latest(state, STEP.charge, round)),
    doneAt: (stepId) => {
      const step = state.steps.find((one) => one.stepId === stepId && one.round === round);
      return step?.status === 'skipped' ? undefined : step?.doneAt;
    },
    lastTempC: () => {
      const read = state.steps.findLast(({ values }) => typeof values?.['tempC'] === 'number')?.values?.[
        'tempC'
      ];
      return typeof read === 'number' ? read : undefined;
    },
    standingV: () => {
      const read = state.steps.flatMap(({ values, doneAt, ...step }) =>
        typeof values?.['ocvV'] === 'number' && doneAt !== undefined && step.round <= round
          ? [{ at: doneAt, volts: values['ocvV'] }]
          : [],
      );
      const beside = (state.evidence ?? []).flatMap(({ at, reading }) =>
        reading.kind === 'ocv' ? [{ at, volts: reading.volts }] : [],
      );
      // Of two made at the same moment the later one in the sheet stands.
      return [...beside, ...read].reduce<{ at: number; volts: number } | undefined>(
        (newest, one) => (newest === undefined || one.at >= newest.at ? one : newest),
        undefined,
      )?.volts;
    },
    lastLoadV: () => {
      const beside = state.evidence?.findLast(({ reading }) => reading.kind === 'load')?.reading;
      const proved = latest(state, STEP.proveLoad)?.values?.['loadV'];
      if (typeof proved === 'number') return proved;
      return beside?.kind === 'load' ? beside.volts : undefined;
    },
    chargeBefore: (stepId) => {
      const index = state.steps.findIndex((one) => one.stepId === stepId && one.round === round);
      return evidenceOf(
        state,
        state.steps.slice(0, Math.max(0, index)).findLast(({ charge }) => charge !== undefined),
      );
    },
    lastCharge: () =>
      evidenceOf(
        state,
        state.steps.slice(0, state.cursor + 1).findLast(({ charge }) => charge !== undefined),
      ),
  };
}

/** What a charge has shown so far. */
export function evidenceOf(state: JobState, step: StepState | undefined): ChargeEvidence | undefined {
  if (!step?.charge) return undefined;
  const { charge, key, round } = step;
  const definition = definitionOf(state, step);
  if (definition.kind !== 'charge') return undefined;
  const context = contextOf(state, round);
  const limits = limitsOf(context, definition, charge.dueMin ?? 0);
  return {
    stepKey: key,
    looks: readingsOf(state, key),
    stretches: charge.runs,
    missingAh: missingAhOf(context, definition),
    limits:
      charge.setV === undefined ? limits : { ...limits, ceilingV: Math.min(limits.ceilingV, charge.setV) },
    setA: charge.currentA,
    ...(charge.charger ? { charger: charge.charger } : {}),
    fullSignal: charge.fullSignal,
    ...(charge.stopped ? { stopped: charge.stopped } : {}),
    isOver: step.doneAt !== undefined,
  };
}

/** A repeat starts from the rested voltage of the test that failed. */
function beforeCharge(state: JobState, round: number): BeforeCharge {
  const failedTest = round > 1 ? latest(state, STEP.testOcv, round - 1)?.values : undefined;
  const { ocvV, tempC } = failedTest ?? latest(state, STEP.ocvSoak)?.values ?? {};
  const ageMonths = ageInMonths(state.opened.battery.dateCode, state.openedAt);
  return {
    ageMonths,
    ...(typeof ocvV === 'number' ? { restedV: ocvV } : {}),
    ...(typeof tempC === 'number' ? { tempC } : {}),
  };
}
