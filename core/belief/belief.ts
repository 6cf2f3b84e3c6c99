/**
 * What is believed of a battery: a few hundred candidate batteries, weighted by how well each explains every
 * reading. When too few of them carry the weight they are drawn anew and moved about by Metropolis' rule, which
 * leaves the answer as it is and so neither collapses nor lies.
 * @see Gilks & Berzuini 2001, Following a moving target (resample-move)
 * @see Metropolis et al. 1953
 */
import { CAUSE_IDS, type CauseId } from './causes.ts';
import { chanceFrom, type Chance } from './chance.ts';
import {
  asReal,
  FIGURES,
  figuresOf,
  intervalOf,
  type Figures,
  type Interval,
  type Summary,
} from './figures.ts';
import { Moves } from './moves.ts';
import { logLikelihood, mostLogLikelihood } from './likelihood.ts';
import { isDear, type Reading } from './readings.ts';
import { shownOf, type Shown } from './shown.ts';
import { DIMENSIONS, traitsOf, type Point, type Setting, type Traits } from './traits.ts';
import { effectiveOf, normalised } from './weights.ts';

export interface Candidate {
  readonly point: Point;
  readonly traits: Traits;
  readonly shown: Shown;
  readonly logLikelihood: number;
}

/** Enough for intervals that hold within a few per cent (docs/belief.md); fewer while each goes through its charges. */
export const SIZE = { standing: 600, charged: 160 } as const;
/** Moves of each that the answer at rest wants, made while nobody waits. */
export const AT_REST = { standing: 2, charged: 4 } as const;

/** Candidates are drawn anew when the weight rests on less than this share of them. */
const FRESHEN_BELOW = 0.5;
/** An answer of the moment rests on no less than this share of them. */
const PREVIEW_ON = 0.02;
/** So many more candidates stand for the prior than are kept once readings tell them apart. */
const PRIOR_TIMES = 4;
/** Moves of each candidate once they are drawn anew. */
const SWEEPS = 2;
/** How often a move leaps, and how often a leap goes to any cause alike. */
const LEAP = 0.25;
const ANYWHERE = 0.6;
/** A cause that none stands for gets so many candidates, at the little weight they deserve; none below this. */
const TRANSPLANTS = 4;
const NO_WEIGHT = -25;
/** Places spread evenly whatever their number. @see Niederreiter 1992 (Kronecker sequence of the golden ratio) */
const GOLDEN = (Math.sqrt(5) - 1) / 2;
/** Halvings when looking for how much of a reading the candidates bear at once. */
const HALVINGS = 12;

export class Belief {
  readonly setting: Setting;
  private readonly chance: Chance;
  private readonly moves: Moves;
  private readonly readings: Reading[] = [];
  private count: number;
  private candidates: Candidate[];
  /** Logarithms, but for a constant. */
  private logWeights: Float64Array;
  private figures = new WeakMap<Candidate, Figures>();

  /**
   * @param setting rating, history and warmth of the battery
   * @param count candidates
   * @param seed the same seed gives the same belief
   */
  constructor(setting: Setting, count: number, seed: number) {
    this.setting = setting;
    this.count = count;
    this.chance = chanceFrom(seed);
    this.moves = new Moves(setting, this.chance);
    const many = count * PRIOR_TIMES;
    // Evenly along the axis of causes, so that rare ones have their candidates; anywhere along the others.
    this.candidates = Array.from({ length: many }, (_, index) => {
      const point = Float64Array.from({ length: DIMENSIONS }, () => this.chance());
      point[0] = (index + this.chance()) / many;
      const traits = traitsOf(point, setting);
      return { point, traits, shown: shownOf(traits, setting), logLikelihood: 0 };
    });
    this.logWeights = new Float64Array(many);
  }

  get all(): readonly Candidate[] {
    return this.candidates;
  }

  /** How many are kept, but for those that only stand for a rare cause. */
  get size(): number {
    return this.count;
  }

  get known(): readonly Reading[] {
    return this.readings;
  }

  /** Weights of the candidates; they sum to 1. */
  weights(): Float64Array {
    return normalised(this.logWeights);
  }

  /** Takes readings in; candidates that explain them gain. */
  observe(...readings: readonly Reading[]): void {
    for (const reading of readings) this.takeIn(reading);
  }

  /**
   * What would be believed after more readings, by weighing the candidates alone: the answer of the moment, while
   * nothing is drawn anew. What surprises counts only as far as enough of them bear it. Nothing changes.
   * @returns undefined for readings of a later stage, which cost each candidate a charge
   */
  preview(readings: readonly Reading[]): Summary | undefined {
    if (readings.some(({ kind, stage = 0 }) => stage !== this.stage || kind === 'look')) return undefined;
    const logs = Float64Array.from(this.candidates, ({ shown }) =>
      readings.reduce((sum, reading) => sum + logLikelihood(reading, shown, this.setting), 0),
    );
    const part = this.bearable(logs, 1, PREVIEW_ON);
    return this.summaryBy(
      normalised(this.logWeights.map((weight, index) => weight + part * (logs[index] as number))),
    );
  }

  /**
   * A reading that surprises is taken in by parts, and the candidates are drawn anew and moved about after each,
   * so that none of what is possible is lost on the way. @see Del Moral, Doucet & Jasra 2006
   */
  private takeIn(reading: Reading): void {
    if ((reading.stage ?? 0) !== this.stage) this.figures = new WeakMap();
    this.readings.push(reading);
    let taken = 0;
    while (taken < 1) {
      const logs = Float64Array.from(this.candidates, ({ shown }) =>
        logLikelihood(reading, shown, this.setting),
      );
      const part = this.bearable(logs, 1 - taken, FRESHEN_BELOW);
      taken += part;
      this.candidates = this.candidates.map((candidate, index) => ({
        ...candidate,
        logLikelihood: candidate.logLikelihood + part * (logs[index] as number),
      }));
      this.logWeights = this.logWeights.map((weight, index) => weight + part * (logs[index] as number));
      if (this.effective() < FRESHEN_BELOW * this.candidates.length || taken < 1) {
        this.candidates = this.drawn(this.count);
        this.logWeights = new Float64Array(this.count);
        for (let sweep = 0; sweep < SWEEPS; sweep++) this.move(taken);
        this.keepEvery(taken);
      }
    }
  }

  /**
   * Lets no cause be lost: one that no candidate stands for any more is given some, made from those of the cause
   * that is likeliest. Each weighs what it would weigh had it been drawn there: little, until a reading speaks for it.
   * @param taken how much of the last reading counts so far, 0–1
   */
  private keepEvery(taken: number): void {
    const weights = this.weights();
    const mass = new Map<CauseId, number>();
    this.candidates.forEach(({ traits: { cause } }, index) =>
      mass.set(cause, (mass.get(cause) ?? 0) + (weights[index] as number)),
    );
    const [likeliest, share] = [...mass].sort((a, b) => b[1] - a[1])[0] ?? [];
    if (likeliest === undefined || share === undefined) return;
    const sources = this.candidates.filter(({ traits }) => traits.cause === likeliest);
    const added: Candidate[] = [];
    const logs: number[] = [];
    for (const to of this.moves.possible) {
      if (mass.has(to.cause)) continue;
      for (let one = 0; one < TRANSPLANTS; one++) {
        const from = this.moves.anyOf(sources);
        const leap = from && this.moves.leapt(from, to, true);
        const odds = Math.log(((to.width / this.moves.widthOf(likeliest)) * share) / TRANSPLANTS);
        if (!leap) continue;
        const before = from.logLikelihood - leap.log - odds;
        const made = this.candidateAbove(leap.point, before + NO_WEIGHT, taken);
        if (!made) continue;
        added.push(made);
        logs.push(made.logLikelihood - before);
      }
    }
    this.logWeights = Float64Array.from([...weights].map(Math.log).concat(logs));
    this.candidates = [...this.candidates, ...added];
  }

  /** How much of a reading the candidates bear before the weight rests on too few of them. */
  private bearable(logs: Float64Array, most: number, share: number): number {
    const least = share * Math.min(this.candidates.length, this.count);
    const effectiveAt = (part: number): number =>
      effectiveOf(
        normalised(this.logWeights.map((weight, index) => weight + part * (logs[index] as number))),
      );
    if (effectiveAt(most) >= least) return most;
    let low = 0;
    let high = most;
    for (let halving = 0; halving < HALVINGS; halving++) {
      const middle = (low + high) / 2;
      if (effectiveAt(middle) >= least) low = middle;
      else high = middle;
    }
    return Math.max(low, most * 0.02);
  }

  /** Goes on with fewer candidates: for what is dear to ask of each. */
  thin(count: number): void {
    if (count >= this.count) return;
    this.candidates = this.drawn(count);
    this.logWeights = new Float64Array(count);
    this.count = count;
    this.keepEvery(1);
  }

  /** How many candidates the weight really rests on. @see Kish 1965 */
  effective(): number {
    return effectiveOf(this.weights());
  }

  /**
   * Moves every candidate about, which changes nothing on average and spreads what was drawn alike: for the
   * moments nobody waits.
   * @param sweeps moves of each
   */
  refine(sweeps: number): void {
    if (this.readings.length === 0) return;
    for (let sweep = 0; sweep < sweeps; sweep++) this.move(1);
  }

  /** @param taken how much of the last reading counts so far, 0–1 */
  private move(taken: number): void {
    const byCause = new Map<CauseId, Candidate[]>();
    for (const candidate of this.candidates) {
      const { cause } = candidate.traits;
      byCause.set(cause, [...(byCause.get(cause) ?? []), candidate]);
    }
    this.candidates = this.candidates.map((here) =>
      this.moved(here, byCause.get(here.traits.cause) ?? [], taken),
    );
  }

  /** Systematic resampling: as many of each as its weight asks for. @see Kitagawa 1996 */
  private drawn(count: number): Candidate[] {
    return this.spread(count, this.chance());
  }

  /**
   * So many candidates as stand for the whole belief, each as often as its weight asks for.
   * @param start 0–1; the same start gives the same candidates
   */
  spread(count: number, start = 0.5): Candidate[] {
    const weights = this.weights();
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
  private moved(here: Candidate, alike: readonly Candidate[], taken: number): Candidate {
    const isLeap = this.chance() < LEAP;
    const to = isLeap && this.chance() < ANYWHERE ? this.moves.anyOf(this.moves.possible) : undefined;
    const move = isLeap ? this.moves.leapt(here, to) : this.moves.nudged(here, alike);
    if (!move) return here;
    // To any cause alike, so that a rare one is found: its own odds then weigh in where it would have been drawn by them.
    const odds = to ? Math.log(to.width / this.moves.widthOf(here.traits.cause)) : 0;
    const floor = here.logLikelihood + Math.log(1 - this.chance()) - odds - move.log;
    return this.candidateAbove(move.point, floor, taken) ?? here;
  }

  /** A candidate whose likelihood is above a floor; given up as soon as what is left cannot lift it there. */
  private candidateAbove(point: Point, floor: number, taken: number): Candidate | undefined {
    const { setting } = this;
    const traits = traitsOf(point, setting);
    const shown = shownOf(traits, setting);
    const counts = (reading: Reading): number => (reading === this.readings.at(-1) ? taken : 1);
    const dear = this.readings.filter(isDear);
    let sum = 0;
    for (const reading of this.readings)
      if (!isDear(reading)) sum += counts(reading) * logLikelihood(reading, shown, setting);
    let most = dear.reduce(
      (total, reading) => total + counts(reading) * mostLogLikelihood(reading, setting),
      0,
    );
    for (const reading of dear) {
      if (sum + most <= floor) return undefined;
      most -= counts(reading) * mostLogLikelihood(reading, setting);
      sum += counts(reading) * logLikelihood(reading, shown, setting);
    }
    return sum > floor ? { point, traits, shown, logLikelihood: sum } : undefined;
  }

  /** Passages behind the latest reading; a charge that is still on lies ahead. */
  private get stage(): number {
    return this.readings.at(-1)?.stage ?? 0;
  }

  private figuresOf(candidate: Candidate): Figures {
    const known = this.figures.get(candidate);
    if (known) return known;
    const latest = candidate.shown.after(this.stage);
    const found = figuresOf(candidate.traits, this.setting, latest);
    const last = this.readings.at(-1);
    const figures =
      last?.kind === 'look' ? { ...found, charge: latest.onCharge(last.minute, 'chargeShare') } : found;
    this.figures.set(candidate, figures);
    return figures;
  }

  /** A figure of every candidate, as a real battery may have it, in the order of the weights. */
  values(name: keyof Figures): number[] {
    return this.candidates.map((candidate, index) =>
      asReal(name, this.figuresOf(candidate)[name], (0.5 + index * GOLDEN) % 1),
    );
  }

  /** Minutes it would give a current until 1.75 V a cell, from where it stands now. */
  reserve(amps: number): Interval {
    const minutes = this.candidates.map(({ shown }) => shown.after(this.stage).reserveMin(amps));
    return intervalOf(minutes, this.weights());
  }

  /** Causes and figures as believed now. */
  summary(): Summary {
    return this.summaryBy(this.weights());
  }

  private summaryBy(weights: Float64Array): Summary {
    const causes = Object.fromEntries(CAUSE_IDS.map((cause) => [cause, 0])) as Record<CauseId, number>;
    this.candidates.forEach(({ traits }, index) => (causes[traits.cause] += weights[index] as number));
    const interval = (name: keyof Figures): Interval => intervalOf(this.values(name), weights);
    return {
      causes,
      ranked: CAUSE_IDS.map((cause) => ({ cause, probability: causes[cause] })).sort(
        (a, b) => b.probability - a.probability,
      ),
      figures: Object.fromEntries(FIGURES.map((name) => [name, interval(name)])) as Summary['figures'],
    };
  }
}
