/** What each reading by itself speaks for, and against: its odds under one cause against all others. */
import type { Belief } from './belief.ts';
import { CAUSE_IDS, type CauseId } from './causes.ts';
import { logLikelihood } from './likelihood.ts';
import { isDear, type Reading, type ReadingKind } from './readings.ts';

const EVERY_TESTED = 4;
const EVERY_CHARGED = 16;

export interface Explained {
  /** One, or those of the same kind of every cell, which are judged together. */
  readonly readings: readonly Reading[];
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
 * @param known what was worked out before, kept up
 */
export function explain(
  prior: Belief,
  readings: readonly Reading[],
  known?: Map<string, Explained>,
): Explained[] {
  return alikeOf(readings).map((group) => {
    const key = JSON.stringify(group);
    const found = known?.get(key) ?? factorsOf(prior, group);
    known?.set(key, found);
    return found;
  });
}

/** Of how many one stands for all, by what a reading asks of each: nothing, a test, or a charge of its own. */
function everyOf(group: readonly Reading[]): number {
  if (group.some(({ kind, stage = 0 }) => stage > 0 || kind === 'look')) return EVERY_CHARGED;
  return group.some(isDear) ? EVERY_TESTED : 1;
}

function factorsOf(prior: Belief, group: readonly Reading[]): Explained {
  const every = everyOf(group);
  const candidates = prior.all.filter((_, index) => index % every === 0);
  const logs = candidates.map((candidate) => ({
    cause: candidate.traits.cause,
    log: group.reduce((sum, reading) => sum + logLikelihood(reading, candidate.shown, prior.setting), 0),
  }));
  const factor = (cause: CauseId): number => {
    const own = logs.filter((one) => one.cause === cause).map(({ log }) => log);
    const others = logs.filter((one) => one.cause !== cause).map(({ log }) => log);
    return own.length === 0 || others.length === 0 ? 1 : Math.exp(meanExp(own) - meanExp(others));
  };
  return {
    readings: group,
    factors: Object.fromEntries(CAUSE_IDS.map((cause) => [cause, factor(cause)])) as Explained['factors'],
  };
}

/** Readings of every cell, or of one charge, that tell together what each alone does not. */
const TOGETHER: readonly ReadingKind[] = ['density', 'level', 'bubbles', 'look', 'drain'];

function alikeOf(readings: readonly Reading[]): Reading[][] {
  const groups: Reading[][] = [];
  for (const reading of readings) {
    const group = TOGETHER.includes(reading.kind)
      ? groups.find(([first]) => first?.kind === reading.kind && first.stage === reading.stage)
      : undefined;
    if (group) group.push(reading);
    else groups.push([reading]);
  }
  return groups;
}
