/** Readings of a battery that is brought back: what a candidate would show, and how likely what was read is. */
import {
  bubblesOf,
  conductanceA,
  ERRORS,
  hydrometerAt,
  levelOf,
  meterV,
  dipProbes,
  type Bubbles,
  type Level,
} from '../instruments/modelView.ts';
import type { CellString } from '../model/cellString.ts';
import { postVolts } from '../model/discharge.ts';
import { Stepper } from '../model/stepper.ts';

export type Reading =
  /** Rested four hours or more, or with surface charge still on it. */
  | { readonly kind: 'ocv'; readonly volts: number; readonly isRested: boolean }
  | { readonly kind: 'load'; readonly amps: number; readonly seconds: number; readonly volts: number }
  | { readonly kind: 'tester'; readonly amps: number }
  /** As the hydrometer floats, g/cm³; meaningless until water added has mixed. */
  | { readonly kind: 'density'; readonly cell: number; readonly density: number; readonly isMixed?: boolean }
  | { readonly kind: 'level'; readonly cell: number; readonly level: Level }
  /** Dip probes, one more than cells. */
  | { readonly kind: 'dips'; readonly volts: readonly number[] }
  /** What it takes after two minutes at a voltage held. */
  | { readonly kind: 'acceptance'; readonly volts: number; readonly amps: number }
  | { readonly kind: 'bubbles'; readonly cell: number; readonly bubbles: Bubbles };

export type ReadingKind = Reading['kind'];

/** Minutes of hands each takes, cleaning up included (practice). */
export const MINUTES: Record<ReadingKind, number> = {
  ocv: 1,
  load: 3,
  tester: 2,
  density: 1,
  level: 0.5,
  dips: 6,
  acceptance: 5,
  bubbles: 1,
};

/**
 * How far the model may be off beside the instrument: V, share, g/cm³. One standard deviation, from
 * `docs/model.md` and widened for what the model does not know.
 */
const MODEL = {
  restedV: 0.035,
  surfaceV: 0.2,
  loadV: 0.25,
  conductanceShare: 0.1,
  density: 0.008,
  dipV: 0.03,
  acceptanceShare: 0.3,
  acceptanceA: 0.05,
} as const;

/** Odds that a reading is a slip of hand or eye, whatever the battery. */
const SLIP = 0.02;
/** Degrees of freedom of the error's tail: heavier than normal, so one odd reading does not decide alone. */
const TAIL = 5;

/** Logarithm of Student's t density, but for a constant; `scale` in the reading's unit. @see Lange et al. 1989 */
function logT(residual: number, scale: number): number {
  const z = residual / scale;
  return -((TAIL + 1) / 2) * Math.log1p((z * z) / TAIL) - Math.log(scale);
}

/** What was seen, when a candidate would show something else: a slip. */
const seen = (isSame: boolean, isNear: boolean): number => Math.log(isSame ? 1 - SLIP : isNear ? 0.2 : SLIP);

/** Two minutes, in steps that lengthen as the current settles, s. */
const ACCEPTANCE_STEPS_S = [5, 20, 40, 55] as const;

/** Current a battery takes after two minutes at a voltage, from a supply of C/5 at most, A. */
export function acceptedA(cells: CellString, volts: number, mostA: number): number {
  const stepper = new Stepper(cells);
  let amps = mostA;
  for (const seconds of ACCEPTANCE_STEPS_S) {
    if (!stepper.step({ hold: 'voltage', voltsAt: () => volts }, seconds)) return 0;
    amps = cells.currentA;
    if (amps <= mostA) continue;
    stepper.undo();
    if (!stepper.step({ hold: 'current', amps: mostA }, seconds)) return 0;
    amps = mostA;
  }
  return amps;
}

/** Steps of a load test, as shares of its length: the first second falls fastest. */
const LOAD_STEPS = [0.005, 0.03, 0.1, 0.25, 0.615] as const;

/**
 * Lowest voltage of a load test in a few long steps: within 20 mV of the fine ones where a battery holds, which
 * is a tenth of what the model itself may be off by.
 */
export function quickLoadV(cells: CellString, amps: number, seconds: number): number {
  const stepper = new Stepper(cells);
  let lowest = Number.POSITIVE_INFINITY;
  for (const share of LOAD_STEPS) {
    if (!stepper.step({ hold: 'current', amps: -amps }, share * seconds)) return 0;
    lowest = Math.min(lowest, postVolts(cells));
    if (lowest <= 0) return 0;
  }
  return lowest;
}

/** What a candidate shows, remembered: a reading does not change with the others. */
export class Shown {
  private readonly make: () => CellString;
  private readonly still: CellString;
  private readonly known = new Map<string, number | readonly number[] | string>();

  /** @param make the candidate anew, for what a test would change */
  constructor(make: () => CellString) {
    this.make = make;
    this.still = make();
  }

  get cells(): CellString {
    return this.still;
  }

  private once<T extends number | readonly number[] | string>(key: string, work: () => T): T {
    const known = this.known.get(key);
    if (known !== undefined) return known as T;
    const value = work();
    this.known.set(key, value);
    return value;
  }

  ocvV(): number {
    return this.once('ocv', () => meterV(this.still));
  }

  loadV(amps: number, seconds: number): number {
    return this.once(`load ${amps} ${seconds}`, () => quickLoadV(this.make(), amps, seconds));
  }

  testerA(): number {
    return this.once('tester', () => conductanceA(this.still));
  }

  density(cell: number): number {
    return this.once(`density ${cell}`, () => hydrometerAt(this.still, cell));
  }

  level(cell: number): Level {
    return this.once<Level>(`level ${cell}`, () => levelOf(this.still, cell));
  }

  bubbles(cell: number): Bubbles {
    return this.once<Bubbles>(`bubbles ${cell}`, () => bubblesOf(this.still, cell));
  }

  dips(): readonly number[] {
    return this.once<readonly number[]>('dips', () => dipProbes(this.still));
  }

  acceptedA(volts: number, mostA: number): number {
    return this.once(`accepts ${volts} ${mostA}`, () => acceptedA(this.make(), volts, mostA));
  }
}

/** Supply of the acceptance check, as a share of capacity. */
export const ACCEPTANCE_MOST = 1 / 5;

const LEVELS: readonly Level[] = ['at-line', 'low', 'plates-bare'];

/** A bare step between two dips, and the two ends judged as a pair: they share the probe metal's own offset. */
function dipsLog(read: readonly number[], shown: readonly number[], cells: number): number {
  if (read.length !== shown.length) return 0;
  const scale = Math.hypot(ERRORS.dipV.absolute, MODEL.dipV);
  // Where within a cell its loss sits is not known: a loss may show before or after, so neighbours are compared in pairs.
  let sum = 0;
  for (let step = 1; step < cells; step++) {
    const pair = (values: readonly number[]): number =>
      ((values[step] ?? 0) + (values[step + 1] ?? values[step] ?? 0)) / 2;
    sum += logT(pair(read) - pair(shown), scale * 1.5);
  }
  return sum;
}

/** Readings that want a simulation of their own are asked last. */
export const DEAR: readonly ReadingKind[] = ['acceptance', 'load'];

/** The most a reading's likelihood can be, whatever the battery: what lets a hopeless candidate go unsimulated. */
export function mostLogLikelihood(reading: Reading): number {
  switch (reading.kind) {
    case 'load':
      return -Math.log(Math.hypot(ERRORS.loadV.absolute, MODEL.loadV));
    case 'acceptance':
      return -Math.log(MODEL.acceptanceA);
    default:
      return Number.POSITIVE_INFINITY;
  }
}

/**
 * Logarithm of the likelihood of a reading, were the battery this candidate.
 * @param capacityAh of the label, for the acceptance check's supply
 */
export function logLikelihood(reading: Reading, shown: Shown, capacityAh: number): number {
  switch (reading.kind) {
    case 'ocv': {
      const model = reading.isRested ? MODEL.restedV : MODEL.surfaceV;
      const offset = reading.isRested ? 0 : 0.1;
      return logT(reading.volts - shown.ocvV() - offset, Math.hypot(ERRORS.meterV.absolute, model));
    }
    case 'load': {
      const expected = shown.loadV(reading.amps, reading.seconds);
      return logT(reading.volts - expected, Math.hypot(ERRORS.loadV.absolute, MODEL.loadV));
    }
    case 'tester': {
      const expected = shown.testerA();
      const share = Math.hypot(ERRORS.conductanceA.share, MODEL.conductanceShare);
      return logT(reading.amps - expected, Math.max(5, expected * share));
    }
    case 'density':
      return reading.isMixed === false
        ? 0
        : logT(
            reading.density - shown.density(reading.cell),
            Math.hypot(ERRORS.hydrometer.absolute, MODEL.density),
          );
    case 'level': {
      const apart = Math.abs(LEVELS.indexOf(reading.level) - LEVELS.indexOf(shown.level(reading.cell)));
      return seen(apart === 0, apart === 1);
    }
    case 'dips':
      return dipsLog(reading.volts, shown.dips(), shown.cells.groupOf.length);
    case 'acceptance': {
      const expected = shown.acceptedA(reading.volts, capacityAh * ACCEPTANCE_MOST);
      return logT(reading.amps - expected, Math.max(MODEL.acceptanceA, expected * MODEL.acceptanceShare));
    }
    case 'bubbles': {
      const expected = shown.bubbles(reading.cell);
      return seen(expected === reading.bubbles, expected === 'few' || reading.bubbles === 'few');
    }
  }
}
