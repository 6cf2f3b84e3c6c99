/** A job as a file, out and in again: neither is ever held as one text. */
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { createGunzip } from 'node:zlib';
import { Router, type Request } from 'express';
import { ProblemError } from '../problems.ts';
import type { Services } from './api.ts';

/** @throws ProblemError where it is packed in a way nobody here unpacks */
function bodyOf(request: Request): AsyncIterable<Uint8Array> {
  const { 'content-encoding': packed = 'identity', 'content-type': type = '' } = request.headers;
  if (!/json/i.test(type))
    throw new ProblemError('bad-input', 'Send the file as application/json; nothing was taken in.');
  if (packed === 'identity') return request;
  if (packed === 'gzip') return request.pipe(createGunzip());
  throw new ProblemError('bad-input', 'Send the file as it is, or packed with gzip; nothing was taken in.');
}

/** Stands before anything that reads a whole body. */
export function jobFileRoutes({ intake, files }: Pick<Services, 'intake' | 'files'>): Router {
  const router = Router();
  router.post('/jobs/import', async (request, response) => {
    response.status(201).json(await intake.take(await files.read(bodyOf(request))));
  });
  router.get('/jobs/:id/export', async (request, response) => {
    const { id } = request.params;
    const pieces = await files.write(id);
    response.attachment(`job-${id}.json`).type('application/json');
    await pipeline(Readable.from(pieces), response);
  });
  return router;
}
