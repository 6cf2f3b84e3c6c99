/** Puts a battery on the model's bench: its parameters, and the condition each cell is in. */
import { ACID_G_PER_AH } from '../electrolyte/faraday.ts';
import { stringOf, type CellString } from './cellString.ts';
import type { BatteryParameters } from './parameters.ts';
import { CASE_C } from './state.ts';

/** How a cell stands before anything is done to it. */
export interface CellCondition {
  /** Share of the rated 20-h capacity that is charged, 0–1; below 0 for a cell driven past empty. */
  readonly charge: number;
  /** Of what is not charged, the share grown hard, 0–1. */
  readonly hardShare: number;
  /** Film on plates that stood flat, 0–1. */
  readonly film: number;
  /** Water lost, g. */
  readonly waterLostG: number;
  /** Acid sunk from the upper half into the lower, as a share of all acid, 0–0.5. */
  readonly layering: number;
  /** Charge held the wrong way round, Ah. */
  readonly reversedAh: number;
}

export const SOUND: CellCondition = {
  charge: 1,
  hardShare: 0,
  film: 0,
  waterLostG: 0,
  layering: 0,
  reversedAh: 0,
};

/** Sulfate that even a full cell keeps, as a share of what it could hold. */
const ALWAYS_LEFT = 0.002;
/** And what even an exhausted one could still give. */
const MOST_SULFATE = 0.9995;

/**
 * @param conditions one per cell, from the positive post; cells whose parameters and condition are the same
 * objects are solved as one
 * @param tempC of the battery
 * @throws RangeError when there is not one condition per cell
 */
export function batteryOf(
  parameters: BatteryParameters,
  conditions: readonly CellCondition[],
  tempC: number,
): CellString {
  if (conditions.length !== parameters.cells.length)
    throw new RangeError(
      `A battery of ${parameters.cells.length} cells needs as many conditions; ${conditions.length} came.`,
    );
  const first: number[] = [];
  const groupOf = conditions.map((condition, index) => {
    const cell = parameters.cells[index];
    for (let group = 0; group < first.length; group++) {
      const other = first[group] as number;
      if (parameters.cells[other] === cell && conditions[other] === condition) return group;
    }
    first.push(index);
    return first.length - 1;
  });
  const string = stringOf(parameters, groupOf);
  first.forEach((index, group) => {
    const condition = conditions[index];
    const cell = parameters.cells[index];
    if (condition && cell) settle(string, group, condition, cell.convertibleAh, cell.ratedAh, cell.acidG);
  });
  string.state.shared[CASE_C] = tempC;
  string.ambientC = tempC;
  return string;
}

function settle(
  { state }: CellString,
  group: number,
  condition: CellCondition,
  convertibleAh: number,
  ratedAh: number,
  acidG: number,
): void {
  const missing = Math.max(
    convertibleAh * ALWAYS_LEFT,
    (1 - condition.charge) * Math.min(ratedAh, convertibleAh),
  );
  const sulfate = Math.min(missing, convertibleAh * MOST_SULFATE, (acidG / ACID_G_PER_AH) * 0.99);
  state.soft[group] = sulfate * (1 - condition.hardShare);
  state.hard[group] = sulfate * condition.hardShare;
  state.film[group] = condition.film;
  state.lostG[group] = condition.waterLostG;
  state.layered[group] = condition.layering * acidG;
  state.reversed[group] = condition.reversedAh;
}
