/** A job as the fold of its events, and the context its steps are read in. */
import { firstChargeQuestion, settingFor, type BeforeCharge } from '../charge/firstCharge.ts';
import type { Reading } from '../belief/readings.ts';
import type { Charger } from '../charge/chargers.ts';
import type { ChargeReading } from '../charge/proofOfFull.ts';
import type { StopRuleId, WatchState } from '../charge/watch.ts';
import { limitsOf, missingAhOf } from './chargeLimits.ts';
import { newestDensities } from './densities.ts';
import type { OpenedPayload, StepValues } from './events.ts';
import { RunSheetError } from './errors.ts';
import { procedureById } from './procedures/procedures.ts';
import type { ChargeEvidence, Outcome, Procedure, RouteTaken, Step, StepContext } from './step.ts';
import { resolveThreshold, type Basis } from './thresholds.ts';

export type StepStatus = 'ahead' | 'open' | 'held' | 'done' | 'skipped' | 'overridden';

/** Time on charge: one run per stretch the charger was on. */
export interface ChargeRun {
  readonly from: number;
  readonly to?: number;
}

/**
 * Readings on charge, the latest first and apart from the steps: one more costs the same however many
 * there are.
 */
export interface ReadingChain {
  /** Key of the charge it belongs to. */
  readonly step: string;
  readonly reading: ChargeReading;
  /** What the looks of this charge come to up to this one; in an outline the newest alone says so. */
  readonly watch?: WatchState;
  readonly before?: ReadingChain;
}

export interface ChargeState {
  /** As it is set now, A. */
  readonly currentA: number;
  /** The voltage it was set to, below what its way allows, V. */
  readonly setV?: number;
  /** What it was set to before, each until its moment. */
  readonly wasSet?: readonly { readonly currentA: number; readonly to: number }[];
  readonly charger?: Charger;
  /** Time on charge it was started for, min, as it stood then. */
  readonly dueMin?: number;
  readonly runs: readonly ChargeRun[];
  readonly pausedFor?: 'hot' | 'stopped';
  /** Times it was too hot. */
  readonly hotPauses: number;
  /** A stop rule ended it: which and why, for good. */
  readonly stopped?: { readonly rule: StopRuleId | 'hot'; readonly why: string };
  readonly fullSignal: boolean;
}

/** Stretches on charge, cut where the current was set anew. */
export function piecesOf({
  runs,
  currentA,
  wasSet = [],
}: ChargeState): readonly (ChargeRun & { readonly amps: number })[] {
  const set = [...wasSet, { currentA, to: Number.POSITIVE_INFINITY }];
  return runs.flatMap(({ from, to }) =>
    set.flatMap((one, index) => {
      const begins = Math.max(from, set[index - 1]?.to ?? from);
      const ends = Math.min(to ?? Number.POSITIVE_INFINITY, one.to);
      if (ends <= begins) return [];
      return [{ from: begins, ...(Number.isFinite(ends) ? { to: ends } : {}), amps: one.currentA }];
    }),
  );
}

export interface StepState {
  /** "charge#2": the step in the second round. */
  readonly key: string;
  readonly stepId: string;
  readonly round: number;
  readonly status: StepStatus;
  readonly openedAt?: number;
  readonly doneAt?: number;
  readonly by?: string;
  /** What stands in the way while the status is "held", and on a charge since which look. */
  readonly why?: string;
  readonly heldAt?: number;
  readonly canOverride?: boolean;
  readonly reason?: string;
  readonly values?: StepValues;
  readonly source?: string;
  readonly chambers?: readonly boolean[];
  readonly code?: string;
  readonly charge?: ChargeState;
  readonly verdict?: string;
}

export interface Note {
  readonly at: number;
  readonly by: string;
  readonly text: string;
}

export interface Photo extends Note {
  readonly photo: string;
  readonly step: string;
}

export interface Evidence {
  readonly at: number;
  readonly by: string;
  readonly reading: Reading;
}

export interface JobState {
  readonly job: string;
  readonly opened: OpenedPayload;
  readonly openedAt: number;
  /** Where it stands now; 0 on the shelf. */
  readonly bay: number;
  /** Steps in the order they are gone through; a repeat lengthens it. */
  readonly steps: readonly StepState[];
  /** Index of the step at hand; the length of `steps` when none is left. */
  readonly cursor: number;
  readonly notes: readonly Note[];
  readonly photos: readonly Photo[];
  readonly readings?: ReadingChain;
  /** Readings taken to find out, outside the steps. */
  readonly evidence?: readonly Evidence[];
  /** Routes of a recovery, the first first. */
  readonly routes?: readonly RouteTaken[];
  readonly outcome?: Outcome;
  readonly outcomeNote?: string;
  readonly endedAt?: number;
}

export function keyOf(stepId: string, round: number): string {
  return `${stepId}#${round}`;
}

export function procedureOf(state: JobState): Procedure {
  return procedureById(state.opened.procedure, state.opened.edition ?? 1);
}

/** Steps by name, looked up once per procedure. */
const stepsById = new WeakMap<Procedure, Map<string, Step>>();

function stepIndex(procedure: Procedure): Map<string, Step> {
  const known = stepsById.get(procedure);
  if (known) return known;
  const all = [...procedure.steps, ...(procedure.routes ?? []).flatMap(({ steps }) => steps)];
  const index = new Map(all.map((step) => [step.id, step]));
  stepsById.set(procedure, index);
  return index;
}

/** The definition behind a step of a job. */
export function definitionOf(state: JobState, step: StepState): Step {
  const found = stepIndex(procedureOf(state)).get(step.stepId);
  if (!found) throw new RunSheetError('bad-entry', `The run sheet has no step “${step.stepId}”.`);
  return found;
}

/** The latest state of a step, of the given round or before. */
export function latest(
  state: JobState,
  stepId: string,
  round = Number.MAX_SAFE_INTEGER,
): StepState | undefined {
  let found: StepState | undefined;
  for (const step of state.steps) if (step.stepId === stepId && step.round <= round) found = step;
  return found;
}

/**
 * Of these steps the ones a house goes through, in one round.
 * @param isRepeat a house may leave a step out the first time, and go through it in repeats
 */
export function applicableSteps(
  { steps }: Pick<Procedure, 'steps'>,
  opened: OpenedPayload,
  isRepeat = false,
): Step[] {
  const edition = opened.edition ?? 1;
  return steps.filter(
    ({ when, asked, inRepeats, editions: { from = 1, to = edition } = {}, isFor }) =>
      (!when || (isRepeat && inRepeats) || when.isOneOf.includes(opened.rules[when.rule])) &&
      (asked === undefined || opened[asked] === true) &&
      edition >= from &&
      edition <= to &&
      (isFor?.(opened.type) ?? true),
  );
}

/** The basis depends on nothing but the opening and the steps, which most entries leave as they are. */
const knownBases = new WeakMap<readonly StepState[], Basis>();

export function basisOf(state: JobState): Basis {
  const known = knownBases.get(state.steps);
  if (known) return known;
  const { type, rules } = state.opened;
  const basis = { type, rules, entered: latest(state, 'label')?.values ?? {} };
  knownBases.set(state.steps, basis);
  return basis;
}

/** The date code of a battery whose age nobody knows. */
export const AGE_UNKNOWN = '';

/** Whole and part months from a date code to a moment; undefined where nobody knows when it was made. */
export function ageInMonths(dateCode: string, at: number): number | undefined {
  if (dateCode === AGE_UNKNOWN) return undefined;
  const made = Date.parse(`${dateCode}-01T00:00:00Z`);
  return Math.max(0, (at - made) / (30.44 * 24 * 3_600_000));
}

export function contextOf(state: JobState, round: number): StepContext {
  const basis = basisOf(state);
  const valuesOf = (stepId: string): StepValues => latest(state, stepId, round)?.values ?? {};
  return {
    opened: state.opened,
    bay: state.bay,
    basis,
    round,
    get ageMonths() {
      return ageInMonths(state.opened.battery.dateCode, state.openedAt);
    },
    get isCharged() {
      return latest(state, 'charge') !== undefined;
    },
    threshold: (id) => resolveThreshold(id, basis),
    valuesOf,
    valuesIn: (stepId, inRound) =>
      state.steps.find((step) => step.stepId === stepId && step.round === inRound)?.values ?? {},
    chargeSetting: (setA) => settingFor(basis, beforeCharge(state, round), setA),
    routes: state.routes ?? [],
    newestDensities: () => newestDensities(state, round),
    chargeQuestion: (setA) => firstChargeQuestion(basis, beforeCharge(state, round), setA),
    charge: () => evidenceOf(state, latest(state, 'charge', round)),
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
      const proved = latest(state, 'prove-load')?.values?.['loadV'];
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
  const failedTest = round > 1 ? latest(state, 'test-ocv', round - 1)?.values : undefined;
  const { ocvV, tempC } = failedTest ?? latest(state, 'ocv-soak')?.values ?? {};
  const ageMonths = ageInMonths(state.opened.battery.dateCode, state.openedAt);
  return {
    ageMonths,
    ...(typeof ocvV === 'number' ? { restedV: ocvV } : {}),
    ...(typeof tempC === 'number' ? { tempC } : {}),
  };
}

/** The readings of one charge in order of time. */
export function readingsOf(state: JobState, stepKey: string | undefined): ChargeReading[] {
  return readingsFrom(state.readings, stepKey);
}

/** The same, from the chain alone. */
export function readingsFrom(chain: ReadingChain | undefined, stepKey: string | undefined): ChargeReading[] {
  const readings: ChargeReading[] = [];
  for (let link = chain; link; link = link.before) if (link.step === stepKey) readings.push(link.reading);
  return readings.reverse();
}

/** The latest link of one charge. */
export function lastLinkOf(state: JobState, stepKey: string): ReadingChain | undefined {
  let link = state.readings;
  while (link && link.step !== stepKey) link = link.before;
  return link;
}

/** The same job as it was seen up to a moment: looks on charge after it left out. */
export function withoutLooksAfter(state: JobState, at: number): JobState {
  let link = state.readings;
  while (link && link.reading.at > at) link = link.before;
  const { readings: _all, ...rest } = state;
  return link ? { ...rest, readings: link } : rest;
}

/** The latest reading of one charge. */
export function lastReadingOf(state: JobState, stepKey: string | undefined): ChargeReading | undefined {
  return stepKey === undefined ? undefined : lastLinkOf(state, stepKey)?.reading;
}

const MINUTE = 60_000;

/** Minutes on charge up to a moment; pauses do not count. */
export function minutesOnCharge(charge: ChargeState, at: number): number {
  return (
    charge.runs.reduce((sum, run) => sum + Math.max(0, (run.to ?? Math.max(at, run.from)) - run.from), 0) /
    MINUTE
  );
}

/** When a dwell's minimum is over; undefined until its clock has started. */
export function dwellEnd(state: JobState, step: StepState): number | undefined {
  const definition = definitionOf(state, step);
  if (definition.kind !== 'dwell') return undefined;
  const context = contextOf(state, step.round);
  const start = latest(state, definition.clockStart(context), step.round)?.doneAt;
  if (start === undefined) return undefined;
  return start + context.threshold(definition.minimum).value * MINUTE;
}
