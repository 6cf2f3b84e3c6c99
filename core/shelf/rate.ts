/**
 * How fast this battery loses its charge: the published rate of its kind to begin with, and what its own readings say after that.
 * Bayes on a grid of rates; for each rate the voltage it began with is a normal figure that is integrated out in closed form
 * (Gelman et al., Bayesian Data Analysis, 3rd ed., 2.5 and 3.3). A few of a hundred batteries leak: that is in what is believed
 * before the first reading, so that one can be named and none is named for nothing.
 */
import { onSix } from '../battery/types.ts';
import { normalQuantile } from '../belief/chance.ts';
import type { Exposure } from './exposure.ts';
import { KIND_LOSS, RATES, type Standing } from './standing.ts';

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

/** A bench meter, twelve volts, V (0.05 % and its last digit). */
const METER_SD_V = 0.01;
/** Acid and plates of one full battery against another of its type, twelve volts, V. */
const FULL_SD_V = 0.03;
/** One that nobody proved full may have begun anywhere above empty, V. */
const UNPROVEN_SD_V = 0.4;
/** Warmer weeks and colder ones leave this share of a loss open; what its store is off by all along is learned with its rate. */
const WARMTH_DOUBT = 0.02;
/** Rested voltage rises with warmth by this on 12 V, V/K (Harned & Hamer 1935: 0.2 mV a cell). */
const V_PER_K = 0.0012;
const REFERENCE_C = 25;
/** Surface charge just off a charge, and how it fades, 12 V (docs/model.md). */
const SURFACE_V = 0.16;
const SURFACE_FADES_H = 110 / 60;

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
  const scale = onSix(1, standing);
  return readings.map(({ at, volts, tempC = REFERENCE_C, restedH }) => {
    const surface = restedH === undefined ? 0 : SURFACE_V * scale * 2 ** (-restedH / SURFACE_FADES_H);
    return {
      volts: volts - V_PER_K * scale * (tempC - REFERENCE_C) - surface / 2,
      sd: METER_SD_V * scale + surface / 2,
      warmDays: exposure.warmDays(from, at),
      drawnShare: exposure.drawnAh(from, at) / standing.capacityAh,
    };
  });
}

/**
 * What the readings of a battery's spells say of its rate.
 * @param spells the first first; the last one is that it stands in
 */
export function rateBelief(standing: Standing, exposure: Exposure, spells: readonly Spell[]): RateBelief {
  const count = RATES.length;
  const scale = onSix(1, standing);
  const logs = Float64Array.from(priorOf(standing), (weight) => Math.log(weight));
  const fromV = new Float64Array(count).fill(standing.fullV);
  const fromSdV = new Float64Array(count).fill(FULL_SD_V * scale);
  let read = 0;
  for (const spell of spells) {
    const seen = seenOf(standing, exposure, spell);
    read += seen.length;
    const first = seen[0];
    // Nobody proved it full: its first reading is all that says where it began.
    const meanV = spell.isProven || !first ? standing.fullV : Math.min(standing.fullV, first.volts);
    const sdV = (spell.isProven ? FULL_SD_V : UNPROVEN_SD_V) * scale;
    for (let rate = 0; rate < count; rate++) {
      const shift = shiftOf(standing, rate, spell, meanV);
      let precision = 1 / (sdV * sdV);
      let mean = meanV * precision;
      let squares = meanV * mean;
      let variances = 1;
      for (const { volts, sd, warmDays, drawnShare } of seen) {
        const loss = lossBy(standing, rate, shift, warmDays, drawnShare);
        const variance = sd * sd + (WARMTH_DOUBT * loss) ** 2;
        const begun = volts + loss;
        precision += 1 / variance;
        mean += begun / variance;
        squares += (begun * begun) / variance;
        variances *= variance;
      }
      const middle = mean / precision;
      logs[rate] =
        (logs[rate] as number) - 0.5 * (squares - mean * middle) - 0.5 * Math.log(precision * variances);
      fromV[rate] = middle;
      fromSdV[rate] = 1 / Math.sqrt(precision);
    }
  }
  const most = logs.reduce((best, one) => Math.max(best, one), Number.NEGATIVE_INFINITY);
  const weights = logs.map((one) => Math.exp(one - most));
  const sum = weights.reduce((total, one) => total + one, 0);
  return { weights: weights.map((one) => one / sum), fromV, fromSdV, readings: read };
}

/**
 * How far a share lies from one point of a distribution to the next, 0 to 1: straight in standard deviations, since a chord through
 * the flank of a bell makes it wider than it is.
 */
export function between(share: number, before: number, here: number): number {
  const [from, at, to] = [before, share, here].map(normalQuantile) as [number, number, number];
  return (at - from) / (to - from);
}

/** The rate below which a share of what is believed lies, as a multiple of what is usual for its kind. */
export function rateBelow({ weights }: RateBelief, share: number): number {
  let [sum, before, beforeAt] = [0, 0, 0];
  for (let rate = 0; rate < weights.length; rate++) {
    const weight = weights[rate] as number;
    const here = sum + weight / 2;
    const at = RATES[rate] as number;
    if (here >= share) return rate === 0 ? at : beforeAt + between(share, before, here) * (at - beforeAt);
    sum += weight;
    [before, beforeAt] = [here, at];
  }
  return RATES.at(-1) as number;
}

/** How likely it loses several times what its kind does. */
export const leakChance = ({ weights }: RateBelief): number =>
  weights.reduce((sum, weight, rate) => sum + ((RATES[rate] as number) >= LEAK_FROM ? weight : 0), 0);
