/** What may be recorded of a battery off the bench. */
import Joi from 'joi';
import { MOST_LOGGED_DAYS } from '../shelf/loggedWarmth.ts';
import { PLACE_KINDS } from '../shelf/places.ts';
import { MOST_STORES, type Store } from '../shelf/stores.ts';
import { momentSchema } from './moments.ts';
import { MOST_CARRIED } from '../battery/machines.ts';
import { batterySchema, personSchema, tagSchema } from './schemas.ts';

const words = (label: string, most: number): Joi.StringSchema =>
  Joi.string()
    .trim()
    .max(most)
    .label(label)
    .messages({ 'string.max': `${label}: at most ${most} letters.`, '*': `${label}: words are needed.` });

const [COLDEST_C, HOTTEST_C] = [-40, 60] as const;
const warmC = Joi.number()
  .min(COLDEST_C)
  .max(HOTTEST_C)
  .messages({ '*': `Warmth of the place: from ${COLDEST_C} to ${HOTTEST_C} °C.` });

const byMonthC = Joi.array().items(warmC).length(12).required();
const warmth = Joi.alternatives(
  Joi.object({ tempC: warmC.required() }),
  Joi.object({ byMonthC }),
  Joi.object({
    byMonthC,
    loggedFrom: Joi.number().integer().required(),
    loggedC: Joi.array().items(warmC).min(1).max(MOST_LOGGED_DAYS).required(),
  }),
).messages({ '*': 'Warmth of the place: one figure, twelve from January on, or a logger’s days, °C.' });

/** How warm it is where batteries stand. */
export const storesSchema = Joi.array()
  .items(
    Joi.object({
      name: words('Store', 60).min(1).required(),
      warmth: warmth.required(),
    }),
  )
  .max(MOST_STORES)
  .unique((a: Store, b: Store) => a.name.toLowerCase() === b.name.toLowerCase())
  .messages({
    'array.max': `Stores: at most ${MOST_STORES}.`,
    'array.unique': 'Stores: one name stands twice.',
  });

/** A parked machine draws tens of milliamperes; an ampere is a lamp left on. */
const MOST_DRAW_MA = 5000;

export const placeSchema = Joi.object({
  kind: Joi.string()
    .valid(...PLACE_KINDS)
    .required()
    .messages({ '*': 'Place: say where it goes.' }),
  name: words('Place', 60).allow('').default(''),
  charger: Joi.string().max(31).messages({ '*': 'Maintainer: one of the shop’s chargers.' }),
  machine: tagSchema.optional().label('Machine').messages({ '*': 'Machine: its tag, such as M-0007.' }),
  to: words('Name', 80),
  warmth,
  isDry: Joi.boolean().valid(true).messages({ '*': 'Not filled yet: yes, or left out.' }),
  drawMa: Joi.number()
    .min(0)
    .max(MOST_DRAW_MA)
    .messages({ '*': `Draw while connected: from 0 to ${MOST_DRAW_MA} mA.` }),
});

/** The most that twelve cells rest at, and then some. */
const MOST_V = 40;

const volts = (label: string): Joi.NumberSchema =>
  Joi.number()
    .min(0)
    .max(MOST_V)
    .messages({ '*': `${label}: from 0 to ${MOST_V} V.` });

export const shelfPayloads = {
  placed: Joi.object({ place: placeSchema.required(), why: words('Reason', 200) }),
  read: Joi.object({
    volts: volts('Rested voltage').required(),
    tempC: Joi.number().min(COLDEST_C).max(HOTTEST_C).messages({ '*': 'Temperature: from −40 to 60 °C.' }),
    restedH: Joi.number().min(0).max(10_000).messages({ '*': 'Rested: from 0 to 10000 h.' }),
    source: Joi.string().valid('keypad', 'meter').required(),
  }),
  charged: Joi.object({ isProven: Joi.boolean().required() }),
  tended: Joi.object({
    floatV: volts('Float voltage'),
    waterMl: Joi.number().min(0).max(20_000).messages({ '*': 'Water: from 0 to 20000 mL.' }),
  }),
  joined: Joi.object({
    set: words('Set', 60).allow('').required(),
    of: Joi.number().integer().min(2).max(24).messages({ '*': 'Set: of 2 to 24 batteries.' }),
  }),
  parted: Joi.object({}),
  tagged: Joi.object({}),
  called: Joi.object({ said: words('What was said', 500).min(1).required() }),
} as const;

const entrySchema = Joi.alternatives(
  ...Object.entries(shelfPayloads).map(([kind, payload]) =>
    Joi.object({ kind: Joi.string().valid(kind).required(), payload: payload.required() }),
  ),
);

/** An entry as it comes; the payload is checked by its kind, so that a fault has its own sentence. */
export const shelfEntrySchema = Joi.object({
  requestKey: Joi.string().guid().required(),
  by: personSchema,
  enteredAt: momentSchema('Entered').description('when it was entered, where it waited to be sent'),
  battery: batterySchema.description('one the shop has not had yet: it looks after it from now on'),
  entry: Joi.object({
    kind: Joi.string()
      .valid(...Object.keys(shelfPayloads))
      .required(),
    payload: Joi.object()
      .required()
      .when('kind', {
        switch: Object.entries(shelfPayloads).map(([kind, payload]) => ({ is: kind, then: payload })),
      }),
  }).required(),
});

/** A machine that batteries work in; its tag is given to it by the shop. */
export const machineSchema = Joi.object({
  by: personSchema,
  name: words('Machine', 60).min(1).required(),
  owner: words('Whose it is', 80).min(1).default('stock'),
  carries: Joi.number()
    .integer()
    .min(1)
    .max(MOST_CARRIED)
    .required()
    .messages({ '*': `Batteries in it: from 1 to ${MOST_CARRIED}.` }),
  typeId: Joi.string().max(40).required().messages({ '*': 'Type: choose what it carries.' }),
});

/** Who makes a new address for the calendar. */
export const feedSchema = Joi.object({ by: personSchema });

export const shelfEntryDocumentSchema = shelfEntrySchema.keys({ entry: entrySchema.required() });
