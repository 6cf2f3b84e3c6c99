/** What the shop knows already stands in the fields: its room, its price, what its bench gives off now. */
import { useMemo } from 'react';
import { hydrogenLPerH } from '@cork-ember/core/charge/firstChargeForecast.ts';
import { HYDROGEN_L_PER_AH } from '@cork-ember/core/electrolyte/faraday.ts';
import type { Given } from '@cork-ember/core/reckoner/calculator.ts';
import { contextOf } from '@cork-ember/core/runsheet/state/context.ts';
import { minutesOnCharge } from '@cork-ember/core/runsheet/state/looks.ts';
import { useNow } from '../api/clock.ts';
import { useOpenJobs } from '../api/jobs.ts';
import { useShop } from '../api/queries.ts';
import { useChargeForecasts } from '../steps/useChargeForecast.ts';

/** Cells the gassing current is reckoned for. */
const CELLS = 6;
/** Looked at anew every five minutes: the fields must not change under somebody's hands. */
const EVERY_MS = 300_000;

export interface ShopDefaults {
  readonly fields: Given;
  /** Gassing current of all that charges now, by the model, A through six cells; undefined when nothing does. */
  readonly gassingA?: number;
}

export function useShopDefaults(): ShopDefaults {
  const { data: shop } = useShop();
  const { jobs } = useOpenJobs();
  const at = Math.floor(useNow() / EVERY_MS) * EVERY_MS;
  const charging = useMemo(
    () =>
      jobs.flatMap(({ state }) => {
        const step = state.steps[state.cursor];
        const { charge } = step ?? {};
        if (!step || !charge || charge.pausedFor !== undefined) return [];
        return [{ context: contextOf(state, step.round), setA: charge.currentA, charge }];
      }),
    [jobs],
  );
  const curves = useChargeForecasts(charging);
  const litres = curves.reduce((sum, curve, index) => {
    const charge = charging[index]?.charge;
    return curve && charge ? sum + hydrogenLPerH(curve, minutesOnCharge(charge, at)) : sum;
  }, 0);
  return {
    fields: shop ? { room: shop.room.volumeM3, price: shop.room.pricePerKwh } : {},
    ...(curves.some((curve) => curve !== undefined)
      ? { gassingA: Number((litres / (CELLS * HYDROGEN_L_PER_AH)).toFixed(2)) }
      : {}),
  };
}
