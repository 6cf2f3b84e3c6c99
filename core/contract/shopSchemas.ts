/** What may be changed of how the shop works: rules, chargers, bays, room, types. One schema for form, request and import. */
import Joi from 'joi';
import { COST_WORDS, type CostPath } from '../advice/worth.ts';
import { HOUSE_RULES, RULE_IDS } from '../rules/houseRules.ts';
import { chargerSchema, number, text } from './chargerSchema.ts';
import { HAND_INSTRUMENT_IDS, HAND_INSTRUMENTS } from '../observation/handInstruments.ts';
import { DATE_FORMS } from '../units/region.ts';
import { FIRST_DAY_STEPS } from './firstDay.ts';
import { devicesSchema, profilesSchema } from './deviceSchemas.ts';
import { MOST_BAYS, personSchema } from './schemas.ts';
import { TOPIC_IDS } from '../learning/topics.ts';
import { storesSchema } from './shelfSchemas.ts';
import { knownTimeZone } from './timeZone.ts';
import { typeSchema } from './typeSchema.ts';

export const rulesSchema = Joi.object(
  Object.fromEntries(
    RULE_IDS.map((id) => [
      id,
      Joi.string()
        .valid(...Object.keys(HOUSE_RULES[id].options))
        .messages({ '*': `${HOUSE_RULES[id].title}: choose one of its options.` }),
    ]),
  ),
);

export const baySchema = Joi.object({
  number: Joi.number().integer().min(1).max(MOST_BAYS).required(),
  charger: Joi.string().max(31).required(),
});

export const roomSchema = Joi.object({
  volumeM3: number(1, 10_000, 'Room', 'm³'),
  pricePerKwh: number(0, 10, 'Price of a kilowatt-hour', ''),
});

const cost = (path: CostPath): Joi.NumberSchema => {
  const words = COST_WORDS.find((one) => one.path === path);
  return number(words && 'least' in words ? words.least : 0, words?.most ?? 1000, words?.label ?? path, '');
};

export const costsSchema = Joi.object({
  handsPerHour: cost('handsPerHour'),
  bayPerDay: cost('bayPerDay'),
  waterPerL: cost('waterPerL'),
  consumables: cost('consumables'),
  corePerAh: cost('corePerAh'),
  newBase: cost('newBase'),
  newPerAh: Joi.object({
    flooded: cost('newPerAh.flooded'),
    agm: cost('newPerAh.agm'),
    gel: cost('newPerAh.gel'),
  }).required(),
  resale: Joi.object({ A: cost('resale.A'), B: cost('resale.B'), C: cost('resale.C') }).required(),
  lifeLeft: Joi.object({
    A: cost('lifeLeft.A'),
    B: cost('lifeLeft.B'),
    C: cost('lifeLeft.C'),
  }).required(),
  fee: cost('fee'),
});

const oneOf = (words: string, ...options: readonly string[]): Joi.StringSchema =>
  Joi.string()
    .valid(...options)
    .required()
    .messages({ '*': `${words}: ${options.join(' or ')}.` });

export const handInstrumentsSchema = Joi.object(
  Object.fromEntries(
    HAND_INSTRUMENT_IDS.map((id) => {
      const { title, kinds } = HAND_INSTRUMENTS[id];
      return [id, oneOf(title, ...Object.keys(kinds)).optional()];
    }),
  ),
);

export const regionSchema = Joi.object({
  temperature: oneOf('Temperatures', '°C', '°F'),
  volume: oneOf('Volumes', 'mL', 'fl oz'),
  mass: oneOf('Masses', 'kg', 'lb'),
  decimalMark: oneOf('Decimal mark', '.', ','),
  clock: oneOf('Hours of a day', '24 h', '12 h'),
  date: oneOf('Dates', ...Object.keys(DATE_FORMS)),
  money: Joi.object({
    sign: Joi.string()
      .trim()
      .pattern(/^[^\d.,\s]{1,4}$/)
      .required()
      .messages({ '*': 'Sign of the shop’s money: one to four letters or signs.' }),
    decimals: Joi.number()
      .integer()
      .min(0)
      .max(3)
      .required()
      .messages({ '*': 'Decimals of the shop’s money: 0 to 3.' }),
    isAfter: Joi.boolean().required(),
  }).required(),
});

/** Seven days from Sunday, each closed (null) or minutes from its opening to its closing; one at least open. */
function openingWeek(week: readonly unknown[], helpers: Joi.CustomHelpers): unknown {
  const isDay = (day: unknown): boolean => {
    if (day === null) return true;
    if (!Array.isArray(day) || day.length !== 2) return false;
    const [open, close] = day as [unknown, unknown];
    return (
      Number.isInteger(open) &&
      Number.isInteger(close) &&
      0 <= Number(open) &&
      Number(open) < Number(close) &&
      Number(close) <= 1440
    );
  };
  if (!week.every(isDay)) return helpers.error('week.day');
  return week.some((day) => day !== null) ? week : helpers.error('week.open');
}

const minuteOfDay = Joi.number().integer().min(0).max(1440);

export const hoursSchema = Joi.object({
  timeZone: Joi.string()
    .max(60)
    .required()
    .custom(knownTimeZone)
    .messages({ '*': 'Time zone: one of the world’s, such as Europe/Dublin.' }),
  lunch: Joi.array()
    .length(2)
    .items(minuteOfDay)
    .custom((lunch: readonly number[], helpers) =>
      (lunch[0] ?? 0) < (lunch[1] ?? 0) ? lunch : helpers.error('array.base'),
    )
    .messages({ '*': 'Lunch: from a time to a later one.' }),
  holidays: Joi.array()
    .items(Joi.string().pattern(/^\d{4}-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])$/))
    .max(200)
    .unique()
    .messages({ '*': 'Holidays: days such as 2026-12-24, each once, at most 200.' }),
  week: Joi.array().length(7).custom(openingWeek).required().messages({
    'array.length': 'Opening hours: a week has seven days.',
    'week.day': 'Opening hours: each day opens before it closes, between 00:00 and 24:00.',
    'week.open': 'Opening hours: the shop must open on at least one day.',
  }),
});

export const typesSchema = Joi.array().items(typeSchema).min(1).max(2000).unique('id').required().messages({
  'array.unique': 'A type code stands twice in this list.',
  'array.min': 'The list holds no type.',
});

export const why = Joi.string()
  .trim()
  .min(4)
  .max(300)
  .required()
  .messages({ '*': 'Say in a few words why, at least 4 letters; it stands on the record.' });

const requestKey = Joi.string()
  .guid()
  .description('made by the client; a retry with the same key is done once');

/** Something counted in or out of the stock. */
export const stockMoveSchema = Joi.object({
  by: personSchema,
  item: text(40, 'Item'),
  amount: number(-1_000_000, 1_000_000, 'How much', '')
    .invalid(0)
    .messages({ 'any.invalid': 'How much: not 0.' }),
  why: text(200, 'Why'),
  requestKey: requestKey.required(),
});

export const spillSchema = Joi.object({
  by: personSchema,
  item: text(40, 'From'),
  ml: number(1, 100_000, 'How much', 'mL'),
  density25: number(1.01, 1.84, 'Density at 25 °C', 'g/cm³'),
  requestKey: requestKey.required(),
});

/** What the shop learns from. */
export const learningSchema = Joi.object({
  countsImported: Joi.boolean().required(),
  countsWithdrawn: Joi.boolean().required(),
  since: Joi.object(
    Object.fromEntries(TOPIC_IDS.map((topic) => [topic, Joi.number().integer().min(0)])),
  ).required(),
});

/** One change of the shop; parts not named stay as they are. */
export const shopChangeSchema = Joi.object({
  version: Joi.number().integer().min(1).description('of the shop it was changed from'),
  requestKey,
  by: personSchema,
  why,
  rules: rulesSchema.min(1),
  chargers: Joi.array().items(chargerSchema).min(1).max(64).unique('id'),
  bays: Joi.array().items(baySchema).min(1).max(MOST_BAYS).unique('number'),
  room: roomSchema,
  costs: costsSchema,
  region: regionSchema,
  handInstruments: handInstrumentsSchema,
  name: text(80, 'Name of the shop').optional(),
  tagLetters: Joi.string()
    .uppercase()
    .pattern(/^[A-Z][A-Z0-9]{0,5}$/)
    .messages({ '*': 'Tags begin with 1 to 6 letters or digits, a letter first.' }),
  hours: hoursSchema,
  people: Joi.array().items(personSchema).max(40).unique().messages({
    'array.unique': 'People: one name stands twice.',
    'array.max': 'People: at most 40.',
  }),
  types: typesSchema.optional(),
  stores: storesSchema,
  learning: learningSchema,
  devices: devicesSchema,
  profiles: profilesSchema,
  alarmsTo: Joi.string()
    .allow('')
    .max(200)
    .messages({ '*': 'Where alarms go: an address of 200 letters at most.' }),
  readingsMonths: number(1, 240, 'Readings are kept whole for', 'months').integer().optional(),
  firstDay: Joi.object(
    Object.fromEntries(FIRST_DAY_STEPS.map((step) => [step, Joi.string().valid('done', 'skipped')])),
  ),
})
  .or(
    'rules',
    'chargers',
    'bays',
    'room',
    'name',
    'tagLetters',
    'hours',
    'people',
    'costs',
    'types',
    'region',
    'handInstruments',
    'stores',
    'learning',
    'devices',
    'profiles',
    'alarmsTo',
    'readingsMonths',
    'firstDay',
  )
  .messages({
    'object.missing':
      'Say what is to change: name, letters of the tags, hours, people, rules, chargers, bays, room, costs, stores, what it learns from, devices or types.',
  });
