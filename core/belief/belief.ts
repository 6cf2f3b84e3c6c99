/**
 * What is believed of a battery: a few hundred candidate batteries, weighted by how well each explains every
 * reading. When too few of them carry the weight they are drawn anew and moved about by Metropolis' rule, which
 * leaves the answer as it is and so neither collapses nor lies.
 * @see Gilks & Berzuini 2001, Following a moving target (resample-move)
 * @see Metropolis et al. 1953
 */
import type { CauseId, Possible } from '../candidate/causes.ts';
import { chanceFrom, type Chance } from '../chance/chance.ts';
import { intervalOf, type Figure, type Interval, type Summary } from './figures.ts';
import { doubting, misfitsOf, type Misfit } from './misfit.ts';
import { Moves } from './moves.ts';
import { logLikelihood, mostLogLikelihood } from '../observation/likelihood.ts';
import { changeBetween, weighedBy } from './moment.ts';
import { isFar, isUntouched } from '../observation/passages.ts';
import { isDear, type Reading } from '../observation/readings.ts';
import { Sample, type Candidate } from './sample.ts';
import { shownOf, type Shown } from '../observation/shown.ts';
import { causesOf, summaryOf, valuesOf, type Causes } from './summary.ts';
import type { Step, Trail } from './trail.ts';
import { DIMENSIONS, type Point } from '../candidate/cube.ts';
import { traitsOf, type Setting, type Traits } from '../candidate/traits.ts';
import { done, type Work } from './work.ts';

/** Enough for intervals that hold within a few per cent (docs/belief.md); fewer while each goes through its charges. */
export const SIZE = { standing: 600, charged: 160 } as const;
/** Moves of each that the answer at rest wants, made while nobody waits. */
export const AT_REST = { standing: 2, charged: 4 } as const;

/** Candidates are drawn anew when the weight rests on less than this share of them. */
const FRESHEN_BELOW = 0.5;
/** So many of each cause are kept, at however little weight. */
const LEAST_OF_EACH = { standing: 10, charged: 5 } as const;
/** A cause that weighs less is neither leapt to nor from: its own few follow it, and weigh what the readings leave them. */
const LEAPT_FROM = 0.002;
/** So many more candidates stand for the prior than are kept once readings tell them apart. */
const PRIOR_TIMES = 4;
/**
 * Moves of each candidate once they are drawn anew: what is drawn anew again and again comes from ever fewer, and is as wide as it should
 * be only where they have moved apart meanwhile (docs/belief.md).
 */
const SWEEPS = { standing: 4, charged: 6 } as const;
/** How often a move leaps, and how often a leap goes to any cause alike. */
const LEAP = { standing: 0.35, charged: 0.2 } as const;
const ANYWHERE = 0.6;
/** A cause that none stands for gets so many candidates, at the little weight they deserve; none below this. */
const TRANSPLANTS = 8;
const NO_WEIGHT = -25;
/** So many stand for what was believed before anything was read. */
const BEGUN = 200;

/** What is believed, whole: nothing is halfway taken in. */
interface Held {
  readonly sample: Sample;
  readonly fresh: number;
  readonly readings: readonly Reading[];
  readonly count: number;
}

export class Belief {
  private now: Setting;
  private readonly chance: Chance;
  private readonly moves: Moves;
  private readonly wanted: number;
  private count: number;
  private sample: Sample;
  /** How many the weight rested on when they were last drawn anew. */
  private fresh: number;
  private readings: readonly Reading[] = [];
  /** Those that stand for what was believed before any reading, and what they said of it. */
  private readonly begun: Sample;
  private beginning: Summary['figures'] | undefined;
  /** What was believed before any reading, and after each of them, in the order they were taken in. */
  private readonly before: Causes;
  private steps: readonly Step[] = [];
  /** The reading that is being taken in, and how much of it counts so far, 0–1. */
  private partly: { readonly reading: Reading; readonly counts: number } | undefined;
  /** What was believed before it. */
  private held: Held | undefined;

  /**
   * @param setting rating, history and warmth of the battery
   * @param count candidates
   * @param seed the same seed gives the same belief
   */
  constructor(setting: Setting, count: number, seed: number) {
    this.now = setting;
    this.wanted = count;
    this.count = count;
    this.chance = chanceFrom(seed);
    this.moves = new Moves(setting, this.chance);
    this.sample = done(this.prior());
    this.fresh = this.sample.effective();
    this.before = causesOf(this.sample);
    this.begun = new Sample(this.sample.spread(BEGUN));
  }

  /** Evenly along the axis of causes, so that rare ones have their candidates; anywhere along the others. */
  private *prior(): Work<Sample> {
    const many = this.wanted * PRIOR_TIMES;
    const candidates: Candidate[] = [];
    for (let index = 0; index < many; index++) {
      const point = Float64Array.from({ length: DIMENSIONS }, () => this.chance());
      point[0] = (index + this.chance()) / many;
      const traits = traitsOf(point, this.now);
      candidates.push({ point, traits, shown: shownOf(traits, this.now), logLikelihood: 0 });
      yield;
    }
    return new Sample(candidates);
  }

  get setting(): Setting {
    return this.now;
  }

  get all(): readonly Candidate[] {
    return this.sample.candidates;
  }

  /** How many are kept, but for those that only stand for a rare cause. */
  get size(): number {
    return this.count;
  }

  /** As many as stand for a battery that stands there, or the fewer that go through charges. */
  private get kept(): keyof typeof SIZE {
    return this.count <= SIZE.charged ? 'charged' : 'standing';
  }

  private get whole(): Held {
    const { sample, fresh, readings, count } = this;
    return this.held ?? { sample, fresh, readings, count };
  }

  /** Readings taken in whole. */
  get known(): readonly Reading[] {
    return this.whole.readings;
  }

  /** Weights of the candidates; they sum to 1. */
  weights(): Float64Array {
    return this.sample.weights();
  }

  /** Takes readings in; candidates that explain them gain. */
  observe(...readings: readonly Reading[]): void {
    done(this.towards([...this.readings, ...readings]));
  }

  /**
   * Takes back what is no longer read, and takes in what is read besides. What was begun before and is not yet done
   * is given up, and must not be gone on with.
   */
  *towards(readings: readonly Reading[]): Work {
    this.giveUp();
    const { gone } = changeBetween(this.readings, readings);
    for (const reading of gone) if (!(yield* this.takenBack(reading))) break;
    for (const reading of changeBetween(this.readings, readings).come) {
      this.held = this.whole;
      yield* this.takenIn(reading);
      this.held = undefined;
      this.steps = [...this.steps, { reading, causes: causesOf(this.sample) }];
    }
    this.readings = [...readings];
  }

  /** How the odds moved from reading to reading. */
  get trail(): Trail {
    return { before: this.before, steps: this.steps };
  }

  /**
   * Without one of its readings, where others told nearly the same. One that told much has left no candidate where
   * it did not lead: then all is forgotten, to begin anew.
   * @returns whether the other readings are still known
   */
  private *takenBack(reading: Reading): Work<boolean> {
    const logs = yield* this.logsOf(reading);
    const lighter = this.sample.heavierBy(logs, -1);
    if (lighter.effective() >= FRESHEN_BELOW * this.effective()) {
      this.sample = lighter;
      this.readings = this.readings.filter((one) => one !== reading);
      this.steps = this.steps.filter((step) => step.reading !== reading);
      return true;
    }
    this.held = this.whole;
    this.sample = yield* this.prior();
    this.fresh = this.sample.effective();
    this.readings = [];
    this.steps = [];
    this.count = this.wanted;
    this.held = undefined;
    return false;
  }

  /** Back to what was believed before the reading that is only partly taken in. */
  private giveUp(): void {
    if (!this.held) return;
    this.sample = this.held.sample;
    this.fresh = this.held.fresh;
    this.readings = this.held.readings;
    this.count = this.held.count;
    this.held = undefined;
    this.partly = undefined;
  }

  /**
   * Goes on under a setting in which something else was done to the battery since its last reading.
   * @returns false, and nothing is changed, where that lies before a reading: such a belief must begin anew
   */
  follows(setting: Setting): boolean {
    const { passages: before = [] } = this.now;
    const { passages: after = [] } = setting;
    if (!this.known.every((reading) => isUntouched(reading, before, after))) return false;
    if (JSON.stringify(before) === JSON.stringify(after)) return true;
    this.giveUp();
    this.now = setting;
    this.sample = this.sample.under(setting);
    return true;
  }

  /** Candidates as they would be weighed after these readings, at once. Nothing changes. */
  moment(readings: readonly Reading[]): Sample {
    const { sample, readings: known } = this.whole;
    return weighedBy(sample, changeBetween(known, readings), this.now);
  }

  /** What they would say then. */
  preview(readings: readonly Reading[]): Summary {
    return summaryOf(this.moment(readings), this.now, readings.at(-1));
  }

  /**
   * A reading that surprises is taken in by parts, and the candidates are drawn anew and moved about after each,
   * so that none of what is possible is lost on the way. @see Del Moral, Doucet & Jasra 2006
   */
  private *takenIn(reading: Reading): Work {
    if (isFar(reading, this.now)) yield* this.thinned(SIZE.charged);
    this.readings = [...this.readings, reading];
    for (let taken = 0; taken < 1;) {
      const logs = yield* this.logsOf(reading);
      const least = FRESHEN_BELOW * Math.min(this.fresh, this.count);
      const part = this.sample.bearable(logs, 1 - taken, least);
      taken += part;
      this.partly = { reading, counts: taken };
      this.sample = this.sample.heavierBy(logs, part);
      if (this.sample.effective() < FRESHEN_BELOW * this.fresh || taken < 1) {
        this.drawAnew();
        for (let sweep = 0; sweep < SWEEPS[this.kept]; sweep++) yield* this.moving();
        yield* this.keepingEvery();
      }
    }
    this.partly = undefined;
  }

  private *logsOf(reading: Reading): Work<Float64Array> {
    const logs: number[] = [];
    for (const { shown } of this.all) {
      logs.push(logLikelihood(reading, shown, this.now));
      yield;
    }
    return Float64Array.from(logs);
  }

  /**
   * Lets no cause be lost: beside the few that follow an unlikely one, or for want of any, some are made from those of the cause that is
   * likeliest. Each weighs what it would weigh had it been drawn there: little, until a reading speaks for it. What followed it and what
   * was made for it are two estimates of the same weight, so each counts half.
   */
  private *keepingEvery(): Work {
    const mass = this.sample.byCause();
    const [likeliest, share] = [...mass].sort((a, b) => b[1] - a[1])[0] ?? [];
    if (likeliest === undefined || share === undefined) return;
    const sources = this.all.filter(({ traits }) => traits.cause === likeliest);
    const added: Candidate[] = [];
    const logs: number[] = [];
    const halved = new Set<CauseId>();
    for (const to of this.moves.possible) {
      const known = mass.get(to.cause);
      if (to.cause === likeliest || (known ?? 0) >= LEAPT_FROM) continue;
      for (let one = 0; one < TRANSPLANTS; one++) {
        yield;
        const from = this.moves.anyOf(sources);
        const leap = from && this.moves.leapt(from, to, true);
        const times = TRANSPLANTS * (known === undefined ? 1 : 2);
        const odds = Math.log(((to.width / this.moves.widthOf(likeliest)) * share) / times);
        if (!leap) continue;
        const before = from.logLikelihood - leap.log - odds;
        const made = this.candidateAbove(leap.point, before + NO_WEIGHT);
        if (!made) continue;
        added.push(made);
        logs.push(made.logLikelihood - before);
        if (known !== undefined) halved.add(to.cause);
      }
    }
    this.sample = this.sample.lessened(halved).joinedBy(added, logs);
  }

  /** Goes on with fewer candidates: for what is dear to ask of each. */
  private *thinned(count: number): Work {
    if (count >= this.count) return;
    this.count = count;
    this.drawAnew();
    yield* this.keepingEvery();
  }

  /** How many candidates the weight really rests on. */
  effective(): number {
    return this.sample.effective();
  }

  /**
   * Moves every candidate about, which changes nothing on average and spreads what was drawn alike: for the
   * moments nobody waits.
   * @param sweeps moves of each
   */
  refine(sweeps: number): void {
    for (let sweep = 0; sweep < sweeps; sweep++) done(this.refined());
  }

  /** One move of each candidate. Until the last has moved, all is believed as before. */
  *refined(): Work {
    if (this.readings.length > 0) yield* this.moving();
  }

  /**
   * Every candidate along lines between those of the other half, which stands still meanwhile: then no group is too small for its moves
   * to leave the answer as it is. @see Foreman-Mackey et al. 2013, 3 (parallel stretch move)
   */
  private *moving(): Work {
    const moved = [...this.all];
    const mass = this.sample.byCause();
    const leapt = this.moves.possible.filter(({ cause }) => (mass.get(cause) ?? 0) >= LEAPT_FROM);
    for (const half of [0, 1]) {
      const others = new Map<CauseId, Candidate[]>();
      moved.forEach((candidate, index) => {
        if (index % 2 === half) return;
        const { cause } = candidate.traits;
        others.set(cause, [...(others.get(cause) ?? []), candidate]);
      });
      for (let index = half; index < moved.length; index += 2) {
        const here = moved[index] as Candidate;
        moved[index] = this.moved(here, others.get(here.traits.cause) ?? [], leapt);
        yield;
      }
    }
    this.sample = this.sample.replacedBy(moved);
  }

  private drawAnew(): void {
    this.sample = this.sample.stratified(this.count, LEAST_OF_EACH[this.kept], this.chance());
    this.fresh = this.sample.effective();
  }

  /**
   * So many candidates as stand for the whole belief, each as often as its weight asks for.
   * @param start 0–1; the same start gives the same candidates
   */
  spread(count: number, start?: number): Candidate[] {
    return this.sample.spread(count, start);
  }

  /**
   * One step of Metropolis' rule: the prior is flat in the cube, so the readings alone decide.
   * @param leapt causes that are leapt between
   */
  private moved(here: Candidate, alike: readonly Candidate[], leapt: readonly Possible[]): Candidate {
    const isOf = ({ cause }: Pick<Traits, 'cause'>): boolean => leapt.some((one) => one.cause === cause);
    const isLeap = this.chance() < LEAP[this.kept] && isOf(here.traits);
    const to = isLeap && this.chance() < ANYWHERE ? this.moves.anyOf(leapt) : undefined;
    const move = isLeap ? this.moves.leapt(here, to) : this.moves.nudged(here, alike);
    if (!move || (isLeap && !isOf(traitsOf(move.point, this.now)))) return here;
    // To any cause alike, so that a rare one is found: its own odds then weigh in where it would have been drawn by them.
    const odds = to ? Math.log(to.width / this.moves.widthOf(here.traits.cause)) : 0;
    const floor = here.logLikelihood + Math.log(1 - this.chance()) - odds - move.log;
    return this.candidateAbove(move.point, floor) ?? here;
  }

  /** A candidate whose likelihood is above a floor. */
  private candidateAbove(point: Point, floor: number): Candidate | undefined {
    const traits = traitsOf(point, this.now);
    const shown = shownOf(traits, this.now);
    const logLikelihood = this.likelihoodAbove(shown, floor);
    if (logLikelihood !== undefined) return { point, traits, shown, logLikelihood };
    shown.letGo();
    return undefined;
  }

  /** Of all that was read; given up as soon as what is left cannot lift it above the floor. */
  private likelihoodAbove(shown: Shown, floor: number): number | undefined {
    const { now, partly } = this;
    const counts = (reading: Reading): number => (reading === partly?.reading ? partly.counts : 1);
    const dear = this.readings.filter(isDear);
    let sum = 0;
    for (const reading of this.readings)
      if (!isDear(reading)) sum += counts(reading) * logLikelihood(reading, shown, now);
    let most = dear.reduce((total, reading) => total + counts(reading) * mostLogLikelihood(reading, now), 0);
    for (const reading of dear) {
      if (sum + most <= floor) return undefined;
      most -= counts(reading) * mostLogLikelihood(reading, now);
      sum += counts(reading) * logLikelihood(reading, shown, now);
    }
    return sum > floor ? sum : undefined;
  }

  /** A figure of every candidate, as a real battery may have it, in the order of the weights. */
  values(name: Figure): number[] {
    return valuesOf(this.sample, name, this.now, this.readings.at(-1));
  }

  /** Minutes it would give a current until 1.75 V a cell, from where it stands now. */
  reserve(amps: number): Interval {
    const stage = this.readings.at(-1)?.stage ?? 0;
    const minutes = this.all.map(({ shown }) => shown.after(stage).reserveMin(amps));
    return intervalOf(minutes, this.weights());
  }

  /** What was to be said of the battery before anything was read of it. */
  figuresAtFirst(): Summary['figures'] {
    this.beginning ??= summaryOf(this.begun, this.now, undefined).figures;
    return this.beginning;
  }

  /** Readings that do not fit with the others, the least likely first. */
  misfits(): Work<readonly Misfit[]> {
    return misfitsOf(this.sample, this.readings, this.now);
  }

  /**
   * Causes and figures as believed now.
   * @param doubted a reading that does not fit: what is said owns to it
   */
  summary(doubted?: Misfit): Summary {
    const sample = doubted ? doubting(this.sample, doubted, this.now) : this.sample;
    return summaryOf(sample, this.now, this.readings.at(-1));
  }
}
