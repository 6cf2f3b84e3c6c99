/** What the server answers of the shop itself: how it works, what it has, and the devices on its network. */
import Joi from 'joi';
import type {
  ClockAnswer,
  DeviceSaid,
  ProbeHeard,
  ProbeKey,
  Shop,
  ShopChange,
  TrustAnswer,
} from '../answers.ts';
import type { InstrumentIdentity, InstrumentReading } from '../../observation/instrument.ts';
import type { RecordedMove, StockLevel } from '../../stock/stock.ts';
import type { GoesOnTo, LiveBay } from '../../devices/bay/messages.ts';
import type { BaySample, Stretch } from '../../devices/samples.ts';
import { FIRST_DAY_STEPS } from '../firstDay.ts';
import { PACES } from '../../clock/clock.ts';
import {
  baySchema,
  costsSchema,
  handInstrumentsSchema,
  hoursSchema,
  learningSchema,
  regionSchema,
  roomSchema,
  rulesSchema,
} from '../shopSchemas.ts';
import { chargerSchema } from '../chargerSchema.ts';
import { deviceProfileSchema, devicesSchema, failingSchema, profilesSchema } from '../deviceSchemas.ts';
import { storesSchema } from '../shelfSchemas.ts';
import { typeSchema } from '../typeSchema.ts';
import { id, words, moment, count, figure, objectOf, listOf } from './parts.ts';

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
  devices: devicesSchema,
  profiles: profilesSchema,
  alarmsTo: Joi.string().allow(''),
  readingsMonths: Joi.number(),
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

const sample = objectOf<BaySample>({ at: moment, volts: figure, amps: figure, tempC: Joi.number() });

/** Least and most. */
const ends = Joi.array().items(Joi.number().required(), Joi.number().required());

const liveBay = objectOf<LiveBay>({
  order: count,
  bay: count,
  job: id,
  phase: Joi.string().valid('off', 'checking', 'ready', 'running', 'ended').required(),
  says: words,
  stage: Joi.string(),
  setA: Joi.number(),
  ah: Joi.number(),
  ohms: Joi.number(),
  sample,
  air: Joi.string(),
  goesOn: objectOf<GoesOnTo>({ title: words, untilMs: Joi.number() }),
  calls: Joi.string(),
});

export const OF_SHOP = {
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
  LiveBay: liveBay,
  LiveBays: Joi.array().items(liveBay),
  Stretches: Joi.array().items(
    objectOf<Stretch>({ from: moment, to: moment, volts: ends, amps: ends, tempC: ends }),
  ),
  DeviceProfiles: Joi.array().items(deviceProfileSchema),
  DeviceSaid: objectOf<DeviceSaid>({
    says: Joi.string(),
    figures: Joi.object().pattern(Joi.string(), Joi.number()).required(),
    trouble: Joi.string(),
  }),
  Failings: Joi.array().items(failingSchema.keys({ id: words })),
  ProbeKey: objectOf<ProbeKey>({ key: words }),
  ProbeHeard: objectOf<ProbeHeard>({ kept: count }),
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
} as const satisfies Readonly<Record<string, Joi.Schema>>;
