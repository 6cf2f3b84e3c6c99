/** What is kept of a customer, given out or deleted; pictures that go. */
import type { Request, Router } from 'express';
import { customerSchema, forgetSchema, pictureGoneSchema } from '@cork-ember/core/contract/accessSchemas.ts';
import { doneBy } from '../access/callers.ts';
import { validated } from '../validate.ts';
import type { Services } from './api.ts';

type CustomerServices = Pick<Services, 'access' | 'customers' | 'photos' | 'jobs' | 'stream'>;

export function customerRoutes(
  router: Router,
  { access, customers, photos, jobs, stream }: CustomerServices,
): void {
  const byOf = (request: Request): string => doneBy(request, access);
  router.get('/customers', async (_request, response) => void response.json(await customers.list()));
  router.get('/customers/data', async (request, response) => {
    const { name } = validated<{ name: string }>(customerSchema, request.query);
    const data = await customers.data(name, byOf(request));
    response.attachment('customer.json').json(data);
  });
  router.post('/customers/forget', async (request, response) => {
    const { name, why } = validated<{ name: string; why: string }>(forgetSchema, request.body);
    response.json(await customers.forget(name, why, byOf(request)));
  });
  router.post('/jobs/:id/photos/:photo/gone', async (request, response) => {
    const { id, photo } = request.params;
    const { why } = validated<{ why: string }>(pictureGoneSchema, request.body);
    const { state } = await jobs.job(id);
    await photos.remove(id, photo);
    const { tag } = state.opened.battery;
    await access.audit.note('amended', byOf(request), `${tag}: a picture was deleted; ${why}`);
    stream.tell({ kind: 'shop' });
    response.json({ photo });
  });
}
