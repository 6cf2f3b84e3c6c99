/**
 * What a battery gives at another rate than the one on its label, by the table of its class: published constant-current
 * discharge at 25 °C, read log-log between its points. One Peukert exponent fits no such table (handbook 1 and 7).
 */
import { logLogThrough } from '../units/linear.ts';
import type { Construction } from './construction.ts';
import type { Duty } from './types.ts';

/** Reserve capacity is counted at this current, to 10.5 V, A (BCI, EN 50342-1). */
export const RESERVE_A = 25;

export type RateClass =
  'starter' | 'starter-agm' | 'deep-cycle' | 'general-purpose' | 'standby' | 'gel-flat' | 'gel-tubular';

export const RATE_CLASSES: Readonly<Record<RateClass, string>> = {
  starter: 'Flooded starter',
  'starter-agm': 'AGM starter',
  'deep-cycle': 'Flooded deep-cycle',
  'general-purpose': 'AGM, general purpose',
  standby: 'AGM, standby',
  'gel-flat': 'Gel, flat plate',
  'gel-tubular': 'Gel, tubular',
};

/** What makers publish of a class at one rate: current over its own rated capacity that lasts so long, to an end voltage. */
export interface PublishedRate {
  readonly hours: number;
  readonly low: number;
  readonly high: number;
  /** V a cell. */
  readonly endV: number;
}

const rate = (hours: number, low: number, high: number, endV: number): PublishedRate => ({
  hours,
  low,
  high,
  endV,
});

/** Handbook 1: typical published constant-current discharge at 25 °C, the shortest first. */
export const PUBLISHED: Readonly<Record<Exclude<RateClass, 'starter-agm'>, readonly PublishedRate[]>> = {
  'general-purpose': [
    rate(0.25, 1.7, 1.9, 1.6),
    rate(0.5, 0.95, 1.05, 1.6),
    rate(1, 0.58, 0.64, 1.6),
    rate(3, 0.24, 0.265, 1.7),
    rate(5, 0.16, 0.173, 1.7),
    rate(10, 0.092, 0.096, 1.75),
    rate(20, 0.05, 0.05, 1.75),
  ],
  standby: [
    rate(0.25, 1.5, 1.75, 1.67),
    rate(0.5, 0.95, 1.05, 1.69),
    rate(1, 0.55, 0.65, 1.75),
    rate(3, 0.25, 0.265, 1.8),
    rate(5, 0.17, 0.18, 1.8),
    rate(10, 0.1, 0.1, 1.8),
  ],
  'gel-flat': [
    rate(0.25, 1.3, 1.5, 1.75),
    rate(0.5, 0.85, 0.95, 1.75),
    rate(1, 0.54, 0.6, 1.75),
    rate(3, 0.24, 0.26, 1.75),
    rate(5, 0.16, 0.172, 1.75),
    rate(10, 0.092, 0.095, 1.75),
    rate(20, 0.05, 0.05, 1.75),
  ],
  'gel-tubular': [
    rate(1, 0.5, 0.57, 1.8),
    rate(3, 0.23, 0.255, 1.8),
    rate(5, 0.16, 0.175, 1.8),
    rate(10, 0.1, 0.1, 1.8),
  ],
  'deep-cycle': [
    rate(1, 0.5, 0.58, 1.75),
    rate(3, 0.23, 0.25, 1.75),
    rate(5, 0.163, 0.167, 1.75),
    rate(10, 0.09, 0.093, 1.75),
    rate(20, 0.05, 0.05, 1.75),
  ],
  starter: [
    rate(0.25, 1.6, 2, 1.75),
    rate(0.5, 1, 1.2, 1.75),
    rate(1, 0.55, 0.65, 1.75),
    rate(3, 0.25, 0.27, 1.75),
    rate(5, 0.16, 0.17, 1.75),
    rate(10, 0.09, 0.093, 1.75),
    rate(20, 0.05, 0.05, 1.75),
  ],
};

/** Hours, and the middle of what makers publish for them. */
type Table = readonly (readonly [hours: number, currentShare: number])[];

/**
 * Starter AGMs are thinner of plate than general-purpose ones: k 1.10–1.15 from 20 h on (handbook 7), of which no maker's
 * table is held; its points are drawn at 1.12.
 */
const AGM_STARTER_K = 1.12;
const starterAgm: Table = [1, 3, 5, 10, 20].map(
  (hours) => [hours, 0.05 * (20 / hours) ** (1 / AGM_STARTER_K)] as const,
);

const middleOf = (rates: readonly PublishedRate[]): Table =>
  rates.map(({ hours, low, high }) => [hours, (low + high) / 2] as const);

const TABLES: Readonly<Record<RateClass, Table>> = {
  'general-purpose': middleOf(PUBLISHED['general-purpose']),
  standby: middleOf(PUBLISHED.standby),
  'gel-flat': middleOf(PUBLISHED['gel-flat']),
  'gel-tubular': middleOf(PUBLISHED['gel-tubular']),
  'deep-cycle': middleOf(PUBLISHED['deep-cycle']),
  starter: middleOf(PUBLISHED.starter),
  'starter-agm': starterAgm,
};

interface Read {
  readonly shareAt: (hours: number) => number;
  readonly hoursAt: (share: number) => number;
  readonly leastH: number;
  readonly mostH: number;
}

const READ = Object.fromEntries(
  Object.entries(TABLES).map(([id, table]): [string, Read] => [
    id,
    {
      shareAt: logLogThrough(table),
      hoursAt: logLogThrough(table.map(([hours, share]) => [share, hours] as const)),
      leastH: table[0]?.[0] ?? 0,
      mostH: table.at(-1)?.[0] ?? 0,
    },
  ]),
) as Readonly<Record<RateClass, Read>>;

/** What tells a battery's class. */
export interface Classed {
  readonly construction: Construction;
  readonly duty: Duty;
  readonly hourRate: number;
}

/** Standby makers of long-life cells rate at ten hours; general purpose, and all else, at twenty. */
const STANDBY_RATED_H = 10;

/** Whether it is one of long life for standby, by the hours its maker rates it at. */
export const isLongLife = ({ duty, hourRate }: Pick<Classed, 'duty' | 'hourRate'>): boolean =>
  duty === 'standby' && hourRate <= STANDBY_RATED_H;

/**
 * The class of a battery, by how it is built, what it is for and the hour rate of its label: valve-regulated batteries
 * for standby are rated at ten hours, general-purpose ones at twenty; a gel rated at ten is one of tubular plates.
 */
export function classOf({ construction, duty, hourRate }: Classed): RateClass {
  const isTenHours = isLongLife({ duty, hourRate });
  switch (construction) {
    case 'flooded':
      return duty === 'starter' ? 'starter' : 'deep-cycle';
    case 'gel':
      return isTenHours ? 'gel-tubular' : 'gel-flat';
    case 'agm':
      if (duty === 'starter') return 'starter-agm';
      return isTenHours ? 'standby' : 'general-purpose';
  }
}

/** The hours a class's table covers. */
export const hoursCovered = (of: RateClass): readonly [least: number, most: number] => [
  READ[of].leastH,
  READ[of].mostH,
];

/** Capacity at a rate over capacity at the longest of the table; outside it what its end gives, never more. */
function capacityShare(of: RateClass, hours: number): number {
  const { shareAt, leastH, mostH } = READ[of];
  const within = Math.min(mostH, Math.max(leastH, hours));
  return (shareAt(within) * within) / (shareAt(mostH) * mostH);
}

/**
 * Capacity at one hour rate from capacity at another, Ah.
 * @param fromH of the label, h
 */
export const capacityAt = (of: RateClass, capacityAh: number, fromH: number, toH: number): number =>
  (capacityAh * capacityShare(of, toH)) / capacityShare(of, fromH);

/**
 * Capacity at an hour rate of a battery that gave a current for so long, Ah.
 * @param toH hour rate asked for, h
 */
export const capacityFromRun = (of: RateClass, amps: number, hours: number, toH: number): number =>
  capacityAt(of, amps * hours, hours, toH);

/**
 * How long a current lasts, h; outside the table with what its end gives.
 * @param hourRate of the capacity, h
 */
export function hoursAtCurrent(of: RateClass, capacityAh: number, hourRate: number, amps: number): number {
  const { shareAt, hoursAt, leastH, mostH } = READ[of];
  const longest = capacityAt(of, capacityAh, hourRate, mostH);
  const ownAh = longest / (shareAt(mostH) * mostH);
  const share = amps / ownAh;
  if (share < shareAt(mostH)) return longest / amps;
  return share > shareAt(leastH) ? capacityAt(of, longest, mostH, leastH) / amps : hoursAt(share);
}
