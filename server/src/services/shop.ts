/** The shop itself: its name, hours, bays and rules. */
import type { Shop } from '@cork-ember/core/contract/answers.ts';
import { STANDARD_RULES } from '@cork-ember/core/runsheet/houseRules.ts';
import type { SettingStore } from '../store/settingStore.ts';

const SHOP = 'shop';

/** A shop that has not been set up: weekdays eight to six, six bays with a bench supply each. */
export function plainShop(timeZone: string): Shop {
  const day: readonly [number, number] = [8 * 60, 18 * 60];
  return {
    name: 'Battery bench',
    hours: { timeZone, week: [null, day, day, day, day, day, [9 * 60, 13 * 60]] },
    bays: [1, 2, 3, 4, 5, 6].map((number) => ({ number, charger: 'bench supply, 0.1–10 A' })),
    people: [],
    rules: STANDARD_RULES,
  };
}

/** Reads the shop from its file, writing the plain one on the first start. */
export async function loadShop(settings: SettingStore, initial: Shop): Promise<Shop> {
  const known = await settings.read<Shop>(SHOP);
  if (known) return known;
  await settings.write(SHOP, initial);
  return initial;
}
