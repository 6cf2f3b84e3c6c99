/** How a charge goes, in words, within one reading of its going otherwise (handbook 3.5). */
import { onSix } from '../battery/types.ts';
import type { ChargeReading } from '../charge/proofOfFull.ts';
import { bandAt, type Band } from './band.ts';

export const COURSES = {
  'on-course': 'As forecast',
  waking: 'Waking',
  'sulfated-rise': 'Sulfated rise',
  'dead-cell': 'Dead-cell stall',
  'short-heating': 'Heating at low voltage',
  warmer: 'Warmer than forecast',
  stopped: 'Stop',
  full: 'Full',
  'full-or-sulfated': 'Full, or sulfated',
  otherwise: 'Off the forecast',
} as const;
export type CourseId = keyof typeof COURSES;

export interface GoingOn {
  readonly course: CourseId;
  readonly words: string;
  readonly tone: 'plain' | 'good' | 'caution' | 'danger';
}

type Look = ChargeReading & { readonly minute: number };

export interface OnCharge {
  /** The first first, each with its minutes on charge. */
  readonly looks: readonly Look[];
  readonly setA: number;
  /** Not to be exceeded at the warmth of the last look, V. */
  readonly ceilingV: number;
  readonly cells: number;
  readonly capacityAh: number;
  /** Why a stop rule ended it, where one did. */
  readonly stopped?: string;
}

/** A dead cell leaves about 2 V, however many cells there are; half of it below the band is no spread, V. */
const STALL_V = 1;
/** A cell that gives a quarter less begins to be one, V. */
const SAGS_V = 0.5;
/** Above the warmest of the band by this: the room, and a thermometer's error at both ends, K (reasoned). */
const HOT_K = 6;
/**
 * A battery from a cold boat warms to its room by this without any fault, K (reasoned: it is read as it came, and the
 * forecast takes the room to be as warm); near the limit nothing is allowed for.
 */
const ROOM_K = 6;
const NEAR_LIMIT_C = 40;
/** Outside the band by this, V per six cells, before it counts. */
const APART_V = 0.15;
/** And more current than that of the band by this, share of capacity. */
const APART_SHARE = 1 / 40;
/** Almost no current, full at this, share of capacity. */
const ALMOST_NONE = 1 / 50;
/** One that took more than this is not asleep, whatever it takes now, share of capacity. */
const TAKES_SHARE = 0.1;
/** Surely charged less than this, and yet it takes nothing. */
const NOT_YET_FULL = 0.75;

/** What went in for certain by the looks alone, Ah: up to the first, no more than it showed. */
function takenAh(looks: readonly Look[]): number {
  return looks.reduce((ah, { minute, currentA }, index) => {
    const before = looks[index - 1];
    const hours = (minute - (before?.minute ?? 0)) / 60;
    return ah + hours * (before ? (before.currentA + currentA) / 2 : currentA);
  }, 0);
}

/** On which side of the band a look lies: 1 above, −1 below, 0 within. */
function sideOf(look: Look, { cells, capacityAh }: OnCharge, band: Band): -1 | 0 | 1 {
  const volts = bandAt(band, 'volts', look.minute);
  const amps = bandAt(band, 'amps', look.minute);
  const apartV = onSix(APART_V, { cells });
  if (look.voltageV < volts.low - apartV) return -1;
  return look.voltageV > volts.high + apartV || look.currentA > amps.high + APART_SHARE * capacityAh ? 1 : 0;
}

/**
 * What the latest look says, held against the forecast; undefined before the first. Off the forecast is only what two
 * looks in a row are, on the same side: one alone the forecast follows, and plates that wake leap once.
 */
export function goingOn(question: OnCharge, band: Band): GoingOn | undefined {
  const { looks, setA, ceilingV, cells, capacityAh } = question;
  const last = looks.at(-1);
  if (!last) return undefined;
  if (question.stopped !== undefined) return { course: 'stopped', tone: 'danger', words: question.stopped };
  const before = looks.at(-2);
  const six = onSix(1, { cells });
  const volts = bandAt(band, 'volts', last.minute);
  const amps = bandAt(band, 'amps', last.minute);
  const tempC = bandAt(band, 'tempC', last.minute);
  const charge = bandAt(band, 'chargeShare', last.minute);
  const below = volts.low - last.voltageV;
  const isHeld = last.voltageV > ceilingV - 0.15 * six;
  const isHot = last.tempC > tempC.high + HOT_K;
  const risesA = before ? last.currentA - before.currentA : 0;
  const fallsV = before ? before.voltageV - last.voltageV : 0;
  if (isHot && below > SAGS_V)
    return {
      course: 'short-heating',
      tone: 'danger',
      words: `${last.tempC.toFixed(0)} °C, ${(last.tempC - tempC.middle).toFixed(0)} K above the forecast, and ${(volts.middle - last.voltageV).toFixed(1)} V below it: a cell is shorted.`,
    };
  if (below > STALL_V && last.currentA > 0.5 * setA)
    return {
      course: 'dead-cell',
      tone: 'danger',
      words: `${(volts.middle - last.voltageV).toFixed(1)} V below the forecast with its current at the limit: one cell gives nothing.`,
    };
  const roomK = last.tempC < NEAR_LIMIT_C ? ROOM_K : 0;
  if (last.tempC > tempC.high + HOT_K + roomK)
    return {
      course: 'warmer',
      tone: 'caution',
      words: `${last.tempC.toFixed(0)} °C, ${(last.tempC - tempC.middle).toFixed(0)} K above the forecast, the voltage as it should be: a warmer room, or more current than it takes. Look again within half an hour.`,
    };
  if (before && fallsV > 0.1 * six && risesA > capacityAh / 500)
    return {
      course: 'waking',
      tone: 'good',
      words: `Voltage comes down from ${before.voltageV.toFixed(1)} V and the current goes up: it begins to take.`,
    };
  if (isHeld && last.currentA < ALMOST_NONE * capacityAh) {
    const amount = `${last.currentA.toFixed(2)} A`;
    if (charge.high < NOT_YET_FULL && takenAh(looks) < TAKES_SHARE * capacityAh)
      return {
        course: 'sulfated-rise',
        tone: 'caution',
        words: `At the voltage with only ${amount}, and far from full: sulfated. It gives way slowly, or not at all.`,
      };
    return charge.middle < NOT_YET_FULL
      ? {
          course: 'full-or-sulfated',
          tone: 'plain',
          words: `${amount} at the voltage held: full, or sulfated. The next looks and what was put back tell which.`,
        }
      : {
          course: 'full',
          tone: 'good',
          words: `${amount} at the voltage held: full as far as it goes, once this has been flat for two hours.`,
        };
  }
  const side = sideOf(last, question, band);
  if (side !== 0 && before && sideOf(before, question, band) === side)
    return {
      course: 'otherwise',
      tone: 'caution',
      words: `${last.voltageV.toFixed(2)} V and ${last.currentA.toFixed(2)} A where ${volts.middle.toFixed(1)} V and ${amps.middle.toFixed(1)} A were likely; the forecast follows what was read.`,
    };
  return { course: 'on-course', tone: 'plain', words: 'Within the forecast.' };
}
