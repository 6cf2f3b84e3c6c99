/** Which battery to take for somebody who needs one: the oldest good one first, so that none grows old on the shelf. */
import { CONSTRUCTION } from '../battery/construction.ts';
import { isTaken, type BatteryType, type ListedType } from '../battery/types.ts';
import type { Shelved } from './overview.ts';
import { PLACES } from './places.ts';

/** What is asked for. */
export interface Wish {
  readonly cells: number;
  readonly capacityAh: number;
}

export interface Pick {
  readonly one: Shelved;
  /** It is to be filled, soaked and charged first: hours until it is ready, about. */
  readonly fillFirstH?: number;
  /** It rests below its recharge line, and is charged before it goes: hours until it is full, about. */
  readonly chargeFirstH?: number;
}

/** Of what is asked for, as much less and as much more serves. */
const SERVES = { least: 0.9, most: 1.25 } as const;
/** First charges and refreshes alike: a tenth of capacity, and two hours at its voltage (handbook 2.5 and 3.5). */
const CHARGE_SHARE = 0.1;
const TAIL_H = 2;
/** Filling, its soak and the rest before its test (handbook 2.2, 2.3). */
const FILL_H = 4;
/** Grades of a recovered one that go to somebody for good. */
const GOES: readonly (string | null)[] = [null, 'A', 'A pending', 'B'];

const serves = (type: BatteryType, { cells, capacityAh }: Wish): boolean =>
  type.cells === cells &&
  type.capacityAh >= capacityAh * SERVES.least &&
  type.capacityAh <= capacityAh * SERVES.most;

/** Hours at a tenth of capacity until one is full again. */
const hoursToFull = (type: BatteryType, charge: number): number =>
  (1 - charge) / (CHARGE_SHARE * CONSTRUCTION[type.construction].efficiency) + TAIL_H;

function pickOf(one: Shelved, type: BatteryType): Pick {
  const { prediction, rechargeV, dry } = one;
  if (dry) return { one, fillFirstH: hoursToFull(type, dry.chargePct / 100) + FILL_H };
  // One nobody knows anything of is charged before it goes.
  if (!prediction)
    return one.place?.kind === 'maintainer' ? { one } : { one, chargeFirstH: hoursToFull(type, 0.5) };
  return prediction.volts.low < rechargeV
    ? { one, chargeFirstH: hoursToFull(type, prediction.charge) }
    : { one };
}

/**
 * Those that serve, the one to take first. What belongs to a set goes with it and not alone; what leaks, or stood where sulfate stays, is not among them.
 * @param types by id
 */
export function picksFor(
  shelved: readonly Shelved[],
  types: ReadonlyMap<string, ListedType>,
  wish: Wish,
  now: number,
): readonly Pick[] {
  return shelved
    .flatMap((one): readonly Pick[] => {
      const type = types.get(one.typeId);
      if (!type || !isTaken(type) || !serves(type, wish)) return [];
      if (one.set !== undefined) return [];
      if (!one.place || !PLACES[one.place.kind].isForTaking || !GOES.includes(one.grade)) return [];
      const { prediction } = one;
      const harmedAt = prediction?.harm.likely;
      if (prediction?.isSuspect || (harmedAt !== undefined && harmedAt <= now)) return [];
      return [pickOf(one, type)];
    })
    .sort(
      (a, b) =>
        // What stands ready goes before what is filled to order.
        Number(a.fillFirstH !== undefined) - Number(b.fillFirstH !== undefined) ||
        a.one.dateCode.localeCompare(b.one.dateCode) ||
        (a.one.chargedAt ?? 0) - (b.one.chargedAt ?? 0) ||
        a.one.tag.localeCompare(b.one.tag),
    );
}

/** Batteries that stand here to go as one. */
export interface ShelvedSet {
  readonly name: string;
  readonly members: readonly Shelved[];
  /** Nothing is missing and nothing low: it can go as it stands. */
  readonly isReady: boolean;
}

/** Every set of the shelf, by its name. */
export function shelvedSets(shelved: readonly Shelved[]): readonly ShelvedSet[] {
  const names = [...new Set(shelved.flatMap(({ set }) => set ?? []))].sort();
  return names.map((name) => {
    const members = shelved.filter(({ set }) => set === name).toSorted((a, b) => a.tag.localeCompare(b.tag));
    const whole = Math.max(...members.map(({ setOf = 0 }) => setOf));
    const isReady =
      members.length >= whole &&
      members.every(
        ({ place, prediction, rechargeV }) =>
          place !== undefined &&
          PLACES[place.kind].isForTaking &&
          (place.kind === 'maintainer' || (prediction !== undefined && prediction.volts.low >= rechargeV)),
      );
    return { name, members, isReady };
  });
}
