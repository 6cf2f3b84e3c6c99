/** The two lines of a battery that stands: where it is charged again, and below which sulfate stays (handbook 4). */
import type { Construction } from '../model/parameters.ts';

/** Rested, V a cell. */
const RECHARGE_CELL_V: Readonly<Record<Construction, number>> = { agm: 2.1, flooded: 2.075 };
const HARM_CELL_V = 12.4 / 6;

/** Charged again when it rests below this, V. */
export function rechargeLineV(construction: Construction, cells: number): number {
  return RECHARGE_CELL_V[construction] * cells;
}

/** Long below this is sulfate that does not come back, V. */
export function harmLineV(cells: number): number {
  return HARM_CELL_V * cells;
}
