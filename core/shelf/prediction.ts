/** What a battery that stands will rest at, and by when it comes to its lines: dates with their range. */
import { harmLineV, rechargeLineV } from '../battery/shelfLines.ts';
import { onSix, type BatteryType } from '../battery/types.ts';
import { FORESEEN_DAYS, type Exposure } from './exposure.ts';
import { between, leakChance, rateBelief, rateBelow, shiftOf, type RateBelief, type Spell } from './rate.ts';
import { RATES, standingOf, type Standing } from './standing.ts';
import { DAY_MS } from './warmth.ts';

/** Eight of ten lie from early to late; where that is further off than anything is foretold, it is not there. */
export interface DateRange {
  /** One of fifty comes there sooner. */
  readonly soonest?: number;
  readonly early?: number;
  readonly likely?: number;
  readonly late?: number;
}

export interface VoltRange {
  readonly low: number;
  readonly likely: number;
  readonly high: number;
}

export interface Prediction {
  /** Rested at 25 °C at the moment asked for. */
  readonly volts: VoltRange;
  /** Share of charge left, likely. */
  readonly charge: number;
  /** When it is to be charged again, and when sulfate begins to stay. */
  readonly recharge: DateRange;
  readonly harm: DateRange;
  /** When it would no longer start its machine. */
  readonly start: DateRange;
  /** Its own rate as a multiple of its kind's. */
  readonly rate: VoltRange;
  /** Several times its kind's, almost for sure: a leak or contamination. */
  readonly isSuspect: boolean;
  /** Of its own readings since it was charged, and before. */
  readonly readings: number;
}

/** A quarter to a half charged it turns no engine any more (handbook 7), on six cells, V. */
const START_V = 12.15;
const startLineV = (cells: number): number => onSix(START_V, { cells });

/** So sure one is named. */
const NAMED_FROM = 0.6;

/** Rates less likely than this change no range. */
const LEAST_WEIGHT = 2e-3;
const SHARES = [0.02, 0.1, 0.5, 0.9] as const;
/** A tenth and a fiftieth of a normal figure lie so many standard deviations from its middle. */
const TENTH_SDS = 1.2816;
const FIFTIETH_SDS = 2.0537;

type Spread = [least: number, low: number, middle: number, high: number];

/**
 * Fiftieth, tenth, middle and ninth tenth of a figure that falls with the rate. What the rates leave open and what its beginning leaves open
 * are independent: the two widths are added by their squares.
 * @param of the figure with one rate and the voltage it began with
 */
function spreadOf(belief: RateBelief, of: (rate: number, fromV: number) => number): Spread {
  const { weights, fromV, fromSdV } = belief;
  const found: Spread = [Number.NaN, Number.NaN, Number.NaN, Number.NaN];
  let wanted = 0;
  let sum = 0;
  let before = Number.NaN;
  let beforeAt = 0;
  let middleRate = RATES.length - 1;
  let total = 0;
  for (let rate = 0; rate < RATES.length; rate++) {
    const weight = weights[rate] as number;
    if (weight >= LEAST_WEIGHT) total += weight;
  }
  // From the highest rate on: the least figure first.
  for (let rate = RATES.length - 1; rate >= 0 && wanted < SHARES.length; rate--) {
    const weight = (weights[rate] as number) / total;
    if (weight < LEAST_WEIGHT) continue;
    const value = of(rate, fromV[rate] as number);
    const middle = sum + weight / 2;
    while (wanted < SHARES.length && middle >= (SHARES[wanted] as number)) {
      found[wanted] = Number.isNaN(before)
        ? value
        : before + between(SHARES[wanted] as number, beforeAt, middle) * (value - before);
      if (SHARES[wanted] === 0.5) middleRate = rate;
      wanted += 1;
    }
    sum += weight;
    before = value;
    beforeAt = middle;
  }
  for (; wanted < SHARES.length; wanted++) found[wanted] = before;
  const [least, low, middle, high] = found;
  const begun = fromV[middleRate] as number;
  const open = of(middleRate, begun + (fromSdV[middleRate] as number)) - of(middleRate, begun);
  const off = (by: number, sds: number): number => Math.hypot(by, sds * open);
  return [
    middle - off(middle - least, FIFTIETH_SDS),
    middle - off(middle - low, TENTH_SDS),
    middle,
    middle + off(high - middle, TENTH_SDS),
  ];
}

interface Asked {
  readonly standing: Standing;
  readonly exposure: Exposure;
  readonly spell: Spell;
  readonly belief: RateBelief;
}

/** What its places did to it by a moment. */
interface Gone {
  readonly warmDays: number;
  readonly drawnShare: number;
}

const goneBy = ({ standing, exposure, spell }: Asked, at: number): Gone => ({
  warmDays: exposure.warmDays(spell.from, at),
  drawnShare: exposure.drawnAh(spell.from, at) / standing.capacityAh,
});

/** What it rests at by then, with one rate and beginning. */
function voltsWith({ standing, spell }: Asked, rate: number, fromV: number, gone: Gone): number {
  const shift = shiftOf(standing, rate, spell, fromV);
  const share = standing.shareAfter(rate, shift + gone.warmDays) - gone.drawnShare;
  // Its acid is its own: the curve of the type, moved to where it began.
  return fromV - (standing.restedV(standing.shareAfter(rate, shift)) - standing.restedV(share));
}

/** Warm days into the spell at which it comes to a line with one rate and beginning. */
function warmDaysToLine({ standing, spell }: Asked, rate: number, fromV: number, lineV: number): number {
  if (fromV <= lineV) return 0;
  const shift = shiftOf(standing, rate, spell, fromV);
  const begun = shift === 0 ? standing.fullV : standing.restedV(standing.shareAfter(rate, shift));
  const share = standing.shareAtLoss(standing.fullV - begun + fromV - lineV);
  return standing.warmDaysTo(rate, share) - shift;
}

/** Days of one that something draws on: it is looked for among its days. */
function drawnDaysToLine(asked: Asked, rate: number, fromV: number, lineV: number): number {
  const { from } = asked.spell;
  let [low, high] = [0, FORESEEN_DAYS];
  if (fromV <= lineV) return 0;
  if (voltsWith(asked, rate, fromV, goneBy(asked, from + high * DAY_MS)) > lineV) return high;
  while (high - low > 0.25) {
    const middle = (low + high) / 2;
    if (voltsWith(asked, rate, fromV, goneBy(asked, from + middle * DAY_MS)) > lineV) low = middle;
    else high = middle;
  }
  return high;
}

function datesOf(asked: Asked, lineV: number): DateRange {
  const { belief, exposure, spell } = asked;
  const last = spell.from + FORESEEN_DAYS * DAY_MS;
  const moments: readonly number[] = exposure.draws(spell.from)
    ? spreadOf(belief, (rate, fromV) => drawnDaysToLine(asked, rate, fromV, lineV)).map(
        (days) => spell.from + days * DAY_MS,
      )
    : spreadOf(belief, (rate, fromV) => warmDaysToLine(asked, rate, fromV, lineV)).map((warmDays) =>
        exposure.momentAfter(spell.from, Math.max(0, warmDays)),
      );
  const [soonest = last, early = last, likely = last, late = last] = moments;
  return {
    ...(soonest < last ? { soonest } : {}),
    ...(early < last ? { early } : {}),
    ...(likely < last ? { likely } : {}),
    ...(late < last ? { late } : {}),
  };
}

function askedOf(type: BatteryType, exposure: Exposure, spells: readonly Spell[]): Asked {
  const spell = spells.at(-1);
  if (!spell) throw new RangeError('A battery that stands began to at some time: no spell was given.');
  const standing = standingOf(type);
  return { standing, exposure, spell, belief: rateBelief(standing, exposure, spells) };
}

/**
 * Foretells a battery that stands.
 * @param spells the first first; the last one is that it stands in
 * @param now the moment its voltage is asked for, ms
 * @throws RangeError for one that has no spell
 */
export function predict(
  type: BatteryType,
  exposure: Exposure,
  spells: readonly Spell[],
  now: number,
): Prediction {
  const asked = askedOf(type, exposure, spells);
  const { belief, standing } = asked;
  const gone = goneBy(asked, now);
  const [, low, likelyV, high] = spreadOf(belief, (rate, fromV) => voltsWith(asked, rate, fromV, gone));
  const { construction, cells } = type;
  return {
    volts: { low, likely: likelyV, high },
    charge: standing.shareAtLoss(standing.fullV - likelyV),
    recharge: datesOf(asked, rechargeLineV(construction, cells)),
    harm: datesOf(asked, harmLineV(cells)),
    start: datesOf(asked, startLineV(cells)),
    rate: { low: rateBelow(belief, 0.1), likely: rateBelow(belief, 0.5), high: rateBelow(belief, 0.9) },
    isSuspect: leakChance(belief) >= NAMED_FROM,
    readings: belief.readings,
  };
}
