/** What a job's run sheet and evidence tell a belief. */
import { STEP } from '../runsheet/definition/stepIds.ts';
import { loadTestFor } from '../battery/loadTest.ts';
import { fullMassG } from '../battery/packMass.ts';
import { ratingOf } from '../model/fromType.ts';
import type { ChargeReading } from '../charge/proofOfFull.ts';
import { ceilingNow, limitsOf } from '../runsheet/verdict/chargeLimits.ts';
import type { StepValues } from '../units/values.ts';
import { isWatering, waterMl } from '../runsheet/definition/fields.ts';
import { ofCells } from '../runsheet/definition/densities.ts';
import { capacityMinutes } from '../grading/grade.ts';
import { missingG } from '../runsheet/definition/missingMass.ts';
import { ageInMonths } from '../battery/dateCode.ts';
import { contextOf } from '../runsheet/state/context.ts';
import { definitionOf } from '../runsheet/state/sheet.ts';
import { latest, type JobState, type StepState } from '../runsheet/state/jobState.ts';
import { readingsFrom, piecesOf } from '../runsheet/state/looks.ts';
import { READ_RESTED } from '../runsheet/definition/restedSteps.ts';
import { numberOf } from '../units/values.ts';
import type { Complaint, History } from '../candidate/causes.ts';
import { densitiesIn, lookedIntoOf } from './lookedInto.ts';
import { isMute, standsAt } from '../observation/flat.ts';
import { isChange, type Passage } from '../candidate/passage.ts';
import type { Level } from '../observation/modelView.ts';
import { besideEachOther, type Reading } from '../observation/readings.ts';
import type { Setting } from '../candidate/traits.ts';

const USUAL_C = 21;
/** No bench is colder or warmer: what was found so came from outside, and goes to the room's warmth, °C (practice). */
const ROOMS_C: readonly [number, number] = [15, 30];

/** Rating, history and warmth of the battery of a recovery. */
export function settingOf(state: JobState, { passages } = courseOf(state)): Setting {
  const { type, battery } = state.opened;
  const told: StepValues = latest(state, STEP.history)?.values ?? { ...state.opened.told };
  const flatMonths = numberOf(told['flatMonths']);
  const ageMonths = ageInMonths(battery.dateCode, state.openedAt);
  const history: History = {
    construction: type.construction,
    duty: type.duty,
    complaint: (told['complaint'] as Complaint | undefined) ?? 'unknown',
    ...(ageMonths === undefined ? {} : { ageYears: ageMonths / 12 }),
    ...(flatMonths === undefined ? {} : { flatMonths }),
  };
  const tempC = numberOf(latest(state, STEP.firstOcv)?.values?.['tempC']) ?? USUAL_C;
  const { currentA, seconds } = loadTestFor(type, state.opened.rules.loadTest, tempC);
  return {
    rating: ratingOf(type),
    history,
    tempC,
    roomC: Math.min(ROOMS_C[1], Math.max(ROOMS_C[0], tempC)),
    load: { currentA, seconds },
    isMassKnown: fullMassG(type) !== undefined,
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
  /** A look at the charge that is on. */
  readonly look?: ChargeReading;
  /** Whether the reading is of the battery as it stood at that very moment, on charge or not. */
  readonly isMidway?: boolean;
  /** Water that goes in here, cell by cell, mL. */
  readonly waterMl?: readonly number[];
  /** A charge or discharge that begins here. */
  readonly on?: { readonly passage: Passage; readonly to: number };
}

/** Charges and discharges of a recovery, as passages. */
function turnsOf(state: JobState): Moment[] {
  return state.steps.flatMap((step): Moment[] => {
    const { charge } = step;
    if (!charge) return drawOf(state, step);
    const definition = definitionOf(state, step);
    if (definition.kind !== 'charge') return [];
    const limits = limitsOf(contextOf(state, step.round), definition, charge.dueMin ?? 0);
    const looks = readingsFrom(state.readings, step.key);
    // Where nobody looked it is taken to have been set for the bench's warmth.
    const volts = ceilingNow(limits, state.opened.type, looks[0]?.tempC ?? USUAL_C);
    return piecesOf(charge).flatMap(({ from, to, amps }): Moment[] => {
      // A charge still on is run to its planned end: its looks fall within.
      const until = to ?? from + limits.mostMin * MINUTE;
      const passage = { amps, volts, minutes: (until - from) / MINUTE };
      const within = looks.filter(({ at }) => at > from && at <= until);
      return [
        { at: from, on: { passage, to: until } },
        ...someOf(within).map((look): Moment => ({ at: look.at, look })),
      ];
    });
  });
}

function drawOf(state: JobState, step: StepState): Moment[] {
  if (step.stepId !== STEP.cycleStart || step.doneAt === undefined) return [];
  const end = state.steps.find(({ stepId, round }) => stepId === STEP.cycleEnd && round === step.round);
  if (end?.doneAt === undefined) return [];
  const minutes = (end.doneAt - step.doneAt) / MINUTE;
  const passage = { amps: -state.opened.type.capacityAh / 10, volts: 0, minutes };
  return [{ at: step.doneAt, on: { passage, to: end.doneAt } }];
}

/** Discharges of cycles, from load on to load off: they are passages, and a look at one is no test of capacity. */
function cyclesOf({ steps }: JobState): readonly { readonly from: number; readonly to: number }[] {
  return steps.flatMap(({ stepId, round, doneAt }) => {
    if (stepId !== STEP.cycleStart || doneAt === undefined) return [];
    const end = steps.find((one) => one.stepId === STEP.cycleEnd && one.round === round);
    return [{ from: doneAt, to: end?.doneAt ?? Number.POSITIVE_INFINITY }];
  });
}

/** Water put back: where it was not counted cell by cell, as much into each. */
function waterOf({ steps, opened }: JobState): Moment[] {
  const { cells } = opened.type;
  return steps.flatMap(({ stepId, doneAt, values }): Moment[] => {
    const all = waterMl(values);
    if (!isWatering(stepId) || doneAt === undefined || !values || all === 0) return [];
    const each = Array.from({ length: cells }, (_, index) => numberOf(values[`ml${index + 1}`]));
    const isCounted = each.some((ml) => ml !== undefined);
    return [{ at: doneAt, waterMl: each.map((ml) => (isCounted ? (ml ?? 0) : all / cells)) }];
  });
}

/** A range as a slip prints it is read as its middle. */
const middleOf = (from: number | undefined, to: number | undefined): number | undefined =>
  from !== undefined && to !== undefined ? (from + to) / 2 : from;

/** Voltages and tester readings of the steps after the first were read. */
const TESTED: readonly string[] = [STEP.firstTester, STEP.pulseRead, STEP.cycleRead, STEP.proveLoad];

function laterOf(state: JobState): Moment[] {
  return state.steps.flatMap(({ stepId, doneAt, values }): Moment[] => {
    if (doneAt === undefined || !values) return [];
    const testerA = middleOf(numberOf(values['testerA']), numberOf(values['testerToA']));
    const ocvV = numberOf(values['ocvV']);
    const deficitG = missingG(values, state.opened.type);
    const tested = TESTED.includes(stepId) && testerA !== undefined;
    return [
      ...(READ_RESTED.includes(stepId) && ocvV !== undefined
        ? [{ at: doneAt, reading: { kind: 'ocv', volts: ocvV, isRested: true } as const }]
        : []),
      ...(deficitG === undefined ? [] : [{ at: doneAt, reading: { kind: 'mass', deficitG } as const }]),
      ...(tested ? [{ at: doneAt, reading: { kind: 'tester', amps: testerA } as const }] : []),
      ...(stepId === STEP.proveCapacity
        ? capacityOf(values, state).map((reading) => ({ at: doneAt, reading }))
        : []),
    ];
  });
}

function capacityOf(values: StepValues, { opened: { type } }: JobState): Reading[] {
  const tested = capacityMinutes(values, type);
  return tested ? [{ kind: 'reserve', ...tested }] : [];
}

/** Looks a belief learns from: the first, the last, and some between, since neighbours tell the same. */
const MOST_LOOKS = 8;

/** Every second, or fourth, and so on: one look more leaves the others what they are. */
function someOf<T>(all: readonly T[]): T[] {
  let every = 1;
  while (all.length > every * (MOST_LOOKS - 1) + 1) every *= 2;
  return all.filter((_, index) => index % every === 0 || index === all.length - 1);
}

/** When water last went in, which density must not be asked about until it has mixed. */
function wateredAt(state: JobState): number {
  const added = state.steps.filter(
    ({ stepId, values }) => isWatering(stepId) && values?.['added'] !== 'none',
  );
  return Math.max(Number.NEGATIVE_INFINITY, ...added.flatMap(({ doneAt }) => doneAt ?? []));
}

/** When its acid was changed for a salt: from then on a hydrometer says nothing of it. */
function saltedAt(state: JobState): number {
  const changed = state.steps.filter(({ stepId }) => stepId === STEP.saltIn);
  return Math.min(Number.POSITIVE_INFINITY, ...changed.flatMap(({ doneAt }) => doneAt ?? []));
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
  const salted = saltedAt(state);
  const cycles = cyclesOf(state);
  const isOfCycle = (at: number, { kind }: Reading): boolean =>
    kind === 'drain' && cycles.some(({ from, to }) => at >= from && at <= to);
  const moments: Moment[] = [
    ...waterOf(state),
    ...turnsOf(state),
    ...laterOf(state),
    ...lookedIntoOf(state).map((one): Moment => one),
    ...(state.evidence ?? [])
      .filter(({ at, reading }) => !isOfCycle(at, reading))
      .map(({ at, reading }): Moment => ({
        at,
        reading,
        isMidway: !isOfTest(reading),
      })),
    // What was read in the moment a charge goes on was read before it.
  ].sort((a, b) => a.at - b.at || Number(a.on !== undefined) - Number(b.on !== undefined));
  let clock: number | undefined;
  let running: { readonly stage: number; readonly from: number; readonly to: number } | undefined;
  // Nothing was ever put in: what floats in it is mixed.
  let chargedAt = watered === Number.NEGATIVE_INFINITY ? Number.POSITIVE_INFINITY : Number.NEGATIVE_INFINITY;
  for (const { at, reading, look, isMidway, on, waterMl: poured } of moments) {
    // It stands as it was found until the first charge; from then on every hour counts.
    // A capacity test that runs is one test: it began where its first look stands.
    const isSameTest = readings.at(-1)?.kind === 'drain' && isOfTest(reading);
    if (clock !== undefined && at - clock > GAP_MS && !isSameTest) {
      passages.push({ amps: 0, volts: 0, minutes: (at - clock) / MINUTE });
      clock = at;
    }
    const since = running && at > running.from && at <= running.to ? running : undefined;
    const lastChange = passages.findLastIndex(isChange);
    const isSilent = reading && isMute(reading.kind, standsAt(readings, lastChange), state.opened.type.cells);
    if (reading && !isSilent) {
      const isMixed = at < salted && (watered > at || chargedAt > watered);
      const whole = afterLast(reading, readings.at(-1));
      readings.push(
        isMidway && since
          ? onTheWay(whole, since.stage, Math.round((at - since.from) / MINUTE), isMixed)
          : placed(whole, passages.length, isMixed),
      );
    }
    if (look && since) {
      const { voltageV, currentA, tempC } = look;
      const minute = (at - since.from) / MINUTE;
      readings.push({ kind: 'look', minute, volts: voltageV, amps: currentA, tempC, ...staged(since.stage) });
    }
    if (poured) passages.push({ amps: 0, volts: 0, minutes: 0, waterMl: poured });
    if (!on) continue;
    running = { stage: passages.length, from: at, to: on.to };
    passages.push(on.passage);
    clock = on.to;
    chargedAt = Math.max(chargedAt, on.to);
  }
  const last = state.steps[state.cursor];
  return {
    readings: besideEachOther(lastOfEach(readings, passages)),
    passages,
    isOn: last?.charge !== undefined && last.charge.runs.at(-1)?.to === undefined,
  };
}

/** What tells readings of a kind apart that are no repetition of each other. */
function whichOf(reading: Reading): string {
  switch (reading.kind) {
    case 'density':
    case 'level':
    case 'bubbles':
      return `${reading.kind} ${reading.cell}`;
    case 'ocv':
      return `ocv ${reading.isRested}`;
    case 'charger':
      return `charger ${reading.startV}`;
    default:
      return reading.kind;
  }
}

/** Each tells of a run, or of its end: none repeats another. */
const OF_A_RUN: readonly Reading['kind'][] = ['look', 'drain', 'reserve', 'hold'];

/**
 * Of readings made again while nothing but rest lay between, the last alone: what the model and the piece are off by
 * is the same both times, so the second is no second witness. What a piece is off by in mass it is off by for good.
 */
function lastOfEach(readings: readonly Reading[], passages: readonly Passage[]): Reading[] {
  const keyOf = (reading: Reading, index: number): string => {
    const { kind, stage = 0, midway } = reading;
    if (OF_A_RUN.includes(kind)) return `${index}`;
    if (kind === 'mass') return kind;
    const changes = passages.slice(0, stage).filter(isChange).length;
    return `${whichOf(reading)} ${midway === undefined ? changes : `${stage} at ${midway}`}`;
  };
  const last = new Map(readings.map((reading, index) => [keyOf(reading, index), reading]));
  return readings.filter((reading, index) => last.get(keyOf(reading, index)) === reading);
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

/** A reading of it while its charger is on: what stands between its posts is no rested voltage. */
function onTheWay(reading: Reading, stage: number, midway: number, isMixed: boolean): Reading {
  const here = { ...placed(reading, stage, isMixed), midway };
  return here.kind === 'ocv' ? { ...here, isRested: false } : here;
}

const staged = (stage: number): { readonly stage?: number } => (stage === 0 ? {} : { stage });

/** Readings of the triage steps, in the order they were asked for. */
function triageOf(state: JobState): Reading[] {
  const { cells } = state.opened.type;
  const readings: Reading[] = [];
  const first = latest(state, STEP.firstOcv)?.values ?? {};
  const ocvV = numberOf(first['ocvV']);
  if (ocvV !== undefined) readings.push({ kind: 'ocv', volts: ocvV, isRested: first['rested'] !== 'no' });
  // What was read in the vehicle was read of the same battery, a little before.
  const { vehicleCrankV } = latest(state, STEP.history)?.values ?? {};
  if (typeof vehicleCrankV === 'number' && !isMute('crank', ocvV, cells))
    readings.push({ kind: 'crank', volts: vehicleCrankV });
  const level = LEVELS[String(latest(state, STEP.levelsBefore)?.values?.['levels']) as keyof typeof LEVELS];
  const levels = ofCells(latest(state, STEP.levelsCells)?.values ?? {}, 'level');
  for (let cell = 1; cell <= cells; cell++) {
    const ofCell = (levels[cell - 1] as Level | undefined) ?? level;
    if (ofCell !== undefined) readings.push({ kind: 'level', cell, level: ofCell });
  }
  return [...readings, ...densitiesIn(latest(state, STEP.densityBefore)?.values ?? {}, cells)];
}
