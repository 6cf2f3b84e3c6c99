/**
 * How long a candidate will serve in its duty: what wear it has by its age says how fast it wears, the law of its kind how that goes on.
 * What is sulfated or missing besides is taken to stay as it is.
 */
import type { Duty } from '../battery/types.ts';
import { normalQuantile } from '../chance/distributions.ts';
import { lostAfter, yearsUntil, type Service } from '../model/ageing.ts';
import type { Setting, Traits } from '../candidate/traits.ts';

/** Capacity at which a battery has ended its life in its duty, share of the rating (handbook 3.6: below B; standby below 80 %). */
const ENDS_AT: Record<Duty, number> = { starter: 0.6, 'deep-cycle': 0.6, standby: 0.8 };
/** Pace of wear against the usual where neither age nor wear tells: eight of ten within half and twice (assumed). */
const PACE_SPREAD = Math.LN2 / normalQuantile(0.9);
/** And how far the years to come may differ from those behind it: another vehicle, another summer (assumed). */
const ONWARD_SPREAD = 0.3;
/** As much wear as any battery has within its first weeks says nothing of its pace. */
const TELLS_FROM = 0.01;
/** The pace that is believed of one whose wear would ask for more or less than this lies there. */
const PACES: readonly [slowest: number, fastest: number] = [0.25, 6];
/** Further ahead nothing is forecast: something else ends it before that, years. */
const FURTHEST_YEARS = 15;

const within = ([least, most]: readonly [number, number], value: number): number =>
  Math.min(most, Math.max(least, value));

/**
 * Years until it no longer serves its duty.
 * @param capacity once charged as far as it goes, share of the rating
 * @param place where it lies among those of which nothing else is known, 0–1, both excluded
 */
export function lifeOf(
  traits: Pick<Traits, 'left'>,
  capacity: number,
  setting: Setting,
  place: number,
): number {
  const { rating, history } = setting;
  const service: Service = rating;
  const spare = capacity - ENDS_AT[rating.duty];
  if (spare <= 0) return 0;
  const lost = 1 - traits.left;
  const plateYears = yearsUntil(lost, service);
  const { ageYears = 0 } = history;
  const usual = Math.exp(PACE_SPREAD * normalQuantile(place));
  const pace = ageYears > 0 && lost > TELLS_FROM ? within(PACES, plateYears / ageYears) : usual;
  const onward = pace * Math.exp(ONWARD_SPREAD * normalQuantile(place));
  const left = yearsUntil(lostAfter(plateYears, service) + spare, service) - plateYears;
  return Math.min(FURTHEST_YEARS, left / onward);
}
