/** Whether it is worth it: hands, energy, water and consumables against what a battery brings (handbook 3.6). */
import type { Grade } from '../grading/grade.ts';
import { MONEY } from '../units/localise.ts';
import type { Construction } from '../battery/construction.ts';

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
  /** What the recycler pays for a core, for each Ah: lead is paid by weight; below 0 where it costs. */
  readonly corePerAh: number;
  /** A new one of its class costs this whatever its size, and so much more for each Ah. */
  readonly newBase: number;
  readonly newPerAh: Readonly<Record<Construction, number>>;
  /** What a recovered one brings when it is sold, as a share of a new one. */
  readonly resale: Readonly<Record<'A' | 'B' | 'C', number>>;
  /** Life left in one that its owner goes on using, as a share of a new one's. */
  readonly lifeLeft: Readonly<Record<'A' | 'B' | 'C', number>>;
  /** What a customer pays for one that comes back; nothing where it is reckoned by what he saves. */
  readonly fee: number;
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
  { path: 'corePerAh', label: 'A core at the recycler brings, an Ah', least: -10, most: 10 },
  { path: 'newBase', label: 'A new one of any size costs at least', most: 1000 },
  { path: 'newPerAh.flooded', label: 'and flooded, an Ah more', most: 1000 },
  { path: 'newPerAh.agm', label: 'and AGM, an Ah more', most: 1000 },
  { path: 'newPerAh.gel', label: 'and gel, an Ah more', most: 1000 },
  { path: 'resale.A', label: 'Grade A brings, of new', most: 1 },
  { path: 'resale.B', label: 'Grade B brings, of new', most: 1 },
  { path: 'resale.C', label: 'Grade C brings, of new', most: 1 },
  { path: 'lifeLeft.A', label: 'Grade A has left, of a new one’s life', most: 1 },
  { path: 'lifeLeft.B', label: 'Grade B has left, of a new one’s life', most: 1 },
  { path: 'lifeLeft.C', label: 'Grade C has left, of a new one’s life', most: 1 },
  { path: 'fee', label: 'A customer pays for one brought back (0: by what is saved)', most: 1000 },
] as const satisfies readonly {
  readonly path: string;
  readonly label: string;
  readonly least?: number;
  readonly most: number;
}[];

/** A share of a new one's price; all else is money. */
export const isShare = (path: string): boolean => path.startsWith('resale.') || path.startsWith('lifeLeft.');

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
  corePerAh: 0.1,
  newBase: 25,
  newPerAh: { flooded: 0.9, agm: 1.7, gel: 2.2 },
  resale: { A: 0.45, B: 0.3, C: 0.12 },
  lifeLeft: { A: 0.7, B: 0.45, C: 0.15 },
  fee: 0,
};

/** An amount of the shop's money, "¤ 4.20" or "−¤ 4.20"; its region puts its own sign and decimals. */
export function moneyText(amount: number): string {
  const sign = amount < 0 && Math.abs(amount) >= 0.005 ? '−' : '';
  return `${sign}${MONEY}\u00a0${Math.abs(amount).toFixed(2)}`;
}

/** A price of one of something, "0.305 ¤": with the decimals it has, whatever the money's own are. */
export const priceText = (price: number): string => `${price}\u00a0${MONEY}`;

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

/** Whose battery it is decides what one that comes back is worth, and to whom. */
export const OWNERS = {
  customer: 'A customer’s own',
  shop: 'The shop’s or fleet’s, to go on using',
  stock: 'Stock, to sell',
} as const;
export type Whose = keyof typeof OWNERS;

export interface Valued {
  readonly construction: Construction;
  readonly capacityAh: number;
  /** What a new one of its type costs, where that is known. */
  readonly newPrice?: number;
  /** To sell, where it was not said. */
  readonly whose?: Whose;
}

export const coreOf = (
  { capacityAh }: Pick<Valued, 'capacityAh'>,
  { corePerAh }: Pick<Costs, 'corePerAh'>,
): number => corePerAh * capacityAh;

/** A new one of its size and class, by its type's own price where that is known. */
export const priceOfNew = ({ newPrice, construction, capacityAh }: Valued, costs: Costs): number =>
  newPrice ?? costs.newBase + costs.newPerAh[construction] * capacityAh;

/** What a battery of a grade brings whoever has it: sold, or a new one saved for the life it has left; a finished one is a core. */
export function valueOf(grade: Grade, battery: Valued, costs: Costs): number {
  const core = coreOf(battery, costs);
  if (grade === 'R') return core;
  const mark = grade === 'A pending' ? 'A' : grade;
  const { whose = 'stock' } = battery;
  if (whose === 'customer' && costs.fee > 0) return Math.max(core, costs.fee);
  const share = whose === 'stock' ? costs.resale[mark] : costs.lifeLeft[mark];
  return Math.max(core, share * priceOfNew(battery, costs));
}
