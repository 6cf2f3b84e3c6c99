/** Whether it is worth it: hands, energy, water and consumables against what a battery brings (handbook 3.6). */
import type { Grade } from '../runsheet/grade.ts';
import type { Construction } from '../model/parameters.ts';

/** What things cost and bring in this shop, in its own money; energy stands with the room. */
export interface ShopCosts {
  /** An hour of hands. */
  readonly handsPerHour: number;
  /** A litre of distilled water. */
  readonly waterPerL: number;
  /** A bay and its charger for a day. */
  readonly bayPerDay: number;
  /** Gloves, soda, rags: each battery worked on. */
  readonly consumables: number;
  /** What the recycler pays for a core; below 0 where it costs. */
  readonly corePays: number;
  /** A new one of its class, for each Ah. */
  readonly newPerAh: Readonly<Record<Construction, number>>;
  /** What a recovered one brings, as a share of a new one. */
  readonly resale: Readonly<Record<'A' | 'B' | 'C', number>>;
}

export interface Costs extends ShopCosts {
  readonly pricePerKwh: number;
}

/** Each by its name, where it stands in the shop's costs, and its range; what Setup shows and the record says. */
export const COST_WORDS = [
  { path: 'handsPerHour', label: 'An hour of hands', most: 1000 },
  { path: 'bayPerDay', label: 'A bay for a day', most: 1000 },
  { path: 'waterPerL', label: 'A litre of distilled water', most: 100 },
  { path: 'consumables', label: 'Gloves, soda and rags, a battery', most: 1000 },
  { path: 'corePays', label: 'A core at the recycler brings', least: -1000, most: 1000 },
  { path: 'newPerAh.flooded', label: 'New, flooded, an Ah', most: 1000 },
  { path: 'newPerAh.agm', label: 'New, AGM, an Ah', most: 1000 },
  { path: 'resale.A', label: 'Grade A brings, of new', most: 1 },
  { path: 'resale.B', label: 'Grade B brings, of new', most: 1 },
  { path: 'resale.C', label: 'Grade C brings, of new', most: 1 },
] as const satisfies readonly {
  readonly path: string;
  readonly label: string;
  readonly least?: number;
  readonly most: number;
}[];

export type CostPath = (typeof COST_WORDS)[number]['path'];

type Nest = Readonly<Record<string, number | Readonly<Record<string, number>>>>;

/** A cost by its path. */
export function costAt(costs: ShopCosts, path: CostPath): number {
  const [head = '', tail] = path.split('.');
  const found = (costs as unknown as Nest)[head];
  const value = typeof found === 'object' && tail !== undefined ? found[tail] : found;
  return typeof value === 'number' ? value : 0;
}

/** The same costs with one of them changed. */
export function withCost(costs: ShopCosts, path: CostPath, value: number): ShopCosts {
  const [head = '', tail] = path.split('.');
  if (tail === undefined) return { ...costs, [head]: value };
  const part = (costs as unknown as Nest)[head];
  return { ...costs, [head]: { ...(typeof part === 'object' ? part : {}), [tail]: value } };
}

/** Invented, and round: a shop sets its own in Setup. */
export const USUAL_COSTS: ShopCosts = {
  handsPerHour: 30,
  waterPerL: 1,
  bayPerDay: 1.5,
  consumables: 1,
  corePays: 6,
  newPerAh: { flooded: 1.3, agm: 2.2 },
  resale: { A: 0.45, B: 0.3, C: 0.12 },
};

/** What a way back takes. */
export interface Spent {
  readonly handsMin: number;
  /** On a charger, h. */
  readonly bayH: number;
  readonly mainsWh: number;
  readonly waterMl: number;
}

export const NOTHING_SPENT: Spent = { handsMin: 0, bayH: 0, mainsWh: 0, waterMl: 0 };

/** What it costs to have worked on one, in the shop's money. */
export function costOf({ handsMin, bayH, mainsWh, waterMl }: Spent, costs: Costs): number {
  return (
    (handsMin / 60) * costs.handsPerHour +
    (bayH / 24) * costs.bayPerDay +
    (mainsWh / 1000) * costs.pricePerKwh +
    (waterMl / 1000) * costs.waterPerL +
    (handsMin > 0 ? costs.consumables : 0)
  );
}

/** What a battery of a grade brings: a finished one is a core. */
export function valueOf(
  grade: Grade,
  { construction, capacityAh }: { readonly construction: Construction; readonly capacityAh: number },
  costs: Costs,
): number {
  if (grade === 'R') return costs.corePays;
  const share = grade === 'B' ? costs.resale.B : grade === 'C' ? costs.resale.C : costs.resale.A;
  return Math.max(costs.corePays, share * costs.newPerAh[construction] * capacityAh);
}
