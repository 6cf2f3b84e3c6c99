/** What one may ask: a battery in some condition, and up to four plans to try on it. */
import type { ProfileId, Subject } from '../charge/profile.ts';
import { SOUND } from '../model/battery.ts';
import type { CellString } from '../model/cellString.ts';
import { makeBattery, type Fault } from '../model/faults.ts';
import { soundBattery, type Rating } from '../model/parameters.ts';

export type FaultChoice = 'none' | Fault['kind'];

export interface Condition {
  /** Share of capacity charged, 0–1. */
  readonly charge: number;
  /** Of what is missing, the share grown hard, 0–1. */
  readonly sulfation: number;
  /** Years in service. */
  readonly years: number;
  /** Battery and room, °C. */
  readonly tempC: number;
  readonly fault: FaultChoice;
}

export interface PlanChoice {
  readonly plan: ProfileId;
  readonly charger: string;
}

export interface Room {
  readonly volumeM3: number;
  /** Price of a kilowatt-hour, in the shop's money. */
  readonly pricePerKwh: number;
}

export interface Question {
  readonly rating: Rating;
  readonly subject: Subject;
  readonly condition: Condition;
  readonly plans: readonly PlanChoice[];
  readonly room: Room;
  /** The longest looked at, h. */
  readonly hours: number;
}

export const FAULT_NAMES: Record<FaultChoice, string> = {
  none: 'No fault',
  short: 'One cell shorted',
  open: 'One cell open',
  weak: 'One cell weak',
  worn: 'Worn: mass shed',
  dry: 'Dry: water lost',
  layered: 'Acid in layers',
  joint: 'Poor joint inside',
  reversed: 'One cell reversed',
  low: 'One cell behind the others',
  contaminated: 'Contaminated acid',
};

/** Capacity lost in a year of service (practice: 80 % after about five years). */
const WORN_PER_YEAR = 0.04;
const LEAST_LEFT = 0.2;
/** Film that grows on plates that stand discharged, by the sulfate on them. */
const FILM_PER_SULFATION = 1;

/** The fault of each kind What-if shows: bad enough to see, on a cell in the middle. */
function faultOf(choice: FaultChoice, cells: number): Fault[] {
  const cell = Math.ceil(cells / 2);
  switch (choice) {
    case 'none':
      return [];
    case 'short':
      return [{ kind: 'short', cell, ohms: 0.02 }];
    case 'open':
      return [{ kind: 'open', cell }];
    case 'weak':
      return [{ kind: 'weak', cell, share: 0.5 }];
    case 'worn':
      return [{ kind: 'worn', share: 0.6 }];
    case 'low':
      return [{ kind: 'low', cell, lacks: 0.25, hardShare: 0.5 }];
    case 'dry':
      return [{ kind: 'dry', share: 0.2 }];
    case 'layered':
      return [{ kind: 'layered', share: 0.2 }];
    case 'joint':
      return [{ kind: 'joint', cell, ohms: 0.03 }];
    case 'reversed':
      return [{ kind: 'reversed', cell }];
    case 'contaminated':
      return [{ kind: 'contaminated' }];
  }
}

function assertWithin(value: number, low: number, high: number, what: string, unit: string): void {
  if (!(value >= low && value <= high))
    throw new RangeError(`${what} must lie between ${low} and ${high}${unit}; ${value}${unit} does not.`);
}

/**
 * The battery a question is about.
 * @throws RangeError in one sentence when the question is impossible
 */
export function batteryFor({ rating, condition }: Question): CellString {
  assertWithin(condition.charge, 0, 1, 'Charge', '');
  assertWithin(condition.sulfation, 0, 1, 'Sulfation', '');
  assertWithin(condition.years, 0, 20, 'Age', ' years');
  assertWithin(condition.tempC, -30, 50, 'Temperature', ' °C');
  const share = Math.max(LEAST_LEFT, 1 - WORN_PER_YEAR * condition.years);
  const worn: Fault[] = share < 1 ? [{ kind: 'worn', share }] : [];
  return makeBattery({
    parameters: soundBattery(rating),
    condition: {
      ...SOUND,
      charge: condition.charge,
      hardShare: condition.sulfation,
      film: Math.min(1, condition.sulfation * FILM_PER_SULFATION),
    },
    faults: [...worn, ...faultOf(condition.fault, rating.cells)],
    tempC: condition.tempC,
  });
}
