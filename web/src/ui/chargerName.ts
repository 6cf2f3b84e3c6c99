import type { Shop } from '@cork-ember/core/contract/answers.ts';

/** What the charger of a bay is called in this shop. */
export function chargerName(shop: Pick<Shop, 'chargers'>, id: string | undefined): string {
  return shop.chargers.find((charger) => charger.id === id)?.name ?? 'no charger';
}
