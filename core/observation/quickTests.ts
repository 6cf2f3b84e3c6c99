/** Tests of a candidate in few and long steps: what it takes, how it stands under load, how long it lasts. */
import type { CellString } from '../model/cellString.ts';
import { draw, postVolts } from '../model/discharge.ts';
import { OPEN } from '../model/source.ts';
import { stepperOf } from '../model/stepper.ts';

/** Two minutes, in steps that lengthen as the current settles, s. */
const ACCEPTANCE_STEPS_S = [5, 20, 40, 55] as const;

/** Current a battery takes after two minutes at a voltage, from a supply of C/5 at most, A. */
export function acceptedA(cells: CellString, volts: number, mostA: number): number {
  const stepper = stepperOf(cells);
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

/** Steps within a load's first second and over the rest of it, as shares; and after it came off, s. */
const LOAD_FIRST = [0.1, 0.9] as const;
const LOAD_ON = [0.1, 0.27, 0.63] as const;
const LOAD_OFF_S = [5, 55] as const;
/** Thirds tried of a step that cannot be held. */
const SHORTENINGS = 4;

/** What a load test shows: a second in, at its lowest, and a minute after the load came off, V. */
export interface UnderLoad {
  readonly firstV: number;
  readonly lowestV: number;
  readonly backV: number;
}

/**
 * A load test in a few long steps: within 20 mV of the fine ones where a battery holds, which is a tenth of what
 * the model itself may be off by. One that cannot hold the load shows nothing.
 */
export function quickLoad(cells: CellString, amps: number, seconds: number): UnderLoad {
  const stepper = stepperOf(cells);
  const firstS = Math.min(1, seconds / 2);
  // What cannot be held to the end is held as long as it can be, so that it is as empty as it would be.
  const under = (length: number): number => {
    let left = length;
    let part = length;
    for (let shortenings = 0; left > 0 && shortenings <= SHORTENINGS;) {
      if (stepper.step({ hold: 'current', amps: -amps }, Math.min(part, left))) left -= Math.min(part, left);
      else {
        part /= 3;
        shortenings += 1;
      }
    }
    return left > 0 ? 0 : Math.max(0, postVolts(cells));
  };
  const through = (lengths: readonly number[], from: number): readonly [lowest: number, last: number] => {
    let lowest = from;
    let last = from;
    for (const length of lengths) {
      if (lowest === 0) return [0, 0];
      last = under(length);
      lowest = Math.min(lowest, last);
    }
    return [lowest, last];
  };
  const [early, firstV] = through(
    LOAD_FIRST.map((share) => share * firstS),
    Number.POSITIVE_INFINITY,
  );
  const [lowestV] = through(
    LOAD_ON.map((share) => share * (seconds - firstS)),
    early,
  );
  for (const length of LOAD_OFF_S) stepper.step(OPEN, length);
  return { firstV, lowestV, backV: postVolts(cells) };
}

/** End of a capacity test, V per cell; run on to here, for one that holds out longer; and longest looked at. */
const END_CELL_V = 1.75;
const RUN_ON_CELL_V = 1.6;
const MOST_RESERVE_S = 30 * 3600;

/** A discharge at a steady current, from the start to a little past its end. */
export interface Discharge {
  readonly minutes: Float64Array;
  readonly volts: Float64Array;
  /** To 1.75 V a cell. */
  readonly endMin: number;
}

export function discharge(cells: CellString, amps: number): Discharge {
  const count = cells.groupOf.length;
  const endV = END_CELL_V * count;
  const minutes: number[] = [];
  const volts: number[] = [];
  draw(cells, amps, RUN_ON_CELL_V * count, MOST_RESERVE_S, {
    told: (seconds, v) => {
      minutes.push(seconds / 60);
      volts.push(v);
    },
  });
  const past = volts.findIndex((v) => v <= endV);
  return {
    minutes: Float64Array.from(minutes),
    volts: Float64Array.from(volts),
    endMin: past === -1 ? (minutes.at(-1) ?? 0) : crossing(minutes, volts, past, endV),
  };
}

/** When a falling voltage met a level, straight between the steps on either side. */
function crossing(minutes: readonly number[], volts: readonly number[], past: number, level: number): number {
  const [t1 = 0, v1 = 0] = [minutes[past], volts[past]];
  const [t0 = 0, v0 = v1] = [minutes[past - 1], volts[past - 1]];
  return v0 > v1 ? t0 + ((v0 - level) / (v0 - v1)) * (t1 - t0) : t1;
}

/** Of a discharge that gave out: what it shows falls off a cliff, V a minute. */
const CLIFF_V = 1;

/** What a discharge shows at a minute, and how fast it falls there, V and V a minute. */
export function dischargeAt(
  { minutes, volts }: Discharge,
  minute: number,
): readonly [v: number, fall: number] {
  const after = minutes.findIndex((one) => one >= minute);
  if (after === -1) return [(volts.at(-1) ?? 0) - CLIFF_V * (minute - (minutes.at(-1) ?? 0)), CLIFF_V];
  const before = Math.max(0, after - 1);
  const [t0 = 0, v0 = 0] = [minutes[before], volts[before]];
  const [t1 = 0, v1 = 0] = [minutes[after], volts[after]];
  const fall = t1 > t0 ? (v0 - v1) / (t1 - t0) : 0;
  return [v1 + fall * (t1 - minute), fall];
}
