/** What a battery can be asked only once it was charged: what each check costs, and how well it tells. */
import type { Setting } from '../candidate/traits.ts';

/** What its charge shows early on and at its end, and its rest, whoever looks; and what hands must be put to. */
export const LATER_CHECKS = [
  'early',
  'charge',
  'rest',
  'tester',
  'bubbles',
  'warmth',
  'crank',
  'hold',
  'capacity',
] as const;
export type LaterCheck = (typeof LATER_CHECKS)[number];

export interface LaterCost {
  /** Minutes of hands, beyond those of the charge and of its rested voltage. */
  readonly minutes: number;
  /** Added to the way, h. */
  readonly hours: number;
  /** Of these on a charger, h. */
  readonly bayH: number;
}

/** Practice: as `observation/readings.ts`; a capacity test is drawn for a day and charged for another. */
export const LATER_COSTS: Readonly<Record<LaterCheck, LaterCost>> = {
  early: { minutes: 0, hours: 0, bayH: 0 },
  charge: { minutes: 0, hours: 0, bayH: 0 },
  rest: { minutes: 0, hours: 0, bayH: 0 },
  tester: { minutes: 2, hours: 0, bayH: 0 },
  bubbles: { minutes: 2, hours: 0, bayH: 0 },
  warmth: { minutes: 3, hours: 0, bayH: 0 },
  crank: { minutes: 6, hours: 0, bayH: 0 },
  hold: { minutes: 1, hours: 24, bayH: 0 },
  capacity: { minutes: 8, hours: 44, bayH: 44 },
};

export const LATER_NAMES: Readonly<Record<LaterCheck, string>> = {
  early: 'how its charge begins',
  charge: 'how its charge goes',
  rest: 'its rested voltage',
  tester: 'the tester',
  bubbles: 'bubbles on charge',
  warmth: 'warmth of the cells',
  crank: 'a crank',
  hold: 'what it loses in a day',
  capacity: 'a capacity test',
};

/** Values of each check, in its own units; none where it cannot be made of this battery. */
export type Later = Readonly<Record<LaterCheck, readonly number[]>>;

/** One standard deviation of a value read, instrument and model together. @param value what it would be */
export function laterScale(check: LaterCheck, place: number, value: number, { rating }: Setting): number {
  switch (check) {
    case 'early':
      return [0.03 * rating.cells, Math.max(0.004 * rating.capacityAh, 0.35 * value), 2.5][place] ?? 1;
    case 'charge':
      return place === 0 ? 0.05 * rating.capacityAh + 0.12 * Math.abs(value) : 2 + 0.25 * value;
    case 'rest':
      return 0.05;
    case 'tester':
      return Math.max(5, 0.105 * value);
    case 'bubbles':
      return 0.7;
    case 'warmth':
      return 1.5;
    case 'crank':
      return 0.7;
    case 'hold':
      return 0.013;
    case 'capacity':
      return 0.02;
  }
}
