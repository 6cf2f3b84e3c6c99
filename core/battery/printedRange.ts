/** What a label can print for charging on a battery, and what it usually does: anything else is another battery's, or a slip. */
import { CONSTRUCTION } from './construction.ts';
import { onSix, type BatteryType } from './types.ts';

/** A charging voltage below this on six cells is a float. */
const LEAST_V = 13;
/** Handbook 7: no battery is charged above this on six cells, whatever is printed. */
const MOST_V = 15;
/** Labels print a little under and over what the trade charges with, V on six cells. */
const USUALLY_UNDER_V = 0.3;
const USUALLY_OVER_V = 0.1;

export interface PrintedRange {
  readonly min: number;
  readonly max: number;
}

type Printed = Pick<BatteryType, 'construction' | 'cells'>;

/** The least and most a label's charging voltage can be on this battery, V. */
export function ceilingRange({ construction, cells }: Printed): PrintedRange {
  const most = construction === 'gel' ? CONSTRUCTION.gel.absorptionToV : MOST_V;
  return { min: onSix(LEAST_V, { cells }), max: onSix(most, { cells }) };
}

/** What it usually is, V. */
export function usualCeilings({ construction, cells }: Printed): PrintedRange {
  const { absorptionFromV, absorptionToV } = CONSTRUCTION[construction];
  const { max } = ceilingRange({ construction, cells });
  return {
    min: onSix(absorptionFromV - USUALLY_UNDER_V, { cells }),
    max: Math.min(max, onSix(absorptionToV + USUALLY_OVER_V, { cells })),
  };
}
