/** Believes off the main thread. */
import { expose } from 'comlink';
import type { Course } from '@cork-ember/core/advice/courses.ts';
import { type Advised } from '@cork-ember/core/advice/bestCheck.ts';
import { nextChecks } from '@cork-ember/core/advice/nextCheck.ts';
import { bandOf, type Band } from '@cork-ember/core/belief/band.ts';
import { Believer, type Believed, type Question } from '@cork-ember/core/belief/believer.ts';
import type { Interval } from '@cork-ember/core/belief/figures.ts';
import { shownOf } from '@cork-ember/core/observation/shown.ts';
import type { Traits } from '@cork-ember/core/candidate/traits.ts';
import { realNow } from '../api/realTime.ts';

/** Whose curves make the band of a charge. */
const BAND_COUNT = 60;
/** So long it works before it looks whether something else is asked, ms. */
const PIECE_MS = 50;

const believer = new Believer();

const believing = {
  /** @throws RangeError in one sentence for a label the model cannot be made from */
  answer: (question: Question): Believed => believer.answer(question),

  /** A piece of what is left to do. */
  goOn(question: Question): Believed {
    const until = realNow() + PIECE_MS;
    return believer.goOn(question, () => realNow() > until);
  },

  /** So many candidates as stand for the belief, for what is run forward on them. */
  spread: (question: Question, count: number): Traits[] =>
    believer
      .belief(question)
      .spread(count)
      .map(({ traits }) => traits),

  /** What the charge that is on will probably show. */
  band(question: Question, stage: number, minutes: number): Band {
    const { rating } = question.setting;
    return bandOf(believer.standIns(question, BAND_COUNT), stage, minutes, rating.capacityAh);
  },

  /** Minutes the battery would give a current, from where it stands now. */
  reserve: (question: Question, amps: number): Interval => believer.belief(question).reserve(amps),

  /**
   * What each check still open is worth, the best first.
   * @param candidates of `spread`
   * @param worths by course, by candidate
   */
  checks(
    { setting, readings }: Question,
    candidates: readonly Traits[],
    courses: readonly Course[],
    worths: readonly (readonly number[])[],
  ): Advised[] {
    const judges = candidates.map((traits) => ({ shown: shownOf(traits, setting) }));
    return nextChecks(readings, judges, worths, courses, setting);
  },
};

export type Believing = typeof believing;

expose(believing);
