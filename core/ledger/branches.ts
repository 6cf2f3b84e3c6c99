/** Ledgers of several shops read side by side: each is a file that a shop gives out, and this one is among them. */
import { group, mean } from 'd3-array';
import type { Costs } from '../advice/worth.ts';
import type { Finding } from './finding.ts';
import { isGood, wayRecords, type WayRecord } from './ways.ts';

/** What a shop gives out of its ledger; whose the batteries are is not in it. */
export interface LedgerFile {
  readonly format: 'cork-ember-ledger';
  readonly version: 1;
  readonly program: string;
  readonly shop: string;
  /** Shop time it was written at, ms. */
  readonly at: number;
  readonly findings: readonly Finding[];
}

/** One shop among several. */
export interface Branch {
  readonly shop: string;
  /** Of its file; undefined of the shop that reads. */
  readonly at?: number;
  readonly batteries: number;
  readonly jobs: number;
  /** Certified new ones, and recovered ones by grade. */
  readonly certified: number;
  readonly good: number;
  readonly usable: number;
  readonly retired: number;
  /** Hands a job took, min, mean; undefined where none was done. */
  readonly handsMin: number | undefined;
}

function branchOf(shop: string, findings: readonly Finding[], at?: number): Branch {
  const count = (is: (finding: Finding) => boolean): number => findings.filter(is).length;
  return {
    shop,
    ...(at === undefined ? {} : { at }),
    batteries: new Set(findings.map(({ tag }) => tag)).size,
    jobs: findings.length,
    certified: count(({ outcome }) => outcome === 'certified'),
    good: count(isGood),
    usable: count(({ grade }) => grade === 'C'),
    retired: count(({ grade }) => grade === 'R'),
    handsMin: mean(findings, ({ spent }) => spent.handsMin),
  };
}

/** The newest file of each shop: read twice, it counts once. */
export function newestOfEach(files: readonly LedgerFile[]): LedgerFile[] {
  return [...group(files, ({ shop }) => shop).values()].map((those) =>
    those.reduce((newest, one) => (one.at > newest.at ? one : newest)),
  );
}

/**
 * Shops beside each other, and what came of their ways together. A job that went from one to another with its battery counts once, where it
 * was done first: as the file has it that names it.
 * @param costs of the shop that reads: what each way took is told by the same prices
 */
export function joined(
  own: Pick<LedgerFile, 'shop' | 'findings'>,
  files: readonly LedgerFile[],
  costs: Costs,
): { readonly branches: readonly Branch[]; readonly ways: readonly WayRecord[] } {
  const others = newestOfEach(files).filter(({ shop }) => shop !== own.shop);
  const all = [own, ...others].flatMap(({ findings }) => findings);
  // The first of a job stands: later ones of the same are written before it.
  const once = new Map(all.toReversed().map((finding) => [finding.job, finding]));
  return {
    branches: [
      branchOf(own.shop, own.findings),
      ...others.map(({ shop, findings, at }) => branchOf(shop, findings, at)),
    ],
    ways: wayRecords(
      [...once.values()].filter(({ routes }) => routes.length > 0),
      costs,
    ),
  };
}
