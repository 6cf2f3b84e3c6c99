/**
 * Stop rules of a charge, judged with every look where the current flows: typed, read by an instrument, from a
 * logger's file or by a live supply (handbook 3.4 and 3.5). A fold over the looks, so that one look more costs the
 * same however many came before.
 */
import type { Construction } from '../battery/construction.ts';
import { ceilingAt, compensatedV } from './compensation.ts';
import type { Expected } from './expected.ts';
import type { ChargeReading } from './proofOfFull.ts';
import { hasTapered, isRunningAway, type TaperLow } from './runaway.ts';

/** Reasons for which a charge is ended for good. */
export type StopRuleId =
  'over-voltage' | 'runaway' | 'dead-cell' | 'short-heating' | 'not-rising' | 'too-long';

/** What does not change while the charge runs. */
export interface Watch {
  readonly construction: Construction;
  readonly cells: number;
  readonly capacityAh: number;
  readonly setA: number;
  /** At 25 °C, and whether it follows warmth; `absoluteV` is never passed. */
  readonly ceilingV: number;
  readonly isCompensated: boolean;
  readonly absoluteV: number;
  readonly mostMin: number;
  /** Least charge that was missing, Ah; 0 where not known. */
  readonly missingAh: number;
  /** Of a sound one; undefined where the model cannot be made. */
  readonly expected: Expected | undefined;
  readonly armed: readonly StopRuleId[];
}

export type Sureness = 'nearly certain' | 'likely';

/** A rule that fired: what it saw, what it expected, how sure that is, what to do. */
export interface Finding {
  readonly rule: StopRuleId;
  readonly saw: string;
  readonly expected: string;
  readonly sure: Sureness;
  readonly means: string;
  readonly toDo: string;
}

/** What the looks so far come to. */
export interface WatchState {
  readonly first: ChargeReading;
  readonly last: ChargeReading;
  /** Minutes on charge at the first and the last look. */
  readonly firstMin: number;
  readonly lastMin: number;
  readonly putInAh: number;
  /** The most that can have gone in, where looks are far apart, Ah. */
  readonly putInMostAh: number;
  readonly taperLow: TaperLow | undefined;
  /** Looks of the last hours since the charger last went on, the oldest first, thinned. */
  readonly recent: readonly Recent[];
}

interface Recent {
  readonly minute: number;
  readonly tempC: number;
  /** As it would be at 25 °C, V. */
  readonly volts25: number;
  readonly amps: number;
  readonly putInAh: number;
}

/** A look that has just come, and the minutes on charge it was taken at. */
export interface TimedLook {
  readonly look: ChargeReading;
  readonly minute: number;
  /** Whether the charger was off between this look and the one before. */
  readonly isAfterPause: boolean;
}

const MINUTE = 60_000;
/** Meter, knob and spread of pieces: a charge voltage further over its ceiling is not regulated, V a cell. */
const OVER_CELL_V = 0.08;
/** A dead cell leaves about 2 V; half of that is beyond every spread of sound pieces (handbook 3.5). */
const SHORTFALL_CELLS = 0.5;
const SURE_CELLS = 0.75;
/** Once every sound one stands at its ceiling less is enough: the five others gas, and hide part of what is missing. */
const SHORTFALL_WHEN_FULL_CELLS = 0.35;
/** Empty plates leap in voltage at first; from this share of capacity put in the forecast holds. */
const FORECAST_FROM_SHARE = 0.05;
/** At a smaller share of the set current the voltage says less. */
const AT_SET_SHARE = 0.5;
/**
 * A charge heats a cell that does not take it. Beyond the forecast by this within the time, K: a room ten kelvin
 * warmer brings a small battery five in two hours (reasoned from cooling times of the model).
 */
const HEATS_K = 6;
const HEATS_WITHIN_MIN = 150;
const SURE_K = 9;
/** Up to this voltage a sound cell turns next to nothing into heat; above it gasses, V a cell. */
const COOL_CELL_V = 2.25;
/**
 * With one cell dead the others fill and gas: the voltage stands still where a sound battery's would leap, or where
 * no sound one stands at all (V a cell), while so much goes in and the current is at its limit.
 */
const STALL_LEAST_MIN = 110;
const STALL_SHARE = 0.08;
const STALL_CELL_V = 0.1 / 6;
const LEAPS_FROM_CELL_V = 2.19;
const LEAPS_TO_CELL_V = 2.3;
const NONE_STANDS_CELL_V = 1.95;
const GASSING_CELL_V = 2.55;
/** Half an hour awake a battery has gained voltage; one that has not is shorted. */
const RISE_BY_MIN = 30;
const RISE_CELL_V = 0.1 / 6;
const AWAKE_CELL_V = 1.75;
const TAKING_SHARE = 0.8;
/** A charge may be switched off this late. */
const LATE_MIN = 5;
/** A voltage counts as held this close under its ceiling, V a cell. */
const HELD_CELL_V = 0.025;
const RECENT_APART_MIN = 10;
const RECENT_MIN = 300;

const volts = (value: number): string => `${value.toFixed(2)} V`;
const amps = (value: number): string => `${value.toFixed(2)} A`;

function held({ ceilingV, isCompensated, absoluteV, cells }: Watch, tempC: number): number {
  return ceilingAt({ volts: ceilingV, isCompensated }, absoluteV, cells, tempC);
}

/** The state after a look. */
export function watched(watch: Watch, before: WatchState | undefined, timed: TimedLook): WatchState {
  const { look, minute, isAfterPause } = timed;
  const { capacityAh, missingAh, cells, setA } = watch;
  const hours = (minute - (before?.lastMin ?? 0)) / 60;
  const start = before?.last.currentA ?? Math.max(setA, look.currentA);
  const putInAh = (before?.putInAh ?? 0) + ((start + look.currentA) / 2) * hours;
  const putInMostAh = (before?.putInMostAh ?? 0) + Math.max(start, look.currentA) * hours;
  const isHeld = look.voltageV >= held(watch, look.tempC) - HELD_CELL_V * cells;
  const low = isAfterPause ? undefined : before?.taperLow;
  const here = { amps: look.currentA, tempC: look.tempC };
  const isTaper = isHeld && hasTapered(putInMostAh, missingAh, capacityAh);
  const recent = isAfterPause ? [] : (before?.recent ?? []);
  const since = recent.filter((one) => minute - one.minute <= RECENT_MIN);
  const isApart = minute - (recent.at(-1)?.minute ?? Number.NEGATIVE_INFINITY) >= RECENT_APART_MIN;
  return {
    first: before?.first ?? look,
    firstMin: before?.firstMin ?? minute,
    last: look,
    lastMin: minute,
    putInAh,
    putInMostAh,
    taperLow: !isTaper ? undefined : low === undefined || here.amps < low.amps ? here : low,
    recent: isApart
      ? [
          ...since,
          {
            minute,
            tempC: look.tempC,
            volts25: look.voltageV - compensatedV(0, cells, look.tempC),
            amps: look.currentA,
            putInAh,
          },
        ]
      : since,
  };
}

type Rule = (watch: Watch, state: WatchState, before: WatchState | undefined) => Finding | undefined;

const overVoltage: Rule = (watch, { last }) => {
  const limitV = held(watch, last.tempC);
  const overV = last.voltageV - limitV;
  return overV > OVER_CELL_V * watch.cells
    ? {
        rule: 'over-voltage',
        saw: `${volts(last.voltageV)} at ${last.tempC.toFixed(0)} °C`,
        expected: `at most ${volts(limitV)}`,
        sure: 'nearly certain',
        means: 'The charger does not keep its voltage.',
        toDo: 'Charger off; take another, or set it lower.',
      }
    : undefined;
};

/** Against the low of its taper, so that a night without a look is judged as a whole. */
const runaway: Rule = ({ capacityAh }, { last, taperLow }, before) => {
  const low = before?.taperLow;
  if (!low || taperLow === undefined) return undefined;
  return isRunningAway(low, { amps: last.currentA, tempC: last.tempC }, capacityAh)
    ? {
        rule: 'runaway',
        saw: `${amps(last.currentA)} at ${volts(last.voltageV)} and ${last.tempC.toFixed(0)} °C, risen from ${amps(low.amps)} at ${low.tempC.toFixed(0)} °C`,
        expected: `${amps(low.amps)} or less: after its taper a current does not rise at a held voltage`,
        sure: last.tempC > low.tempC + 2 ? 'nearly certain' : 'likely',
        means: 'Thermal runaway.',
        toDo: 'Charger off, hands away, let it cool; it is not charged on.',
      }
    : undefined;
};

/** Ah that went in while the voltage stood still, or undefined where it did not. */
function stalled(
  { cells, capacityAh, setA }: Watch,
  { last, lastMin, putInAh, recent }: WatchState,
): number | undefined {
  const cellV = last.voltageV / cells;
  const isGassing = last.voltageV >= GASSING_CELL_V * (cells - 1);
  const isStrange =
    (cellV >= LEAPS_FROM_CELL_V && cellV <= LEAPS_TO_CELL_V) || (isGassing && cellV <= NONE_STANDS_CELL_V);
  if (!isGassing || !isStrange) return undefined;
  let from: Recent | undefined;
  let low = Number.POSITIVE_INFINITY;
  let high = Number.NEGATIVE_INFINITY;
  for (const one of recent.toReversed()) {
    low = Math.min(low, one.volts25);
    high = Math.max(high, one.volts25);
    if (high - low > STALL_CELL_V * cells || one.amps < TAKING_SHARE * setA) break;
    from = one;
  }
  if (!from || lastMin - from.minute < STALL_LEAST_MIN) return undefined;
  const ah = putInAh - from.putInAh;
  return ah >= STALL_SHARE * capacityAh ? ah : undefined;
}

const deadCell: Rule = (watch, state) => {
  const { expected, capacityAh, setA, cells } = watch;
  const { last, putInAh } = state;
  const stall = stalled(watch, state);
  if (stall)
    return {
      rule: 'dead-cell',
      saw: `${volts(last.voltageV)} unchanged while ${stall.toFixed(1)} Ah went in`,
      expected: 'a sound one to rise to its ceiling from there',
      sure: 'likely',
      means:
        'One cell is not with the others: silent while they gas, dead or shorted; or gassing alone, full long before them and weak.',
      toDo: 'Charger off; look or feel which. A silent one ends it; a weak one shows in the capacity test.',
    };
  if (!expected || putInAh < FORECAST_FROM_SHARE * capacityAh) return undefined;
  if (last.currentA < AT_SET_SHARE * setA) return undefined;
  const likely = expected.voltsAt(putInAh);
  const shortCells = (likely - last.voltageV) / (likely / cells);
  return shortCells > (expected.isSurelyFull(putInAh) ? SHORTFALL_WHEN_FULL_CELLS : SHORTFALL_CELLS)
    ? {
        rule: 'dead-cell',
        saw: `${volts(last.voltageV)} with ${putInAh.toFixed(1)} Ah in`,
        expected: `about ${volts(likely)} of a sound one by then`,
        sure: shortCells > SURE_CELLS ? 'nearly certain' : 'likely',
        means: 'One cell gives nothing: dead or shorted.',
        toDo: 'Charger off; look for the cell, then retire it.',
      }
    : undefined;
};

const shortHeating: Rule = ({ expected, cells, setA }, { last, lastMin, recent }) => {
  const from = recent.find(({ minute }) => lastMin - minute <= HEATS_WITHIN_MIN);
  if (!expected || !from || last.voltageV > COOL_CELL_V * cells || last.currentA < AT_SET_SHARE * setA)
    return undefined;
  const rise = last.tempC - from.tempC;
  const likely = Math.max(0, expected.tempAt(lastMin) - expected.tempAt(from.minute));
  return rise - likely > HEATS_K
    ? {
        rule: 'short-heating',
        saw: `${rise.toFixed(0)} K warmer within ${Math.round(lastMin - from.minute)} min at only ${volts(last.voltageV)}`,
        expected: `${likely.toFixed(0)} K of a sound one`,
        sure: rise - likely > SURE_K ? 'nearly certain' : 'likely',
        means: 'The charge turns to heat: a shorted cell, or its neighbours overcharged.',
        toDo: 'Charger off; feel for the cell that differs from the rest, face away.',
      }
    : undefined;
};

const notRising: Rule = ({ cells, setA }, { first, firstMin, last, lastMin }) =>
  lastMin >= RISE_BY_MIN &&
  lastMin > firstMin &&
  last.currentA > TAKING_SHARE * setA &&
  last.voltageV < AWAKE_CELL_V * cells &&
  last.voltageV < first.voltageV + RISE_CELL_V * cells
    ? {
        rule: 'not-rising',
        saw: `${volts(last.voltageV)} after ${Math.round(lastMin)} min, and it takes ${amps(last.currentA)}`,
        expected: `${volts(AWAKE_CELL_V * cells)}, or rising towards it`,
        sure: 'likely',
        means: 'Suspected short.',
        toDo: 'Charger off; it is not tried a second time this way.',
      }
    : undefined;

const tooLong: Rule = ({ mostMin }, { lastMin }) =>
  lastMin > mostMin + LATE_MIN
    ? {
        rule: 'too-long',
        saw: `On for ${(lastMin / 60).toFixed(1)} h`,
        expected: `${(mostMin / 60).toFixed(0)} h at most`,
        sure: 'nearly certain',
        means: 'More does no more good.',
        toDo: 'Charger off; read it rested.',
      }
    : undefined;

const RULES: Record<StopRuleId, Rule> = {
  'over-voltage': overVoltage,
  runaway,
  'dead-cell': deadCell,
  'short-heating': shortHeating,
  'not-rising': notRising,
  'too-long': tooLong,
};

/** The first of the armed rules that fires on the latest look. */
export function firstStop(
  watch: Watch,
  state: WatchState,
  before: WatchState | undefined,
): Finding | undefined {
  for (const id of watch.armed) {
    const finding = RULES[id](watch, state, before);
    if (finding) return finding;
  }
  return undefined;
}

/** A finding in the order a person needs it: what it means, what was seen and expected, how sure. */
export function findingWords({ saw, expected, sure, means, toDo }: Finding): string {
  return `${means} Saw ${saw}; expected ${expected}. ${sure === 'likely' ? 'Likely' : 'Nearly certain'}. ${toDo}`;
}

/** Minutes on charge of a moment, and whether the charger was off since the look before. */
export function timedLook(
  look: ChargeReading,
  before: ChargeReading | undefined,
  stretches: readonly { readonly from: number; readonly to?: number }[],
): TimedLook {
  let ms = 0;
  for (const { from, to } of stretches) ms += Math.max(0, Math.min(to ?? look.at, look.at) - from);
  const isAfterPause =
    before !== undefined && stretches.some(({ from }) => from > before.at && from <= look.at);
  return { look, minute: ms / MINUTE, isAfterPause };
}
