/** What each reading by itself speaks for, and against: its odds under one cause against all others. */
import { CAUSE_IDS, type CauseId } from './causes.ts';
import { logLikelihood } from './likelihood.ts';
import { isDear, type Reading, type ReadingKind } from './readings.ts';
import type { Stratum } from './strata.ts';
import type { Setting } from './traits.ts';

/** Candidates asked of each cause, by what a reading costs them: nothing, a test, or a charge of their own. */
export const ASKED = { still: 160, tested: 48, charged: 12 } as const;

export interface Explained {
  /** One, or those of the same kind of every cell, which are judged together. */
  readonly readings: readonly Reading[];
  /** Bayes factor of each cause against the rest; 1 says nothing. @see Jeffreys 1961 */
  readonly factors: Readonly<Record<CauseId, number>>;
}

/** Logarithm of the sum of exp over logarithms, kept from under- and overflow. */
function logSum(logs: readonly number[]): number {
  const most = Math.max(...logs);
  return Number.isFinite(most)
    ? most + Math.log(logs.reduce((sum, log) => sum + Math.exp(log - most), 0))
    : Number.NEGATIVE_INFINITY;
}

/**
 * @param strata what might have been brought, by cause
 * @param known what was worked out before, kept up
 */
export function explain(
  strata: readonly Stratum[],
  readings: readonly Reading[],
  setting: Setting,
  known?: Map<string, Explained>,
): Explained[] {
  return alikeOf(readings).map((group) => {
    const key = JSON.stringify(group);
    const found = known?.get(key) ?? { readings: group, factors: factorsOf(strata, group, setting) };
    known?.set(key, found);
    return found;
  });
}

function askedOf(group: readonly Reading[]): number {
  if (group.some(({ kind, stage = 0 }) => stage > 0 || kind === 'look')) return ASKED.charged;
  return group.some(isDear) ? ASKED.tested : ASKED.still;
}

function factorsOf(
  strata: readonly Stratum[],
  group: readonly Reading[],
  setting: Setting,
): Explained['factors'] {
  const asked = askedOf(group);
  const said = strata.map(({ cause, odds, candidates }) => {
    const some = candidates.slice(0, asked);
    const logs = some.map((shown) =>
      group.reduce((sum, reading) => sum + logLikelihood(reading, shown, setting), 0),
    );
    return { cause, odds, log: logSum(logs) - Math.log(some.length) };
  });
  const factor = (cause: CauseId): number => {
    const own = said.find((one) => one.cause === cause);
    const others = said.filter((one) => one.cause !== cause);
    if (!own || others.length === 0) return 1;
    const rest = logSum(others.map(({ odds, log }) => Math.log(odds / (1 - own.odds)) + log));
    return Math.exp(own.log - rest);
  };
  return Object.fromEntries(CAUSE_IDS.map((cause) => [cause, factor(cause)])) as Explained['factors'];
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
