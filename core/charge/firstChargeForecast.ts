/** A first charge run forward on the model, beside the rule of thumb: how long, and what the meter will show. */

import { densityAt } from '../electrolyte/density.ts';
import type { BatteryType, PrintedValues } from '../battery/types.ts';
import { fillDryCharged } from '../model/birth.ts';
import { rest } from '../model/discharge.ts';
import { ratingOf } from '../model/fromType.ts';
import { subjectOfType } from './subject.ts';
import { soundBattery } from '../model/parameters.ts';
import { CASE_C, get } from '../model/state.ts';
import { simplified } from './thin.ts';
import { ChargeEngine } from './engine.ts';
import { ModelRun } from './modelRun.ts';
import type { Profile } from './profile.ts';

export interface FirstChargeQuestion {
  readonly type: BatteryType;
  /** Label values entered on the job. */
  readonly entered: PrintedValues;
  /** Charge after the soak, percent. */
  readonly startPercent: number;
  readonly setA: number;
  readonly ceilingV: number;
  /** Two hours flat, or what the house asks for, min. */
  readonly tailMin: number;
  /** Warmth of the battery when the charge begins, °C. */
  readonly tempC: number;
}

export interface FirstChargeCurve {
  /** Moments on charge, min, with what the meter shows there. */
  readonly minutes: readonly number[];
  readonly volts: readonly number[];
  readonly amps: readonly number[];
  readonly tempC: readonly number[];
  /** Hydrogen given off since the charge began, litres at 25 °C. */
  readonly hydrogenL: readonly number[];
  /** When it is proven full, and how much of that is the flat tail, min. */
  readonly doneMin: number;
  readonly because: string;
}

const MINUTE = 60;
const SOAKED_S = 3 * 3600;
/** Nobody waits longer for a first charge, s. */
const LONGEST_S = 48 * 3600;
/** Points closer to the line than this share of the range are not kept. */
const UNSEEN = 1 / 400;
function planOf({ setA, ceilingV, tailMin }: FirstChargeQuestion): Profile {
  return {
    id: 'tenth-timed',
    name: 'First charge',
    purpose: 'first-charge',
    reason: 'As set on the run sheet.',
    isAttended: false,
    stages: [
      {
        id: 'on',
        name: 'Until proven full',
        amps: setA,
        volts: ceilingV,
        isCompensated: true,
        exits: [{ on: 'full', forS: tailMin * MINUTE, next: 'full' }],
      },
    ],
  };
}

/** Acid of a pack, or as usual for the kind where the type has none: mL and g/cm³. */
function acidOf(type: BatteryType): { acidMl: number; density: number } {
  if (type.pack) return { acidMl: type.pack.volumeMl, density: type.pack.densityKgPerL };
  const [cell] = soundBattery(ratingOf(type)).cells;
  if (!cell) return { acidMl: 0, density: 1.28 };
  const solutionG = cell.acidG + cell.waterG;
  const density = densityAt(cell.acidG / solutionG, 25);
  return { acidMl: (solutionG / density) * type.cells, density };
}

/** Filled, soaked, and charged to the end of the plan. */
function chargedRun(question: FirstChargeQuestion): ModelRun {
  const { type, entered, startPercent, tempC } = question;
  const cells = fillDryCharged(soundBattery(ratingOf(type)), {
    ...acidOf(type),
    ageMonths: 0,
    lostShare: 1 - startPercent / 100,
    tempC,
  });
  rest(cells, SOAKED_S);
  // What is left of the warmth of wetting is in the reading already.
  const { shared } = cells.state;
  const wettingK = get(shared, CASE_C) - tempC;
  shared[CASE_C] = tempC;
  const engine = new ChargeEngine(planOf(question), subjectOfType(type, entered));
  const run = new ModelRun(cells, engine, { ambientC: tempC - wettingK });
  run.runUntil(LONGEST_S);
  return run;
}

export interface FirstChargeFigures {
  /** When it is proven full, min. */
  readonly doneMin: number;
  /** When its current has tapered and only the proof is left: it may be left alone then, min. */
  readonly taperedMin: number;
  readonly warmestC: number;
}

/**
 * A current below C/50 leaves a few per cent to go (handbook 3.4); planned a little lower, since no piece has just the
 * capacity its label says.
 */
const TAPERED_SHARE = 0.85 / 50;
/** Answers kept; a shop's open jobs ask for far fewer. */
const MOST_KNOWN = 500;
const known = new Map<string, FirstChargeFigures>();

/** Everything the answer depends on: the type as the model and the limits read it, and all of the question. */
function keyOf({ type, entered, ...asked }: FirstChargeQuestion): string {
  return JSON.stringify([ratingOf(type), subjectOfType(type, entered), type.pack, asked]);
}

/**
 * When a first charge is done and how warm it gets: charge and warmth to the nearest per cent and kelvin, and
 * each answer kept, since every cord on the bench asks for it.
 * @throws RangeError or ProfileError in one sentence when type or setting are impossible
 */
export function firstChargeFigures(exact: FirstChargeQuestion): FirstChargeFigures {
  const question = {
    ...exact,
    startPercent: Math.round(exact.startPercent),
    tempC: Math.round(exact.tempC),
  };
  const key = keyOf(question);
  const before = known.get(key);
  if (before) return before;
  const { trace, atS } = chargedRun(question);
  let warmestC = question.tempC;
  let taperedMin = 0;
  for (let row = 0; row < trace.length; row++) {
    warmestC = Math.max(warmestC, trace.value(row, 'tempC'));
    const isTapered = trace.value(row, 'amps') <= TAPERED_SHARE * question.type.capacityAh;
    if (!isTapered) taperedMin = trace.seconds(row) / MINUTE;
  }
  const figures = { doneMin: atS / MINUTE, taperedMin, warmestC };
  if (known.size >= MOST_KNOWN) known.clear();
  known.set(key, figures);
  return figures;
}

/**
 * @throws RangeError or ProfileError in one sentence when type or setting are impossible
 */
export function forecastFirstCharge(question: FirstChargeQuestion): FirstChargeCurve {
  const run = chargedRun(question);
  const { trace } = run;
  const all = Array.from({ length: trace.length }, (_, row) => trace.seconds(row) / MINUTE);
  const column = (name: 'volts' | 'amps' | 'tempC' | 'gasL'): number[] =>
    all.map((_, row) => trace.value(row, name));
  const columns = [column('volts'), column('amps'), column('tempC'), column('gasL')];
  const rows = [
    ...new Set(
      columns.flatMap((values) =>
        simplified(all, values, (Math.max(...values) - Math.min(...values)) * UNSEEN),
      ),
    ),
  ].sort((a, b) => a - b);
  const pick = (values: readonly number[] | undefined): number[] => rows.map((row) => values?.[row] ?? 0);
  return {
    minutes: pick(all),
    volts: pick(columns[0]),
    amps: pick(columns[1]),
    tempC: pick(columns[2]),
    hydrogenL: pick(columns[3]),
    doneMin: run.atS / MINUTE,
    because: run.engineState.because,
  };
}

/**
 * Hydrogen a charging battery gives off at a moment.
 * @param minute on charge
 * @returns litres an hour at 25 °C; what it gave off last where the charge outlasts its forecast
 */
export function hydrogenLPerH({ minutes, hydrogenL }: FirstChargeCurve, minute: number): number {
  const after = minutes.findIndex((one) => one > minute);
  const row = after === -1 ? minutes.length - 1 : Math.max(1, after);
  const hours = ((minutes[row] ?? 0) - (minutes[row - 1] ?? 0)) / 60;
  return hours > 0 ? ((hydrogenL[row] ?? 0) - (hydrogenL[row - 1] ?? 0)) / hours : 0;
}
