/** What might have been brought, before anything was read: as many candidates of a rare cause as of a common one. */
import { chanceFrom } from '../chance/chance.ts';
import { possibleCauses, type CauseId } from '../candidate/causes.ts';
import { shownOf, type Shown } from '../observation/shown.ts';
import { DIMENSIONS } from '../candidate/cube.ts';
import { traitsOf, type Setting } from '../candidate/traits.ts';
import type { Work } from './work.ts';

export interface Stratum {
  readonly cause: CauseId;
  /** Its odds by the history alone, 0–1; the strata's sum to 1. */
  readonly odds: number;
  readonly candidates: readonly Shown[];
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
      return shownOf(traitsOf(point, setting), setting);
    });
    strata.push({ cause, odds: width, candidates });
  }
  return strata;
}
