/** What the server answers of all its jobs together: ways that worked, and what was learned. */
import Joi from 'joi';
import type { CausesSaid } from '../../learning/causesHere.ts';
import type { InForce } from '../../learning/learned.ts';
import type { LearnedAnswer } from '../answers.ts';
import type { NumberHere } from '../../learning/numbersHere.ts';
import type { WayRecord } from '../../ledger/ways.ts';
import { TOPIC_IDS } from '../../learning/topics.ts';
import { words, count, figure, share, objectOf, listOf } from './parts.ts';

const way = objectOf<WayRecord>({
  way: Joi.object({ id: words, title: words }).required(),
  construction: words,
  tried: count,
  back: count,
  good: count,
  low: share.required(),
  high: share.required(),
  capacityShare: share,
  handsMin: figure,
  cost: figure,
});

const byTopic = Joi.object(Object.fromEntries(TOPIC_IDS.map((topic) => [topic, count]))).required();

const numberHere = { count, found: figure, factor: figure };

const learned = objectOf<LearnedAnswer>({
  left: count,
  imported: count,
  withdrawn: count,
  jobs: byTopic,
  causes: listOf(
    objectOf<CausesSaid>({
      asked: words,
      answer: words,
      jobs: count,
      causes: listOf(Joi.object({ cause: words, handbook: share, found: share, now: share })),
    }),
  ),
  ways: listOf(
    objectOf<LearnedAnswer['ways'][number]>({
      way: words,
      title: words,
      construction: words,
      tried: count,
      expected: figure,
      back: count,
      odds: share.required(),
      low: share.required(),
      high: share.required(),
    }),
  ),
  minutes: listOf(objectOf<LearnedAnswer['minutes'][number]>({ step: words, title: words, ...numberHere })),
  tester: objectOf<NumberHere>(numberHere).required(),
  inForce: objectOf<InForce>({
    causes: Joi.object()
      .unknown()
      .required()
      .description('how many times the handbook’s odds each cause has, by what was asked and answered'),
    ways: Joi.object()
      .unknown()
      .required()
      .description('what becomes of a forecast, by construction and way: kept, and gained'),
    minutes: Joi.object().pattern(Joi.string(), Joi.number()).required().description('factors, by step'),
    tester: figure,
    jobs: byTopic,
  }).required(),
});

export const OF_LEDGER = {
  Ways: Joi.array().items(way),
  Learned: learned,
} as const satisfies Readonly<Record<string, Joi.Schema>>;
