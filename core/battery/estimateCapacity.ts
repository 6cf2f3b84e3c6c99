/** Capacity where no label says it, from what it does say, each with its range: limits go by the least (handbook 3.2 and 7). */
import { onSaeScaleA } from './crankingStandards.ts';
import { capacityFromRun, classOf, RESERVE_A } from './dischargeRates.ts';
import { nominalV, type BatteryType, type CapacitySource, type CrankingStandard } from './types.ts';

export interface CapacityEstimate {
  readonly from: CapacitySource;
  readonly ah: number;
  readonly leastAh: number;
  readonly mostAh: number;
  /** How it was come by, in a sentence. */
  readonly because: string;
}

export interface Clues {
  readonly construction: BatteryType['construction'];
  readonly duty: BatteryType['duty'];
  readonly cells: number;
  readonly hourRate: number;
  readonly cranking?: { readonly amps: number; readonly standard: CrankingStandard };
  readonly reserveMin?: number;
  /** Filled, g. */
  readonly wetMassG?: number;
}

/** Cold-cranking amps on the SAE scale for each Ah: makers' lists run from stop-start traction to small starters (practice). */
const CRANKING_PER_AH = { least: 7, usual: 10.5, most: 16 } as const;
/** Specific energy of the whole battery, Wh/kg: thin plates carry less lead. @see Linden & Reddy, Handbook of Batteries: lead-acid 30–40, starters to 50 */
const WH_PER_KG = {
  starter: { least: 34, usual: 43, most: 52 },
  other: { least: 26, usual: 34, most: 44 },
} as const;
/** Reserve capacity is measured: what is left open is the class's own spread of rates. */
const RESERVE_SPREAD = 0.12;

const round = (ah: number): number => (ah < 20 ? Number(ah.toFixed(1)) : Math.round(ah));

function estimate(
  from: CapacitySource,
  [least, usual, most]: readonly [number, number, number],
  because: string,
): CapacityEstimate {
  const [leastAh, ah, mostAh] = [round(least), round(usual), round(most)];
  return { from, ah, leastAh, mostAh, because: `${because}: about ${ah} Ah, ${leastAh} to ${mostAh}.` };
}

/**
 * The best estimate the clues give: reserve capacity, which is measured; cranking of a starter; else mass.
 * @returns undefined where there is no clue
 */
export function estimateCapacity(clues: Clues): CapacityEstimate | undefined {
  const { cranking, reserveMin, wetMassG, duty, hourRate, cells } = clues;
  if (reserveMin !== undefined) {
    const ah = capacityFromRun(classOf(clues), RESERVE_A, reserveMin / 60, hourRate);
    const spread = RESERVE_SPREAD * ah;
    return estimate(
      'reserve',
      [ah - spread, ah, ah + spread],
      `${reserveMin} min at ${RESERVE_A} A, by the table of its class`,
    );
  }
  if (cranking && duty === 'starter') {
    const amps = onSaeScaleA(cranking);
    const { least, usual, most } = CRANKING_PER_AH;
    return estimate(
      'cranking',
      [amps / most, amps / usual, amps / least],
      `${cranking.amps} A ${cranking.standard}, as starters give for each Ah`,
    );
  }
  if (wetMassG !== undefined) {
    const perWh = wetMassG / 1000 / nominalV({ cells });
    const { least, usual, most } = WH_PER_KG[duty === 'starter' ? 'starter' : 'other'];
    return estimate(
      'mass',
      [perWh * least, perWh * usual, perWh * most],
      `${(wetMassG / 1000).toFixed(1)} kg at ${least} to ${most} Wh/kg`,
    );
  }
  if (cranking) {
    const amps = onSaeScaleA(cranking);
    return estimate('cranking', [amps / 12, amps / 7, amps / 4], `${cranking.amps} A ${cranking.standard}`);
  }
  return undefined;
}
