/** What the server answers of batteries, on the bench and off it, and of the machines they work in. */
import Joi from 'joi';
import type {
  BatteryAnswer,
  BatteryPage,
  BatteryRow,
  JobSummary,
  LastMeasured,
  NextTag,
  FeedAnswer,
  MachineAnswer,
  MachineBattery,
  ShelvedBattery,
} from '../answers.ts';
import type { Finding } from '../../ledger/finding.ts';
import type { Kept, Stay } from '../../shelf/keeping.ts';
import type { Machine } from '../../battery/machines.ts';
import type { Shelf } from '../../ledger/sets.ts';
import type { ShelfEvent } from '../../shelf/entries.ts';
import type { ShelfReading, Spell } from '../../shelf/rate.ts';
import { placeSchema, shelfPayloads } from '../shelfSchemas.ts';
import { id, words, moment, count, figure, share, outcome, grade, objectOf, listOf } from './parts.ts';

export const battery = {
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

export const finding = objectOf<Finding>({
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

export const shelfEvent = objectOf<ShelfEvent>({
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

export const machine = {
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

export const OF_BATTERIES = {
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
  ShelvedBatteries: Joi.array().items(shelved),
  Machines: listOf(objectOf<Machine>(machine)),
  MachineKnown: objectOf<Machine>(machine),
  Machine: objectOf<MachineAnswer>({ ...machine, batteries: listOf(machineBattery) }),
  Feed: objectOf<FeedAnswer>({ at: moment, by: words }).allow(null),
  FeedPath: Joi.object({ path: words }),
  ShelfEvent: shelfEvent,
} as const satisfies Readonly<Record<string, Joi.Schema>>;
