/** Jobs, the bench, their papers and their files. */
import Joi from 'joi';
import { pictureGoneSchema } from '@cork-ember/core/contract/accessSchemas.ts';
import {
  appendDocumentSchema,
  deliverySchema,
  intakeSchema,
  jobExportDocumentSchema,
  sinceSchema,
} from '@cork-ember/core/contract/schemas.ts';
import { recordFileSchema } from '../record/fileSchema.ts';
import { answer, file, body, inPath, inQuery, bad, missing, conflict, refused, type Paths } from './parts.ts';

const issue = inQuery('issue', { type: 'integer', minimum: 1 }, 'which issue; the newest without it');
const pictureKey = inQuery(
  'key',
  { type: 'string', format: 'uuid' },
  'made by the client; a retry keeps the picture once',
);

const readFrom = inQuery('from', { type: 'number' }, 'shop time, ms; from the beginning without it');
const readTo = inQuery('to', { type: 'number' }, 'shop time, ms; to the end without it');
const readMost = inQuery(
  'most',
  { type: 'integer', minimum: 1, maximum: 5000 },
  'stretches; 1000 without it',
);

export const JOB_PATHS: Paths = {
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
  '/api/jobs/since': {
    post: {
      summary: 'What was recorded since, on jobs known up to an entry: for whoever was away',
      requestBody: body(sinceSchema),
      responses: { 200: answer('What was missed', 'Missed'), ...bad },
    },
  },
  '/api/jobs/{id}/readings': {
    get: {
      summary:
        'What a supply of its own was seen to do, drawn together into stretches: least and most of each',
      parameters: [inPath('id'), readFrom, readTo, readMost],
      responses: { 200: answer('Stretches', 'Stretches'), ...bad, ...missing },
    },
  },
  '/api/jobs/{id}/readings.csv': {
    get: {
      summary: 'The same, second by second, as a table',
      parameters: [inPath('id'), readFrom, readTo],
      responses: { 200: file('A table', 'text/csv'), ...bad, ...missing },
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
  '/api/jobs/{id}/photos/{photo}/gone': {
    post: {
      summary: 'Delete a picture; who did it, and why, stays among who did what',
      parameters: [inPath('id'), inPath('photo')],
      requestBody: body(pictureGoneSchema),
      responses: { 200: answer('Its id', 'Photo'), ...bad, ...missing },
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
};
