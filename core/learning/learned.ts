/** What a shop has learned from its own jobs: what its judgement goes by from now on, and what that rests on. */
import { causeFactors, causesSaid, type CauseFactors, type CausesSaid } from './causesHere.ts';
import type { Lesson } from './lesson.ts';
import { minutesHere, testerHere, type MinutesHere, type NumberHere } from './numbersHere.ts';
import { TOPIC_IDS, type LearningRule, type Topic } from './topics.ts';
import { waysHere, wayFactors, type WayFactors, type WayHere } from './waysHere.ts';

/** What the judgement goes by: factors on the handbook's figures, nothing where nothing was learned. */
export interface InForce {
  readonly causes: CauseFactors;
  readonly ways: WayFactors;
  /** By step. */
  readonly minutes: Readonly<Record<string, number>>;
  readonly tester: number;
  /** Jobs each rests on. */
  readonly jobs: Readonly<Record<Topic, number>>;
}

export interface Learned {
  readonly inForce: InForce;
  readonly causes: readonly CausesSaid[];
  readonly ways: readonly WayHere[];
  readonly minutes: MinutesHere;
  readonly tester: NumberHere;
}

/** A lesson, and whether its job came from another shop. */
export interface KeptLesson {
  readonly lesson: Lesson;
  readonly isImported: boolean;
}

/** Lessons that count for a topic. */
export function countedFor(topic: Topic, kept: readonly KeptLesson[], rule: LearningRule): Lesson[] {
  const since = rule.since[topic] ?? Number.NEGATIVE_INFINITY;
  return kept
    .filter(
      ({ lesson, isImported }) =>
        lesson.endedAt > since &&
        (rule.countsImported || !isImported) &&
        (rule.countsWithdrawn || !lesson.isWithdrawn),
    )
    .map(({ lesson }) => lesson);
}

export function learnedFrom(kept: readonly KeptLesson[], rule: LearningRule): Learned {
  const by = (topic: Topic): Lesson[] => countedFor(topic, kept, rule);
  const causes = causeFactors(by('causes'));
  const ways = waysHere(by('ways'));
  const minutes = minutesHere(by('minutes'));
  const tester = testerHere(by('tester'));
  return {
    inForce: {
      causes,
      ways: wayFactors(ways),
      minutes: Object.fromEntries(Object.entries(minutes).map(([step, { factor }]) => [step, factor])),
      tester: tester.factor,
      jobs: Object.fromEntries(TOPIC_IDS.map((topic) => [topic, jobsWith(topic, by(topic))])) as Record<
        Topic,
        number
      >,
    },
    causes: causesSaid(by('causes'), causes),
    ways,
    minutes,
    tester,
  };
}

/** Jobs that say something of it. */
function jobsWith(topic: Topic, lessons: readonly Lesson[]): number {
  const says: Record<Topic, (lesson: Lesson) => boolean> = {
    causes: () => true,
    ways: ({ attempts }) => attempts.length > 0,
    minutes: ({ minutes }) => minutes.length > 0,
    tester: ({ tester }) => tester.length > 0,
  };
  return lessons.filter(says[topic]).length;
}
