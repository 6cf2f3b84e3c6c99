/** A change of the shop in words, for the record: what it is now, and what it was. */
import type { BatteryType } from '../battery/types.ts';
import type { Charger } from '../charge/chargers.ts';
import { HOUSE_RULES, optionText, RULE_IDS, type HouseRules } from '../runsheet/houseRules.ts';
import type { Bay, RoomAndCosts, Shop } from './answers.ts';

export interface ShopParts {
  readonly rules?: Partial<HouseRules>;
  readonly chargers?: readonly Charger[];
  readonly bays?: readonly Bay[];
  readonly room?: RoomAndCosts;
  readonly types?: readonly BatteryType[];
}

function ruleWords(before: HouseRules, after: HouseRules): string[] {
  return RULE_IDS.filter((id) => before[id] !== after[id]).map(
    (id) => `${HOUSE_RULES[id].title}: ${optionText(id, after)} (was ${optionText(id, before)})`,
  );
}

/** Added, gone and altered, by what each is called. */
function listWords<T extends { readonly id: string }>(
  what: string,
  before: readonly T[],
  after: readonly T[],
  nameOf: (one: T) => string,
): string[] {
  const old = new Map(before.map((one) => [one.id, one]));
  const kept = new Set(after.map(({ id }) => id));
  const words = after.flatMap((one) => {
    const was = old.get(one.id);
    if (!was) return [`${what} ${nameOf(one)} added`];
    return JSON.stringify(was) === JSON.stringify(one) ? [] : [`${what} ${nameOf(one)} changed`];
  });
  const gone = before.filter(({ id }) => !kept.has(id)).map((one) => `${what} ${nameOf(one)} removed`);
  return [...words, ...gone];
}

function bayWords(shop: Shop, after: Shop): string[] {
  const named = ({ chargers }: Shop, id: string): string =>
    chargers.find((charger) => charger.id === id)?.name ?? id;
  return listWords(
    'Bay',
    shop.bays.map(({ number, charger }) => ({ id: String(number), charger })),
    after.bays.map(({ number, charger }) => ({ id: String(number), charger })),
    ({ id, charger }) => `${id} (${named(after, charger)})`,
  );
}

/**
 * @param after the shop once changed
 * @returns a line for each thing that differs; empty when nothing does
 */
export function wordsOfChange(
  before: { readonly shop: Shop; readonly types: readonly BatteryType[] },
  after: { readonly shop: Shop; readonly types: readonly BatteryType[] },
): string[] {
  const { room } = before.shop;
  const next = after.shop.room;
  return [
    ...ruleWords(before.shop.rules, after.shop.rules),
    ...listWords('Charger', before.shop.chargers, after.shop.chargers, ({ name }) => name),
    ...bayWords(before.shop, after.shop),
    ...(room.volumeM3 === next.volumeM3 ? [] : [`Room: ${next.volumeM3} m³ (was ${room.volumeM3})`]),
    ...(room.pricePerKwh === next.pricePerKwh
      ? []
      : [`A kilowatt-hour: ${next.pricePerKwh} (was ${room.pricePerKwh})`]),
    ...listWords('Type', before.types, after.types, ({ id }) => id),
  ];
}
