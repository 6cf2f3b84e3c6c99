/** What a battery can be asked only once it was charged: what each check shows then, what it costs, and how well it tells. */
import { atReference } from '../belief/piece.ts';
import type { Setting } from '../belief/traits.ts';
import type { CellString } from '../model/cellString.ts';
import { postVolts } from '../model/discharge.ts';
import { get } from '../model/state.ts';
import { Stepper } from '../model/stepper.ts';
import { bubblesOf, conductanceA, type Bubbles } from '../observation/modelView.ts';
import { quickLoad } from '../observation/quickTests.ts';
import { DAY, type Journey } from './journey.ts';

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

/** A look under the caps is taken while a current flows that makes full cells gas. */
const TRICKLE_SHARE = 1 / 50;
const TRICKLE_S = 120;
const BUBBLE_VALUE: Readonly<Record<Bubbles, number>> = { none: 0, few: 1, lively: 2 };
/** A starter's current (practice), as in `belief/likelihood.ts`. */
const CRANK_PER_AH = 3;
const CRANK_S = 3;

function onTrickle(journey: Journey, setting: Setting): CellString {
  const { cells } = journey.copy();
  const amps = setting.rating.capacityAh * TRICKLE_SHARE;
  new Stepper(cells).step({ hold: 'current', amps }, TRICKLE_S);
  return cells;
}

/** @param rested at the end of its first step, a day later; @param capacity what it then gives, share of the rating */
export function laterOf(rested: Journey, capacity: number, setting: Setting): Later {
  const { construction, cells: count, capacityAh } = setting.rating;
  const restedV = postVolts(rested.cells);
  const held = rested.copy();
  held.rest(DAY);
  const isOpenable = construction === 'flooded';
  const trickled = onTrickle(rested, setting);
  const each = Array.from({ length: count }, (_, index) => index + 1);
  const warm = trickled.groupOf.map((group) => get(trickled.state.excess, group));
  const meanK = warm.reduce((sum, kelvin) => sum + kelvin, 0) / count;
  const { early } = rested;
  return {
    early: early ? [early.volts, early.amps, early.tempC] : [],
    charge: [rested.takenAh, ...rested.chargedH.slice(-1).map(({ hours }) => hours)],
    rest: [restedV],
    tester: [conductanceA(atReference(rested.copy().cells))],
    bubbles: isOpenable ? each.map((cell) => BUBBLE_VALUE[bubblesOf(trickled, cell)]) : [],
    warmth: warm.slice(0, -1).map((kelvin) => kelvin - meanK),
    crank: [quickLoad(rested.copy().cells, CRANK_PER_AH * capacityAh, CRANK_S).lowestV],
    hold: [restedV - postVolts(held.cells)],
    capacity: [capacity],
  };
}

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
