/** What the model gives at each published rate of a class: for the tests of the model and the table of its validation. */
import { PUBLISHED, type PublishedRate } from '../battery/dischargeRates.ts';
import { SOUND } from '../model/battery.ts';
import { draw } from '../model/discharge.ts';
import { makeBattery } from '../model/faults.ts';
import { soundBattery, type Rating } from '../model/parameters.ts';

export interface ClassCase {
  readonly of: keyof typeof PUBLISHED;
  readonly name: string;
  readonly rating: Rating;
  /** The one its class's parameters were fitted on; the others are predicted. */
  readonly isFitted: boolean;
}

const one = (of: ClassCase['of'], name: string, rating: Rating, isFitted = false): ClassCase => ({
  of,
  name,
  rating,
  isFitted,
});

const valveRegulated = { construction: 'agm', duty: 'standby', cells: 6 } as const;
const gel = { construction: 'gel', duty: 'deep-cycle', cells: 6 } as const;
const tubular = { construction: 'gel', duty: 'standby', cells: 1, capacityAh: 500, hourRate: 10 } as const;
const traction = { construction: 'flooded', duty: 'deep-cycle', hourRate: 20 } as const;
const starter = { construction: 'flooded', duty: 'starter', cells: 6, hourRate: 20 } as const;

/** A class in its sizes, with a cranking rating and without. */
export const CLASS_CASES: readonly ClassCase[] = [
  one('general-purpose', '12 V 40 Ah', { ...valveRegulated, capacityAh: 40, hourRate: 20 }, true),
  one('general-purpose', '12 V 7 Ah, 100 A', {
    ...valveRegulated,
    capacityAh: 7,
    hourRate: 20,
    crankingA: 100,
  }),
  one('general-purpose', '12 V 100 Ah', { ...valveRegulated, capacityAh: 100, hourRate: 20 }),
  one('standby', '12 V 100 Ah', { ...valveRegulated, capacityAh: 100, hourRate: 10 }, true),
  one('standby', '2 V 500 Ah', { ...valveRegulated, cells: 1, capacityAh: 500, hourRate: 10 }),
  one('standby', '12 V 100 Ah, 720 A', {
    ...valveRegulated,
    capacityAh: 100,
    hourRate: 10,
    crankingA: 720,
  }),
  one('gel-flat', '12 V 60 Ah', { ...gel, capacityAh: 60, hourRate: 20 }, true),
  one('gel-flat', '12 V 40 Ah', { ...gel, capacityAh: 40, hourRate: 20 }),
  one('gel-flat', '12 V 100 Ah, 550 A', { ...gel, capacityAh: 100, hourRate: 20, crankingA: 550 }),
  one('gel-tubular', '2 V 500 Ah', tubular, true),
  one('gel-tubular', '2 V 500 Ah, 1200 A', { ...tubular, crankingA: 1200 }),
  one('deep-cycle', '6 V 225 Ah', { ...traction, cells: 3, capacityAh: 225 }, true),
  one('deep-cycle', '8 V 170 Ah', { ...traction, cells: 4, capacityAh: 170 }),
  one('deep-cycle', '12 V 110 Ah, 660 A', { ...traction, cells: 6, capacityAh: 110, crankingA: 660 }),
  one('starter', '12 V 70 Ah', { ...starter, capacityAh: 70 }, true),
  one('starter', '12 V 70 Ah, 640 A', { ...starter, capacityAh: 70, crankingA: 640 }),
  one('starter', '12 V 45 Ah, 380 A', { ...starter, capacityAh: 45, crankingA: 380 }),
];

const HOUR_S = 3600;
/** Halvings of the range searched: to a hundredth of a percent. */
const HALVINGS = 16;

/** Current over capacity that a new one gives for exactly so long, to the end voltage of its class. */
export function modelledShare(rating: Rating, { hours, low, high, endV }: PublishedRate): number {
  const parameters = soundBattery(rating);
  const lastsH = (share: number): number =>
    draw(
      makeBattery({ parameters, condition: SOUND, tempC: 25 }),
      share * rating.capacityAh,
      endV * rating.cells,
      3 * hours * HOUR_S,
    ).seconds / HOUR_S;
  let below = low * 0.6;
  let above = high * 1.6;
  for (let round = 0; round < HALVINGS; round++) {
    const middle = Math.sqrt(below * above);
    if (lastsH(middle) > hours) below = middle;
    else above = middle;
  }
  return Math.sqrt(below * above);
}
