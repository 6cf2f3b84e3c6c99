/**
 * The battery of the model behind a job of the simulated shop: filled when its pack was pressed on, charged
 * while its charger was on, left alone in between. It depends on nothing but the job, the moment and what is
 * hidden in it, so it can be asked at any time and in any order.
 */
import { STEP } from '../runsheet/definition/stepIds.ts';
import { chargeAfterSoakByAge, chargeStandingByAge } from '../battery/stateOfCharge.ts';
import { loadTestFor } from '../battery/loadTest.ts';
import type { BatteryType } from '../battery/types.ts';
import { ChargeEngine } from '../charge/engine.ts';
import { heldPlan } from '../charge/held.ts';
import { ModelRun } from '../charge/modelRun.ts';
import { SOUND, type CellCondition } from '../model/battery.ts';
import { fillDryCharged } from '../model/birth.ts';
import type { CellString } from '../model/cellString.ts';
import { draw, rest } from '../model/discharge.ts';
import { makeBattery, type Fault } from '../model/faults.ts';
import { ratingOf } from '../model/fromType.ts';
import { subjectOfType } from '../charge/subject.ts';
import { electrolyteMl, soundBattery, type BatteryParameters } from '../model/parameters.ts';
import { CASE_C, get } from '../model/state.ts';
import { ceilingNow, limitsOf } from '../runsheet/verdict/chargeLimits.ts';
import { capacityMinutes } from '../grading/grade.ts';
import { settle } from '../runsheet/state/settle.ts';
import { piecesOf } from '../runsheet/state/looks.ts';
import { ageInMonths } from '../battery/dateCode.ts';
import { contextOf } from '../runsheet/state/context.ts';
import { definitionOf, procedureOf } from '../runsheet/state/sheet.ts';
import { latest, type JobState, type StepState } from '../runsheet/state/jobState.ts';
import type { InstrumentQuantity } from '../observation/instrument.ts';
import { conductanceA, loadV, meterV, read, scaleG } from '../observation/modelView.ts';
import { seededNormal } from '../chance/chance.ts';

/** What nobody can see of a battery until it shows. */
export interface Hidden {
  readonly faults?: readonly Fault[];
  /** How a battery brought for recovery stands, where it is not left to chance. */
  readonly condition?: Partial<CellCondition>;
  /** Where it stands, °C. */
  readonly ambientC?: number;
}

const AMBIENT_C = 21;
/** How much pieces of one type differ, one standard deviation as a share (practice: labels hold within 5 %). */
const CAPACITY_SPREAD = 0.02;
const CRANKING_SPREAD = 0.03;
const FILL_SPREAD = 0.003;
const DRY_MASS_SPREAD = 0.004;
/** And how much their dry plates lost, one standard deviation in share of charge. */
const LOSS_SPREAD = 0.02;
/** Dry mass of a type whose label prints none, g per Ah (practice). */
const DRY_G_PER_AH = 320;
const WEEK_S = 7 * 24 * 3600;

/** Traits of this very piece, the same whenever it is asked. */
function traitOf(state: JobState, name: string): number {
  return seededNormal(`${state.opened.battery.tag} ${name}`);
}

function parametersOf(state: JobState, faults: readonly Fault[]): BatteryParameters {
  const rating = ratingOf(state.opened.type);
  const { crankingA } = rating;
  const capacityAh = rating.capacityAh * (1 + CAPACITY_SPREAD * traitOf(state, 'capacity'));
  const cranking =
    crankingA === undefined
      ? {}
      : { crankingA: crankingA * (1 + CRANKING_SPREAD * traitOf(state, 'cranking')) };
  return makeBattery({ parameters: soundBattery({ ...rating, capacityAh, ...cranking }), faults }).parameters;
}

/** Acid of the pack, or as usual for the kind where the type has none: all cells, mL and g/cm³. */
function acidOf(
  type: BatteryType,
  { cells, rating }: BatteryParameters,
): { acidMl: number; density: number } {
  if (type.pack) return { acidMl: type.pack.volumeMl, density: type.pack.densityKgPerL };
  const acidMl = cells.reduce((sum, { acidG, waterG }) => sum + electrolyteMl(acidG, waterG), 0);
  return { acidMl, density: rating.acidDensity ?? 1.28 };
}

/** What the charger was set to: the ceiling of the charge at the warmth of the room. */
function ceilingOf(state: JobState, step: StepState, ambientC: number): number {
  const definition = definitionOf(state, step);
  const context = contextOf(state, step.round);
  return definition.kind === 'charge'
    ? ceilingNow(limitsOf(context, definition, step.charge?.dueMin ?? 0), state.opened.type, ambientC)
    : context.threshold('ceilingV').value;
}

/** How old a simulated battery is whose age nobody knows, months. */
const UNKNOWN_MONTHS = 24;
/** Steps with which acid goes in, by procedure. */
const FILLING = [STEP.packOn, STEP.fill, STEP.fillOverFine] as const;

/** When acid went in; a battery filled at the factory came with it. */
function filledAtOf(state: JobState): number | undefined {
  const steps = FILLING.flatMap((id) => latest(state, id) ?? []);
  return steps.length === 0 ? state.openedAt : steps[0]?.doneAt;
}

const isRecovery = (state: JobState): boolean => procedureOf(state).routes !== undefined;

/** Stood flat for months, as most that are brought: nearly empty, part of its sulfate hard, a film on the plates. */
const STOOD_FLAT: CellCondition = { ...SOUND, charge: 0.06, hardShare: 0.25, film: 0.5 };

/** The battery as it stands when acid is just in, as it came from the factory, or as it was brought back. */
function bornAt(state: JobState, hidden: Hidden, ambientC: number): CellString {
  const { type, battery } = state.opened;
  const { faults = [] } = hidden;
  if (isRecovery(state)) {
    const condition = { ...STOOD_FLAT, ...hidden.condition };
    const cells = makeBattery({ parameters: parametersOf(state, []), condition, faults, tempC: ambientC });
    rest(cells, 3600);
    return cells;
  }
  const parameters = parametersOf(state, faults);
  const ageMonths = ageInMonths(battery.dateCode, state.openedAt) ?? UNKNOWN_MONTHS;
  const spread = LOSS_SPREAD * traitOf(state, 'loss');
  if (FILLING.every((id) => latest(state, id) === undefined)) {
    const charge = chargeStandingByAge(ageMonths) / 100 - spread;
    const cells = makeBattery({ parameters, condition: { ...SOUND, charge }, tempC: ambientC });
    rest(cells, 60);
    return cells;
  }
  const { acidMl, density } = acidOf(type, parameters);
  return fillDryCharged(parameters, {
    acidMl: acidMl * (1 + FILL_SPREAD * traitOf(state, 'fill')),
    density,
    ageMonths,
    lostShare: 1 - chargeAfterSoakByAge(ageMonths) / 100 + spread,
    tempC: ambientC,
  });
}

interface On {
  readonly step: StepState;
  /** Into the battery; below 0 for a discharge, A. */
  readonly setA: number;
  readonly from: number;
  readonly to?: number;
}

/** Discharges of a recovery: a tenth of capacity from the load on until it was read and taken off. */
function drawsOf(state: JobState): On[] {
  return state.steps.flatMap((step) => {
    if (step.doneAt === undefined) return [];
    const tested = capacityMinutes(step.values ?? {}, state.opened.type);
    if (tested) {
      const { amps, minutes } = tested;
      return [{ step, setA: -amps, from: step.doneAt - minutes * 60_000, to: step.doneAt }];
    }
    if (step.stepId !== STEP.cycleStart) return [];
    const end = state.steps.find(({ stepId, round }) => stepId === STEP.cycleEnd && round === step.round);
    const setA = -state.opened.type.capacityAh / 10;
    return [{ step, setA, from: step.doneAt, ...(end?.doneAt === undefined ? {} : { to: end.doneAt }) }];
  });
}

function runsOf(state: JobState): On[] {
  const charges = state.steps.flatMap((step) =>
    step.charge ? piecesOf(step.charge).map(({ amps, ...run }) => ({ ...run, step, setA: amps })) : [],
  );
  return [...charges, ...drawsOf(state)].sort((a, b) => a.from - b.from);
}

/** The battery as it stands at a moment; undefined before any acid is in. */
export function batteryAt(unsettled: JobState, now: number, hidden: Hidden = {}): CellString | undefined {
  const state = settle(unsettled, now);
  const { type } = state.opened;
  const filledAt = filledAtOf(state);
  if (filledAt === undefined || filledAt > now) return undefined;
  const ambientC = hidden.ambientC ?? AMBIENT_C;
  const cells = bornAt(state, hidden, ambientC);
  let at = filledAt;
  const restUntil = (moment: number): void => {
    rest(cells, Math.max(0, moment - at) / 1000);
    at = Math.max(at, moment);
  };
  const subject = subjectOfType(type, contextOf(state, 1).basis.entered);
  for (const { step, setA, from, to } of runsOf(state)) {
    restUntil(Math.min(from, now));
    const until = Math.min(to ?? now, now);
    if (setA < 0) {
      draw(cells, -setA, 0, Math.max(0, until - at) / 1000);
      at = Math.max(at, until);
      continue;
    }
    const run = new ModelRun(
      cells,
      new ChargeEngine(
        heldPlan(
          setA,
          ceilingOf(state, step, ambientC),
          WEEK_S,
          isRecovery(state) ? 'wake' : 'first-charge',
          false,
        ),
        subject,
      ),
      {
        ambientC,
        hasProbe: false,
      },
    );
    run.runUntil((until - at) / 1000);
    at = Math.max(at, until);
  }
  const isOn = runsOf(state).at(-1)?.to === undefined && runsOf(state).length > 0;
  if (!isOn) restUntil(now);
  return cells;
}

function massG(state: JobState, cells: CellString | undefined): number {
  const { type } = state.opened;
  const dryG =
    (type.dryMassG ?? type.capacityAh * DRY_G_PER_AH) * (1 + DRY_MASS_SPREAD * traitOf(state, 'dry mass'));
  return cells ? scaleG(cells, dryG) : dryG;
}

/** Reads one quantity off the battery before the instruments. */
export type Sight = (quantity: InstrumentQuantity) => number;

/**
 * What simulated instruments show of a job's battery at a moment: V, A, °C, g or A, each with its own error.
 * The battery is worked out once, when first asked for.
 */
export function sightOf(state: JobState, now: number, hidden: Hidden = {}): Sight {
  let known: { readonly cells: CellString | undefined } | undefined;
  const sight = (): CellString | undefined => (known ??= { cells: batteryAt(state, now, hidden) }).cells;
  return (quantity) => {
    // A load test changes what it looks at: it gets a battery of its own.
    const cells = quantity === 'loadVoltage' ? batteryAt(state, now, hidden) : sight();
    const seed = `${state.job} ${quantity} ${now}`;
    if (quantity === 'mass') return read(massG(state, cells), 'scaleG', seed);
    const caseC = cells ? get(cells.state.shared, CASE_C) : (hidden.ambientC ?? AMBIENT_C);
    if (quantity === 'temperature') return read(caseC, 'thermometerC', seed);
    return cells ? Math.max(0, electricReading(state, quantity, cells, seed)) : 0;
  };
}

function electricReading(
  state: JobState,
  quantity: 'voltage' | 'current' | 'cranking' | 'loadVoltage',
  cells: CellString,
  seed: string,
): number {
  switch (quantity) {
    case 'voltage':
      return read(meterV(cells), 'meterV', seed);
    case 'current':
      return read(cells.currentA, 'shuntA', seed);
    case 'cranking':
      return read(conductanceA(cells), 'conductanceA', seed);
    case 'loadVoltage': {
      const { type, rules } = state.opened;
      const { currentA, seconds } = loadTestFor(type, rules.loadTest, get(cells.state.shared, CASE_C));
      return read(loadV(cells, currentA, seconds), 'loadV', seed);
    }
  }
}
