/** Places that are as warm for all that stand there: a rack, a cellar, a loft. */
import type { Kept } from './keeping.ts';
import type { Warmth } from './warmth.ts';

/** More racks than a shop has. */
export const MOST_STORES = 60;

export interface Store {
  /** As it is named where batteries are put away: "Rack 3". */
  readonly name: string;
  readonly warmth: Warmth;
}

const nameOf = (name: string): string => name.trim().toLowerCase();

/** The store a place is, by its name; undefined where nobody said how warm it is. */
export const storeNamed = (stores: readonly Store[], name: string): Store | undefined =>
  name === '' ? undefined : stores.find((store) => nameOf(store.name) === nameOf(name));

/** One off the bench as warm as its stores are known to be: what was said when it was put there gives way. */
export function inStores(kept: Kept, stores: readonly Store[]): Kept {
  if (stores.length === 0) return kept;
  const stays = kept.stays.map((stay) => {
    const store = storeNamed(stores, stay.place.name);
    return store ? { ...stay, place: { ...stay.place, warmth: store.warmth } } : stay;
  });
  return stays.every((stay, index) => stay === kept.stays[index]) ? kept : { ...kept, stays };
}
