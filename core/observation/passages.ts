/** What was done to a battery between its readings: a candidate goes through the same. */
import { ChargeEngine } from '../charge/engine.ts';
import { heldPlan } from '../charge/held.ts';
import { ModelRun } from '../charge/modelRun.ts';
import type { Trace } from '../charge/trace.ts';
import type { CellString } from '../model/cellString.ts';
import { draw, rest } from '../model/discharge.ts';
import { get } from '../model/state.ts';
import type { Rating } from '../model/parameters.ts';
import { onChargeMin, type Reading } from './readings.ts';
import type { Passage } from '../candidate/passage.ts';
import type { Setting } from '../candidate/traits.ts';

/** Whether a candidate must go through a charge, or a rest, to say what it would show: time passed, not only water. */
export const isFar = (reading: Reading, { passages = [] }: Setting): boolean =>
  onChargeMin(reading) !== undefined ||
  passages.slice(0, reading.stage ?? 0).some(({ minutes }) => minutes > 0);

const MINUTE_S = 60;

/** A millilitre of water weighs a gram; what is over the line is not followed. */
function pour(cells: CellString, waterMl: readonly number[]): void {
  for (let group = 0; group < cells.groups; group++) {
    const poured = waterMl.filter((_, index) => cells.groupOf[index] === group);
    const each = poured.reduce((sum, ml) => sum + ml, 0) / poured.length;
    cells.state.lostG[group] = Math.max(0, get(cells.state.lostG, group) - each);
  }
}

/**
 * Takes a battery through a passage; its state is changed.
 * @returns what it showed on the way, of a charge
 */
export function goThrough(
  cells: CellString,
  { amps, volts, minutes, waterMl }: Passage,
  { construction, cells: count, capacityAh }: Rating,
  ambientC: number,
): Trace | undefined {
  const seconds = minutes * MINUTE_S;
  if (waterMl) pour(cells, waterMl);
  if (amps === 0 && seconds > 0) rest(cells, seconds);
  if (amps < 0) draw(cells, -amps, 0, seconds);
  if (amps <= 0) return undefined;
  const engine = new ChargeEngine(heldPlan(amps, volts, seconds, 'wake', false), {
    construction,
    cells: count,
    capacityAh,
  });
  const run = new ModelRun(cells, engine, { ambientC, hasProbe: false });
  run.runUntil(seconds);
  return run.trace;
}
