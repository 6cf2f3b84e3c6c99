/** How far an advice is to be trusted: what it loses at worst, how often it is the best, and which of the shop's own costs would turn it. */
import { mean, quantile } from 'd3-array';
import { solveRising } from '../electrolyte/curve.ts';
import { isOfTheHouse } from './courses.ts';
import { type Comparison } from './compare.ts';
import { worthsOf, type Priced, type Row } from './rows.ts';
import { COST_WORDS, costAt, isShare, withCost, type CostPath } from './worth.ts';

/** Worth within this of the best is as good, in the shop's money: a minute of hands. */
const AS_GOOD = 0.5;

export interface Turn {
  readonly path: CostPath;
  readonly label: string;
  readonly now: number;
  /** From here on another way is worth more. */
  readonly at: number;
  /** The title of that way. */
  readonly to: string;
}

export interface Sure {
  /** Against retiring it at once, one battery in ten does worse than this; below 0 a loss. */
  readonly atWorst: number;
  /** Share of such batteries on which nothing else would have been worth more. */
  readonly best: number;
  /** The costs that would turn it when halved or doubled, the nearest to what they are first. */
  readonly turns: readonly Turn[];
}

const meanOf = (row: Row, priced: Priced): number => mean(worthsOf(row, priced)) ?? 0;

/** Costs are looked at from half of what they are to twice that. */
const DOUBLE = 2;
/** A turning point is told to a hundredth of the cost. */
const FINE = 0.01;

/** Nearest cost, above or below what it is, at which another way is worth as much as the one advised. */
function turnOf(path: CostPath, label: string, chosen: Row, rows: readonly Row[], priced: Priced): Turn[] {
  const now = costAt(priced.costs, path);
  if (now === 0) return [];
  const behind = (cost: number): { readonly by: number; readonly to: string } => {
    const at = { ...priced, costs: { ...priced.costs, ...withCost(priced.costs, path, cost) } };
    const own = meanOf(chosen, at);
    return rows.reduce(
      (worst, row) => {
        const by = meanOf(row, at) - own;
        return by > worst.by ? { by, to: row.course.title } : worst;
      },
      { by: Number.NEGATIVE_INFINITY, to: '' },
    );
  };
  const most = isShare(path) ? Math.min(1, now * DOUBLE) : now * DOUBLE;
  return [now / DOUBLE, most].flatMap((end): Turn[] => {
    const there = behind(end);
    if (there.by <= 0) return [];
    const share = solveRising(0, 0, 1, (part) => behind(now + part * (end - now)).by, FINE);
    const at = now + share * (end - now);
    return [{ path, label, now, at, to: behind(at + FINE * (end - now)).to || there.to }];
  });
}

/** How near a turning point lies, as a factor. */
const nearness = ({ now, at }: Turn): number => Math.abs(Math.log(at / now));

/**
 * @param course the id of the way that is advised
 * @returns undefined where that is not among the ways compared
 */
export function sureOf({ rows }: Pick<Comparison, 'rows'>, course: string, priced: Priced): Sure | undefined {
  const chosen = rows.find((row) => row.course.id === course);
  if (!chosen) return undefined;
  const others = rows.filter((row) => row !== chosen && isOfTheHouse(row.course));
  const own = worthsOf(chosen, priced);
  const rest = others.map((row) => worthsOf(row, priced));
  const core = rows.find((row) => row.course.id === 'retire');
  const cores = core ? worthsOf(core, priced) : own.map(() => 0);
  const isBest = own.filter((worth, at) => rest.every((row) => (row[at] ?? 0) <= worth + AS_GOOD));
  return {
    atWorst:
      quantile(
        own.map((worth, at) => worth - (cores[at] ?? 0)),
        0.1,
      ) ?? 0,
    best: isBest.length / Math.max(1, own.length),
    turns: COST_WORDS.flatMap(({ path, label }) => turnOf(path, label, chosen, others, priced)).sort(
      (a, b) => nearness(a) - nearness(b),
    ),
  };
}
