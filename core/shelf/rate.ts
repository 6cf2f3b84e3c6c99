/**
 * How fast this battery loses its charge: the published rate of its kind to begin with, and what its own readings say after that.
 * Bayes on a grid of rates; for each rate the voltage it began with is a normal figure that is integrated out in closed form
 * (Gelman et al., Bayesian Data Analysis, 3rd ed., 2.5 and 3.3). A few of a hundred batteries leak: that is in what is believed
 * before the first reading, so that one can be named and none is named for nothing.
 */
import { at25V, surfaceChargeV } from '../battery/chargeEstimate.ts';
import { KIND_LOSS } from '../battery/selfDischarge.ts';
import { onSix } from '../battery/types.ts';
import { normalQuantile } from '../chance/distributions.ts';
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
const FIRST_LEAK = RATES.findIndex((rate) => rate >= LEAK_FROM);
/** Nine tenths over one tenth of a normal figure lie so many standard deviations apart. */
const TENTHS_SDS = 2.563;

/** For each of {@link RATES} how likely it is, and the logarithm of it. */
interface Prior {
  readonly chances: Float64Array;
  readonly logs: Float64Array;
}

const priors = new Map<number, Prior>();

/** What is believed of a battery's rate before it was read. */
function priorOf({ kind }: Standing): Prior {
  const { spread } = KIND_LOSS[kind];
  const known = priors.get(spread);
  if (known) return known;
  const sd = Math.log(spread) / TENTHS_SDS;
  const sound = RATES.map((rate) => Math.exp(-0.5 * (Math.log(rate) / sd) ** 2));
  const soundSum = sound.reduce((sum, one) => sum + one, 0);
  const leaks = RATES.length - FIRST_LEAK;
  const chances = RATES.map(
    (rate, index) =>
      ((1 - LEAK_SHARE) * (sound[index] as number)) / soundSum + (rate >= LEAK_FROM ? LEAK_SHARE / leaks : 0),
  );
  const prior = { chances, logs: chances.map(Math.log) };
  priors.set(spread, prior);
  return prior;
}

/** Where the spell of one rate begins on its course, warm days from full. */
export function shiftOf(standing: Standing, rate: number, isProven: boolean, fromV: number): number {
  const below = standing.fullV - fromV;
  if (isProven || below <= 0) return 0;
  return standing.warmDaysTo(rate, standing.shareAtLoss(below));
}

/** Readings and spells of one battery as plain numbers, in a buffer that is used again: thousands are foretold one after the other. */
class Evidence {
  readings = 0;
  private spells = 0;
  private volts = new Float64Array(64);
  private variances = new Float64Array(64);
  private warmDays = new Float64Array(64);
  private drawnShares = new Float64Array(64);
  /** Of each spell: where its readings end, what it began with as far as anybody knows, and whether it was full. */
  private readonly ends: number[] = [];
  private readonly meanV: number[] = [];
  private readonly sdV: number[] = [];
  private readonly isProven: boolean[] = [];
  /** The voltage its last spell began with, as the rate judged last has it. */
  fromV = 0;
  fromSdV = 0;

  take(standing: Standing, exposure: Exposure, spells: readonly Spell[]): void {
    this.readings = 0;
    this.spells = spells.length;
    const scale = onSix(1, standing);
    for (let index = 0; index < spells.length; index++) {
      const spell = spells[index] as Spell;
      const first = this.readings;
      for (const reading of spell.readings) this.add(standing, exposure, spell.from, reading);
      this.ends[index] = this.readings;
      this.isProven[index] = spell.isProven;
      this.sdV[index] = (spell.isProven ? FULL_SD_V : UNPROVEN_SD_V) * scale;
      // Nobody proved it full: its first reading is all that says where it began.
      this.meanV[index] =
        spell.isProven || first === this.readings
          ? standing.fullV
          : Math.min(standing.fullV, this.volts[first] as number);
    }
  }

  private add(standing: Standing, exposure: Exposure, from: number, reading: ShelfReading): void {
    const { at, volts, tempC, restedH } = reading;
    const index = this.readings;
    if (index === this.volts.length) this.grow();
    const surface = restedH === undefined ? 0 : surfaceChargeV(standing, restedH * MINUTES_AN_HOUR);
    const sd = meterSdV(volts) + surface / 2;
    this.volts[index] = at25V(volts, standing, tempC) - surface / 2;
    this.variances[index] = sd * sd;
    this.warmDays[index] = exposure.warmDays(from, at);
    this.drawnShares[index] = exposure.drawnAh(from, at) / standing.capacityAh;
    this.readings = index + 1;
  }

  private grow(): void {
    const twice = (old: Float64Array<ArrayBuffer>): Float64Array<ArrayBuffer> => {
      const next = new Float64Array(old.length * 2);
      next.set(old);
      return next;
    };
    this.volts = twice(this.volts);
    this.variances = twice(this.variances);
    this.warmDays = twice(this.warmDays);
    this.drawnShares = twice(this.drawnShares);
  }

  /** How well one rate foretold its readings, as a logarithm; what its last spell began with by that rate is noted. */
  judge(standing: Standing, rate: number): number {
    let logLikelihood = 0;
    let index = 0;
    for (let spell = 0; spell < this.spells; spell++) {
      const meanV = this.meanV[spell] as number;
      const sdV = this.sdV[spell] as number;
      const end = this.ends[spell] as number;
      const shift = shiftOf(standing, rate, this.isProven[spell] as boolean, meanV);
      const begunV = shift === 0 ? standing.fullV : standing.restedV(standing.shareAfter(rate, shift));
      let precision = 1 / (sdV * sdV);
      let mean = meanV * precision;
      let squares = meanV * mean;
      let variances = 1;
      for (; index < end; index++) {
        const share =
          standing.shareAfter(rate, shift + (this.warmDays[index] as number)) -
          (this.drawnShares[index] as number);
        const loss = begunV - standing.restedV(share);
        const doubt = WARMTH_DOUBT * loss;
        const variance = (this.variances[index] as number) + doubt * doubt;
        const begun = (this.volts[index] as number) + loss;
        precision += 1 / variance;
        mean += begun / variance;
        squares += (begun * begun) / variance;
        variances *= variance;
      }
      this.fromV = mean / precision;
      this.fromSdV = 1 / Math.sqrt(precision);
      logLikelihood -= 0.5 * (squares - mean * this.fromV + Math.log(precision * variances));
    }
    return logLikelihood;
  }
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
    weights: priorOf(standing).chances,
    fromV: new Float64Array(RATES.length).fill(standing.fullV),
    fromSdV: new Float64Array(RATES.length).fill(sdV * scale),
    readings: 0,
  });
  const made = { isProven: of(FULL_SD_V), unproven: of(UNPROVEN_SD_V) };
  unread.set(standing, made);
  return isProven ? made.isProven : made.unproven;
}

/** What is believed of one that was read, in a buffer that is used again. */
class Board implements RateBelief {
  readonly weights = new Float64Array(RATES.length);
  readonly fromV = new Float64Array(RATES.length);
  readonly fromSdV = new Float64Array(RATES.length);
  readings = 0;
  private readonly logs = new Float64Array(RATES.length);
  private most = Number.NEGATIVE_INFINITY;

  weigh(standing: Standing, evidence: Evidence): void {
    const { logs, weights } = this;
    const prior = priorOf(standing).logs;
    const count = RATES.length;
    this.readings = evidence.readings;
    this.most = Number.NEGATIVE_INFINITY;
    logs.fill(Number.NEGATIVE_INFINITY);
    for (let rate = 0; rate < count; rate += COARSE) this.look(standing, evidence, prior, rate);
    // What lies between two hopeless ones is hopeless.
    for (let rate = 0; rate < count; rate++) {
      if (rate % COARSE === 0) continue;
      const below = rate - (rate % COARSE);
      const near = Math.max(logs[below] as number, logs[Math.min(count - 1, below + COARSE)] as number);
      if (near > this.most - HOPELESS) this.look(standing, evidence, prior, rate);
    }
    let sum = 0;
    for (let rate = 0; rate < count; rate++) {
      const log = logs[rate] as number;
      const weight = log > this.most - HOPELESS ? Math.exp(log - this.most) : 0;
      weights[rate] = weight;
      sum += weight;
    }
    for (let rate = 0; rate < count; rate++) weights[rate] = (weights[rate] as number) / sum;
  }

  private look(standing: Standing, evidence: Evidence, prior: Float64Array, rate: number): void {
    const log = (prior[rate] as number) + evidence.judge(standing, rate);
    this.logs[rate] = log;
    this.fromV[rate] = evidence.fromV;
    this.fromSdV[rate] = evidence.fromSdV;
    if (log > this.most) this.most = log;
  }
}

const evidence = new Evidence();
const board = new Board();

/**
 * What the readings of a battery's spells say of its rate: it stands until the next one is asked for.
 * @param spells the first first; the last one is that it stands in
 */
export function rateBelief(standing: Standing, exposure: Exposure, spells: readonly Spell[]): RateBelief {
  evidence.take(standing, exposure, spells);
  if (evidence.readings === 0) return unreadBelief(standing, spells.at(-1)?.isProven ?? false);
  board.weigh(standing, evidence);
  return board;
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
export function leakChance({ weights }: RateBelief): number {
  let sum = 0;
  for (let rate = FIRST_LEAK; rate < weights.length; rate++) sum += weights[rate] as number;
  return sum;
}
