/** What a job asks a belief, and what the shop has learned that its answer goes by. */
import type { Question } from '../belief/believer.ts';
import { causesHere } from '../learning/causesHere.ts';
import type { InForce } from '../learning/learned.ts';
import type { JobState } from '../runsheet/state/jobState.ts';
import { courseOf, settingOf, type Course } from './fromJob.ts';

/** The same battery always begins with the same candidates. */
export function seedOf(tag: string): number {
  return [...tag].reduce((sum, letter) => (sum * 31 + letter.charCodeAt(0)) % 1_000_003, 7);
}

/** @param learned by the shop; the handbook's odds alone where nothing is */
export function questionOf(
  state: JobState,
  course: Course = courseOf(state),
  learned?: Pick<InForce, 'causes' | 'tester'>,
): Question {
  const setting = settingOf(state, course);
  const { history } = setting;
  return {
    setting: learned
      ? {
          ...setting,
          history: { ...history, here: causesHere(history, learned.causes) },
          testerFactor: learned.tester,
        }
      : setting,
    readings: course.readings,
    seed: seedOf(state.opened.battery.tag),
  };
}
