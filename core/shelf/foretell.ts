/** What is foretold of batteries off the bench, one of them or all. */
import { isTaken, type ListedType } from '../battery/types.ts';
import type { ShelfRules } from './due.ts';
import { exposureOf, placeOf } from './keeping.ts';
import { listed, shelvedOf, type Shelved, type ShelfItem } from './overview.ts';
import { inStores, type Store } from './stores.ts';
import { predict, type Prediction } from './prediction.ts';

/** @returns undefined of one of which nothing is known, or that its maintainer or its owner holds */
export function foretell({ kept }: ShelfItem, type: ListedType, now: number): Prediction | undefined {
  const kind = placeOf(kept)?.kind;
  if (!isTaken(type) || kept.spells.length === 0 || kind === 'maintainer' || kind === 'customer')
    return undefined;
  return predict(type, exposureOf(kept, now), kept.spells, now);
}

/**
 * One as lists have it, foretold.
 * @param type its type, as the shop has it now
 * @param shop its rules, and how warm its stores are
 */
export function foretoldOf(
  item: ShelfItem,
  type: ListedType,
  { rules, stores }: { readonly rules: ShelfRules; readonly stores: readonly Store[] },
  now: number,
): Shelved | undefined {
  const one = { ...item, kept: inStores(item.kept, stores) };
  return shelvedOf(one, type, foretell(one, type, now), rules, now);
}

/** All of them, what is due first first. */
export const overviewOf = (
  items: readonly ShelfItem[],
  types: readonly ListedType[],
  rules: ShelfRules,
  now: number,
): readonly Shelved[] => listed(items, types, (item, type) => foretell(item, type, now), rules, now);
