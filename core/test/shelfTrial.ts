/** Batteries that stand in a store, by the cell model and honest noise: how well is foretold what becomes of them. */
import { rechargeLineV } from '../battery/shelfLines.ts';
import type { BatteryType } from '../battery/types.ts';
import { chanceFrom, normal } from '../chance/chance.ts';
import { postVolts, rest } from '../model/discharge.ts';
import { makeBattery } from '../model/faults.ts';
import { ratingOf } from '../model/fromType.ts';
import { soundBattery } from '../model/parameters.ts';
import { Exposure, daysOf } from '../shelf/exposure.ts';
import { predict } from '../shelf/prediction.ts';
import type { ShelfReading } from '../shelf/rate.ts';
import { MONTH_DAYS, speedAt } from '../battery/selfDischarge.ts';
import { DAY_MS } from '../shelf/warmth.ts';

const START = Date.parse('2026-03-10T08:00:00Z');
const EVERY_DAYS = 5;
const DAY_S = 86_400;

/** What one of a type rests at by the cell model, every five days at 25 °C, V. */
function modelCourse(type: BatteryType, times: number, days: number): readonly number[] {
  const sound = soundBattery(ratingOf(type));
  const [cell] = sound.cells;
  if (!cell) throw new Error('a battery has a cell');
  const faster = { ...cell, selfDischargePerDay: cell.selfDischargePerDay * times };
  const cells = makeBattery({ parameters: { ...sound, cells: sound.cells.map(() => faster) } });
  rest(cells, DAY_S / 24);
  const volts = [postVolts(cells)];
  for (let day = EVERY_DAYS; day <= days; day += EVERY_DAYS) {
    rest(cells, EVERY_DAYS * DAY_S);
    volts.push(postVolts(cells));
  }
  return volts;
}

/** Voltage after so many warm days, straight between those known; beyond them as it was last. */
function at(course: readonly number[], warmDays: number): number {
  const place = Math.min(course.length - 1.001, warmDays / EVERY_DAYS);
  const low = Math.floor(place);
  const [before = 0, after = 0] = [course[low], course[low + 1]];
  return before + (place - low) * (after - before);
}

export interface ShelfTrial {
  readonly type: BatteryType;
  readonly count: number;
  readonly seed: number;
  /** Its own rate, as a multiple of its kind's. */
  readonly timesOf: (chance: () => number) => number;
  readonly readings: number;
  readonly storeC: number;
}

export interface ShelfTrialResult {
  /** Share of dates inside their ranges of eight in ten, of those that came to the line within four years. */
  readonly inside: number;
  /** Share named as leaking. */
  readonly named: number;
}

const STEPS = 24;
const LEAST_TIMES = 0.2;
const MOST_TIMES = 12;

/**
 * Stands batteries in a store that is told to two kelvin, reads each monthly with a meter's ten millivolts, and holds the date it
 * comes to its recharge line against what was foretold after the last reading.
 */
export function shelfTrial({ type, count, seed, timesOf, readings, storeC }: ShelfTrial): ShelfTrialResult {
  const step = Math.log(MOST_TIMES / LEAST_TIMES) / STEPS;
  const courses = Array.from({ length: STEPS + 1 }, (_, index) =>
    modelCourse(type, LEAST_TIMES * Math.exp(index * step), 1600 / Math.exp((index * step) / 2)),
  );
  const chance = chanceFrom(seed);
  const exposure = new Exposure([{ from: START, days: daysOf({ tempC: storeC }, START, START), drawMa: 0 }]);
  const lineV = rechargeLineV(type.construction, type.cells);
  let [inside, dated, named] = [0, 0, 0];
  for (let battery = 0; battery < count; battery++) {
    const times = timesOf(chance);
    const place = Math.min(STEPS - 1e-6, Math.max(0, Math.log(times / LEAST_TIMES) / step));
    const [low, share] = [Math.floor(place), place % 1];
    const ownV = 0.03 * normal(chance);
    // The store is off by so much all along.
    const speed = speedAt(storeC + 2 * normal(chance));
    const volts = (days: number): number => {
      const [below = [], above = []] = [courses[low], courses[low + 1]];
      return ownV + at(below, days * speed) * (1 - share) + at(above, days * speed) * share;
    };
    const read = Array.from({ length: readings }, (_, index): ShelfReading => ({
      at: START + (index + 1) * MONTH_DAYS * DAY_MS,
      volts: volts((index + 1) * MONTH_DAYS) + 0.01 * normal(chance),
    }));
    const now = START + readings * MONTH_DAYS * DAY_MS;
    const { recharge, isSuspect } = predict(
      type,
      exposure,
      [{ from: START, isProven: true, readings: read }],
      now,
    );
    if (isSuspect) named += 1;
    let day = 0;
    while (volts(day) > lineV && day < 1400) day += 0.5;
    if (day >= 1400) continue;
    dated += 1;
    const line = START + day * DAY_MS;
    const { early = Number.POSITIVE_INFINITY, late = Number.POSITIVE_INFINITY } = recharge;
    if (line >= early && line <= late) inside += 1;
  }
  return { inside: inside / dated, named: named / count };
}
