/** What a job's run sheet and evidence tell a belief. */
import { constructionOf } from '../battery/types.ts';
import { ratingOf } from '../model/fromType.ts';
import type { ChargeReading } from '../charge/proofOfFull.ts';
import type { StepValues } from '../runsheet/events.ts';
import { capacityTestA } from '../runsheet/grade.ts';
import {
  ageInMonths,
  contextOf,
  definitionOf,
  latest,
  readingsFrom,
  type JobState,
  type StepState,
} from '../runsheet/state.ts';
import type { Complaint, History } from './causes.ts';
import type { Passage } from './passages.ts';
import type { Reading } from './readings.ts';
import type { Setting } from './traits.ts';

const USUAL_C = 21;
const numberOf = (value: unknown): number | undefined => (typeof value === 'number' ? value : undefined);

/** Rating, history and warmth of the battery of a recovery. */
export function settingOf(state: JobState, { passages } = courseOf(state)): Setting {
  const { type, battery } = state.opened;
  const told: StepValues = latest(state, 'history')?.values ?? { ...state.opened.told };
  const flatMonths = numberOf(told['flatMonths']);
  const history: History = {
    construction: constructionOf(type.kind),
    ageYears: ageInMonths(battery.dateCode, state.openedAt) / 12,
    complaint: (told['complaint'] as Complaint | undefined) ?? 'unknown',
    ...(flatMonths === undefined ? {} : { flatMonths }),
  };
  return {
    rating: ratingOf(type),
    history,
    tempC: numberOf(latest(state, 'first-ocv')?.values?.['tempC']) ?? USUAL_C,
    ...(passages.length === 0 ? {} : { passages }),
  };
}

const LEVELS = { covered: 'at-line', 'all-low': 'low', bare: 'plates-bare' } as const;

/** Gaps shorter than this change nothing a meter could show, ms. */
const GAP_MS = 5 * 60_000;
const MINUTE = 60_000;

interface Moment {
  readonly at: number;
  readonly reading?: Reading;
  /** A charge or discharge that begins here. */
  readonly on?: { readonly passage: Passage; readonly to: number; readonly looks: readonly ChargeReading[] };
}

/** Charges and discharges of a recovery, as passages. */
function turnsOf(state: JobState): Moment[] {
  return state.steps.flatMap((step): Moment[] => {
    const { charge } = step;
    if (!charge) return drawOf(state, step);
    const definition = definitionOf(state, step);
    const treatment =
      definition.kind === 'charge' ? definition.treatment?.(contextOf(state, step.round)) : undefined;
    const volts = treatment?.ceilingV ?? contextOf(state, step.round).threshold('ceilingV').value;
    const looks = readingsFrom(state.readings, step.key);
    return charge.runs.map(({ from, to }) => {
      // A charge still on is run to its planned end: its looks fall within.
      const until = to ?? from + (treatment?.mostMin ?? charge.dueMin ?? 0) * MINUTE;
      const passage = { amps: charge.currentA, volts, minutes: (until - from) / MINUTE };
      const within = looks.filter(({ at }) => at > from && at <= until);
      return { at: from, on: { passage, to: until, looks: within } };
    });
  });
}

function drawOf(state: JobState, step: StepState): Moment[] {
  if (step.stepId !== 'cycle-start' || step.doneAt === undefined) return [];
  const end = state.steps.find(({ stepId, round }) => stepId === 'cycle-end' && round === step.round);
  if (end?.doneAt === undefined) return [];
  const minutes = (end.doneAt - step.doneAt) / MINUTE;
  const passage = { amps: -state.opened.type.capacityAh / 10, volts: 0, minutes };
  return [{ at: step.doneAt, on: { passage, to: end.doneAt, looks: [] } }];
}

/** Steps that read it at rest after something was done to it. */
const RESTED = ['after-charge', 'prove-ocv', 'donor-read-late', 'hold-read'] as const;
/** Voltages and tester readings of the steps after the first charge. */
function laterOf(state: JobState): Moment[] {
  return state.steps.flatMap(({ stepId, doneAt, values }): Moment[] => {
    if (doneAt === undefined || !values) return [];
    const testerA = numberOf(values['testerA']);
    const ocvV = numberOf(values['ocvV']);
    const tested = ['pulse-read', 'prove-load'].includes(stepId) && testerA !== undefined;
    return [
      ...((RESTED as readonly string[]).includes(stepId) && ocvV !== undefined
        ? [{ at: doneAt, reading: { kind: 'ocv', volts: ocvV, isRested: true } as const }]
        : []),
      ...(tested ? [{ at: doneAt, reading: { kind: 'tester', amps: testerA } as const }] : []),
      ...(stepId === 'prove-capacity'
        ? capacityOf(values, state).map((reading) => ({ at: doneAt, reading }))
        : []),
    ];
  });
}

function capacityOf(values: StepValues, { opened: { type } }: JobState): Reading[] {
  const amps = capacityTestA(values['method'], type);
  const drawnAh = numberOf(values['drawnAh']);
  const minutes = drawnAh === undefined ? numberOf(values['reserveMin']) : (drawnAh / amps) * 60;
  return minutes === undefined ? [] : [{ kind: 'reserve', amps, minutes }];
}

/** Looks a belief learns from: the first, the last, and some between, since neighbours tell the same. */
const MOST_LOOKS = 8;

function someOf<T>(all: readonly T[]): T[] {
  if (all.length <= MOST_LOOKS) return [...all];
  return Array.from(
    { length: MOST_LOOKS },
    (_, index) => all[Math.round((index * (all.length - 1)) / (MOST_LOOKS - 1))] as T,
  );
}

/** When water last went in, which density must not be asked about until it has mixed. */
function wateredAt(state: JobState): number {
  const added = state.steps.filter(
    ({ stepId, values }) =>
      stepId === 'water-dose' || (stepId === 'water-before' && values?.['added'] === 'distilled'),
  );
  return Math.max(Number.NEGATIVE_INFINITY, ...added.flatMap(({ doneAt }) => doneAt ?? []));
}

export interface Course {
  /** In the order they were taken, each with what was done to the battery before. */
  readonly readings: readonly Reading[];
  readonly passages: readonly Passage[];
  /** Whether the last passage is a charge still on. */
  readonly isOn: boolean;
}

/** Everything that was read, and everything that was done, in order of time. */
export function courseOf(state: JobState): Course {
  const readings: Reading[] = triageOf(state);
  const passages: Passage[] = [];
  const watered = wateredAt(state);
  const moments: Moment[] = [
    ...turnsOf(state),
    ...laterOf(state),
    ...(state.evidence ?? []).map(({ at, reading }) => ({ at, reading })),
  ].sort((a, b) => a.at - b.at);
  let clock: number | undefined;
  // Nothing was ever put in: what floats in it is mixed.
  let chargedAt = watered === Number.NEGATIVE_INFINITY ? Number.POSITIVE_INFINITY : Number.NEGATIVE_INFINITY;
  for (const { at, reading, on } of moments) {
    // It stands as it was found until the first charge; from then on every hour counts.
    // A capacity test that runs is one test: it began where its first look stands.
    const isSameTest = readings.at(-1)?.kind === 'drain' && isOfTest(reading);
    if (clock !== undefined && at - clock > GAP_MS && !isSameTest) {
      passages.push({ amps: 0, volts: 0, minutes: (at - clock) / MINUTE });
      clock = at;
    }
    if (reading)
      readings.push(
        placed(afterLast(reading, readings.at(-1)), passages.length, watered > at || chargedAt > watered),
      );
    if (!on) continue;
    const stage = passages.length;
    for (const { at: seen, voltageV, currentA, tempC } of someOf(on.looks))
      readings.push({
        kind: 'look',
        minute: (seen - at) / MINUTE,
        volts: voltageV,
        amps: currentA,
        tempC,
        ...staged(stage),
      });
    passages.push(on.passage);
    clock = on.to;
    chargedAt = Math.max(chargedAt, on.to);
  }
  const last = state.steps[state.cursor];
  return {
    readings,
    passages,
    isOn: last?.charge !== undefined && last.charge.runs.at(-1)?.to === undefined,
  };
}

const isOfTest = (reading: Reading | undefined): boolean =>
  reading?.kind === 'drain' || reading?.kind === 'reserve';

/** A look at a capacity test knows the look before it. */
function afterLast(reading: Reading, last: Reading | undefined): Reading {
  if (reading.kind !== 'drain' || last?.kind !== 'drain') return reading;
  if (last.amps !== reading.amps || last.minute >= reading.minute) return reading;
  return { ...reading, before: { minute: last.minute, volts: last.volts } };
}

/** A reading at its place among what was done; rest after a charge is run, so surface charge needs no allowance. */
function placed(reading: Reading, stage: number, isMixed: boolean): Reading {
  if (reading.kind === 'density' && !isMixed) return { ...reading, ...staged(stage), isMixed: false };
  if (reading.kind === 'ocv' && stage > 0) return { ...reading, ...staged(stage), isRested: true };
  return { ...reading, ...staged(stage) };
}

const staged = (stage: number): { readonly stage?: number } => (stage === 0 ? {} : { stage });

/** Readings of the triage steps, in the order they were asked for. */
function triageOf(state: JobState): Reading[] {
  const { cells } = state.opened.type;
  const readings: Reading[] = [];
  const first = latest(state, 'first-ocv')?.values ?? {};
  const ocvV = numberOf(first['ocvV']);
  if (ocvV !== undefined) readings.push({ kind: 'ocv', volts: ocvV, isRested: first['rested'] !== 'no' });
  const level = LEVELS[String(latest(state, 'levels-before')?.values?.['levels']) as keyof typeof LEVELS];
  const densities = latest(state, 'density-before')?.values ?? {};
  for (let cell = 1; cell <= cells; cell++) {
    if (level !== undefined) readings.push({ kind: 'level', cell, level });
    const density = numberOf(densities[`density${cell}`]);
    if (density !== undefined) readings.push({ kind: 'density', cell, density });
  }
  const testerA = numberOf(latest(state, 'first-tester')?.values?.['testerA']);
  if (testerA !== undefined) readings.push({ kind: 'tester', amps: testerA });
  return readings;
}
