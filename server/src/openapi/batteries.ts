/** Batteries, the shelf, machines and the ledger. */
import { batteryQuerySchema } from '@cork-ember/core/contract/schemas.ts';
import {
  feedSchema,
  machineSchema,
  shelfEntryDocumentSchema,
} from '@cork-ember/core/contract/shelfSchemas.ts';
import {
  jsonSchema,
  answer,
  file,
  body,
  inPath,
  inQuery,
  bad,
  missing,
  type Paths,
  type Json,
} from './parts.ts';

const BATTERY_QUERY: Readonly<Record<string, string>> = {
  words: 'words of tag, serial, type, maker or owner, as they begin',
  where: 'on the bench alone, or anywhere',
  sort: 'latest work first, or by tag',
  page: '0 is the first',
};

export const BATTERY_PATHS: Paths = {
  '/api/labels.pdf': {
    get: {
      summary: 'Tags of the batteries named in ?tags=A,B as a sheet to cut',
      responses: { 200: file('The sheet', 'application/pdf'), ...bad, ...missing },
    },
  },
  '/api/batteries/{tag}/label.svg': {
    get: {
      summary: 'Its tag as a drawing',
      parameters: [inPath('tag')],
      responses: { 200: file('SVG', 'image/svg+xml'), ...missing },
    },
  },
  '/api/batteries/{tag}/label.pdf': {
    get: {
      summary: 'One tag as PDF; label.svg gives it as a drawing',
      parameters: [inPath('tag')],
      responses: { 200: file('The tag', 'application/pdf'), ...missing },
    },
  },
  '/api/ledger/ways': {
    get: {
      summary: 'Which ways brought batteries back in this shop, and how sure that is',
      responses: { 200: answer('The ways', 'Ways') },
    },
  },
  '/api/ledger/file': {
    get: {
      summary: 'What ended in this shop, for another to read beside its own; without a customer’s name',
      responses: { 200: answer('The file', 'LedgerFile') },
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
};
