/** What was done to a battery between its readings: a candidate goes through the same. */
import { ChargeEngine } from '../charge/engine.ts';
import { heldPlan } from '../charge/held.ts';
import { ModelRun } from '../charge/modelRun.ts';
import type { TraceColumn } from '../charge/trace.ts';
import { COARSE, COARSE_REST } from '../candidate/coarse.ts';
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

/** Whether what lies before a reading stays what it was; of the charge it falls in, the part before it. */
export function isUntouched(
  reading: Reading,
  before: readonly Passage[],
  after: readonly Passage[],
): boolean {
  const stage = reading.stage ?? 0;
  const isSame = (place: number): boolean => JSON.stringify(before[place]) === JSON.stringify(after[place]);
  for (let place = 0; place < stage; place++) if (!isSame(place)) return false;
  const minute = onChargeMin(reading);
  if (minute === undefined || isSame(stage)) return true;
  const [was, is] = [before[stage], after[stage]];
  if (!was || !is || is.minutes < minute) return false;
  return JSON.stringify({ ...was, minutes: is.minutes }) === JSON.stringify(is);
}

const MINUTE_S = 60;

/** A millilitre of water weighs a gram; what is over the line is not followed. */
function pour(cells: CellString, waterMl: readonly number[]): void {
  for (let group = 0; group < cells.groups; group++) {
    const poured = waterMl.filter((_, index) => cells.groupOf[index] === group);
    const each = poured.reduce((sum, ml) => sum + ml, 0) / poured.length;
    cells.state.lostG[group] = Math.max(0, get(cells.state.lostG, group) - each);
  }
}

/** A battery on its way through a passage: charged as far as it was asked for, the rest once its end is. */
export class Way {
  /** Changed on the way. */
  readonly cells: CellString;
  private readonly run: ModelRun | undefined;
  private readonly seconds: number;

  /** @param roomC where it is charged or rests, °C */
  constructor(cells: CellString, { amps, volts, minutes, waterMl }: Passage, rating: Rating, roomC: number) {
    this.cells = cells;
    this.seconds = minutes * MINUTE_S;
    cells.ambientC = roomC;
    if (waterMl) pour(cells, waterMl);
    if (amps === 0 && this.seconds > 0) rest(cells, this.seconds, COARSE_REST);
    if (amps < 0) draw(cells, -amps, 0, this.seconds, COARSE);
    if (amps <= 0) return;
    const plan = heldPlan(amps, volts, this.seconds, 'wake', false);
    this.run = new ModelRun(cells, new ChargeEngine(plan, rating), { hasProbe: false, steps: COARSE });
  }

  toEnd(): void {
    this.run?.runUntil(this.seconds);
  }

  /** What it shows on charge, so many minutes into it; not a number where it is not charged. */
  onCharge(minute: number, column: TraceColumn): number {
    const atS = minute * MINUTE_S;
    this.run?.runUntil(Math.min(atS, this.seconds));
    return this.run?.trace.at(atS, column) ?? Number.NaN;
  }
}
