/** What each reading by itself speaks for, and against: its odds under one cause against all others. */
import { CAUSE_IDS, type CauseId } from '../candidate/causes.ts';
import { logLikelihood } from '../observation/likelihood.ts';
import { isFar } from '../observation/passages.ts';
import { isDear, isOneLook, type Reading, type ReadingKind } from '../observation/readings.ts';
import type { Stratum } from './strata.ts';
import type { Causes } from './summary.ts';
import { movedBy, type Moved, type Trail } from './trail.ts';
import type { Setting } from '../candidate/traits.ts';
import type { Work } from './work.ts';

/** Candidates asked of each cause, by what a reading costs them: nothing, a test, or a charge of their own. */
export const ASKED = { still: 160, tested: 48, charged: 48 } as const;

/** Bayes factor of each cause against the rest; 1 says nothing. @see Jeffreys 1961 */
export type Factors = Readonly<Record<CauseId, number>>;

export interface Explained {
  /** One, or those of the same kind of every cell, which are judged together. */
  readonly readings: readonly Reading[];
  /** Undefined while it is still held against each cause. */
  readonly factors: Factors | undefined;
  /** What it moved, after what was read before it; undefined until it is taken in. */
  readonly moved: Moved | undefined;
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
export function* explaining(
  strata: readonly Stratum[],
  readings: readonly Reading[],
  setting: Setting,
  known: Map<string, Factors>,
): Work {
  for (const group of alikeOf(readings)) {
    const key = JSON.stringify(group);
    if (!known.has(key)) known.set(key, yield* factorsOf(strata, group, setting));
  }
}

/**
 * Readings in their groups, with what is worked out so far.
 * @param now the odds as they are shown
 */
export function explainedBy(
  known: ReadonlyMap<string, Factors>,
  readings: readonly Reading[],
  trail: Trail,
  now: Causes,
): Explained[] {
  const groups = alikeOf(readings);
  const moved = movedBy(groups, trail, now);
  return groups.map((group, index) => ({
    readings: group,
    factors: known.get(JSON.stringify(group)),
    moved: moved[index],
  }));
}

function askedOf(group: readonly Reading[], setting: Setting): number {
  if (group.some((reading) => isFar(reading, setting))) return ASKED.charged;
  return group.some(isDear) ? ASKED.tested : ASKED.still;
}

/** Readings of single cells that would be the same were the cells in another order. */
const OF_CELLS: readonly ReadingKind[] = ['density', 'level', 'bubbles', 'warmth'];

/** What would have been read, had the cells been counted from another one. */
function turned(reading: Reading, by: number, cells: number): Reading {
  const place = (cell: number): number => 1 + ((cell - 1 + by) % cells);
  const moved = <T extends { readonly cell: number }>(one: T): T => ({ ...one, cell: place(one.cell) });
  switch (reading.kind) {
    case 'density':
      return reading.beside ? { ...moved(reading), beside: reading.beside.map(moved) } : moved(reading);
    case 'level':
    case 'bubbles':
      return moved(reading);
    case 'warmth':
      return { ...reading, cells: reading.cells.map(moved) };
    default:
      return reading;
  }
}

function* factorsOf(strata: readonly Stratum[], group: readonly Reading[], setting: Setting): Work<Factors> {
  const asked = askedOf(group, setting);
  const isOfCells = group.some(({ kind }) => OF_CELLS.includes(kind));
  const turns = Array.from({ length: isOfCells ? setting.rating.cells : 1 }, (_, by) => by);
  const said: { readonly cause: CauseId; readonly odds: number; readonly log: number }[] = [];
  for (const { cause, odds, candidates } of strata) {
    const logs: number[] = [];
    for (const shown of candidates.slice(0, asked)) {
      yield;
      // Which cell it is in is as likely as any other: each is tried, by counting the cells from another one.
      const tried = turns.map((by) =>
        group.reduce(
          (sum, reading) => sum + logLikelihood(turned(reading, by, setting.rating.cells), shown, setting),
          0,
        ),
      );
      logs.push(logSum(tried) - Math.log(tried.length));
    }
    said.push({ cause, odds, log: logSum(logs) - Math.log(logs.length) });
  }
  const factor = (cause: CauseId): number => {
    const own = said.find((one) => one.cause === cause);
    const others = said.filter((one) => one.cause !== cause);
    if (!own || others.length === 0) return 1;
    const rest = logSum(others.map(({ odds, log }) => Math.log(odds / (1 - own.odds)) + log));
    return Math.exp(own.log - rest);
  };
  return Object.fromEntries(CAUSE_IDS.map((cause) => [cause, factor(cause)])) as Factors;
}

/** Readings of every cell, or of one charge, that tell together what each alone does not. */
const TOGETHER: readonly ReadingKind[] = ['density', 'level', 'bubbles', 'look', 'drain'];

function alikeOf(readings: readonly Reading[]): Reading[][] {
  const groups: Reading[][] = [];
  for (const reading of readings) {
    const group = TOGETHER.includes(reading.kind)
      ? groups.find(([first]) => first?.kind === reading.kind && isOneLook(first, reading))
      : undefined;
    if (group) group.push(reading);
    else groups.push([reading]);
  }
  return groups;
}
