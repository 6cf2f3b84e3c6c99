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

/** Fiftieth, tenth, middle and ninth tenth of a figure. */
type Spread = readonly [least: number, low: number, middle: number, high: number];

/** Of a figure, with one rate and the voltage it began with. */
type Figure = (rate: number, fromV: number) => number;

/** Each of {@link SHARES} of what is believed of the rate lies between two of the rates, so far from the one to the other. */
interface Ladder {
  readonly before: Uint8Array;
  readonly here: Uint8Array;
  readonly part: Float64Array;
}

const newLadder = (): Ladder => ({
  before: new Uint8Array(SHARES.length),
  here: new Uint8Array(SHARES.length),
  part: new Float64Array(SHARES.length),
});

/** Of what is believed of one that was never read: one for all of a type. */
const unreadLadders = new WeakMap<RateBelief, Ladder>();
/** Of the one that is asked for now, where it was read. */
const readLadder = newLadder();

/** Where each of {@link SHARES} lies among the rates, from the highest on: every figure that falls with the rate is read off there. */
function ladderOf(belief: RateBelief): Ladder {
  if (belief.readings > 0) return climb(belief, readLadder);
  const known = unreadLadders.get(belief) ?? climb(belief, newLadder());
  unreadLadders.set(belief, known);
  return known;
}

function climb({ weights }: RateBelief, ladder: Ladder): Ladder {
  const { before, here, part } = ladder;
  let total = 0;
  for (let rate = 0; rate < RATES.length; rate++) {
    const weight = weights[rate] as number;
    if (weight >= LEAST_WEIGHT) total += weight;
  }
  let rung = 0;
  let sum = 0;
  let last = -1;
  let lastAt = 0;
  for (let rate = RATES.length - 1; rate >= 0 && rung < SHARES.length; rate--) {
    const weight = (weights[rate] as number) / total;
    if (weight < LEAST_WEIGHT) continue;
    const middle = sum + weight / 2;
    while (rung < SHARES.length && middle >= (SHARES[rung] as number)) {
      before[rung] = last === -1 ? rate : last;
      here[rung] = rate;
      part[rung] = last === -1 ? 0 : between(SHARES[rung] as number, lastAt, middle);
      rung += 1;
    }
    sum += weight;
    last = rate;
    lastAt = middle;
  }
  for (; rung < SHARES.length; rung++) {
    before[rung] = last;
    here[rung] = last;
    part[rung] = 0;
  }
  return ladder;
}

/** A figure at one of {@link SHARES}. */
function onRung({ belief, ladder }: Asked, of: Figure, rung: number): number {
  const before = ladder.before[rung] as number;
  const here = ladder.here[rung] as number;
  const part = ladder.part[rung] as number;
  const value = of(before, belief.fromV[before] as number);
  return part === 0 ? value : value + part * (of(here, belief.fromV[here] as number) - value);
}

/**
 * Of a figure that falls with the rate. What the rates leave open and what its beginning leaves open are independent: the two widths
 * are added by their squares.
 */
function spreadOf(asked: Asked, of: Figure): Spread {
  const { belief, ladder } = asked;
  const middle = onRung(asked, of, 2);
  const rate = ladder.here[2] as number;
  const begun = belief.fromV[rate] as number;
  const open = of(rate, begun + (belief.fromSdV[rate] as number)) - of(rate, begun);
  const tenth = TENTH_SDS * open;
  return [
    middle - wide(middle - onRung(asked, of, 0), FIFTIETH_SDS * open),
    middle - wide(middle - onRung(asked, of, 1), tenth),
    middle,
    middle + wide(onRung(asked, of, 3) - middle, tenth),
  ];
}

const wide = (a: number, b: number): number => Math.sqrt(a * a + b * b);

interface Asked {
  readonly standing: Standing;
  readonly exposure: Exposure;
  readonly spell: Spell;
  readonly belief: RateBelief;
  readonly ladder: Ladder;
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
  const shift = shiftOf(standing, rate, spell.isProven, fromV);
  const share = standing.shareAfter(rate, shift + gone.warmDays) - gone.drawnShare;
  // Its acid is its own: the curve of the type, moved to where it began.
  return fromV - (standing.restedV(standing.shareAfter(rate, shift)) - standing.restedV(share));
}

/** Warm days into the spell at which it comes to a line with one rate and beginning. */
function warmDaysToLine({ standing, spell }: Asked, rate: number, fromV: number, lineV: number): number {
  if (fromV <= lineV) return 0;
  const shift = shiftOf(standing, rate, spell.isProven, fromV);
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
  const { exposure, spell } = asked;
  const isDrawn = exposure.draws(spell.from);
  const [soonest, early, likely, late] = spreadOf(asked, (rate, fromV) =>
    isDrawn ? drawnDaysToLine(asked, rate, fromV, lineV) : warmDaysToLine(asked, rate, fromV, lineV),
  );
  const last = spell.from + FORESEEN_DAYS * DAY_MS;
  const momentOf = (days: number): number =>
    isDrawn ? spell.from + days * DAY_MS : exposure.momentAfter(spell.from, Math.max(0, days));
  const dates: { -readonly [Key in keyof DateRange]: DateRange[Key] } = {};
  // A later one is never within what is foretold once a sooner one is not.
  const first = momentOf(soonest);
  if (first >= last) return dates;
  dates.soonest = first;
  const second = momentOf(early);
  if (second >= last) return dates;
  dates.early = second;
  const third = momentOf(likely);
  if (third >= last) return dates;
  dates.likely = third;
  const fourth = momentOf(late);
  if (fourth < last) dates.late = fourth;
  return dates;
}

function askedOf(type: BatteryType, exposure: Exposure, spells: readonly Spell[]): Asked {
  const spell = spells.at(-1);
  if (!spell) throw new RangeError('A battery that stands began to at some time: no spell was given.');
  const standing = standingOf(type);
  const belief = rateBelief(standing, exposure, spells);
  return { standing, exposure, spell, belief, ladder: ladderOf(belief) };
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
  const [, low, likelyV, high] = spreadOf(asked, (rate, fromV) => voltsWith(asked, rate, fromV, gone));
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
