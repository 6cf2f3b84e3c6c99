/**
 * What is believed of a battery: a few hundred candidate batteries, weighted by how well each explains every
 * reading. When too few of them carry the weight they are drawn anew and moved about by Metropolis' rule, which
 * leaves the answer as it is and so neither collapses nor lies.
 * @see Gilks & Berzuini 2001, Following a moving target (resample-move)
 * @see Metropolis et al. 1953
 */
import { conductanceA } from '../instruments/modelView.ts';
import { postsOhm } from '../charge/donor.ts';
import { leastCharge } from '../model/show.ts';
import { soundCell, twentyHourAh } from '../model/parameters.ts';
import { CAUSE_IDS, type CauseId } from './causes.ts';
import { chanceFrom, type Chance } from './chance.ts';
import { DEAR, logLikelihood, mostLogLikelihood, Shown, type Reading } from './readings.ts';
import {
  batteryFrom,
  chargedFrom,
  DIMENSIONS,
  traitsOf,
  type Point,
  type Setting,
  type Traits,
} from './traits.ts';

/** What one wants to know of a battery. */
export interface Figures {
  /** Charge of the weakest cell, 0–1. */
  readonly charge: number;
  /** Capacity once charged as far as it goes, share of the rating. */
  readonly capacity: number;
  /** Cranking once charged, share of the rating. */
  readonly cranking: number;
  /** Between the posts now, Ω. */
  readonly ohm: number;
  /** Water missing, all cells, g. */
  readonly waterG: number;
}

export const FIGURES = ['charge', 'capacity', 'cranking', 'ohm', 'waterG'] as const;

/** A dead short holds nothing for longer than minutes; a leak like this a day, Ω. */
const HOLDS_NOTHING_OHM = 0.5;

/** What a candidate's figures are, by the model. */
export function figuresOf(traits: Traits, setting: Setting, shown: Shown): Figures {
  const { cells } = shown;
  const charged = chargedFrom(traits, setting);
  const sound = soundCell(setting.rating);
  const ratedAh = twentyHourAh(setting.rating);
  let least = Number.POSITIVE_INFINITY;
  let lostG = 0;
  for (let g = 0; g < cells.groups; g++) {
    const convertible = cells.p.convertibleAh[g] as number;
    const hard = cells.state.hard[g] as number;
    const isDead =
      (cells.p.shortS[g] as number) > 1 / HOLDS_NOTHING_OHM || (cells.state.reversed[g] as number) > 0;
    const holds = isDead ? 0 : ((convertible - hard) / sound.convertibleAh) * (sound.ratedAh / ratedAh);
    least = Math.min(least, holds);
    lostG += (cells.counts[g] as number) * (cells.state.lostG[g] as number);
  }
  const soundA = soundTesterA(setting);
  return {
    charge: leastCharge(cells),
    capacity: traits.cause === 'open-cell' ? 0 : least,
    cranking: conductanceA(charged) / soundA,
    ohm: postsOhm(cells),
    waterG: lostG,
  };
}

const knownSound = new WeakMap<Setting['rating'], number>();

/** What a tester shows of a sound, charged battery of this rating, A. */
function soundTesterA(setting: Setting): number {
  const known = knownSound.get(setting.rating);
  if (known !== undefined) return known;
  const sound: Traits = {
    cause: 'empty',
    charge: 1,
    hardShare: 0,
    film: 0,
    left: 1,
    capacityFactor: 1,
    crankingFactor: 1,
    dryShare: 0,
    cell: 1,
    severity: 0,
  };
  const amps = conductanceA(batteryFrom(sound, { ...setting, tempC: 25 }));
  knownSound.set(setting.rating, amps);
  return amps;
}

export interface Candidate {
  readonly point: Point;
  readonly traits: Traits;
  readonly shown: Shown;
  readonly logLikelihood: number;
}

/** 10th, 50th and 90th percentile. */
export interface Interval {
  readonly low: number;
  readonly middle: number;
  readonly high: number;
}

export interface Summary {
  readonly causes: Readonly<Record<CauseId, number>>;
  /** The most likely first. */
  readonly ranked: readonly { readonly cause: CauseId; readonly probability: number }[];
  readonly figures: Readonly<Record<keyof Figures, Interval>>;
}

/** Below this share of the candidates carrying the weight, they are drawn anew. */
const FRESHEN_BELOW = 0.5;
/** Moves of each candidate once they are drawn anew. */
const SWEEPS = 5;
/** How often a coordinate takes part in a move, and how often it leaps anywhere instead of a step. */
const TAKES_PART = 0.4;
const LEAP = 0.08;
/** A step goes as far as the candidates lie apart along that axis, and never less than this. */
const LEAST_STRIDE = 0.004;

export class Belief {
  readonly setting: Setting;
  private readonly chance: Chance;
  private readonly readings: Reading[] = [];
  private candidates: Candidate[];
  private readonly figures = new WeakMap<Candidate, Figures>();

  /**
   * @param setting rating, history and warmth of the battery
   * @param count candidates
   * @param seed the same seed gives the same belief
   */
  constructor(setting: Setting, count: number, seed: number) {
    this.setting = setting;
    this.chance = chanceFrom(seed);
    // Evenly along the axis of causes, so that rare ones have their candidates; anywhere along the others.
    this.candidates = Array.from({ length: count }, (_, index) => {
      const point = Float64Array.from({ length: DIMENSIONS }, () => this.chance());
      point[0] = (index + this.chance()) / count;
      return this.candidateAt(point);
    });
  }

  get all(): readonly Candidate[] {
    return this.candidates;
  }

  get known(): readonly Reading[] {
    return this.readings;
  }

  private candidateAt(point: Point): Candidate {
    const traits = traitsOf(point, this.setting);
    const shown = new Shown(() => batteryFrom(traits, this.setting));
    return { point, traits, shown, logLikelihood: this.likelihoodOf(shown) };
  }

  private likelihoodOf(shown: Shown): number {
    const { capacityAh } = this.setting.rating;
    return this.readings.reduce((sum, reading) => sum + logLikelihood(reading, shown, capacityAh), 0);
  }

  /** Weights of the candidates; they sum to 1. */
  weights(): Float64Array {
    return normalised(
      this.candidates.map(({ logLikelihood: log }) => log),
      this.offsets,
    );
  }

  /** What the candidates were drawn by already: after a fresh draw only new readings weigh. */
  private offsets: Float64Array | undefined;

  /** Takes a reading in; candidates that explain it gain. */
  observe(...readings: readonly Reading[]): void {
    const { capacityAh } = this.setting.rating;
    for (const reading of readings) {
      this.readings.push(reading);
      this.candidates = this.candidates.map((candidate) => ({
        ...candidate,
        logLikelihood: candidate.logLikelihood + logLikelihood(reading, candidate.shown, capacityAh),
      }));
      if (this.effective() < FRESHEN_BELOW * this.candidates.length) this.freshen();
    }
  }

  /** How many candidates the weight really rests on. @see Kish 1965 */
  effective(): number {
    const weights = this.weights();
    return 1 / weights.reduce((sum, weight) => sum + weight * weight, 0);
  }

  /** Draws the candidates anew by their weight, and moves each about. */
  private freshen(): void {
    const drawn = this.drawn(this.candidates.length);
    const strides = stridesOf(drawn);
    for (let sweep = 0; sweep < SWEEPS; sweep++)
      for (let index = 0; index < drawn.length; index++) {
        const here = drawn[index];
        if (here) drawn[index] = this.moved(here, strides);
      }
    this.candidates = drawn;
    this.offsets = Float64Array.from(drawn, ({ logLikelihood: log }) => log);
  }

  /** Systematic resampling: as many of each as its weight asks for. @see Kitagawa 1996 */
  drawn(count: number): Candidate[] {
    const weights = this.weights();
    const start = this.chance();
    const drawn: Candidate[] = [];
    let sum = 0;
    this.candidates.forEach((candidate, index) => {
      sum += (weights[index] as number) * count;
      while (drawn.length < count && drawn.length + start < sum) drawn.push(candidate);
    });
    const last = this.candidates.at(-1);
    while (last && drawn.length < count) drawn.push(last);
    return drawn;
  }

  /** One step of Metropolis' rule: the prior is flat in the cube, so the readings alone decide. */
  private moved(here: Candidate, strides: Strides): Candidate {
    const stride = strides.get(here.traits.cause);
    const point = here.point.map((value, axis) => {
      if (this.chance() > TAKES_PART) return value;
      if (this.chance() < LEAP) return this.chance();
      // The cause is a choice: it is kept or leapt, never nudged.
      if (axis === 0) return value;
      const step = this.chance() + this.chance() + this.chance() - 1.5;
      return reflected(value + 2 * (stride?.[axis] ?? LEAST_STRIDE) * step);
    });
    const floor = here.logLikelihood + Math.log(1 - this.chance());
    return this.candidateAbove(point, floor) ?? here;
  }

  /** A candidate whose likelihood is above a floor; given up as soon as what is left cannot lift it there. */
  private candidateAbove(point: Point, floor: number): Candidate | undefined {
    const { capacityAh } = this.setting.rating;
    const traits = traitsOf(point, this.setting);
    const shown = new Shown(() => batteryFrom(traits, this.setting));
    const dear = this.readings.filter(({ kind }) => DEAR.includes(kind));
    let sum = 0;
    for (const reading of this.readings)
      if (!DEAR.includes(reading.kind)) sum += logLikelihood(reading, shown, capacityAh);
    let most = dear.reduce((total, reading) => total + mostLogLikelihood(reading, capacityAh), 0);
    for (const reading of dear) {
      if (sum + most <= floor) return undefined;
      most -= mostLogLikelihood(reading, capacityAh);
      sum += logLikelihood(reading, shown, capacityAh);
    }
    return sum > floor ? { point, traits, shown, logLikelihood: sum } : undefined;
  }

  private figuresOf(candidate: Candidate): Figures {
    const known = this.figures.get(candidate);
    if (known) return known;
    const figures = figuresOf(candidate.traits, this.setting, candidate.shown);
    this.figures.set(candidate, figures);
    return figures;
  }

  /** Causes and figures as believed now. */
  summary(): Summary {
    const weights = this.weights();
    const causes = Object.fromEntries(CAUSE_IDS.map((cause) => [cause, 0])) as Record<CauseId, number>;
    this.candidates.forEach(({ traits }, index) => (causes[traits.cause] += weights[index] as number));
    const figures = this.candidates.map((candidate) => this.figuresOf(candidate));
    const interval = (name: keyof Figures): Interval => {
      const values = figures.map((one) => one[name]);
      const [low = 0, middle = 0, high = 0] = [0.1, 0.5, 0.9].map((share) =>
        quantile(values, weights, share),
      );
      return { low, middle, high };
    };
    return {
      causes,
      ranked: CAUSE_IDS.map((cause) => ({ cause, probability: causes[cause] })).sort(
        (a, b) => b.probability - a.probability,
      ),
      figures: Object.fromEntries(FIGURES.map((name) => [name, interval(name)])) as Summary['figures'],
    };
  }
}

type Strides = ReadonlyMap<CauseId, Float64Array>;

/** How far the candidates of each cause lie apart along each axis, one standard deviation. */
function stridesOf(candidates: readonly Candidate[]): Strides {
  const strides = new Map<CauseId, Float64Array>();
  for (const cause of CAUSE_IDS) {
    const points = candidates.filter(({ traits }) => traits.cause === cause).map(({ point }) => point);
    if (points.length < 4) continue;
    const stride = Float64Array.from({ length: DIMENSIONS }, (_, axis) => {
      const mean = points.reduce((sum, point) => sum + (point[axis] as number), 0) / points.length;
      const square = points.reduce((sum, point) => sum + ((point[axis] as number) - mean) ** 2, 0);
      return Math.max(LEAST_STRIDE, Math.sqrt(square / points.length));
    });
    strides.set(cause, stride);
  }
  return strides;
}

/** Back into the cube, as a ball off a wall. */
function reflected(value: number): number {
  const folded = Math.abs(value) % 2;
  return folded > 1 ? 2 - folded : folded;
}

/** exp of logarithms, so that they sum to 1. */
function normalised(logs: readonly number[], offsets: Float64Array | undefined): Float64Array {
  const own = logs.map((log, index) => log - (offsets?.[index] ?? 0));
  const most = Math.max(...own);
  const weights = Float64Array.from(own, (log) => Math.exp(log - most));
  const sum = weights.reduce((total, weight) => total + weight, 0);
  return weights.map((weight) => weight / sum);
}

/** Weighted quantile. */
export function quantile(values: readonly number[], weights: Float64Array, share: number): number {
  const order = values.map((_, index) => index).sort((a, b) => (values[a] as number) - (values[b] as number));
  let sum = 0;
  for (const index of order) {
    sum += weights[index] as number;
    if (sum >= share) return values[index] as number;
  }
  return values[order.at(-1) ?? 0] ?? 0;
}
