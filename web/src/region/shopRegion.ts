/**
 * The region this page writes in: the shop's, taken once before anything is shown. It stays while the page is open, for a
 * number half typed in one unit must never be read in another; where the shop's has changed, the page is loaded anew.
 */
import type { Shop } from '@cork-ember/core/contract/answers.ts';
import {
  entryText,
  fromEntry,
  isShownOtherwise,
  PLAIN_REGION,
  plainEntryText,
  wayOf,
  type Region,
} from '@cork-ember/core/units/region.ts';
import { localised } from '@cork-ember/core/units/localise.ts';

const KEPT = 'cork-ember-region';

let region: Region = PLAIN_REGION;

/** What this browser wrote in last, for an hour in which the server is away. */
function keptRegion(): Region {
  try {
    return { ...PLAIN_REGION, ...(JSON.parse(localStorage.getItem(KEPT) ?? '{}') as Partial<Region>) };
  } catch {
    return PLAIN_REGION;
  }
}

/** Takes the shop's region, or where the server does not answer the one of last time. */
export function beginIn(shop: Pick<Shop, 'region'> | undefined): void {
  region = shop?.region ?? keptRegion();
  if (shop) localStorage.setItem(KEPT, JSON.stringify(region));
}

/** Whether the shop writes otherwise than this page does. */
export const isOtherwise = (shop: Pick<Shop, 'region'>): boolean =>
  JSON.stringify(shop.region) !== JSON.stringify(region);

export const shopRegion = (): Region => region;

/** A text of the core as this shop writes it. Everything in JSX is written so already. */
export const inShop = (text: string): string => localised(text, region);

/** The unit in which this shop shows and types a unit of the core. */
export const unitHere = (unit: string): string => wayOf(unit, region).unit;

/** A number of the core's unit in this shop's. */
export const here = (value: number, unit: string): number => wayOf(unit, region).to(value);

export const isOtherwiseHere = (unit: string): boolean => isShownOtherwise(unit, region);

/** As it is typed into a field here, with so many decimals of the core's unit, or with those it has. */
export const typedHere = (value: number, unit: string, decimals?: number): string =>
  decimals === undefined ? plainEntryText(value, unit, region) : entryText(value, unit, decimals, region);

/** What was typed into a field here, in the core's unit; NaN where it is no number. */
export const readHere = (text: string, unit: string): number => fromEntry(text, unit, region);
