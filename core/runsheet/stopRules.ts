/**
 * What ends a recovery's charge for good, whatever the clock says (handbook 3.4 and 3.5). Judged with every
 * look, where the current flows.
 */
import type { BatteryType } from '../battery/types.ts';
import type { ChargeReading } from '../charge/proofOfFull.ts';
import type { StopRuleId } from './step.ts';

export interface StopQuestion {
  /** Of this charge, the first first. */
  readonly looks: readonly ChargeReading[];
  readonly type: Pick<BatteryType, 'cells' | 'capacityAh'>;
  /** Current the charger is set to, A. */
  readonly setA: number;
  readonly ceilingV: number;
  /** On charge up to the last look, min. */
  readonly minutes: number;
  readonly mostMin: number;
}

/** On six cells, V. */
const onSix = (volts: number, { type }: StopQuestion): number => (volts * type.cells) / 6;

/** Current rising while the voltage is held, and warmth with it: each look above the one before. */
function runaway({ looks, ceilingV, type }: StopQuestion): string | undefined {
  const [first, second, third] = looks.slice(-3);
  if (!first || !second || !third) return undefined;
  const isHeld = [first, second, third].every(
    ({ voltageV }) => voltageV >= ceilingV - 0.15 * (type.cells / 6),
  );
  const step = type.capacityAh / 200;
  const isRising = second.currentA > first.currentA + step && third.currentA > second.currentA + step;
  const isWarming = third.tempC >= first.tempC + 2;
  return isHeld && isRising && isWarming
    ? `Current rises at constant voltage, ${first.currentA.toFixed(2)} to ${third.currentA.toFixed(2)} A, and warmth follows: thermal runaway.`
    : undefined;
}

/** Charge put in between looks, Ah; the first counted from the set current. */
function chargedAh({ looks, setA, minutes }: StopQuestion): number {
  const first = looks[0];
  const last = looks.at(-1);
  if (!first || !last) return 0;
  const beforeFirst = Math.max(0, minutes - (last.at - first.at) / 60_000) * setA;
  const between = looks.slice(1).reduce((sum, look, index) => {
    const before = looks[index] ?? look;
    return sum + ((look.currentA + before.currentA) / 2) * ((look.at - before.at) / 60_000);
  }, 0);
  return (beforeFirst + between) / 60;
}

/** A charge this far along has five good cells near full: the battery must be above this, six cells. */
const STALL_SHARE = 0.9;
const STALLED_V = 13.4;

/** About 2 V less than it should have at every stage, with the current still at its limit. */
function deadCell(question: StopQuestion): string | undefined {
  const { looks, type, setA } = question;
  const last = looks.at(-1);
  if (!last || looks.length < 2) return undefined;
  const isAtLimit = last.currentA > 0.8 * setA;
  const isLong = chargedAh(question) > STALL_SHARE * type.capacityAh;
  return isAtLimit && isLong && last.voltageV < onSix(STALLED_V, question)
    ? `${last.voltageV.toFixed(2)} V after ${chargedAh(question).toFixed(0)} Ah: it stalls about 2 V low, a dead or shorted cell.`
    : undefined;
}

/** Heating at low voltage: the charge turns to heat instead of to voltage. */
function shortHeating(question: StopQuestion): string | undefined {
  const { looks } = question;
  const first = looks[0];
  const last = looks.at(-1);
  if (!first || !last || looks.length < 2) return undefined;
  const hours = (last.at - first.at) / 3_600_000;
  const risenK = last.tempC - first.tempC;
  const isFast = risenK >= 8 && risenK > 4 * hours;
  return isFast && last.voltageV < onSix(13, question)
    ? `Up ${risenK.toFixed(0)} K at only ${last.voltageV.toFixed(2)} V: a shorted cell heats.`
    : undefined;
}

/** After half an hour awake a battery has gained voltage; one that has not is shorted. */
const RISE_BY_MIN = 30;

function notRising(question: StopQuestion): string | undefined {
  const { looks, minutes, setA } = question;
  const first = looks[0];
  const last = looks.at(-1);
  if (!first || !last || looks.length < 2 || minutes < RISE_BY_MIN) return undefined;
  const isTaking = last.currentA > 0.8 * setA;
  return isTaking &&
    last.voltageV < onSix(10.5, question) &&
    last.voltageV < first.voltageV + onSix(0.1, question)
    ? `${last.voltageV.toFixed(2)} V after ${Math.round(minutes)} min and not rising while it takes the current: suspected short.`
    : undefined;
}

function tooLong({ minutes, mostMin }: StopQuestion): string | undefined {
  return minutes > mostMin + 5
    ? `On for ${(minutes / 60).toFixed(1)} h; ${(mostMin / 60).toFixed(0)} h is the most for this route.`
    : undefined;
}

const RULES: Record<StopRuleId, (question: StopQuestion) => string | undefined> = {
  runaway,
  'dead-cell': deadCell,
  'short-heating': shortHeating,
  'not-rising': notRising,
  'too-long': tooLong,
};

/** The first of the armed rules that fires, in one sentence; undefined while the charge may go on. */
export function firstStop(armed: readonly StopRuleId[], question: StopQuestion): string | undefined {
  for (const id of armed) {
    const why = RULES[id](question);
    if (why !== undefined) return why;
  }
  return undefined;
}
