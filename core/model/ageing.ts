/**
 * How plates age: the grid corrodes by years, active mass softens and is shed by cycles. Each takes a fifth of the capacity in its own
 * lifetime, corrosion evenly and softening ever faster; what they take together is lost for good.
 * @see Schiffer et al. 2007, J. Power Sources 168, 66: capacity lost by corrosion (limit 20 %) and by degradation,
 * C_deg = C_limit·exp(−5·(1 − Z/(1.6·Z_IEC)))
 */
import type { Construction } from '../battery/construction.ts';
import type { Duty } from '../battery/types.ts';
import { solveRising } from '../electrolyte/curve.ts';

/** Share of the rating that each of the two has taken at the end of its lifetime. */
const LIMIT = 0.2;
/** How sharply softening sets in, and nominal cycles over those a data sheet counts. */
const SHARPNESS = 5;
const CYCLES_OVER_SHEET = 1.6;

/** Years at 25 °C until corrosion alone has taken its fifth, by duty (assumed: practice sees five to ten years, standby ten). */
const CORROSION_YEARS: Record<Duty, number> = { starter: 10, 'deep-cycle': 11, standby: 12 };
/** Nominal cycles of a data sheet (assumed, the middle of what sheets say), and how many of them a usual year brings. */
const SHEET_CYCLES: Record<Duty, number> = { starter: 120, 'deep-cycle': 400, standby: 200 };
const CYCLES_A_YEAR: Record<Duty, number> = { starter: 11, 'deep-cycle': 60, standby: 4 };
/** Mats hold the active mass in place: sealed ones of a duty stand more cycles than flooded ones (assumed). */
const MATS = 1.25;
/** Nothing lasts longer than this, years. */
const LONGEST_YEARS = 200;

export interface Service {
  readonly duty: Duty;
  readonly construction: Construction;
}

/** Share of the rating lost to cycles. @param nominal full cycles so far over those of the data sheet */
export const lostToCycles = (nominal: number): number =>
  LIMIT * Math.exp(-SHARPNESS * (1 - nominal / CYCLES_OVER_SHEET));

/**
 * Share of the rating that a usual battery of this duty has lost for good.
 * @param years of usual service at 25 °C; the same comes about twice as fast for each 10 K warmer
 */
export function lostAfter(years: number, { duty, construction }: Service): number {
  const sheet = SHEET_CYCLES[duty] * (construction === 'flooded' ? 1 : MATS);
  const unused = lostToCycles(0);
  return (
    (LIMIT * years) / CORROSION_YEARS[duty] + lostToCycles((CYCLES_A_YEAR[duty] * years) / sheet) - unused
  );
}

/** Years of usual service that leave so much lost: how old plates are, whatever the calendar says. */
export function yearsUntil(lost: number, service: Service): number {
  if (lost <= 0) return 0;
  if (lostAfter(LONGEST_YEARS, service) <= lost) return LONGEST_YEARS;
  return solveRising(lost, 0, LONGEST_YEARS, (years) => lostAfter(years, service), 1e-6);
}
