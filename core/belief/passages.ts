/** What was done to a battery between its readings: a candidate goes through the same. */
import { ChargeEngine } from '../charge/engine.ts';
import { heldPlan } from '../charge/held.ts';
import { ModelRun } from '../charge/modelRun.ts';
import type { Trace } from '../charge/trace.ts';
import type { CellString } from '../model/cellString.ts';
import { draw, rest } from '../model/discharge.ts';
import type { Rating } from '../model/parameters.ts';

export interface Passage {
  /** Into the battery; below 0 drawn, 0 rests, A. */
  readonly amps: number;
  /** Ceiling of a charge, V. */
  readonly volts: number;
  readonly minutes: number;
}

const MINUTE_S = 60;

/**
 * Takes a battery through a passage; its state is changed.
 * @returns what it showed on the way, of a charge
 */
export function goThrough(
  cells: CellString,
  { amps, volts, minutes }: Passage,
  { construction, cells: count, capacityAh }: Rating,
  ambientC: number,
): Trace | undefined {
  const seconds = minutes * MINUTE_S;
  if (amps === 0) rest(cells, seconds);
  if (amps < 0) draw(cells, -amps, 0, seconds);
  if (amps <= 0) return undefined;
  const engine = new ChargeEngine(heldPlan(amps, volts, seconds, 'wake'), {
    construction,
    cells: count,
    capacityAh,
  });
  const run = new ModelRun(cells, engine, { ambientC, hasProbe: false });
  run.runUntil(seconds);
  return run.trace;
}
