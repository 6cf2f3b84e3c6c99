/** Bays with a supply of their own: checked, switched on by a person, stopped by anybody; and what was read of them each second. */
import type { Request, Router } from 'express';
import papa from 'papaparse';
import type { GoesOn } from '@cork-ember/core/adapters/bayProgramme.ts';
import {
  bayCheckSchema,
  bayConfirmSchema,
  bayToldSchema,
  readingsAskedSchema,
} from '@cork-ember/core/contract/baySchemas.ts';
import { MOST_BAYS } from '@cork-ember/core/contract/schemas.ts';
import { thinned } from '@cork-ember/core/devices/samples.ts';
import { callerOf, doneBy } from '../access/callers.ts';
import type { Access } from '../services/access.ts';
import { ProblemError } from '../problems.ts';
import type { CheckRequest } from '../services/bays.ts';
import { validated } from '../validate.ts';
import type { Services } from './api.ts';

/** @throws ProblemError where it is no number of a bay */
function bayOf(text: string): number {
  const bay = Number(text);
  if (!Number.isInteger(bay) || bay < 1 || bay > MOST_BAYS)
    throw new ProblemError('bad-input', `Bay: a whole number from 1 to ${MOST_BAYS}.`);
  return bay;
}

/** Under whose name a bay is told something: of who is proven to be there, or where a shop proves no names, of who says so. */
function toldBy(request: Request, access: Access, by: string | undefined): string {
  return (callerOf(request, access).isOpen ? by : undefined) ?? doneBy(request, access);
}

interface Confirmed {
  readonly by?: string;
  readonly goesOn?: GoesOn;
}

interface Asked {
  readonly from: number;
  readonly to: number;
  readonly most: number;
}

export function bayRoutes(router: Router, { bays, programmes, readings, jobs, access }: Services): void {
  router.get('/bays', (_request, response) => void response.json(bays.list()));
  router.post('/bays/:bay/check', async (request, response) => {
    const asked = validated<CheckRequest>(bayCheckSchema, request.body);
    response.json(await programmes.check(bayOf(request.params.bay), asked));
  });
  router.post('/bays/:bay/confirm', async (request, response) => {
    const { by, goesOn } = validated<Confirmed>(bayConfirmSchema, request.body ?? {});
    const bay = bayOf(request.params.bay);
    response.json(await programmes.confirm(bay, toldBy(request, access, by), goesOn));
  });
  router.post('/bays/:bay/stop', async (request, response) => {
    const { by } = validated<{ by?: string }>(bayToldSchema, request.body ?? {});
    response.json(await programmes.stop(bayOf(request.params.bay), toldBy(request, access, by)));
  });
  router.post('/bays/stop', async (request, response) => {
    const { by } = validated<{ by?: string }>(bayToldSchema, request.body ?? {});
    response.json(await programmes.stopAll(toldBy(request, access, by)));
  });
  router.get('/jobs/:id/readings', async (request, response) => {
    const { from, to, most } = validated<Asked>(readingsAskedSchema, request.query);
    await jobs.job(request.params.id);
    response.json(thinned(await readings.read(request.params.id, from, to), most));
  });
  router.get('/jobs/:id/readings.csv', async (request, response) => {
    const { from, to } = validated<Asked>(readingsAskedSchema, request.query);
    await jobs.job(request.params.id);
    const rows = (await readings.read(request.params.id, from, to)).map(({ at, volts, amps, tempC }) => [
      new Date(at).toISOString(),
      volts ?? '',
      amps ?? '',
      tempC ?? '',
    ]);
    response
      .attachment('readings.csv')
      .type('text/csv')
      .send(papa.unparse({ fields: ['time', 'V', 'A', '°C'], data: rows }));
  });
}
