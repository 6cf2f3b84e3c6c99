/** What might have been brought, before anything was read: as many candidates of a rare cause as of a common one. */
import { chanceFrom } from './chance.ts';
import { possibleCauses, type CauseId } from './causes.ts';
import { shownOf, type Shown } from './shown.ts';
import { DIMENSIONS, traitsOf, type Setting } from './traits.ts';
import type { Work } from './work.ts';

export interface Stratum {
  readonly cause: CauseId;
  /** Its odds by the history alone, 0–1; the strata's sum to 1. */
  readonly odds: number;
  readonly candidates: readonly Asked[];
}

export interface Asked {
  readonly shown: Shown;
  /** The one its illness is in, where it is in one. */
  readonly cell: number;
}

/**
 * Candidates by cause, the causes this history leaves any odds.
 * @param count candidates of each cause
 * @param seed the same seed gives the same candidates
 * @see Cochran 1977, Sampling Techniques (stratified sampling)
 */
export function* strataOf(setting: Setting, count: number, seed: number): Work<Stratum[]> {
  const chance = chanceFrom(seed);
  const strata: Stratum[] = [];
  for (const { cause, from, width } of possibleCauses(setting.history)) {
    yield;
    const candidates = Array.from({ length: count }, () => {
      const point = Float64Array.from({ length: DIMENSIONS }, () => chance());
      point[0] = from + width * (point[0] ?? 0);
      const traits = traitsOf(point, setting);
      return { shown: shownOf(traits, setting), cell: traits.cell };
    });
    strata.push({ cause, odds: width, candidates });
  }
  return strata;
}
