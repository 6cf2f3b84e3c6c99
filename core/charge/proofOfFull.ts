/**
 * The one judge of "full" (handbook 3.5), for the charge engine, the run sheet, a logger's file and a live
 * supply alike. It looks at the latest unbroken stretch on charge, by kind:
 *
 * - flooded: the current flat while 14.4–14.8 V are held; or, at constant current, the voltage flat with densities
 *   alike, or flat where a full one stands (15.5 V and more);
 * - valve-regulated: a tail of at most 1 % of capacity (gel ½ %), flat, while its voltage is held.
 *
 * Beside the readings stands what was put back: a battery that took almost nothing of what it lacked is not full.
 */
import { CONSTRUCTION, type Construction } from '../battery/construction.ts';
import { onSix } from '../battery/types.ts';
import { compensatedV } from './compensation.ts';

export interface ChargeReading {
  readonly at: number;
  readonly voltageV: number;
  readonly currentA: number;
  readonly tempC: number;
  /** Of the electrolyte, corrected to 25 °C, where it was read, g/cm³. */
  readonly density?: number;
  /** The same of every cell, the first at the positive post. */
  readonly cellDensities?: readonly number[];
}

/** A stretch the charger was on. */
export interface OnStretch {
  readonly from: number;
  readonly to?: number;
}

/** What is judged, apart from the readings. */
export interface FullQuestion {
  readonly construction: Construction;
  readonly cells: number;
  readonly capacityAh: number;
  /** Voltage of the charge at 25 °C, and whether it follows warmth, V. */
  readonly ceilingV: number;
  readonly isCompensated: boolean;
  /** Current the charger is set to, A. */
  readonly setA: number;
  /** How long flat must last, min. */
  readonly windowMin: number;
}

/** What a charge has to show so far. */
export interface ChargeSoFar {
  /** In order of time. */
  readonly looks: readonly ChargeReading[];
  readonly stretches: readonly OnStretch[];
  /** Least charge the battery lacked when the charge began, Ah; 0 where nothing is known of it. */
  readonly missingAh: number;
}

export type FullBy = 'tail' | 'current' | 'density' | 'voltage';

export interface FullProof {
  readonly isProven: boolean;
  /** Its current was flat for as long as was asked, full or not. */
  readonly isFlat?: true;
  readonly by?: FullBy;
  /** What it says, in a sentence: why it is proven, or what is not so. */
  readonly sentence: string;
  /** The stretch that proves it, ms. */
  readonly window?: { readonly from: number; readonly to: number };
}

const MINUTE = 60_000;
/** Looks are hourly and made by hand: the last of three may be a few minutes early. */
const EARLY_LOOK_MIN = 5;
/** Three looks at least, each this much after the one before to count (reasoned: a quarter of the two hours). */
const LOOKS = 3;
const APART_SHARE = 0.25;
/** Longer without a look and nobody knows what lay between, as a share of the window (hourly, forty minutes late). */
const UNSEEN_SHARE = 100 / 120;

/**
 * A tail that cannot be told from nothing is none where it began so: an open cell, or a clip off; a meter's zero and its
 * last digit, A, and a share of capacity. One that sank to it from a tail that was measured is a small battery's.
 */
const NOTHING_A = 0.012;
const NOTHING_SHARE = 1 / 2000;
/** Flat: within this share of capacity, and two digits of a bench meter, A. */
const FLAT_SHARE = 1 / 400;
const METER_A = 0.02;
/** And the voltage, a cell: a bench meter repeats within this. */
const FLAT_CELL_V = 0.05 / 6;
/** A voltage counts as held this close under it, a cell: the meter's and the charger's error (0.5 %). */
const HELD_CELL_V = 0.012;
/** At constant current a full flooded battery stands here, a cell (handbook 3.5: 15.5–16.2 V). */
const GASSING_FULL_CELL_V = 15.5 / 6;
/** Three densities alike, g/cm³: what a hydrometer repeats within. */
const FLAT_DENSITY = 0.005;
/** Warmth counts as steady within this: two readings of a thermometer and two kelvin of the room (reasoned). */
const STEADY_K = 4;
/** Constant current: within this share of what was set. */
const SET_SHARE = 0.1;
/** Less than this share of the least that was missing put back is not a charge (reasoned: worn to a third still passes). */
const PUT_BACK_SHARE = 0.3;

/** Ampere-hours a charge put in, between what the looks allow at least and at most, Ah. */
export interface PutIn {
  readonly low: number;
  readonly mean: number;
  readonly high: number;
}

/**
 * Ampere-hours put in up to the last look. Between two looks the current lay between what they read; before the
 * first of a stretch between that and what the charger was set to.
 * @param looks in order of time
 * @param stretches the charger was on
 */
export function putInAh(
  looks: readonly ChargeReading[],
  stretches: readonly OnStretch[],
  setA: number,
): PutIn {
  let low = 0;
  let mean = 0;
  let high = 0;
  for (const { from, to } of stretches) {
    const end = to ?? Number.POSITIVE_INFINITY;
    let at = from;
    let before: number | undefined;
    for (const look of looks) {
      if (look.at < from || look.at > end) continue;
      const hours = (look.at - at) / (60 * MINUTE);
      const start = before ?? Math.max(setA, look.currentA);
      low += Math.min(start, look.currentA) * hours;
      high += Math.max(start, look.currentA) * hours;
      mean += ((start + look.currentA) / 2) * hours;
      at = look.at;
      before = look.currentA;
    }
  }
  return { low, mean, high };
}

/** The stretch of looks that stayed alike, the newest first. */
class Window {
  private readonly apartMs: number;
  private readonly unseenMs: number;
  private newest: ChargeReading | undefined;
  private oldest: ChargeReading | undefined;
  private counted = 0;
  private countedAt = Number.POSITIVE_INFINITY;
  private readonly least: Record<'amps' | 'volts' | 'tempC' | 'density', number> = {
    amps: Number.POSITIVE_INFINITY,
    volts: Number.POSITIVE_INFINITY,
    tempC: Number.POSITIVE_INFINITY,
    density: Number.POSITIVE_INFINITY,
  };
  private readonly most: Record<'amps' | 'volts' | 'tempC' | 'density', number> = {
    amps: Number.NEGATIVE_INFINITY,
    volts: Number.NEGATIVE_INFINITY,
    tempC: Number.NEGATIVE_INFINITY,
    density: Number.NEGATIVE_INFINITY,
  };

  constructor(windowMin: number) {
    this.apartMs = windowMin * APART_SHARE * MINUTE;
    this.unseenMs = windowMin * UNSEEN_SHARE * MINUTE;
  }

  /** Whether a look further back was close enough in time to go on from. */
  follows({ at }: ChargeReading): boolean {
    return this.oldest === undefined || this.oldest.at - at <= this.unseenMs;
  }

  private spread(what: 'amps' | 'volts' | 'tempC' | 'density', value: number): number {
    return Math.max(this.most[what], value) - Math.min(this.least[what], value);
  }

  /** Takes a look further back in, unless it would be further from the others than the bands allow. */
  takes(
    look: ChargeReading,
    compensated: number,
    bands: { readonly amps?: number; readonly volts?: number; readonly density?: number },
  ): boolean {
    const { currentA, tempC, density } = look;
    if (!this.follows(look) || this.spread('tempC', tempC) > STEADY_K) return false;
    if (bands.amps !== undefined && this.spread('amps', currentA) > bands.amps) return false;
    if (bands.volts !== undefined && this.spread('volts', compensated) > bands.volts) return false;
    if (
      bands.density !== undefined &&
      (density === undefined || this.spread('density', density) > bands.density)
    )
      return false;
    for (const [what, value] of [
      ['amps', currentA],
      ['volts', compensated],
      ['tempC', tempC],
      ['density', density],
    ] as const) {
      if (value === undefined) continue;
      this.least[what] = Math.min(this.least[what], value);
      this.most[what] = Math.max(this.most[what], value);
    }
    this.newest ??= look;
    this.oldest = look;
    if (this.countedAt - look.at >= this.apartMs) {
      this.counted += 1;
      this.countedAt = look.at;
    }
    return true;
  }

  get minutes(): number {
    return this.newest && this.oldest ? (this.newest.at - this.oldest.at) / MINUTE : 0;
  }

  get span(): { from: number; to: number } {
    return { from: this.oldest?.at ?? 0, to: this.newest?.at ?? 0 };
  }

  get looks(): number {
    return this.counted;
  }

  get highestA(): number {
    return this.most.amps;
  }

  isLongEnough(windowMin: number): boolean {
    return this.counted >= LOOKS && this.minutes >= windowMin - EARLY_LOOK_MIN;
  }
}

const amps = (value: number): string => `${value.toFixed(2)} A`;

/** Voltage from which it counts as held, at this warmth, V. */
function heldFromV({ construction, cells, ceilingV, isCompensated }: FullQuestion, tempC: number): number {
  const at25 = Math.min(onSix(CONSTRUCTION[construction].absorptionFromV, { cells }), ceilingV);
  return (isCompensated ? compensatedV(at25, cells, tempC) : at25) - HELD_CELL_V * cells;
}

/**
 * Judges the latest looks of one unbroken stretch on charge.
 * @param newestFirst looks since the charger last went on, the newest first; read only as far back as needed
 */
export function flatNow(newestFirst: Iterable<ChargeReading>, question: FullQuestion): FullProof {
  const { construction, cells, capacityAh, setA, windowMin } = question;
  const flatA = capacityAh * FLAT_SHARE + METER_A;
  const flatV = FLAT_CELL_V * cells;
  const isFlooded = !CONSTRUCTION[construction].isValveRegulated;
  const held = new Window(windowMin);
  const dense = new Window(windowMin);
  const constant = new Window(windowMin);
  const nothingA = Math.max(NOTHING_A, NOTHING_SHARE * capacityAh);
  let isHeldOn = true;
  let isDenseOn = isFlooded;
  let isConstantOn = isFlooded;
  let last: ChargeReading | undefined;
  let breaksAt: ChargeReading | undefined;
  for (const look of newestFirst) {
    last ??= look;
    const { voltageV, currentA, tempC } = look;
    const compensated = voltageV - compensatedV(0, cells, tempC);
    const heldV = heldFromV(question, tempC);
    const isAtSet = Math.abs(currentA - setA) <= setA * SET_SHARE;
    // A current that stands where it was set is flat by the charger's doing.
    if (isHeldOn) isHeldOn = !isAtSet && voltageV >= heldV && held.takes(look, compensated, { amps: flatA });
    if (!isHeldOn) breaksAt ??= look;
    if (isDenseOn)
      isDenseOn =
        isAtSet &&
        voltageV >= heldV &&
        dense.takes(look, compensated, { volts: flatV, density: FLAT_DENSITY });
    if (isConstantOn)
      isConstantOn =
        isAtSet &&
        voltageV >= compensatedV(GASSING_FULL_CELL_V * cells, cells, tempC) - HELD_CELL_V * cells &&
        constant.takes(look, compensated, { volts: flatV });
    const isDone =
      dense.isLongEnough(windowMin) ||
      constant.isLongEnough(windowMin) ||
      // Of nothing but nothing it is looked further back for what it sank from.
      (held.isLongEnough(windowMin) && held.highestA > nothingA);
    if (isDone || !(isHeldOn || isDenseOn || isConstantOn)) break;
  }
  if (!last) return { isProven: false, sentence: 'No reading was taken since the charger went on.' };
  const { tailShare, aBattery } = CONSTRUCTION[construction];
  const mostA = capacityAh * tailShare;
  const percent = ((held.highestA / capacityAh) * 100).toFixed(1);
  const over = (window: Window): string => `${Math.round(window.minutes)} min, ${window.looks} readings`;
  if (dense.isLongEnough(windowMin))
    return {
      isProven: true,
      by: 'density',
      sentence: `Density ${(last.density ?? 0).toFixed(3)} and ${last.voltageV.toFixed(2)} V alike over ${over(dense)}.`,
      window: dense.span,
    };
  if (constant.isLongEnough(windowMin))
    return {
      isProven: true,
      by: 'voltage',
      sentence: `${last.voltageV.toFixed(2)} V flat at ${amps(last.currentA)} over ${over(constant)}.`,
      window: constant.span,
    };
  if (held.isLongEnough(windowMin)) {
    if (held.highestA <= nothingA)
      return {
        isProven: false,
        sentence: `${amps(last.currentA)} at ${last.voltageV.toFixed(1)} V is no current at all: a clip that does not touch, or an open cell. A full battery takes a little.`,
      };
    return held.highestA <= mostA + METER_A / 2
      ? {
          isProven: true,
          isFlat: true,
          by: isFlooded ? 'current' : 'tail',
          sentence: `${amps(last.currentA)}, ${percent} % of capacity, flat at ${last.voltageV.toFixed(1)} V over ${over(held)}.`,
          window: held.span,
        }
      : {
          isProven: false,
          isFlat: true,
          sentence: `Flat at ${amps(last.currentA)}, ${percent} % of capacity; ${aBattery} that is full takes ${tailShare * 100} % or less.`,
        };
  }
  return { isProven: false, sentence: whyNot(question, last, held, breaksAt, flatA) };
}

/** What keeps the latest look from being the end of a proof. */
function whyNot(
  question: FullQuestion,
  last: ChargeReading,
  held: Window,
  breaksAt: ChargeReading | undefined,
  flatA: number,
): string {
  const { windowMin } = question;
  const heldV = heldFromV(question, last.tempC);
  if (last.voltageV < heldV)
    return `${last.voltageV.toFixed(2)} V at the last look; full is judged while ${heldV.toFixed(1)} V or more are held.`;
  const needed = `three readings over ${windowMin} min are needed`;
  if (breaksAt && held.follows(breaksAt) && Math.abs(breaksAt.currentA - last.currentA) > flatA)
    return breaksAt.currentA > last.currentA
      ? `The current still falls: ${breaksAt.currentA.toFixed(2)} to ${amps(last.currentA)}.`
      : `The current rises: ${breaksAt.currentA.toFixed(2)} to ${amps(last.currentA)}.`;
  return `${held.looks} reading${held.looks === 1 ? '' : 's'} flat over ${Math.round(held.minutes)} min; ${needed}.`;
}

/**
 * Judges a charge so far: flat since the charger last went on, and what was put back beside what was missing.
 * Time switched off breaks what was flat before it.
 */
export function proofOf(charge: ChargeSoFar, question: FullQuestion): FullProof {
  const { looks, stretches, missingAh } = charge;
  const from = stretches.at(-1)?.from ?? Number.NEGATIVE_INFINITY;
  const newestFirst = looks.filter(({ at }) => at >= from).toReversed();
  const flat = flatNow(newestFirst, question);
  if (!flat.isProven) return flat;
  const { high } = putInAh(looks, stretches, question.setA);
  return tookAlmostNothing(high, missingAh)
    ? { isProven: false, ...(flat.isFlat ? { isFlat: true } : {}), sentence: tookNothing(high, missingAh) }
    : flat;
}

/** Whether so little was put back that a flat current cannot mean full. */
export function tookAlmostNothing(putIn: number, missingAh: number): boolean {
  return putIn < PUT_BACK_SHARE * missingAh;
}

export function tookNothing(putIn: number, missingAh: number): string {
  return `It is flat, but only ${putIn.toFixed(1)} of at least ${missingAh.toFixed(1)} Ah that were missing went in: it does not take its charge.`;
}
