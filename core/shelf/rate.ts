/**
 * How fast this battery loses its charge: the published rate of its kind to begin with, and what its own readings say after that.
 * Bayes on a grid of rates; for each rate the voltage it began with is a normal figure that is integrated out in closed form
 * (Gelman et al., Bayesian Data Analysis, 3rd ed., 2.5 and 3.3). A few of a hundred batteries leak: that is in what is believed
 * before the first reading, so that one can be named and none is named for nothing.
 */
import { at25V, surfaceChargeV } from '../battery/chargeEstimate.ts';
import { KIND_LOSS } from '../battery/selfDischarge.ts';
import { onSix } from '../battery/types.ts';
import { normalQuantile } from '../belief/chance.ts';
import type { Exposure } from './exposure.ts';
import { RATES, type Standing } from './standing.ts';

/** Resting voltage read on the shelf. */
export interface ShelfReading {
  readonly at: number;
  readonly volts: number;
  /** Of the battery, where it was read too; that of its place without. */
  readonly tempC?: number;
  /** Off charge and load before it was read, h; days, without. */
  readonly restedH?: number;
}

/** From one charge to the next. */
export interface Spell {
  readonly from: number;
  /** Its charge ended with a proof of full; otherwise its first reading says where it begins. */
  readonly isProven: boolean;
  readonly readings: readonly ShelfReading[];
}

/** For each of {@link RATES} how likely it is, and with it the voltage the last spell began with. */
export interface RateBelief {
  readonly weights: Float64Array;
  readonly fromV: Float64Array;
  readonly fromSdV: Float64Array;
  /** Readings it rests on. */
  readonly readings: number;
}

/** A bench meter: 0.05 % of what it shows, and its last digit, V. */
export const meterSdV = (volts: number): number => 0.0005 * volts + 0.004;
/** Acid and plates of one full battery against another of its type, twelve volts, V. */
const FULL_SD_V = 0.03;
/** One that nobody proved full may have begun anywhere above empty, V. */
const UNPROVEN_SD_V = 0.4;
/** Warmer weeks and colder ones leave this share of a loss open; what its store is off by all along is learned with its rate. */
const WARMTH_DOUBT = 0.02;
const MINUTES_AN_HOUR = 60;

/** Of so many batteries one leaks, by a dirty case, a bad separator, metal in its acid. */
const LEAK_SHARE = 0.01;
/** From so many times its kind's rate on it is one. */
export const LEAK_FROM = 3;
/** Nine tenths over one tenth of a normal figure lie so many standard deviations apart. */
const TENTHS_SDS = 2.563;

const priors = new Map<number, Float64Array>();

/** What is believed of a battery's rate before it was read. */
function priorOf({ kind }: Standing): Float64Array {
  const { spread } = KIND_LOSS[kind];
  const known = priors.get(spread);
  if (known) return known;
  const sd = Math.log(spread) / TENTHS_SDS;
  const sound = RATES.map((rate) => Math.exp(-0.5 * (Math.log(rate) / sd) ** 2));
  const soundSum = sound.reduce((sum, one) => sum + one, 0);
  const leaks = RATES.reduce((count, rate) => count + Number(rate >= LEAK_FROM), 0);
  const prior = RATES.map(
    (rate, index) =>
      ((1 - LEAK_SHARE) * (sound[index] as number)) / soundSum + (rate >= LEAK_FROM ? LEAK_SHARE / leaks : 0),
  );
  priors.set(spread, prior);
  return prior;
}

/** What a spell of one rate has taken of its voltage by a moment, V. @param shift warm days it was from full when it began */
function lossBy(
  standing: Standing,
  rate: number,
  shift: number,
  warmDays: number,
  drawnShare: number,
): number {
  const begun = standing.shareAfter(rate, shift);
  return standing.restedV(begun) - standing.restedV(standing.shareAfter(rate, shift + warmDays) - drawnShare);
}

/** Where the spell of one rate begins on its course, warm days from full. */
export function shiftOf(standing: Standing, rate: number, spell: Spell, fromV: number): number {
  const below = standing.fullV - fromV;
  if (spell.isProven || below <= 0) return 0;
  return standing.warmDaysTo(rate, standing.shareAtLoss(below));
}

interface Seen {
  readonly volts: number;
  readonly sd: number;
  readonly warmDays: number;
  readonly drawnShare: number;
}

function seenOf(standing: Standing, exposure: Exposure, { from, readings }: Spell): Seen[] {
  return readings.map(({ at, volts, tempC, restedH }) => {
    const surface = restedH === undefined ? 0 : surfaceChargeV(standing, restedH * MINUTES_AN_HOUR);
    return {
      volts: at25V(volts, standing, tempC) - surface / 2,
      sd: meterSdV(volts) + surface / 2,
      warmDays: exposure.warmDays(from, at),
      drawnShare: exposure.drawnAh(from, at) / standing.capacityAh,
    };
  });
}

/** Rates less likely than this against the likeliest, as a logarithm, are not looked at more closely. */
const HOPELESS = 9;
/** Every so many rates are looked at first. */
const COARSE = 3;

/** What is believed of one that was never read: it is the same for all of a type. */
const unread = new WeakMap<Standing, { readonly isProven: RateBelief; readonly unproven: RateBelief }>();

function unreadBelief(standing: Standing, isProven: boolean): RateBelief {
  const known = unread.get(standing);
  if (known) return isProven ? known.isProven : known.unproven;
  const scale = onSix(1, standing);
  const of = (sdV: number): RateBelief => ({
    weights: priorOf(standing),
    fromV: new Float64Array(RATES.length).fill(standing.fullV),
    fromSdV: new Float64Array(RATES.length).fill(sdV * scale),
    readings: 0,
  });
  const made = { isProven: of(FULL_SD_V), unproven: of(UNPROVEN_SD_V) };
  unread.set(standing, made);
  return isProven ? made.isProven : made.unproven;
}

/** A spell as it is held against each rate. */
interface Held {
  readonly spell: Spell;
  readonly seen: readonly Seen[];
  readonly meanV: number;
  readonly sdV: number;
}

function heldOf(standing: Standing, exposure: Exposure, spell: Spell): Held {
  const seen = seenOf(standing, exposure, spell);
  const first = seen[0];
  const scale = onSix(1, standing);
  return {
    spell,
    seen,
    // Nobody proved it full: its first reading is all that says where it began.
    meanV: spell.isProven || !first ? standing.fullV : Math.min(standing.fullV, first.volts),
    sdV: (spell.isProven ? FULL_SD_V : UNPROVEN_SD_V) * scale,
  };
}

/** Beginning of a spell as one rate has it, and how well that rate foretold its readings. */
const judged = { logLikelihood: 0, fromV: 0, fromSdV: 0 };

function judge(standing: Standing, { spell, seen, meanV, sdV }: Held, rate: number): void {
  const shift = shiftOf(standing, rate, spell, meanV);
  let precision = 1 / (sdV * sdV);
  let mean = meanV * precision;
  let squares = meanV * mean;
  let variances = 1;
  for (let index = 0; index < seen.length; index++) {
    const { volts, sd, warmDays, drawnShare } = seen[index] as Seen;
    const loss = lossBy(standing, rate, shift, warmDays, drawnShare);
    const variance = sd * sd + WARMTH_DOUBT * loss * (WARMTH_DOUBT * loss);
    const begun = volts + loss;
    precision += 1 / variance;
    mean += begun / variance;
    squares += (begun * begun) / variance;
    variances *= variance;
  }
  judged.fromV = mean / precision;
  judged.fromSdV = 1 / Math.sqrt(precision);
  judged.logLikelihood = -0.5 * (squares - mean * judged.fromV + Math.log(precision * variances));
}

/**
 * What the readings of a battery's spells say of its rate.
 * @param spells the first first; the last one is that it stands in
 */
export function rateBelief(standing: Standing, exposure: Exposure, spells: readonly Spell[]): RateBelief {
  const read = spells.reduce((sum, { readings }) => sum + readings.length, 0);
  if (read === 0) return unreadBelief(standing, spells.at(-1)?.isProven ?? false);
  const held = spells.map((spell) => heldOf(standing, exposure, spell));
  const prior = priorOf(standing);
  const count = RATES.length;
  const logs = new Float64Array(count).fill(Number.NEGATIVE_INFINITY);
  const fromV = new Float64Array(count);
  const fromSdV = new Float64Array(count);
  let most = Number.NEGATIVE_INFINITY;
  const look = (rate: number): void => {
    let log = Math.log(prior[rate] as number);
    for (let index = 0; index < held.length; index++) {
      judge(standing, held[index] as Held, rate);
      log += judged.logLikelihood;
    }
    logs[rate] = log;
    fromV[rate] = judged.fromV;
    fromSdV[rate] = judged.fromSdV;
    if (log > most) most = log;
  };
  for (let rate = 0; rate < count; rate += COARSE) look(rate);
  // What lies between two hopeless ones is hopeless.
  for (let rate = 0; rate < count; rate++) {
    if (rate % COARSE === 0) continue;
    const below = rate - (rate % COARSE);
    const near = Math.max(logs[below] as number, logs[Math.min(count - 1, below + COARSE)] as number);
    if (near > most - HOPELESS) look(rate);
  }
  const weights = new Float64Array(count);
  let sum = 0;
  for (let rate = 0; rate < count; rate++) {
    const log = logs[rate] as number;
    const weight = log > most - HOPELESS ? Math.exp(log - most) : 0;
    weights[rate] = weight;
    sum += weight;
  }
  for (let rate = 0; rate < count; rate++) weights[rate] = (weights[rate] as number) / sum;
  return { weights, fromV, fromSdV, readings: read };
}

/**
 * How far a share lies from one point of a distribution to the next, 0 to 1: straight in standard deviations, since a chord through
 * the flank of a bell makes it wider than it is.
 */
export function between(share: number, before: number, here: number): number {
  const from = normalQuantile(before);
  return (normalQuantile(share) - from) / (normalQuantile(here) - from);
}

/** The rate below which a share of what is believed lies, as a multiple of what is usual for its kind. */
export function rateBelow({ weights }: RateBelief, share: number): number {
  let sum = 0;
  let before = 0;
  let beforeAt = 0;
  for (let rate = 0; rate < weights.length; rate++) {
    const weight = weights[rate] as number;
    if (weight === 0) continue;
    const here = sum + weight / 2;
    const at = RATES[rate] as number;
    if (here >= share) return before === 0 ? at : beforeAt + between(share, before, here) * (at - beforeAt);
    sum += weight;
    before = here;
    beforeAt = at;
  }
  return RATES.at(-1) as number;
}

/** How likely it loses several times what its kind does. */
export const leakChance = ({ weights }: RateBelief): number =>
  weights.reduce((sum, weight, rate) => sum + ((RATES[rate] as number) >= LEAK_FROM ? weight : 0), 0);
