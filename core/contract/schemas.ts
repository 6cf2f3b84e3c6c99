/**
 * What may cross the wire: one Joi schema each for request, form and import. Messages are written for the
 * technician; the OpenAPI document is generated from these.
 */
import Joi from 'joi';
import { OWNERS } from '../advice/worth.ts';
import { COMPLAINTS } from '../candidate/causes.ts';
import { PACES } from '../clock/clock.ts';
import { AGE_UNKNOWN } from '../battery/dateCode.ts';
import { chargerSchema } from './chargerSchema.ts';
import { MOST_DELIVERED } from './limits.ts';
import { momentSchema } from './moments.ts';
import { readingDocumentSchema, readingSchema } from './readingSchema.ts';
import { knownTimeZone } from './timeZone.ts';
import { takenTypeSchema, typeSchema } from './typeSchema.ts';

const stepKey = Joi.string()
  .pattern(/^[a-z0-9-]+#\d{1,2}$/)
  .required()
  .description('step and round, such as "charge#2"');
const amps = Joi.number().min(0).max(1000);
const shortText = (max: number): Joi.StringSchema => Joi.string().trim().max(max);

export const personSchema = shortText(40).min(1).required().label('Name').messages({
  'any.required': 'Say who is at the bench.',
  'string.empty': 'Say who is at the bench.',
  'string.max': 'Name: at most 40 letters.',
});

const chargeValues = Joi.object({
  voltageV: Joi.number().min(0).max(100).required(),
  currentA: amps.required(),
  tempC: Joi.number().min(-60).max(150).required(),
  density: Joi.number().min(1).max(1.4).description('of a pilot cell, as the hydrometer floats, g/cm³'),
  cellDensities: Joi.array()
    .items(Joi.number().min(1).max(1.4))
    .min(1)
    .max(12)
    .description('of every cell, the first at the positive post, as the hydrometer floats, g/cm³'),
});

const source = shortText(60).required().description('keypad, or the instrument it was read from');

/** Rows of a log that are kept: its shape, not its every second. */
export const MOST_LOGGED = 400;

const stepPayloads = {
  affirmed: Joi.object({ step: stepKey }),
  observed: Joi.object({
    step: stepKey,
    chambers: Joi.array().items(Joi.boolean()).min(1).max(12),
    code: shortText(40).allow(''),
  }),
  denied: Joi.object({ step: stepKey, denial: shortText(40).required() }),
  measured: Joi.object({
    step: stepKey,
    values: Joi.object()
      .pattern(Joi.string().max(40), Joi.alternatives(Joi.number(), Joi.string().max(80)))
      .max(20)
      .required(),
    source,
  }),
  skipped: Joi.object({ step: stepKey }),
  overridden: Joi.object({ step: stepKey, reason: shortText(300).required() }),
  chargeStarted: Joi.object({
    step: stepKey,
    currentA: amps.required(),
    dueMin: Joi.number().min(1).max(30_000),
    charger: chargerSchema.optional(),
  }),
  chargeRead: Joi.object({ step: stepKey, values: chargeValues.required(), source }),
  chargeLogged: Joi.object({
    step: stepKey,
    file: shortText(120).min(1).required(),
    rows: Joi.number().integer().min(2).max(5_000_000).required(),
    readings: Joi.array()
      .items(chargeValues.keys({ afterMin: Joi.number().min(0).max(60_000).required() }))
      .min(2)
      .max(MOST_LOGGED)
      .required(),
  }),
  chargeSet: Joi.object({
    step: stepKey,
    currentA: Joi.number().min(0).max(500),
    voltageV: Joi.number().min(0).max(40),
  }).or('currentA', 'voltageV'),
  chargePaused: Joi.object({ step: stepKey, reason: Joi.string().valid('hot', 'stopped').required() }),
  chargeResumed: Joi.object({ step: stepKey, tempC: Joi.number().min(-60).max(150).required() }),
  chargeEnded: Joi.object({ step: stepKey, fullSignal: Joi.boolean().required() }),
  decided: Joi.object({ step: stepKey, verdict: Joi.string().valid('pass', 'repeat', 'reject').required() }),
  routed: Joi.object({ step: stepKey, route: shortText(40).required(), reason: shortText(300).min(8) }),
  routeLeft: Joi.object({ step: stepKey, reason: shortText(300).min(8).required() }),
};

/** More bays than any shop's one bench. */
export const MOST_BAYS = 256;

const seq = Joi.number().integer().min(1);

const entryName = Joi.string()
  .pattern(/^(#\d{1,6}|[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12})$/)
  .required()
  .description('key of an entry, or its place in the log such as "#7"')
  .messages({ '*': 'Which entry: its key, or its place in the log such as #7.' });

/** What stands on the record beside a change. */
const reasonWhy = shortText(300)
  .min(8)
  .required()
  .messages({ '*': 'Say in a few words why, 8 to 300 letters; it stands on the record.' });

const entryPayloads = {
  ...stepPayloads,
  noted: Joi.object({ text: shortText(1000).required() }),
  photographed: Joi.object({
    photo: Joi.string().guid().required(),
    step: stepKey,
    caption: shortText(200).min(1).required(),
  }),
  evidenced: Joi.object({ reading: readingSchema.required() }),
  placed: Joi.object({ bay: Joi.number().integer().min(0).max(MOST_BAYS).required() }),
  arranged: Joi.object({
    promisedAt: momentSchema('Promised'),
    owner: shortText(80).min(1).messages({ '*': 'For: a customer or “stock”, at most 80 letters.' }),
    why: reasonWhy,
  }),
  withdrawn: Joi.object({ reason: reasonWhy }),
  corrected: Joi.object({
    replaces: entryName,
    payload: Joi.alternatives(...Object.values(stepPayloads)).required(),
    why: shortText(200).min(3).messages({ '*': 'Why: say it in a few words, 3 to 200 letters.' }),
  }),
  undone: Joi.object({ replaces: entryName }),
  amended: Joi.object({
    changes: Joi.array()
      .items(Joi.object({ replaces: entryName, payload: Joi.alternatives(...Object.values(stepPayloads)) }))
      .min(1)
      .max(40)
      .unique('replaces')
      .required()
      .messages({ 'array.unique': 'An amendment changes each entry once.' }),
    why: reasonWhy,
  }),
  reopened: Joi.object({
    ending: entryName,
    bay: Joi.number().integer().min(0).max(MOST_BAYS).required(),
    why: reasonWhy,
  }),
};

type ByKind = Readonly<Record<string, Joi.ObjectSchema>>;

function entriesOf(payloads: ByKind, extra: Joi.SchemaMap): ByKind {
  return Object.fromEntries(
    Object.entries(payloads).map(([kind, payload]) => [
      kind,
      Joi.object({ kind: Joi.string().valid(kind).required(), payload: payload.required(), ...extra }),
    ]),
  );
}

/** Chosen by kind, so that a mistake is reported for the kind that was meant. */
function oneOfKind(schemas: ByKind): Joi.AlternativesSchema {
  return Joi.alternatives()
    .conditional('.kind', { switch: Object.entries(schemas).map(([is, then]) => ({ is, then })) })
    .messages({ 'alternatives.any': `The entry needs a kind: ${Object.keys(schemas).join(', ')}.` });
}

const entrySchemas = entriesOf(entryPayloads, {});

/** What an entry of a step may hold, by its kind: a correction is held against the kind it replaces. */
export const stepPayloadSchemas: Readonly<Record<string, Joi.ObjectSchema>> = stepPayloads;
const documentPayloads = {
  ...entryPayloads,
  evidenced: Joi.object({ reading: readingDocumentSchema.required() }),
};

/** One entry of a run sheet. */
export const entrySchema = oneOfKind(entrySchemas);

/** The same alternatives without the condition, which JSON Schema cannot say. */
export const entryDocumentSchema = Joi.alternatives(...Object.values(entriesOf(documentPayloads, {})));

export const appendSchema = Joi.object({
  expectedSeq: Joi.number().integer().min(1).required().description('last entry the client has seen'),
  requestKey: Joi.string()
    .guid()
    .required()
    .description('made by the client; a retry with the same key is recorded once'),
  by: personSchema,
  enteredAt: momentSchema('Entered').description('shop time of an entry that had to wait in the browser, ms'),
  entry: entrySchema.required(),
});

export const appendDocumentSchema = appendSchema.keys({ entry: entryDocumentSchema.required() });

/** Year and month. */
const DATE_CODE = /^(19|20)\d\d-(0[1-9]|1[0-2])$/;
const TAG = /^[A-Z0-9][A-Z0-9-]{1,15}$/;

export const tagSchema = Joi.string().trim().uppercase().pattern(TAG).required().label('Tag').messages({
  'string.empty': 'Tag: 2 to 16 letters, digits or hyphens, such as SK-0147.',
  'string.pattern.base': 'Tag: 2 to 16 letters, digits or hyphens, such as SK-0147.',
  'any.required': 'Tag: 2 to 16 letters, digits or hyphens, such as SK-0147.',
});

export const batterySchema = Joi.object({
  tag: tagSchema,
  typeId: Joi.string()
    .max(40)
    .required()
    .label('Type')
    .messages({ '*': 'Type: choose one of the list, or read it off the label.' }),
  serial: shortText(60)
    .allow('')
    .default('')
    .label('Serial')
    .messages({ 'string.max': 'Serial: at most 60 letters.' }),
  dateCode: Joi.string().pattern(DATE_CODE).allow(AGE_UNKNOWN).required().label('Date code').messages({
    '*': 'Date code: year and month, such as 2026-01, or nothing where nobody knows it.',
  }),
  owner: shortText(80)
    .min(1)
    .required()
    .label('For')
    .messages({ '*': 'For: a customer or “stock”, at most 80 letters.' }),
});

/** What was said of a battery that is brought back. */
const toldSchema = Joi.object({
  complaint: Joi.string()
    .valid(...COMPLAINTS)
    .required()
    .messages({ '*': 'What was said of it: choose one of the list.' }),
  flatMonths: Joi.number()
    .min(0)
    .max(240)
    .messages({ '*': 'How long it stood flat: 0 to 240 months, or nothing where nobody knows.' }),
  whose: Joi.string()
    .valid(...Object.keys(OWNERS))
    .messages({ '*': 'Whose it is: choose one of the list.' }),
});

/** What is filled in at Intake. */
export const intakeFormSchema = Joi.object({
  battery: batterySchema.required(),
  type: typeSchema.description('read off the label, where the list has none; it goes into the list'),
  procedure: Joi.string().max(40).description('work to be done; the usual for the kind without it'),
  bay: Joi.number()
    .integer()
    .min(0)
    .max(MOST_BAYS)
    .required()
    .label('Bay')
    .description('0 waits on the shelf for a bay')
    .messages({ '*': 'Bay: choose a free bay, or let it wait on the shelf.' }),
  promisedAt: momentSchema('Promised').required().label('Promised'),
  plannedAt: momentSchema('Planned').description('when hands are to come to it first; at once without it'),
  fitting: Joi.boolean().description('it is fitted to its vehicle here'),
  told: toldSchema,
});

export const intakeSchema = intakeFormSchema.keys({
  by: personSchema,
  requestKey: Joi.string().guid().required(),
});

/** How far a page knows each job: the number of its last entry, by job. */
export const sinceSchema = Joi.object({
  known: Joi.object()
    .pattern(Joi.string().guid(), Joi.number().integer().min(0).max(1_000_000))
    .max(1000)
    .required()
    .messages({ '*': 'Known jobs: the number of the last entry by job, at most 1000.' }),
});

export const deliverySchema = Joi.object({
  by: personSchema,
  enteredAt: momentSchema('Entered').description('shop time of a list that had to wait in the browser, ms'),
  batteries: Joi.array()
    .items(intakeFormSchema.keys({ requestKey: Joi.string().guid().required() }))
    .min(1)
    .max(MOST_DELIVERED)
    .required()
    .description(
      'all of them are taken in, or none; a type read off a label comes with the first that has it',
    )
    .messages({
      'array.min': 'Batteries: at least one.',
      'array.max': `Batteries: at most ${MOST_DELIVERED} at once.`,
    }),
});

export const clockSchema = Joi.object({
  pace: Joi.number()
    .valid(...PACES)
    .messages({ 'any.only': 'Pace: 1, 60 or 600 times.' }),
  jump: Joi.string().valid('next-hands'),
  follow: Joi.boolean().valid(true).description('the machine’s clock is right: take it over'),
  to: momentSchema('The clock').description('a later moment, shop time in ms'),
})
  .xor('pace', 'jump', 'to', 'follow')
  .messages({
    'object.missing': 'Say a pace or a jump.',
    'object.xor': 'Either a pace or a jump, not both.',
  });

/** Id a client gives its picture, so that a retry keeps it once. */
export const photoKeySchema = Joi.string().guid();

/** What the list of batteries is asked for, as it stands in an address. */
export const batteryQuerySchema = Joi.object({
  words: Joi.string().max(80).allow('').default('').messages({ 'string.max': 'Search: at most 80 letters.' }),
  where: Joi.string().valid('anywhere', 'bench').default('anywhere'),
  sort: Joi.string().valid('last', 'tag').default('last'),
  page: Joi.number().integer().min(0).max(100_000).default(0),
});

/** Which issue of an ended job's papers. */
export const issueSchema = Joi.number()
  .integer()
  .min(1)
  .max(1000)
  .required()
  .messages({ '*': 'Issue: a number from 1.' });

export const instrumentReadSchema = Joi.object({
  job: Joi.string().guid().required(),
  quantity: Joi.string()
    .valid('voltage', 'current', 'temperature', 'mass', 'loadVoltage', 'cranking')
    .required(),
});

const openedPayload = Joi.object({
  edition: Joi.number().integer().min(1).description('of the run sheets; the first where it is not given'),
  rulesVersion: Joi.number()
    .integer()
    .min(1)
    .description('of the house rules; the first where it is not given'),
  procedure: Joi.string().max(40).required(),
  battery: Joi.object({
    tag: tagSchema,
    serial: Joi.string().allow('').max(60).required(),
    dateCode: Joi.string().pattern(DATE_CODE).allow(AGE_UNKNOWN).required(),
    owner: Joi.string().max(80).required(),
  }).required(),
  type: takenTypeSchema.required(),
  rules: Joi.object().pattern(Joi.string().max(40), Joi.string().max(40)).required(),
  hours: Joi.object({
    timeZone: Joi.string().max(60).required().custom(knownTimeZone),
    lunch: Joi.array().items(Joi.number().min(0).max(1440)).length(2),
    holidays: Joi.array().items(Joi.string().max(10)).max(200),
    week: Joi.array()
      .length(7)
      .items(
        Joi.array().ordered(
          Joi.number().min(0).max(1440).required(),
          Joi.number().min(0).max(1440).required(),
        ),
        Joi.valid(null),
      )
      .required(),
  }).required(),
  bay: Joi.number().integer().min(0).max(MOST_BAYS).required(),
  promisedAt: momentSchema('Promised').required(),
  plannedAt: momentSchema('Planned'),
  fitting: Joi.boolean(),
  told: toldSchema,
});

const recorded = {
  job: Joi.string().guid().required(),
  seq: seq.required(),
  key: Joi.string().max(60).required().description('its own, made by whoever recorded it'),
  at: momentSchema('Time of an entry').required().description('when it happened, ms since 1970-01-01 UTC'),
  recordedAt: momentSchema('Time an entry was recorded').description(
    'when the server had it, where that was later',
  ),
  by: personSchema,
};

const eventSchemas = entriesOf({ opened: openedPayload, ...entryPayloads }, recorded);

const exported = (events: Joi.Schema): Joi.ObjectSchema =>
  Joi.object({
    format: Joi.string().valid('cork-ember-job').required(),
    version: Joi.number().valid(1, 2).required(),
    job: Joi.string().guid().required(),
    events: Joi.array().items(events).min(1).max(20_000).required(),
  });

/** Entries of a job as they are read, of whatever age. */
export const eventSchema = oneOfKind(eventSchemas);

/** A whole job as a file: its events, and nothing that cannot be derived from them. */
export const jobExportSchema = exported(eventSchema);
export const jobExportDocumentSchema = exported(
  Joi.alternatives(...Object.values(entriesOf({ opened: openedPayload, ...documentPayloads }, recorded))),
);
