/** The two lines of a battery that stands: where it is charged again, and below which sulfate stays (handbook 4). */
import { CONSTRUCTION, type Construction } from './construction.ts';
import { onSix } from './types.ts';

/** Rested, on six cells, V. */
const HARM_V = 12.4;

/** Charged again when it rests below this, V. */
export function rechargeLineV(construction: Construction, cells: number): number {
  return onSix(CONSTRUCTION[construction].rechargeV, { cells });
}

/** Long below this is sulfate that does not come back, V. */
export function harmLineV(cells: number): number {
  return onSix(HARM_V, { cells });
}
