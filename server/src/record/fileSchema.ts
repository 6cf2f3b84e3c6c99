/** Shape of a job's file; what its entries say is judged once they are read (`services/jobFile.ts`). */
import Joi from 'joi';
import { momentSchema } from '@cork-ember/core/contract/moments.ts';

const hash = Joi.string()
  .pattern(/^[0-9a-f]{64}$/)
  .required();
const guid = Joi.string().guid().required();
const count = Joi.number().integer().min(1).required();

/** As many entries, issues and pictures as a job can have: no more is recorded, so every file that was given is taken. */
export const MOST_ENTRIES = 50_000;
export const MOST_ISSUES = 200;
export const MOST_PICTURES = 40;
/** All of that together, each picture as large as one can be. */
export const MOST_BYTES = 400_000_000;

export const entrySchema = Joi.object({
  job: guid,
  seq: count,
  key: Joi.string().max(60).required(),
  version: count,
  kind: Joi.string().max(40).required(),
  occurredAt: momentSchema('Time of an entry').required(),
  recordedAt: momentSchema('Time an entry was recorded').required(),
  actor: Joi.string().max(60).allow('').required(),
  by: Joi.string().max(40).required(),
  payload: Joi.object().unknown().required(),
  hash,
});

export const nameSchema = Joi.object({
  commitment: hash,
  salt: Joi.string().max(64).required(),
  name: Joi.string().max(80).required(),
});

export const sealSchema = Joi.object({
  issue: count,
  at: momentSchema('Time of a seal').required(),
  upTo: count,
  code: Joi.string().max(20).required(),
  hash,
  content: Joi.object().unknown().required(),
});

export const pictureSchema = Joi.object({ id: guid, jpeg: Joi.string().base64().required() });

/** What a file says of itself, of any version. */
export const headSchema = Joi.object({
  format: Joi.string().valid('cork-ember-job').required().messages({
    '*': 'This is no file of a job: a run sheet that has ended gives one out as “Whole job”. Nothing was taken in.',
  }),
  version: Joi.number().valid(1, 2, 3).required(),
  job: guid,
  program: Joi.string()
    .max(40)
    .description('version of the program that wrote it; files of before have none'),
});

/** A whole file, as the OpenAPI document tells of it. */
export const recordFileSchema = headSchema.keys({
  version: Joi.number().valid(3).required(),
  entries: Joi.array().items(entrySchema).min(1).max(MOST_ENTRIES).required(),
  names: Joi.array().items(nameSchema).max(MOST_ENTRIES).required(),
  seals: Joi.array().items(sealSchema).max(MOST_ISSUES).required(),
  photos: Joi.array().items(pictureSchema).max(MOST_PICTURES).required(),
});
