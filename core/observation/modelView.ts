/**
 * What instruments and eyes see of a battery of the model: the truth first, then each instrument's own
 * error laid over it. The battery must have been stepped at least once.
 */
import { onSix } from '../battery/types.ts';
import { postsOhm } from '../charge/donor.ts';
import { densityAt } from '../electrolyte/density.ts';
import type { CellString } from '../model/cellString.ts';
import { draw, postVolts, type Drawn } from '../model/discharge.ts';
import { acidG, waterG } from '../model/show.ts';
import { get } from '../model/state.ts';
import { seededNormal } from '../chance/chance.ts';

export type Level = 'at-line' | 'low' | 'plates-bare';
export type Bubbles = 'lively' | 'few' | 'none';

/** One standard deviation of each instrument: absolute, or as a share of the reading where that is larger. */
export const ERRORS = {
  meterV: { absolute: 0.004, share: 0.0005 },
  /** In line with the charger, as a bench meter reads small currents. */
  shuntA: { absolute: 0.002, share: 0.005 },
  clampA: { absolute: 0.02, share: 0.01 },
  hydrometer: { absolute: 0.003, share: 0 },
  dipV: { absolute: 0.015, share: 0 },
  thermometerC: { absolute: 0.3, share: 0 },
  scaleG: { absolute: 1.5, share: 0.0002 },
  conductanceA: { absolute: 2, share: 0.03 },
  loadV: { absolute: 0.03, share: 0 },
  /** Minutes of a capacity test: its current and its end are a little off. */
  analyserMin: { absolute: 0.5, share: 0.015 },
} as const;

/**
 * A reading with the instrument's error.
 * @param seed the same seed reads the same
 */
export function read(truth: number, error: keyof typeof ERRORS, seed: string): number {
  const { absolute, share } = ERRORS[error];
  return truth + seededNormal(seed) * Math.max(absolute, Math.abs(truth) * share);
}

/** Group of a cell counted from the positive post, from 1. */
function groupOf(cells: CellString, cell: number): number {
  const group = cells.groupOf[cell - 1];
  if (group === undefined)
    throw new RangeError(`This battery has cells 1 to ${cells.groupOf.length}; there is no cell ${cell}.`);
  return group;
}

export function meterV(cells: CellString): number {
  return postVolts(cells);
}

/**
 * What a hydrometer drawn from the top of a cell floats at, not corrected for temperature, g/cm³. Layered
 * acid is weakest there.
 */
export function hydrometerAt(cells: CellString, cell: number): number {
  const group = groupOf(cells, cell);
  const acid = acidG(cells, group) / 2 - get(cells.state.layered, group) / 2;
  const water = waterG(cells, group) / 2;
  const tempC = Math.min(50, Math.max(0, cells.tempOf(group)));
  return densityAt(Math.max(0, acid / (acid + water)), tempC);
}

/** A sound cell at rest, and its positive half against a lead probe in the same acid, V. */
const SOUND_CELL_V = 2.1;
const POSITIVE_HALF_V = 1.74;

/**
 * Dip probes of one metal in the acid: positive post to cell 1, 1 to 2, … , last cell to the negative post.
 * A step between two dips pairs the negative plates of one cell with the positive plates of the next; what a
 * cell lacks shows in the reading before it, after it, or in both.
 * @param lossAtPositive share of what a cell lacks that its positive plates lack
 * @returns one reading more than cells; they sum to the battery's voltage
 */
export function dipProbes(cells: CellString, lossAtPositive = 0.5): number[] {
  return dipsAlong(cellVolts(cells), lossAtPositive);
}

/** The same, of cells that stand at so many volts. */
export function dipsAlong(volts: readonly number[], lossAtPositive = 0.5): number[] {
  const positive = volts.map((v) => POSITIVE_HALF_V - (SOUND_CELL_V - v) * lossAtPositive);
  const negative = volts.map((v, index) => v - (positive[index] ?? 0));
  return [
    positive[0] ?? 0,
    ...negative.slice(0, -1).map((half, index) => half + (positive[index + 1] ?? 0)),
    negative.at(-1) ?? 0,
  ];
}

/** Cell voltages through open caps, from the positive post, V. */
export function cellVolts(cells: CellString): number[] {
  return cells.groupOf.map((group) => get(cells.shown.cellV, group));
}

/** Warmth of a cell by probe, °C. */
export function probeC(cells: CellString, cell: number): number {
  return cells.tempOf(groupOf(cells, cell));
}

/** Level falls by this share of the water before it is seen, and before plates stand bare (practice). */
const LOW_FROM = 0.06;
const BARE_FROM = 0.15;

/** A lamp into a cell. */
export function levelOf(cells: CellString, cell: number): Level {
  const group = groupOf(cells, cell);
  const lost = get(cells.state.lostG, group) / get(cells.p.waterG, group);
  return levelWith(lost);
}

/** @param lost share of the water that is gone */
export function levelWith(lost: number): Level {
  if (lost > BARE_FROM) return 'plates-bare';
  return lost > LOW_FROM ? 'low' : 'at-line';
}

/** Gassing current per Ah at which bubbles are seen, and at which a cell is lively, A/Ah (practice). */
const SEEN_PER_AH = 0.0005;
const LIVELY_PER_AH = 0.004;

/** What rises in a cell, caps off. */
export function bubblesOf(cells: CellString, cell: number): Bubbles {
  const group = groupOf(cells, cell);
  const perAh = Math.abs(get(cells.shown.gasA, group)) / get(cells.p.ratedAh, group);
  if (perAh < SEEN_PER_AH) return 'none';
  return perAh < LIVELY_PER_AH ? 'few' : 'lively';
}

/** On a scale, g: case, plates and all that was filled, less what left as gas. */
export function scaleG(cells: CellString, dryMassG: number): number {
  let sum = dryMassG;
  for (let g = 0; g < cells.groups; g++)
    sum +=
      get(cells.counts, g) * (get(cells.p.acidG, g) + get(cells.p.waterG, g) - get(cells.state.lostG, g));
  return sum;
}

/** CCA ≈ 2.55 V / R on the EN scale, for twelve volts. Handbook 3.2. */
export const CONDUCTANCE_V = 2.55;

/** Cranking current a conductance tester shows, A (EN): it sees resistance, and so charge and cold as well. */
export function conductanceA(cells: CellString): number {
  return onSix(CONDUCTANCE_V, { cells: cells.groupOf.length }) / postsOhm(cells);
}

/** Lowest voltage of a load test; the charge drawn stays drawn. */
export function loadV(cells: CellString, amps: number, seconds: number): number {
  return draw(cells, amps, 0, seconds).lowestV;
}

/** A discharge analyser: minutes and ampere-hours to the end voltage. */
export function analyse(cells: CellString, amps: number, endV: number, mostS = 400 * 3600): Drawn {
  return draw(cells, amps, endV, mostS);
}
