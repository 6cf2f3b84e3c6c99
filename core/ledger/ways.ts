/** Which ways bring batteries back in this shop, from what came of those that took them. */
import { mean as meanOf, median } from 'd3-array';
import { costOf, type Costs } from '../advice/worth.ts';
import type { Construction } from '../battery/construction.ts';
import type { Finding, RouteName } from './finding.ts';

export interface WayRecord {
  readonly way: RouteName;
  readonly construction: Construction;
  readonly tried: number;
  /** Graded A, B or C. */
  readonly back: number;
  readonly good: number;
  /** Where the share that comes back lies, eight in ten; wide while few were tried. */
  readonly low: number;
  readonly high: number;
  /** Middle of what was measured after it; undefined where no capacity was counted. */
  readonly capacityShare: number | undefined;
  /** Means. */
  readonly handsMin: number;
  readonly cost: number;
}

/** Eight in ten. */
const Z_80 = 1.2816;

/**
 * Interval of a share seen `hits` times in `tries`.
 * @see Wilson 1927, Probable inference, the law of succession, and statistical inference, JASA 22
 */
export function wilson(hits: number, tries: number): readonly [low: number, high: number] {
  if (tries === 0) return [0, 1];
  const share = hits / tries;
  const z2 = Z_80 * Z_80;
  const middle = (share + z2 / (2 * tries)) / (1 + z2 / tries);
  const half =
    (Z_80 / (1 + z2 / tries)) * Math.sqrt((share * (1 - share)) / tries + z2 / (4 * tries * tries));
  return [Math.max(0, middle - half), Math.min(1, middle + half)];
}

const mean = (values: readonly number[]): number => meanOf(values) ?? 0;

/** Judged only where it came to a grade: one withdrawn says nothing of the way. */
const isJudged = ({ grade }: Finding): boolean => grade !== undefined;
const GOOD: readonly unknown[] = ['A', 'A pending', 'B'];

/**
 * By way and construction, those tried most often first. A battery that took several ways counts for each, as what
 * came of it cannot be told apart.
 */
export function wayRecords(findings: readonly Finding[], costs: Costs): WayRecord[] {
  const byWay = new Map<string, Finding[]>();
  for (const finding of findings.filter(isJudged))
    for (const { id } of finding.routes) {
      const key = `${id} ${finding.construction}`;
      const those = byWay.get(key);
      if (those) those.push(finding);
      else byWay.set(key, [finding]);
    }
  return [...byWay]
    .flatMap(([key, those]) => {
      const [first] = those;
      const way = first?.routes.find(({ id }) => key.startsWith(`${id} `));
      if (!first || !way) return [];
      const back = those.filter(({ grade }) => grade !== 'R').length;
      const [low, high] = wilson(back, those.length);
      return {
        way,
        construction: first.construction,
        tried: those.length,
        back,
        good: those.filter(({ grade }) => GOOD.includes(grade)).length,
        low,
        high,
        capacityShare: median(those.flatMap(({ capacityShare }) => capacityShare ?? [])),
        handsMin: mean(those.map(({ spent }) => spent.handsMin)),
        cost: mean(those.map(({ spent }) => costOf(spent, costs))),
      };
    })
    .sort((a, b) => b.tried - a.tried || a.way.title.localeCompare(b.way.title));
}
