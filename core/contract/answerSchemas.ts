/**
 * What the server answers, as schemas: each is held to its type when this compiles, to the very answers in the server's
 * tests, and the OpenAPI document says the same.
 */
import Joi from 'joi';
import { PACES } from '../clock/clock.ts';
import type { Finding } from '../ledger/finding.ts';
import type { Shelf } from '../ledger/sets.ts';
import type { WayRecord } from '../ledger/ways.ts';
import type { CausesSaid } from '../learning/causesHere.ts';
import type { InForce } from '../learning/learned.ts';
import { TOPIC_IDS } from '../learning/topics.ts';
import type { NumberHere } from '../learning/numbersHere.ts';
import type { InstrumentIdentity, InstrumentReading } from '../observation/instrument.ts';
import type { JobEvent } from '../runsheet/entries/events.ts';
import type { BayPicture, BenchPicture, Mood, Shown } from '../runsheet/plan/benchPicture.ts';
import type { Forecast, Knot, Segment } from '../runsheet/plan/forecast.ts';
import type { Hand } from '../runsheet/plan/hand.ts';
import type { ShelfEvent } from '../shelf/entries.ts';
import type { Kept, Stay } from '../shelf/keeping.ts';
import type { ShelfReading, Spell } from '../shelf/rate.ts';
import type { RecordedMove, StockLevel } from '../stock/stock.ts';
import type {
  BatteryAnswer,
  BatteryPage,
  BatteryRow,
  CheckAnswer,
  ClockAnswer,
  JobAnswer,
  JobSummary,
  LastMeasured,
  LearnedAnswer,
  Missed,
  NextTag,
  OpenJob,
  Problem,
  Quarantined,
  FeedAnswer,
  MachineAnswer,
  MachineBattery,
  ShelvedBattery,
  SealSummary,
  Shop,
  ShopChange,
  TrustAnswer,
} from './answers.ts';
import type { Machine } from '../battery/machines.ts';
import { chargerSchema } from './chargerSchema.ts';
import {
  baySchema,
  costsSchema,
  handInstrumentsSchema,
  hoursSchema,
  learningSchema,
  regionSchema,
  roomSchema,
  rulesSchema,
} from './shopSchemas.ts';
import { placeSchema, shelfPayloads, storesSchema } from './shelfSchemas.ts';
import { typeSchema } from './typeSchema.ts';
import { FIRST_DAY_STEPS } from './firstDay.ts';

const id = Joi.string().guid().required();
const words = Joi.string().allow('').required();
const moment = Joi.number().integer().required().description('shop time, ms');
const count = Joi.number().integer().min(0).required();
const figure = Joi.number().required();
const outcome = Joi.string().valid(
  'certified',
  'returned',
  'rejected',
  'recovered',
  'retired',
  'withdrawn',
  'charged',
);
/** Every member of the type has its schema here, and nothing else has. */
const objectOf = <T>(keys: { readonly [Member in keyof Required<T>]: Joi.Schema }): Joi.ObjectSchema<T> =>
  Joi.object<T>(keys);

const listOf = (item: Joi.Schema): Joi.ArraySchema => Joi.array().items(item).required();

/** Its whole payload is described where an entry is taken in. */
const event = objectOf<JobEvent>({
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

const battery = {
  tag: words,
  typeId: words,
  serial: words,
  dateCode: words,
  owner: words,
};

const jobSummary = objectOf<JobSummary>({
  id,
  tag: words,
  bay: count,
  openedAt: moment,
  outcome: outcome.allow(null).required(),
  endedAt: Joi.number().integer().allow(null).required(),
});

const grade = Joi.string().valid('A', 'A pending', 'B', 'C', 'R');
const share = Joi.number().min(0);

const finding = objectOf<Finding>({
  job: id,
  tag: words,
  typeId: words,
  construction: words,
  dateCode: words,
  endedAt: moment,
  outcome: outcome.required(),
  grade,
  routes: listOf(Joi.object({ id: words, title: words })),
  ocvV: Joi.number(),
  crankingA: Joi.number(),
  milliohm: Joi.number(),
  capacityShare: share,
  spent: Joi.object({ handsMin: figure, bayH: figure, mainsWh: figure, waterMl: figure }).required(),
});

const measured = objectOf<LastMeasured>({
  grade,
  capacityShare: share,
  crankingA: Joi.number(),
  ocvV: Joi.number(),
});

const shop = objectOf<Shop>({
  version: count,
  name: words,
  tagLetters: words,
  hours: hoursSchema.required(),
  bays: listOf(baySchema),
  chargers: listOf(chargerSchema),
  room: roomSchema.required(),
  costs: costsSchema.required(),
  people: listOf(Joi.string()),
  handInstruments: handInstrumentsSchema.required(),
  region: regionSchema.required(),
  rules: rulesSchema.required(),
  stores: storesSchema.required(),
  learning: learningSchema,
  firstDay: Joi.object(
    Object.fromEntries(FIRST_DAY_STEPS.map((step) => [step, Joi.string().valid('done', 'skipped')])),
  ),
});

const level = objectOf<StockLevel>({
  id: words,
  name: words,
  unit: Joi.string().valid('packs', 'mL', 'g').required(),
  amount: figure,
  lowAt: figure,
  because: words,
  isLow: Joi.boolean().required(),
});

const move = objectOf<RecordedMove>({
  id: count,
  item: words,
  amount: figure,
  at: moment,
  by: words,
  why: words,
  job: Joi.string().allow(null).required(),
});

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

const shelfEvent = objectOf<ShelfEvent>({
  tag: words,
  seq: count,
  key: words,
  at: moment,
  by: words,
  recordedAt: Joi.number().integer(),
  kind: Joi.string()
    .valid(...Object.keys(shelfPayloads))
    .required(),
  payload: Joi.object().unknown().required(),
});

const shelved = objectOf<ShelvedBattery>({
  ...battery,
  grade: Joi.string().allow(null).required(),
  kept: objectOf<Kept>({
    tag: words,
    seq: count,
    stays: listOf(objectOf<Stay>({ from: moment, place: placeSchema.required() })),
    spells: listOf(
      objectOf<Spell>({
        from: moment,
        isProven: Joi.boolean().required(),
        readings: listOf(
          objectOf<ShelfReading>({ at: moment, volts: figure, tempC: Joi.number(), restedH: Joi.number() }),
        ),
      }),
    ),
    tendedAt: Joi.number().integer(),
    wateredAt: Joi.number().integer(),
    taggedAt: Joi.number().integer(),
    set: Joi.string(),
    setOf: Joi.number().integer(),
    called: Joi.object({ at: moment, said: words }),
  }).required(),
});

const machine = {
  tag: words,
  name: words,
  owner: words,
  carries: Joi.number().integer().min(1).required(),
  typeId: words,
};

const machineBattery = objectOf<MachineBattery>({
  tag: words,
  cells: count,
  typeId: words,
  serial: words,
  dateCode: words,
  place: placeSchema,
  job: Joi.string().guid().description('its last run sheet'),
  outcome: outcome.optional().description('how that ended; none while it is under way'),
  chargedV: Joi.number().description('at rest after a charge, V'),
  capacityShare: Joi.number(),
  milliohm: Joi.number(),
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

export const ANSWERS = {
  Shop: shop,
  Types: Joi.array().items(typeSchema),
  Changes: Joi.array().items(
    objectOf<ShopChange>({ id: count, at: moment, by: words, why: words, what: words }),
  ),
  Levels: Joi.array().items(level),
  Stock: Joi.object({ levels: listOf(level), moves: listOf(move) }),
  Clock: objectOf<ClockAnswer>({
    shopMs: figure,
    pace: Joi.number()
      .valid(...PACES)
      .required(),
    isPaced: Joi.boolean().required(),
    saidAt: figure,
    machineAheadMs: Joi.number(),
  }),
  Trust: objectOf<TrustAnswer>({
    port: Joi.number().integer().allow(null).required(),
    fingerprint: Joi.string().allow(null).required(),
  }),
  BatteryPage: objectOf<BatteryPage>({
    rows: listOf(
      objectOf<BatteryRow>({
        ...battery,
        last: jobSummary.allow(null).required(),
        measured: measured.required(),
      }),
    ),
    total: count,
    size: count,
  }),
  Battery: objectOf<BatteryAnswer>({
    ...battery,
    jobs: listOf(jobSummary),
    findings: listOf(finding),
    shelf: listOf(shelfEvent),
    shelfBroken: Joi.string(),
  }),
  NextTag: objectOf<NextTag>({ number: count, tag: words }),
  Ways: Joi.array().items(way),
  Learned: learned,
  Shelf: objectOf<Shelf>({
    members: listOf(
      Joi.object({
        tag: words,
        typeId: words,
        dateCode: words,
        capacityShare: figure,
        milliohm: figure,
        ocvV: figure,
      }),
    ),
    leftOut: listOf(Joi.object({ tag: words, why: words })),
  }),
  Bench: objectOf<BenchPicture>({ bays: listOf(bayOfBench), hands: listOf(hand) }),
  ShelvedBatteries: Joi.array().items(shelved),
  Machines: listOf(objectOf<Machine>(machine)),
  MachineKnown: objectOf<Machine>(machine),
  Machine: objectOf<MachineAnswer>({ ...machine, batteries: listOf(machineBattery) }),
  Feed: objectOf<FeedAnswer>({ at: moment, by: words }).allow(null),
  FeedPath: Joi.object({ path: words }),
  ShelfEvent: shelfEvent,
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
  Instruments: Joi.array().items(
    objectOf<InstrumentIdentity>({
      id: words,
      name: words,
      quantities: listOf(Joi.string()),
      isSimulated: Joi.boolean().required(),
    }),
  ),
  Reading: objectOf<InstrumentReading & { instrument: string }>({
    quantity: words,
    value: figure,
    at: moment,
    instrument: words,
  }),
  Problem: objectOf<Problem>({
    type: words,
    title: words,
    status: count,
    detail: words,
    changed: Joi.array().items(event),
  }).description('RFC 9457 problem details'),
} as const satisfies Readonly<Record<string, Joi.Schema>>;

export type AnswerName = keyof typeof ANSWERS;
