/** What each reading by itself speaks for, and against: its odds under one cause against all others. */
import type { Belief } from './belief.ts';
import { CAUSE_IDS, type CauseId } from './causes.ts';
import { isDear, logLikelihood, type Reading } from './readings.ts';

/** Of the prior's candidates, every so manyth stands for all where each costs a charge of its own. */
const EVERY = 16;

export interface Explained {
  readonly reading: Reading;
  /** Bayes factor of each cause against the rest; 1 says nothing. @see Jeffreys 1961 */
  readonly factors: Readonly<Record<CauseId, number>>;
}

/** Mean of exp over logarithms, kept from under- and overflow. */
function meanExp(logs: readonly number[]): number {
  if (logs.length === 0) return Number.NEGATIVE_INFINITY;
  const most = Math.max(...logs);
  return most + Math.log(logs.reduce((sum, log) => sum + Math.exp(log - most), 0) / logs.length);
}

/**
 * @param prior a belief that has seen no reading: its candidates stand for what might have come
 */
export function explain(prior: Belief, readings: readonly Reading[]): Explained[] {
  return readings.map((reading) => {
    // What needs a charge run for each candidate is judged by fewer of them.
    const some = isDear(reading) && (reading.stage ?? 0) + (reading.kind === 'look' ? 1 : 0) > 0;
    const candidates = some ? prior.all.filter((_, index) => index % EVERY === 0) : prior.all;
    const logs = candidates.map((candidate) => ({
      cause: candidate.traits.cause,
      log: logLikelihood(reading, candidate.shown, prior.setting),
    }));
    const factor = (cause: CauseId): number => {
      const own = logs.filter((one) => one.cause === cause).map(({ log }) => log);
      const others = logs.filter((one) => one.cause !== cause).map(({ log }) => log);
      return own.length === 0 || others.length === 0 ? 1 : Math.exp(meanExp(own) - meanExp(others));
    };
    return {
      reading,
      factors: Object.fromEntries(CAUSE_IDS.map((cause) => [cause, factor(cause)])) as Explained['factors'],
    };
  });
}
