/** Acid and consumables: what is there as the fold of moves in and out, and what is running low. */
import { isFilledByHand, isTaken, type BatteryType, type ListedType } from '../battery/types.ts';
import { massFractionAt } from '../electrolyte/density.ts';
import { toNeutralise } from '../electrolyte/neutraliser.ts';
import { ratingOf } from '../model/fromType.ts';
import { electrolyteMl, soundBattery } from '../model/parameters.ts';

/** "pack:P-09", "acid:1.265", "soda" or "water". */
export type ItemId = string;

export interface StockMove {
  readonly item: ItemId;
  /** In (above 0) or out, in the item's unit. */
  readonly amount: number;
}

/** A move as recorded. */
export interface RecordedMove extends StockMove {
  readonly id: number;
  readonly at: number;
  readonly by: string;
  readonly why: string;
  readonly job: string | null;
}

export interface StockItem {
  readonly id: ItemId;
  readonly name: string;
  readonly unit: 'packs' | 'mL' | 'g';
}

export interface StockLevel extends StockItem {
  readonly amount: number;
  /** At or below this it is low. */
  readonly lowAt: number;
  /** Why that is low, in a sentence. */
  readonly because: string;
  readonly isLow: boolean;
}

export const SODA: ItemId = 'soda';
export const WATER: ItemId = 'water';
const PACKS_LOW = 1;
const WATER_LOW_ML = 2000;

export const packItem = (code: string): ItemId => `pack:${code}`;
export const acidItem = (density25: number): ItemId => `acid:${density25.toFixed(3)}`;

/** Every item the shop's types can ask for. */
export function itemsFor(types: readonly ListedType[]): StockItem[] {
  const codes = [...new Set(types.flatMap(({ pack }) => (pack ? [pack.code] : [])))].sort();
  const densities = new Set(
    types.filter(isFilledByHand).map(({ label, sheet }) => label.fillDensity ?? sheet.fillDensity ?? 1.265),
  );
  return [
    ...codes.map((code): StockItem => ({ id: packItem(code), name: `Acid pack ${code}`, unit: 'packs' })),
    ...[...densities].sort().map((density): StockItem => ({
      id: acidItem(density),
      name: `Electrolyte ${density.toFixed(3)} at 25 °C`,
      unit: 'mL',
    })),
    { id: SODA, name: 'Baking soda', unit: 'g' },
    { id: WATER, name: 'Distilled water', unit: 'mL' },
  ];
}

/** Electrolyte a flooded type takes, all cells, mL. */
export function electrolyteFor(type: BatteryType): number {
  return soundBattery(ratingOf(type)).cells.reduce(
    (sum, { acidG, waterG }) => sum + electrolyteMl(acidG, waterG),
    0,
  );
}

/** Pure acid in a volume of electrolyte, g. */
export function acidIn(ml: number, density25: number): number {
  return ml * density25 * massFractionAt(density25, 25);
}

/**
 * Baking soda for a spill of electrolyte, g: all of its acid, and a tenth more so that it ends above pH 6.
 * @throws RangeError for a density that is no acid's
 */
export function sodaForSpill(ml: number, density25: number): { sodaG: number; carbonDioxideL: number } {
  if (!(ml > 0 && ml <= 100_000))
    throw new RangeError(`The spill must lie above 0 and up to 100000 mL; ${ml} mL does not.`);
  const { grams, carbonDioxideL } = toNeutralise(acidIn(ml, density25), 'baking-soda');
  return { sodaG: grams, carbonDioxideL };
}

function lowMark(item: StockItem, types: readonly ListedType[]): readonly [number, string] {
  if (item.unit === 'packs') return [PACKS_LOW, 'One is a spare, not a stock.'];
  if (item.id === WATER) return [WATER_LOW_ML, 'A bench of flooded batteries drinks this on a delivery day.'];
  if (item.id === SODA) {
    const most = Math.max(
      0,
      ...types.flatMap(({ pack }) => (pack ? [acidIn(pack.volumeMl, pack.densityKgPerL)] : [])),
    );
    return [
      Math.ceil(toNeutralise(most, 'baking-soda').grams / 100) * 100,
      'The acid of the largest pack, spilled whole, takes this much.',
    ];
  }
  const largest = Math.max(0, ...types.filter(isTaken).filter(isFilledByHand).map(electrolyteFor));
  return [Math.ceil(largest / 100) * 100, 'The largest flooded type takes this much.'];
}

/**
 * What is there now, item by item.
 * @param had what was ever counted in: of what a shop never had nothing runs low
 */
export function stockLevels(
  types: readonly ListedType[],
  sums: Readonly<Record<ItemId, number>>,
  had: readonly ItemId[] = Object.keys(sums),
): StockLevel[] {
  return itemsFor(types).map((item) => {
    const amount = sums[item.id] ?? 0;
    const [lowAt, because] = lowMark(item, types);
    return { ...item, amount, lowAt, because, isLow: had.includes(item.id) && amount <= lowAt };
  });
}
