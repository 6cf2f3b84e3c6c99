/** What the server answers of jobs and of the bench they stand on. */
import Joi from 'joi';
import type { BayPicture, BenchPicture, Mood, Shown } from '../../runsheet/plan/benchPicture.ts';
import type {
  CheckAnswer,
  JobAnswer,
  Missed,
  OpenJob,
  Problem,
  Quarantined,
  SealSummary,
} from '../answers.ts';
import type { Forecast, Knot, Segment } from '../../runsheet/plan/forecast.ts';
import type { Hand } from '../../runsheet/plan/hand.ts';
import type { JobEvent } from '../../runsheet/entries/events.ts';
import { id, words, moment, count, figure, outcome, objectOf, listOf } from './parts.ts';

/** Its whole payload is described where an entry is taken in. */
export const event = objectOf<JobEvent>({
  job: id,
  seq: count,
  key: words,
  at: moment,
  recordedAt: Joi.number().integer().description('when the server had it, where that was later, ms'),
  by: words,
  kind: words,
  payload: Joi.object().unknown().required(),
});

const seal = objectOf<SealSummary>({ issue: count, at: moment, upTo: count, code: words });

/** A step as far as its job has come; what was recorded there stands with it. */
const step = Joi.object({
  key: words,
  stepId: words,
  round: count,
  status: Joi.string().valid('ahead', 'open', 'held', 'done', 'skipped', 'overridden').required(),
}).unknown();

const openJob = objectOf<OpenJob>({
  id,
  seq: count,
  at: moment,
  state: Joi.object({
    job: id,
    opened: Joi.object()
      .unknown()
      .required()
      .description('what the job goes by: battery, type, rules, hours'),
    openedAt: moment,
    bay: count,
    steps: listOf(step),
    cursor: count,
    notes: listOf(Joi.object().unknown()),
    photos: listOf(Joi.object().unknown()),
    evidence: Joi.array().items(Joi.object().unknown()),
    routes: Joi.array().items(Joi.object().unknown()),
  }).required(),
  looks: listOf(
    Joi.object({
      step: words,
      reading: Joi.object({
        at: moment,
        voltageV: figure,
        currentA: figure,
        tempC: figure,
        density: Joi.number(),
        cellDensities: Joi.array().items(Joi.number()),
      }).required(),
      watch: Joi.object().unknown().description('what the looks of this charge come to, with its newest'),
    }),
  ),
});

const segment = objectOf<Segment>({
  key: words,
  stepId: words,
  title: words,
  kind: Joi.string().valid('hands', 'wait', 'charge').required(),
  from: figure,
  to: figure,
});

const bayOfBench = objectOf<BayPicture>({
  job: id,
  bay: count,
  tag: words,
  type: words,
  mood: objectOf<Mood>({
    word: words,
    tone: Joi.string().valid('calm', 'care', 'stop').required(),
  }).required(),
  title: words,
  shown: objectOf<Shown>({ voltageV: figure, currentA: figure, tempC: figure }),
  forecast: objectOf<Forecast>({
    segments: listOf(segment),
    knots: listOf(objectOf<Knot>({ key: words, title: words, at: figure, isDone: Joi.boolean().required() })),
    readyAt: figure,
    isOpenEnded: Joi.boolean().required(),
    handsLeftMin: figure,
  }).required(),
  promisedAt: moment,
});

const hand = objectOf<Hand>({
  job: id,
  tag: words,
  bay: count,
  stepKey: words,
  title: words,
  note: words,
  at: figure,
  latestAt: figure,
  minutes: figure,
  urgency: Joi.string().valid('danger', 'overdue', 'due', 'blocked', 'later').required(),
  isRunning: Joi.boolean().required(),
});

export const OF_JOBS = {
  Bench: objectOf<BenchPicture>({ bays: listOf(bayOfBench), hands: listOf(hand) }),
  OpenJobs: Joi.array().items(openJob),
  Job: objectOf<JobAnswer>({ id, events: listOf(event), seals: listOf(seal) }),
  Jobs: listOf(objectOf<JobAnswer>({ id, events: listOf(event), seals: listOf(seal) })),
  Event: event,
  Missed: objectOf<Missed>({ events: listOf(event), isWhole: Joi.boolean().required() }),
  Quarantine: Joi.array().items(
    objectOf<Quarantined>({
      id,
      tag: words,
      bay: count,
      openedAt: moment,
      outcome: outcome.allow(null).required(),
      why: words,
    }),
  ),
  Check: objectOf<CheckAnswer>({
    code: words,
    broken: Joi.string(),
    job: id,
    tag: words,
    issue: count,
    at: moment,
    title: words,
    verdict: words,
    rows: listOf(Joi.array().items(Joi.string().allow('')).length(2)),
    signature: words,
    latest: seal,
  }),
  Photo: Joi.object({ photo: id }),
  Problem: objectOf<Problem>({
    type: words,
    title: words,
    status: count,
    detail: words,
    changed: Joi.array().items(event),
  }).description('RFC 9457 problem details'),
} as const satisfies Readonly<Record<string, Joi.Schema>>;
