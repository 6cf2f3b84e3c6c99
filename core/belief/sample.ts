/** Candidate batteries and what each of them weighs: never changed, only followed by another. */
import { solveRising } from '../electrolyte/curve.ts';
import type { CauseId } from '../candidate/causes.ts';
import type { Shown } from '../observation/shown.ts';
import type { Point } from '../candidate/cube.ts';
import type { Setting, Traits } from '../candidate/traits.ts';
import { effectiveOf, normalised } from './weights.ts';

export interface Candidate {
  readonly point: Point;
  readonly traits: Traits;
  readonly shown: Shown;
  readonly logLikelihood: number;
}

/** How finely it is sought how much of a reading the candidates bear at once, as a share of what was asked. */
const FINE = 2 ** -12;
/** A cause that weighs less is given up. */
const NOTHING = 1e-11;
/** A reading is taken in by no less than this share of what is left of it. */
const LEAST_PART = 0.02;

export class Sample {
  readonly candidates: readonly Candidate[];
  /** Logarithms, but for a constant. */
  private readonly logWeights: Float64Array;

  /** @param logWeights of the candidates; left out, all weigh alike */
  constructor(
    candidates: readonly Candidate[],
    logWeights: Float64Array = new Float64Array(candidates.length),
  ) {
    this.candidates = candidates;
    this.logWeights = logWeights;
  }

  /** Weights of the candidates; they sum to 1. */
  weights(): Float64Array {
    return normalised(this.logWeights);
  }

  /** How many candidates the weight really rests on. @see Kish 1965 */
  effective(): number {
    return effectiveOf(this.weights());
  }

  /** Every candidate heavier by a part of its logarithm, which its likelihood takes in as well. */
  heavierBy(logs: Float64Array, part: number): Sample {
    const by = (index: number): number => part * (logs[index] as number);
    return new Sample(
      this.candidates.map((candidate, index) => ({
        ...candidate,
        logLikelihood: candidate.logLikelihood + by(index),
      })),
      this.logWeights.map((weight, index) => weight + by(index)),
    );
  }

  /**
   * How much of a change of weight they bear before it rests on too few of them.
   * @param most 0–1, what is left of it
   * @param least candidates the weight is to rest on
   */
  bearable(logs: Float64Array, most: number, least: number): number {
    const effectiveAt = (part: number): number =>
      effectiveOf(
        normalised(this.logWeights.map((weight, index) => weight + part * (logs[index] as number))),
      );
    if (effectiveAt(most) >= least) return most;
    const part = solveRising(-least, 0, most, (one) => -effectiveAt(one), most * FINE);
    return Math.max(part, most * LEAST_PART);
  }

  /**
   * So many candidates as stand for all, each as often as its weight asks for: systematic resampling.
   * @param start 0–1; the same start gives the same candidates
   * @see Kitagawa 1996
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

  /** Weight of each cause that somebody stands for. */
  byCause(): ReadonlyMap<CauseId, number> {
    const weights = this.weights();
    const mass = new Map<CauseId, number>();
    this.candidates.forEach(({ traits: { cause } }, index) =>
      mass.set(cause, (mass.get(cause) ?? 0) + (weights[index] as number)),
    );
    return mass;
  }

  /**
   * Drawn anew by their weight within each cause, with some of every cause however little it weighs: one that is unlikely so far is
   * followed by its own until a reading speaks for it, and is not made up from what was likely.
   * @param least of each cause, at little weight where it has little
   * @see Cochran 1977, Sampling Techniques (stratified sampling)
   */
  stratified(count: number, least: number, start: number): Sample {
    const mass = [...this.byCause()].filter(([, share]) => share > NOTHING);
    const free = Math.max(0, count - least * mass.length);
    const weights = this.weights();
    const drawn: Candidate[] = [];
    const logs: number[] = [];
    for (const [cause, share] of mass) {
      const places = this.candidates.flatMap(({ traits }, index) => (traits.cause === cause ? [index] : []));
      const own = new Sample(
        places.map((index) => this.candidates[index] as Candidate),
        Float64Array.from(places, (index) => Math.log(weights[index] as number)),
      );
      const many = least + Math.round(free * share);
      drawn.push(...own.spread(many, start));
      logs.push(...Array.from({ length: many }, () => Math.log(share / many)));
    }
    return new Sample(drawn, Float64Array.from(logs));
  }

  /** So many at most that stand for all: one that was drawn more than once is there once, and weighs as often. */
  thinned(count: number): Sample {
    const times = new Map<Candidate, number>();
    for (const one of this.spread(count)) times.set(one, (times.get(one) ?? 0) + 1);
    return new Sample([...times.keys()], Float64Array.from(times.values(), Math.log));
  }

  /** Others in their places, at the same weights. */
  replacedBy(candidates: readonly Candidate[]): Sample {
    return new Sample(candidates, this.logWeights);
  }

  /** The same candidates at other weights. @param logWeights but for a constant */
  weighedAs(logWeights: Float64Array): Sample {
    return new Sample(this.candidates, logWeights);
  }

  /** Some causes at half their weight; the others as they were. */
  lessened(causes: ReadonlySet<CauseId>): Sample {
    return this.weighedAs(
      this.logWeights.map((weight, index) =>
        causes.has((this.candidates[index] as Candidate).traits.cause) ? weight - Math.LN2 : weight,
      ),
    );
  }

  /** A few more, at weights that are logarithms of shares of the whole. */
  joinedBy(more: readonly Candidate[], logShares: readonly number[]): Sample {
    const logs = [...this.weights()].map(Math.log).concat(logShares);
    return new Sample([...this.candidates, ...more], Float64Array.from(logs));
  }

  /** The same candidates, to whom something else was done since they were found. */
  under(setting: Setting): Sample {
    return this.replacedBy(
      this.candidates.map((candidate) => ({ ...candidate, shown: candidate.shown.under(setting) })),
    );
  }
}
