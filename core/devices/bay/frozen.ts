/**
 * Whether what a supply shows is still of now. A steady absorption stands still to the last digit for minutes: before it is taken for frozen, what it holds
 * is lowered by a little, and something must move.
 */
import type { Held, SupplySeen } from './seen.ts';

/** Lower by so much, V a cell and share of the current: no harm, and more than any display's last digit. */
const NUDGE_CELL_V = 0.02;
const NUDGE_SHARE = 0.05;
/** Looks until something has moved. */
const NUDGE_LOOKS = 3;

export interface Stillness {
  readonly volts: number;
  readonly amps: number;
  readonly sinceS: number;
  /** Looks left until something must have moved; none where it was not asked. */
  readonly nudgeLooks?: number;
}

export const stillnessOf = ({ volts, amps }: SupplySeen, atS: number): Stillness => ({
  volts,
  amps,
  sinceS: atS,
});

/** Looks it takes to ask come off the time it may stand still, s. */
const askAfterS = (frozenAfterS: number, everyS: number): number => frozenAfterS - (NUDGE_LOOKS + 1) * everyS;

/**
 * @returns what is known of it now; `frozen` where it was asked and nothing moved
 */
export function stillnessAfter(
  still: Stillness,
  supply: SupplySeen,
  atS: number,
  { frozenAfterS, everyS }: { readonly frozenAfterS: number; readonly everyS: number },
): Stillness | 'frozen' {
  if (supply.volts !== still.volts || supply.amps !== still.amps) return stillnessOf(supply, atS);
  if (still.nudgeLooks === undefined)
    return atS - still.sinceS >= askAfterS(frozenAfterS, everyS)
      ? { ...still, nudgeLooks: NUDGE_LOOKS }
      : still;
  return still.nudgeLooks <= 1 ? 'frozen' : { ...still, nudgeLooks: still.nudgeLooks - 1 };
}

/** What is held while it is asked. */
export const nudged = ({ volts, amps, isOn }: Held, cells: number): Held => ({
  isOn,
  volts: volts - NUDGE_CELL_V * cells,
  amps: amps * (1 - NUDGE_SHARE),
});
