/**
 * The plates of a class of battery: how much of them reacts, and how fast acid follows. Thin ones of a starter give an
 * hour's current nearly whole; thick ones of a traction battery starve of acid (handbook 1).
 *
 * Fitted to the middle of each class's published discharge table, at all its rates together, with the cranking current
 * usual for the class (`docs/model/results.md` has what came of it); AGM starters, for which no table is held, to
 * Peukert's exponent of handbook 7.
 */
import type { Construction } from '../battery/construction.ts';
import { classOf, type RateClass } from '../battery/dischargeRates.ts';
import type { Duty } from '../battery/types.ts';

export interface Plates {
  /** All that could react over the 20-h capacity. */
  readonly convertibleShare: number;
  /** Acid held back per acid reacted, in the slow and the middle mode, per hour. */
  readonly slow: number;
  readonly middle: number;
  /** The same in the fast mode, per hour, times cranking amps (SAE) over 20-h capacity. */
  readonly fastCranking: number;
  /** Cranking amps on the SAE scale for each Ah, where the label prints none. */
  readonly crankingPerAh: number;
  /** Acid for each Ah of a cell where the label is silent, mL: stoichiometry with a reserve of 30–55 %. */
  readonly acidMlPerAh: number;
}

/** Small starters have a tighter pack of plates than large ones. */
const SMALL_AH = 30;
const AGM_STARTER = { fastCranking: 50, crankingPerAh: 12 / 0.9, acidMlPerAh: 9.6 } as const;
const SMALL_AGM_STARTER: Plates = { ...AGM_STARTER, convertibleShare: 1.108, slow: 0.335, middle: 0.335 };
const LARGE_AGM_STARTER: Plates = { ...AGM_STARTER, convertibleShare: 1.149, slow: 0.471, middle: 0.471 };

const PLATES: Readonly<Record<Exclude<RateClass, 'starter-agm'>, Plates>> = {
  starter: {
    convertibleShare: 1.16,
    slow: 0.47,
    middle: 1.0,
    fastCranking: 50,
    crankingPerAh: 10,
    acidMlPerAh: 12.8,
  },
  'deep-cycle': {
    convertibleShare: 1.144,
    slow: 0.33,
    middle: 1.536,
    fastCranking: 136.8,
    crankingPerAh: 4,
    acidMlPerAh: 14.4,
  },
  'general-purpose': {
    convertibleShare: 1.137,
    slow: 0.354,
    middle: 1.333,
    fastCranking: 67.8,
    crankingPerAh: 8,
    acidMlPerAh: 10.3,
  },
  standby: {
    convertibleShare: 1.398,
    slow: 0.685,
    middle: 1.821,
    fastCranking: 58.7,
    crankingPerAh: 6,
    acidMlPerAh: 10.9,
  },
  'gel-flat': {
    convertibleShare: 1.127,
    slow: 0.269,
    middle: 1.934,
    fastCranking: 50.3,
    crankingPerAh: 6,
    acidMlPerAh: 9.4,
  },
  'gel-tubular': {
    convertibleShare: 1.64,
    slow: 1.281,
    middle: 0.739,
    fastCranking: 125.3,
    crankingPerAh: 2.2,
    acidMlPerAh: 16.9,
  },
};

/**
 * @param what construction, duty and hour rate, which tell the class
 * @param twentyHourAh capacity at 20 h, Ah
 */
export function platesOf(
  what: { readonly construction: Construction; readonly duty: Duty; readonly hourRate: number },
  twentyHourAh: number,
): Plates {
  const of = classOf(what);
  if (of !== 'starter-agm') return PLATES[of];
  return twentyHourAh < SMALL_AH ? SMALL_AGM_STARTER : LARGE_AGM_STARTER;
}
