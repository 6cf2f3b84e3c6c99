/**
 * Believes about the batteries on a bench: answers at once, by weight, and does the rest of the work in pieces, so
 * that no entry waits for it. A battery that is asked about again is remembered for a while.
 */
import { AT_REST, Belief, SIZE } from './belief.ts';
import { ASKED, explainedBy, explaining, type Explained, type Factors } from './explain.ts';
import type { Summary } from './figures.ts';
import type { Misfit } from './misfit.ts';
import type { Reading } from '../observation/readings.ts';
import type { Candidate } from './sample.ts';
import { strataOf, type Stratum } from './strata.ts';
import type { Setting } from '../candidate/traits.ts';
import { done, type Work } from './work.ts';

/** A battery, what was done to it and what was read. */
export interface Question {
  readonly setting: Setting;
  readonly readings: readonly Reading[];
  /** The same seed believes the same. */
  readonly seed: number;
}

export interface Believed {
  readonly summary: Summary;
  readonly explained: readonly Explained[];
  /** Readings that nothing believed explains, the strangest first: each is read again, or it is something else. */
  readonly misfits: readonly Misfit[];
  /** What was to be said before anything was read, once somebody had the time to work it out. */
  readonly atFirst?: Summary['figures'];
  /** Whether it was moved about since the last reading: what is run forward on it may rest on it. */
  readonly isAtRest: boolean;
}

/** Batteries that are remembered: one on the screen, and those one goes back and forth to. */
const REMEMBERED = 3;

interface Known {
  readonly id: string;
  readonly belief: Belief;
  readonly factors: Map<string, Factors>;
  strata: readonly Stratum[] | undefined;
  readonly asked: string;
  summary: Summary;
  misfits: readonly Misfit[];
  atFirst: Summary['figures'] | undefined;
  /** What is left to do; undefined once it is at rest. */
  work: Work | undefined;
}

const idOf = ({ setting, seed }: Question): string => JSON.stringify([{ ...setting, passages: [] }, seed]);
const askedOf = ({ setting, readings }: Question): string => JSON.stringify([setting.passages, readings]);

export class Believer {
  private readonly count: number;
  private known: readonly Known[] = [];

  /** @param count candidates of each battery */
  constructor(count: number = SIZE.standing) {
    this.count = count;
  }

  /**
   * What is to be believed now. What is left to do is begun anew.
   * @throws RangeError in one sentence for a label the model cannot be made from
   */
  answer(question: Question): Believed {
    return believedOf(this.about(question), question);
  }

  /**
   * Goes on with what is left to do about a question.
   * @param isEnough asked after each piece, whether to pause
   */
  goOn(question: Question, isEnough: () => boolean): Believed {
    const known = this.about(question);
    while (known.work && !isEnough()) if (known.work.next().done) known.work = undefined;
    return believedOf(known, question);
  }

  /** So many candidates as stand for what is to be believed now, whether every reading is taken in yet or not. */
  standIns(question: Question, count: number): Candidate[] {
    return this.about(question).belief.moment(question.readings).spread(count);
  }

  /** The belief itself, with every reading taken in. */
  belief(question: Question): Belief {
    const known = this.about(question);
    if (known.work) {
      done(known.belief.towards(question.readings));
      known.work = this.work(known, question);
    }
    return known.belief;
  }

  private about(question: Question): Known {
    const { setting, readings, seed } = question;
    const id = idOf(question);
    const before = this.known.find((one) => one.id === id);
    const asked = askedOf(question);
    if (before?.asked === asked) {
      this.remember(before);
      return before;
    }
    const follows = before?.belief.follows(setting) ? before : undefined;
    const belief = follows?.belief ?? new Belief(setting, this.count, seed);
    const known: Known = {
      id,
      belief,
      asked,
      // What readings say by themselves hangs on what was done before them, which is the same if it follows.
      factors: follows?.factors ?? new Map<string, Factors>(),
      strata: before?.strata?.map((one) => ({
        ...one,
        candidates: one.candidates.map((shown) => shown.under(setting)),
      })),
      summary: belief.preview(readings),
      misfits: (before?.misfits ?? []).filter(({ reading }) => isAmong(reading, readings)),
      atFirst: follows?.atFirst,
      work: undefined,
    };
    known.work = this.work(known, question);
    this.remember(known);
    return known;
  }

  private remember(known: Known): void {
    this.known = [...this.known.filter(({ id }) => id !== known.id), known].slice(-REMEMBERED);
  }

  /** All that is left to do for an answer at rest. */
  private *work(known: Known, { setting, readings, seed }: Question): Work {
    const { belief } = known;
    yield* belief.towards(readings);
    known.misfits = yield* belief.misfits();
    known.summary = belief.summary(known.misfits[0]);
    yield;
    known.atFirst = belief.figuresAtFirst();
    yield;
    known.strata ??= yield* strataOf(setting, ASKED.still, seed);
    yield* explaining(known.strata, readings, setting, known.factors);
    const moves = belief.size <= SIZE.charged ? AT_REST.charged : AT_REST.standing;
    for (let move = 0; move < moves; move++) {
      yield* belief.refined();
      known.summary = belief.summary(known.misfits[0]);
      yield;
    }
    // Moved about, the candidates say more surely which reading it is.
    known.misfits = yield* belief.misfits();
    known.summary = belief.summary(known.misfits[0]);
  }
}

const isAmong = (reading: Reading, all: readonly Reading[]): boolean => {
  const text = JSON.stringify(reading);
  return all.some((one) => JSON.stringify(one) === text);
};

const believedOf = (
  { belief, summary, factors, misfits, atFirst, work }: Known,
  { readings }: Question,
): Believed => ({
  summary,
  misfits,
  ...(atFirst ? { atFirst } : {}),
  explained: explainedBy(factors, readings, belief.trail, summary.causes),
  isAtRest: work === undefined,
});
