/** What a recovery that has ended teaches: drawn from its record alone, by the model of today, in pieces. */
import { oddsBack } from '../advice/oddsBack.ts';
import { bringsBack } from '../advice/courses.ts';
import { Belief } from '../belief/belief.ts';
import type { Question } from '../belief/believer.ts';
import type { Candidate } from '../belief/sample.ts';
import type { Work } from '../belief/work.ts';
import { testerAt25 } from '../battery/testerWarmth.ts';
import type { Attempt, Lesson, Timed } from '../learning/lesson.ts';
import type { Reading } from '../observation/readings.ts';
import type { JobEvent } from '../runsheet/entries/events.ts';
import { effectiveEvents, foldJob } from '../runsheet/log/fold.ts';
import type { JobState } from '../runsheet/state/jobState.ts';
import { procedureOf, stepOf } from '../runsheet/state/sheet.ts';
import { questionOf } from './questionOf.ts';

/** Nobody waits, and hundreds of jobs are gone through: fewer candidates than on the screen, for odds and means. */
const CANDIDATES = 140;
const STAND_INS = 12;

/** Entries that end a step of hands. */
const ENDINGS: readonly JobEvent['kind'][] = ['affirmed', 'observed', 'measured', 'denied', 'decided'];
/** What lies further apart was not one go: so many times what the step is given, and so many minutes more. */
const ONE_GO = { times: 4, minutes: 5 } as const;
/** What is quicker than this share of it was done before, and only entered now. */
const ENTERED_ONLY = 0.15;
const MINUTE = 60_000;

/** Something somebody entered, of whatever battery. */
export interface Entered {
  readonly by: string;
  readonly at: number;
}

/** The belief about a job once these readings are known. */
function* believing({ setting, seed }: Question, readings: readonly Reading[]): Work<Belief> {
  const belief = new Belief(setting, CANDIDATES, seed);
  yield* belief.towards(readings);
  yield* belief.refined();
  return belief;
}

/** Odds that it comes back that way, by what was believed as it was chosen. */
function* expectedOf(route: string, before: JobState): Work<number> {
  const question = questionOf(before);
  const belief = yield* believing(question, question.readings);
  return yield* oddsBack(route, belief.spread(STAND_INS), question.setting);
}

/** Ways gone to their end, credited by their place: one that another had to follow did not do it. */
function* attemptsOf(log: readonly JobEvent[], { outcome, routes = [] }: JobState): Work<Attempt[]> {
  const chosen = log.flatMap((event, index) =>
    event.kind === 'routed' && bringsBack(event.payload.route)
      ? [{ route: event.payload.route, index, at: event.at }]
      : [],
  );
  const attempts: Attempt[] = [];
  for (const [place, { route, index, at }] of chosen.entries()) {
    const wasLeft = routes.some((one) => one.route === route && one.at === at && one.leftFor !== undefined);
    const isLast = place === chosen.length - 1;
    // What came of the last one is not known where it never came to a grade.
    const isOpen = isLast && outcome !== 'recovered' && outcome !== 'retired';
    if (wasLeft || isOpen) continue;
    const expected = yield* expectedOf(route, foldJob(log.slice(0, index)).state);
    attempts.push({ way: route, expected, isBack: isLast && outcome === 'recovered' });
  }
  return attempts;
}

/** Steps of hands that were done in one go, right after another entry of the same person. */
export function timedIn(
  log: readonly JobEvent[],
  state: JobState,
  beside: readonly Entered[],
): readonly Timed[] {
  const openedAt = new Map(state.steps.map(({ key, openedAt: at }) => [key, at]));
  const timed: Timed[] = [];
  log.forEach((event, index) => {
    if (!ENDINGS.includes(event.kind) || !('step' in event.payload)) return;
    const { step } = event.payload;
    const definition = stepOf(state, step);
    const opened = openedAt.get(step);
    if (!definition || definition.handsMin <= 0 || opened === undefined) return;
    const earlier = [...log.slice(0, index), ...beside]
      .filter(({ by, at }) => by === event.by && at < event.at)
      .reduce((last, { at }) => Math.max(last, at), Number.NEGATIVE_INFINITY);
    // What waited for its time to come says nothing of hands.
    if (earlier < opened) return;
    const minutes = (event.at - earlier) / MINUTE;
    const least = ENTERED_ONLY * definition.handsMin;
    const most = ONE_GO.times * definition.handsMin + ONE_GO.minutes;
    if (minutes >= least && minutes <= most)
      timed.push({ step: definition.id, minutes, usualMin: definition.handsMin });
  });
  return timed;
}

const isTester = (reading: Reading): reading is Extract<Reading, { kind: 'tester' }> =>
  reading.kind === 'tester';
/** Its capacity was counted: then it is known without the tester what the tester should show. */
const isCounted = ({ kind, stage = 0 }: Reading): boolean =>
  (kind === 'reserve' || kind === 'drain') && stage > 0;

/** What a tester showed over what all else says it should have, as logarithms. */
function testerIn(
  { readings }: Question,
  all: readonly Candidate[],
  weights: Float64Array,
): readonly number[] {
  if (!readings.some(isCounted)) return [];
  return readings.filter(isTester).flatMap(({ stage = 0, amps }) => {
    if (stage === 0) return [];
    const at = (candidate: Candidate): number => candidate.shown.after(stage).referenceA();
    const expected = all.reduce((sum, candidate, index) => sum + at(candidate) * (weights[index] ?? 0), 0);
    const [first] = all;
    const seen = first && testerAt25(amps, first.shown.after(stage).caseC());
    return seen?.isTold && expected > 0 ? [Math.log(seen.amps / expected)] : [];
  });
}

/**
 * @param log of the job, as it stands in the record
 * @param beside what else was entered in the shop meanwhile
 * @returns undefined where it is no recovery, or has not ended
 */
export function* lessonOf(log: readonly JobEvent[], beside: readonly Entered[]): Work<Lesson | undefined> {
  const { state } = foldJob(log);
  const { outcome, endedAt, job } = state;
  if (outcome === undefined || endedAt === undefined || procedureOf(state).routes === undefined)
    return undefined;
  const events = effectiveEvents(log);
  const attempts = yield* attemptsOf(events, state);
  const question = questionOf(state);
  const isCapacityKnown = question.readings.some(isCounted);
  const belief = yield* believing(
    question,
    isCapacityKnown ? question.readings.filter((one) => !isTester(one)) : question.readings,
  );
  const tester = testerIn(question, belief.all, belief.weights());
  const { causes } = belief.preview(question.readings);
  return {
    job,
    endedAt,
    isWithdrawn: outcome !== 'recovered' && outcome !== 'retired',
    history: question.setting.history,
    causes,
    attempts,
    minutes: timedIn(events, state, beside),
    tester,
  };
}
