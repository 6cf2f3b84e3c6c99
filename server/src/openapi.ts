/** The OpenAPI 3.1 document, made from the very schemas that check the requests. */
import Joi, { type Schema } from 'joi';
import { ANSWERS, type AnswerName } from '@cork-ember/core/contract/answerSchemas.ts';
import {
  appendDocumentSchema,
  batteryQuerySchema,
  clockSchema,
  deliverySchema,
  instrumentReadSchema,
  intakeSchema,
  jobExportDocumentSchema,
  sinceSchema,
} from '@cork-ember/core/contract/schemas.ts';
import { recordFileSchema } from './record/fileSchema.ts';
import {
  feedSchema,
  machineSchema,
  shelfEntryDocumentSchema,
} from '@cork-ember/core/contract/shelfSchemas.ts';
import { shopChangeSchema, spillSchema, stockMoveSchema } from '@cork-ember/core/contract/shopSchemas.ts';

type Json = Readonly<Record<string, unknown>>;

/** Joi describes itself as JSON Schema 2020-12, which is what OpenAPI 3.1 takes. */
function jsonSchema(schema: Schema): Json {
  return schema['~standard'].jsonSchema.input({ target: 'draft-2020-12' });
}

const problem = (description: string): Json => ({
  description,
  content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
});

/** An answer as JSON, by the name of its schema. */
const answer = (description: string, name: AnswerName | 'JobFile'): Json => ({
  description,
  content: { 'application/json': { schema: { $ref: `#/components/schemas/${name}` } } },
});

/** An answer that is a file, or a stream. */
const file = (description: string, contentType: string): Json => ({
  description,
  content: { [contentType]: { schema: { type: 'string', format: 'binary' } } },
});

const body = (schema: Schema): Json => ({
  required: true,
  content: { 'application/json': { schema: jsonSchema(schema) } },
});

const inPath = (name: string): Json => ({ name, in: 'path', required: true, schema: { type: 'string' } });

const inQuery = (name: string, schema: Json, description: string): Json => ({
  name,
  in: 'query',
  schema,
  description,
});

const issue = inQuery('issue', { type: 'integer', minimum: 1 }, 'which issue; the newest without it');
const pictureKey = inQuery(
  'key',
  { type: 'string', format: 'uuid' },
  'made by the client; a retry keeps the picture once',
);

const BATTERY_QUERY: Readonly<Record<string, string>> = {
  words: 'words of tag, serial, type, maker or owner, as they begin',
  where: 'on the bench alone, or anywhere',
  sort: 'latest work first, or by tag',
  page: '0 is the first',
};

interface Operation {
  readonly summary: string;
  readonly parameters?: readonly Json[];
  readonly requestBody?: Json;
  readonly responses: Json;
}

const bad = { 400: problem('One sentence: what is wrong and what is allowed.') };
const missing = { 404: problem('There is no such thing.') };
const conflict = { 409: problem('Stale or taken; `changed` lists the entries not yet seen.') };
const refused = { 422: problem('The run sheet does not take it, and says why.') };

const paths: Readonly<Record<string, Readonly<Record<string, Operation>>>> = {
  '/api/shop': {
    get: {
      summary: 'Name, hours, bays, people and house rules',
      responses: { 200: answer('The shop', 'Shop') },
    },
  },
  '/api/types': {
    get: { summary: 'The catalogue of battery types', responses: { 200: answer('All types', 'Types') } },
  },
  '/api/types.csv': {
    get: { summary: 'The types as a table', responses: { 200: file('A table', 'text/csv') } },
  },
  '/api/types.json': {
    get: { summary: 'The types as a file', responses: { 200: answer('All types', 'Types') } },
  },
  '/api/types/read': {
    post: {
      summary:
        'What the list of types would become with this file (text/csv, or JSON as text/plain); changes nothing',
      responses: { 200: answer('The list', 'Types'), ...bad },
    },
  },
  '/api/shop/changes': {
    get: {
      summary: 'What was changed of the shop, by whom and why',
      responses: { 200: answer('Changes', 'Changes') },
    },
    post: {
      summary: 'Change house rules, chargers, bays, room or types for jobs to come',
      requestBody: body(shopChangeSchema),
      responses: { 201: answer('The shop', 'Shop'), ...bad },
    },
  },
  '/api/stock': {
    get: {
      summary: 'Acid and consumables, and the latest moves',
      responses: { 200: answer('Levels and moves', 'Stock') },
    },
    post: {
      summary: 'Count something in or out',
      requestBody: body(stockMoveSchema),
      responses: { 201: answer('Levels', 'Levels'), ...bad },
    },
  },
  '/api/stock/spill': {
    post: {
      summary: 'Acid neutralised: takes the acid and the soda off',
      requestBody: body(spillSchema),
      responses: { 201: answer('Levels', 'Levels'), ...bad },
    },
  },
  '/api/labels.pdf': {
    get: {
      summary: 'Tags of the batteries named in ?tags=A,B as a sheet to cut',
      responses: { 200: file('The sheet', 'application/pdf'), ...bad, ...missing },
    },
  },
  '/api/batteries/{tag}/label.pdf': {
    get: {
      summary: 'One tag as PDF; label.svg gives it as a drawing',
      parameters: [inPath('tag')],
      responses: { 200: file('The tag', 'application/pdf'), ...missing },
    },
  },
  '/api/clock': {
    get: { summary: 'Shop time and pace', responses: { 200: answer('The clock', 'Clock') } },
    post: {
      summary:
        'Pace the clock or jump to the next moment that needs hands (demo only); take the machine’s clock over (a working shop)',
      requestBody: body(clockSchema),
      responses: { 200: answer('The clock', 'Clock'), ...bad, ...refused },
    },
  },
  '/api/copy': {
    get: {
      summary: 'The whole shop as one SQLite file: everything acknowledged before it was asked for',
      responses: { 200: file('The file', 'application/vnd.sqlite3') },
    },
  },
  '/api/trust': {
    get: {
      summary: 'The port https is answered on, and the fingerprint of the authority a tablet is to trust',
      responses: { 200: answer('Port and fingerprint, null where there is none', 'Trust') },
    },
  },
  '/api/trust/authority.crt': {
    get: {
      summary: 'The certificate of the shop’s own authority',
      responses: { 200: file('DER', 'application/x-x509-ca-cert'), ...missing },
    },
  },
  '/api/ledger/ways': {
    get: {
      summary: 'Which ways brought batteries back in this shop, and how sure that is',
      responses: { 200: answer('The ways', 'Ways') },
    },
  },
  '/api/ledger/learned': {
    get: {
      summary: 'What the shop has learned from its own jobs, beside what the handbook says',
      responses: { 200: answer('By topic, and what the judgement goes by', 'Learned') },
    },
    post: {
      summary:
        'Learns at once from ended jobs that nothing was learned from yet; the stream tells when it is done',
      responses: { 202: answer('What is learned so far, and how many are left', 'Learned') },
    },
  },
  '/api/ledger/shelf': {
    get: {
      summary: 'Recovered batteries that may be matched into sets, measured within a year',
      responses: { 200: answer('Those that may, and why others may not', 'Shelf') },
    },
  },
  '/api/tags/next': {
    get: {
      summary: 'The next tag of the shop’s own row',
      responses: { 200: answer('The tag', 'NextTag') },
    },
  },
  '/api/batteries': {
    get: {
      summary: 'A page of the batteries that are found, each with its last job and what was last measured',
      parameters: Object.entries(
        jsonSchema(batteryQuerySchema)['properties'] as Readonly<Record<string, Json>>,
      ).map(([name, schema]) => inQuery(name, schema, BATTERY_QUERY[name] ?? '')),
      responses: { 200: answer('The page', 'BatteryPage'), ...bad },
    },
  },
  '/api/batteries/{tag}': {
    get: {
      summary: 'One battery, its jobs and what they found',
      parameters: [inPath('tag')],
      responses: { 200: answer('The battery', 'Battery'), ...missing },
    },
  },
  '/api/bench': {
    get: {
      summary: 'The bench worked out: how each battery stands, its cord, and what hands do next',
      responses: { 200: answer('The bench', 'Bench') },
    },
  },
  '/api/jobs': {
    get: {
      summary: 'Open jobs as they stand, without their logs',
      responses: { 200: answer('Open jobs', 'OpenJobs') },
    },
    post: {
      summary: 'Take a battery in and open its run sheet',
      requestBody: body(intakeSchema),
      responses: { 201: answer('The job', 'Job'), ...bad, ...conflict },
    },
  },
  '/api/shelf': {
    get: {
      summary: 'Batteries looked after off the bench: where each is, its charges and what was read since',
      responses: { 200: answer('The batteries', 'ShelvedBatteries') },
    },
  },
  '/api/shelf/calendar.ics': {
    get: {
      summary: 'The month’s work on the shelf, a whole-day entry for each day (RFC 5545); no names',
      responses: { 200: file('The calendar', 'text/calendar') },
    },
  },
  '/api/shelf/round.pdf': {
    get: {
      summary: 'What a round today reads, on paper',
      responses: { 200: file('The sheet', 'application/pdf') },
    },
  },
  '/api/shelf/feed': {
    get: {
      summary: 'Since when the calendar has a secret address, and who made it; null where it has none',
      responses: { 200: answer('The address, without its secret', 'Feed') },
    },
    post: {
      summary: 'Make a new secret address; the one of before opens nothing any more',
      requestBody: body(feedSchema),
      responses: { 201: answer('Where it is, told once', 'FeedPath'), ...bad },
    },
    delete: { summary: 'Shut the secret address', responses: { 204: { description: 'It is shut' } } },
  },
  '/api/feeds/{secret}.ics': {
    get: {
      summary: 'The calendar at its secret address',
      parameters: [inPath('secret')],
      responses: { 200: file('The calendar', 'text/calendar'), ...missing },
    },
  },
  '/api/batteries/{tag}/hand-over.pdf': {
    get: {
      summary: 'What goes with a battery that was taken off the shelf; a loan slip where it was lent',
      parameters: [inPath('tag')],
      responses: { 200: file('The sheet', 'application/pdf'), ...missing },
    },
  },
  '/api/machines': {
    get: {
      summary: 'Machines that batteries work in, one or several as a set',
      responses: { 200: answer('The machines', 'Machines') },
    },
    post: {
      summary: 'Put a machine down; the shop gives it its tag',
      requestBody: body(machineSchema),
      responses: { 201: answer('The machine', 'MachineKnown'), ...bad },
    },
  },
  '/api/machines/{tag}': {
    get: {
      summary: 'A machine, the batteries that work in it, and what the bench found of each',
      parameters: [inPath('tag')],
      responses: { 200: answer('The machine', 'Machine'), ...missing },
    },
    post: {
      summary: 'Change what is known of a machine',
      parameters: [inPath('tag')],
      requestBody: body(machineSchema),
      responses: { 200: answer('The machine', 'MachineKnown'), ...bad, ...missing },
    },
  },
  '/api/machines/{tag}/label.pdf': {
    get: {
      summary: 'A machine’s own label',
      parameters: [inPath('tag')],
      responses: { 200: file('The label', 'application/pdf'), ...missing },
    },
  },
  '/api/shelf/{tag}/entries': {
    post: {
      summary: 'Record a move, a reading or a charge of a battery off the bench',
      parameters: [inPath('tag')],
      requestBody: body(shelfEntryDocumentSchema),
      responses: { 201: answer('The entry', 'ShelfEvent'), ...bad, ...missing },
    },
  },
  '/api/jobs/since': {
    post: {
      summary: 'What was recorded since, on jobs known up to an entry: for whoever was away',
      requestBody: body(sinceSchema),
      responses: { 200: answer('What was missed', 'Missed'), ...bad },
    },
  },
  '/api/deliveries': {
    post: {
      summary: 'Take several batteries in at once: all of them, or none',
      requestBody: body(deliverySchema),
      responses: { 201: answer('Their jobs', 'Jobs'), ...bad, ...conflict },
    },
  },
  '/api/jobs/import': {
    post: {
      summary:
        'Take a whole job from an export file of any version; one with hashes must be what was recorded',
      requestBody: body(Joi.alternatives(recordFileSchema, jobExportDocumentSchema)),
      responses: { 201: answer('The job', 'Job'), ...bad, ...conflict },
    },
  },
  '/api/quarantine': {
    get: {
      summary:
        'Records that today’s run sheets cannot read, each with why; everything else goes on without them',
      responses: { 200: answer('Records', 'Quarantine') },
    },
  },
  '/api/check/{code}': {
    get: {
      summary: 'Whether a paper and the record agree, by the check code printed on it',
      parameters: [inPath('code')],
      responses: { 200: answer('What the paper must say, and what is broken', 'Check'), ...missing },
    },
  },
  '/api/jobs/{id}': {
    get: {
      summary: 'One job and its log',
      parameters: [inPath('id')],
      responses: { 200: answer('The job', 'Job'), ...missing },
    },
  },
  '/api/jobs/{id}/events': {
    post: {
      summary: 'Record one entry; a retry with the same requestKey is recorded once',
      parameters: [inPath('id')],
      requestBody: body(appendDocumentSchema),
      responses: { 201: answer('The recorded event', 'Event'), ...bad, ...missing, ...conflict, ...refused },
    },
  },
  '/api/jobs/{id}/photos': {
    post: {
      summary: 'Keep a picture (image/*, at most 12 MB); a “photographed” entry then names it',
      parameters: [inPath('id'), pictureKey],
      responses: { 201: answer('Its id', 'Photo'), ...bad, ...missing, ...refused },
    },
  },
  '/api/jobs/{id}/photos/{photo}': {
    get: {
      summary: 'A picture, at most 1600 px, stripped of metadata',
      parameters: [inPath('id'), inPath('photo')],
      responses: { 200: file('The picture', 'image/jpeg'), ...missing },
    },
  },
  '/api/jobs/{id}/export': {
    get: {
      summary:
        'The whole job as a file: entries with their hashes, names, seals and pictures; also one that stands apart',
      parameters: [inPath('id')],
      responses: { 200: answer('The export', 'JobFile'), ...missing },
    },
  },
  '/api/jobs/{id}/certificate.pdf': {
    get: {
      summary: 'The certificate of a job that passed, or the note of one that did not',
      parameters: [inPath('id'), issue],
      responses: { 200: file('The document', 'application/pdf'), ...missing, ...refused },
    },
  },
  '/api/jobs/{id}/owner-sheet.pdf': {
    get: {
      summary: 'The owner’s sheet of a battery that passed: date, charge, next check, how long it may stand',
      parameters: [inPath('id'), issue],
      responses: { 200: file('The document', 'application/pdf'), ...missing, ...refused },
    },
  },
  '/api/jobs/{id}/warranty-record.pdf': {
    get: {
      summary:
        'Everything the shop keeps of an ended job: readings, numbers with their origin, rules, pictures',
      parameters: [inPath('id'), issue],
      responses: { 200: file('The document', 'application/pdf'), ...missing, ...refused },
    },
  },
  '/api/instruments': {
    get: { summary: 'Instruments on the bench', responses: { 200: answer('Identities', 'Instruments') } },
  },
  '/api/instruments/{id}/read': {
    post: {
      summary: 'Read one quantity of a job’s battery',
      parameters: [inPath('id')],
      requestBody: body(instrumentReadSchema),
      responses: { 200: answer('The reading', 'Reading'), ...bad, ...missing, ...refused },
    },
  },
  '/api/stream': {
    get: {
      summary: 'Changes as server-sent events',
      responses: { 200: file('The stream', 'text/event-stream') },
    },
  },
};

export function openApiDocument(): Json {
  return {
    openapi: '3.1.0',
    info: {
      title: 'Cork Ember',
      version: '1.0.0',
      description:
        'The bench companion of a battery technician. Times are shop time in milliseconds since 1970-01-01 UTC.',
    },
    paths,
    components: {
      schemas: {
        ...Object.fromEntries(Object.entries(ANSWERS).map(([name, schema]) => [name, jsonSchema(schema)])),
        JobFile: jsonSchema(recordFileSchema),
        JobExport: jsonSchema(jobExportDocumentSchema),
      },
    },
  };
}
