/** What each reading by itself speaks for, and against: its odds under one cause against all others. */
import type { Belief } from './belief.ts';
import { CAUSE_IDS, type CauseId } from './causes.ts';
import { logLikelihood, type Reading } from './readings.ts';

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
  const { capacityAh } = prior.setting.rating;
  return readings.map((reading) => {
    const logs = prior.all.map((candidate) => ({
      cause: candidate.traits.cause,
      log: logLikelihood(reading, candidate.shown, capacityAh),
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
