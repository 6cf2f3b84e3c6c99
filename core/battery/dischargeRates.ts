/**
 * What a battery gives at another rate than the one on its label, by the table of its class: published constant-current
 * discharge at 25 °C, read log-log between its points. One Peukert exponent fits no such table (handbook 1 and 7).
 */
import { logLogThrough } from '../units/linear.ts';

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

/** Hours, and the current over the class's own rated capacity that lasts so long: the middle of what makers publish. */
type Table = readonly (readonly [hours: number, currentShare: number])[];

/**
 * Starter AGMs are thinner of plate than general-purpose ones: k 1.10–1.15 from 20 h on (handbook 7), of which no maker's
 * table is held; its points are drawn at 1.12.
 */
const AGM_STARTER_K = 1.12;
const starterAgm: Table = [1, 3, 5, 10, 20].map(
  (hours) => [hours, 0.05 * (20 / hours) ** (1 / AGM_STARTER_K)] as const,
);

const TABLES: Readonly<Record<RateClass, Table>> = {
  'general-purpose': [
    [0.25, 1.8],
    [0.5, 1],
    [1, 0.61],
    [3, 0.2525],
    [5, 0.1665],
    [10, 0.094],
    [20, 0.05],
  ],
  standby: [
    [0.25, 1.625],
    [0.5, 1],
    [1, 0.6],
    [3, 0.2575],
    [5, 0.175],
    [10, 0.1],
  ],
  'gel-flat': [
    [0.25, 1.4],
    [0.5, 0.9],
    [1, 0.57],
    [3, 0.25],
    [5, 0.166],
    [10, 0.0935],
    [20, 0.05],
  ],
  'gel-tubular': [
    [1, 0.535],
    [3, 0.2425],
    [5, 0.1675],
    [10, 0.1],
  ],
  'deep-cycle': [
    [1, 0.54],
    [3, 0.24],
    [5, 0.165],
    [10, 0.0915],
    [20, 0.05],
  ],
  'starter-agm': starterAgm,
  starter: [
    [0.25, 1.8],
    [0.5, 1.1],
    [1, 0.6],
    [3, 0.26],
    [5, 0.165],
    [10, 0.0915],
    [20, 0.05],
  ],
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

/**
 * The class of a battery by what its label says of it.
 * @param isRated whether it prints a cranking current: a starter's thin plates
 */
export function classOf(construction: 'agm' | 'flooded', isRated: boolean): RateClass {
  if (construction === 'agm') return isRated ? 'starter-agm' : 'general-purpose';
  return isRated ? 'starter' : 'deep-cycle';
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
