/** What a sound battery of this type would show on this charge: what a running one is held against. */
import { CONSTRUCTION } from '../battery/construction.ts';
import type { BatteryType, PrintedValues } from '../battery/types.ts';
import { SOUND } from '../model/battery.ts';
import { makeBattery } from '../model/faults.ts';
import { ratingOf } from '../model/fromType.ts';
import { subjectOfType } from './subject.ts';
import { soundBattery } from '../model/parameters.ts';
import { ChargeEngine } from './engine.ts';
import { heldPlan } from './held.ts';
import { ModelRun } from './modelRun.ts';
import { ProfileError } from './profile.ts';

export interface ExpectedQuestion {
  readonly type: BatteryType;
  readonly entered: PrintedValues;
  /** Charge it began with, percent; the least it may have had. */
  readonly startPercent: number;
  readonly setA: number;
  /** At 25 °C. */
  readonly ceilingV: number;
  readonly isCompensated: boolean;
  /** When the charge began, °C. */
  readonly tempC: number;
}

export interface Expected {
  /**
   * Voltage at the set current once so much went in, V; of a stretch where the voltage rises slowly, so that an
   * error in the charge it began with moves it little.
   * @param putInAh since the charge began
   */
  voltsAt(putInAh: number): number;
  /** Whether every sound one is past its knee by then, wherever it began: it stands at its ceiling. */
  isSurelyFull(putInAh: number): boolean;
  /** Warmth at a moment on charge, °C. */
  tempAt(minutes: number): number;
}

const HOUR_S = 3600;
/** A charge is drawn out this far; beyond it the last values stand. */
const LONGEST_H = 48;
/** Start and warmth to the nearest of these, so that few answers are kept. */
const PERCENT_STEP = 5;
const TEMP_STEP_K = 2;
/** Empty plates leave the model; nothing is charged from below. */
const LEAST_PERCENT = 5;
/** Past this charge the voltage leaps, and an error of a few points in the start is worth a volt. */
const BEFORE_KNEE = 0.6;
/** In the cold the knee comes sooner: no higher than this is expected before a battery is surely full, V a cell. */
const BELOW_KNEE_CELL_V = 2.17;
/** Beyond this charge every sound battery is past it, a piece larger than its label too; of what goes in so much stays at least. */
const SURELY_FULL = 1.07;
const MOST_KNOWN = 300;

const known = new Map<string, Expected | undefined>();

function at(xs: readonly number[], ys: readonly number[], x: number): number {
  const after = xs.findIndex((one) => one >= x);
  if (after === -1) return ys.at(-1) ?? Number.NaN;
  if (after === 0) return ys[0] ?? Number.NaN;
  const [x0 = 0, x1 = 0, y0 = 0, y1 = 0] = [xs[after - 1], xs[after], ys[after - 1], ys[after]];
  return x1 > x0 ? y0 + ((y1 - y0) * (x - x0)) / (x1 - x0) : y1;
}

function run(question: ExpectedQuestion): Expected {
  const { type, entered, startPercent, setA, ceilingV, isCompensated, tempC } = question;
  const cells = makeBattery({
    parameters: soundBattery(ratingOf(type)),
    condition: { ...SOUND, charge: startPercent / 100 },
    tempC,
  });
  const plan = heldPlan(setA, ceilingV, LONGEST_H * HOUR_S, 'wake', isCompensated);
  const charge = new ModelRun(cells, new ChargeEngine(plan, subjectOfType(type, entered)), {
    ambientC: tempC,
  });
  const minutes: number[] = [];
  const putIn: number[] = [];
  const volts: number[] = [];
  const temps: number[] = [];
  let ah = 0;
  charge.runUntil(LONGEST_H * HOUR_S);
  const { trace } = charge;
  for (let row = 0; row < trace.length; row++) {
    const seconds = trace.seconds(row);
    const before = row > 0 ? trace.seconds(row - 1) : 0;
    ah += (trace.value(row, 'amps') * (seconds - before)) / HOUR_S;
    minutes.push(seconds / 60);
    putIn.push(ah);
    volts.push(trace.value(row, 'volts'));
    temps.push(trace.value(row, 'tempC'));
  }
  const { capacityAh } = type;
  const kneeAh = Math.max(0, (BEFORE_KNEE - startPercent / 100) * capacityAh);
  const isSurelyFull = (putInAh: number): boolean =>
    startPercent / 100 + (CONSTRUCTION[type.construction].efficiency * putInAh) / capacityAh >= SURELY_FULL;
  return {
    isSurelyFull,
    voltsAt: (putInAh) =>
      isSurelyFull(putInAh)
        ? at(putIn, volts, putInAh)
        : Math.min(BELOW_KNEE_CELL_V * type.cells, at(putIn, volts, Math.min(putInAh, kneeAh))),
    tempAt: (minute) => at(minutes, temps, minute),
  };
}

/**
 * What is expected of a charge, each answer kept.
 * @returns undefined for a label the model cannot be made from
 */
export function expectedOf(exact: ExpectedQuestion): Expected | undefined {
  const question = {
    ...exact,
    startPercent: Math.max(LEAST_PERCENT, Math.floor(exact.startPercent / PERCENT_STEP) * PERCENT_STEP),
    tempC: Math.round(exact.tempC / TEMP_STEP_K) * TEMP_STEP_K,
  };
  const { type, entered, ...asked } = question;
  let key: string;
  try {
    key = JSON.stringify([ratingOf(type), subjectOfType(type, entered), asked]);
  } catch {
    return undefined;
  }
  if (known.has(key)) return known.get(key);
  let expected: Expected | undefined;
  try {
    expected = run(question);
  } catch (error) {
    if (!(error instanceof RangeError || error instanceof ProfileError)) throw error;
  }
  if (known.size >= MOST_KNOWN) known.clear();
  known.set(key, expected);
  return expected;
}
