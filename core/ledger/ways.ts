/** Which ways bring batteries back in this shop, from what came of those that took them. */
import { group, mean as meanOf, median } from 'd3-array';
import { bringsBack } from '../advice/courses.ts';
import { costOf, type Costs } from '../advice/worth.ts';
import type { Construction } from '../battery/construction.ts';
import type { Finding, RouteName } from './finding.ts';

export interface WayRecord {
  readonly way: RouteName;
  readonly construction: Construction;
  readonly tried: number;
  /** Graded A, B or C, and no other way had to follow. */
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

/** As good as an A or a B. */
export const isGood = ({ grade }: Finding): boolean => GOOD.includes(grade);

/**
 * By way and construction, those tried most often first. Each is credited by its place: one that another had to follow did not
 * bring the battery back, and what was measured in the end, and what it took, is the last one's.
 */
export function wayRecords(findings: readonly Finding[], costs: Costs): WayRecord[] {
  const tries = findings.filter(isJudged).flatMap((finding) => {
    const ways = finding.routes.filter(({ id }) => bringsBack(id));
    return ways.map((way, place) => ({ way, finding, isLast: place === ways.length - 1 }));
  });
  const byWay = group(tries, ({ way, finding }) => `${way.id} ${finding.construction}`);
  return [...byWay.values()]
    .flatMap((those): WayRecord[] => {
      const [first] = those;
      if (!first) return [];
      const ended = those.filter(({ isLast }) => isLast).map(({ finding }) => finding);
      const back = ended.filter(({ grade }) => grade !== 'R').length;
      const [low, high] = wilson(back, those.length);
      return [
        {
          way: first.way,
          construction: first.finding.construction,
          tried: those.length,
          back,
          good: ended.filter(isGood).length,
          low,
          high,
          capacityShare: median(ended.flatMap(({ capacityShare }) => capacityShare ?? [])),
          handsMin: mean(ended.map(({ spent }) => spent.handsMin)),
          cost: mean(ended.map(({ spent }) => costOf(spent, costs))),
        },
      ];
    })
    .sort((a, b) => b.tried - a.tried || a.way.title.localeCompare(b.way.title));
}
