/** Machines that batteries work in. */
import type { Router } from 'express';
import { tagSchema } from '@cork-ember/core/contract/schemas.ts';
import { machineSchema } from '@cork-ember/core/contract/shelfSchemas.ts';
import { labelsPdf } from '../documents/labels.ts';
import type { MachineRequest } from '../services/machines.ts';
import { validated } from '../validate.ts';
import type { Services } from './api.ts';

export function machineRoutes(
  router: Router,
  { machines, settings }: Pick<Services, 'machines' | 'settings'>,
): void {
  router.get('/machines', async (_request, response) => {
    response.json(await machines.list());
  });
  router.post('/machines', async (request, response) => {
    response.status(201).json(await machines.add(validated<MachineRequest>(machineSchema, request.body)));
  });
  router.get('/machines/:tag', async (request, response) => {
    response.json(await machines.machine(validated<string>(tagSchema, request.params['tag'])));
  });
  router.post('/machines/:tag', async (request, response) => {
    const tag = validated<string>(tagSchema, request.params['tag']);
    response.json(await machines.change(tag, validated<MachineRequest>(machineSchema, request.body)));
  });
  router.get('/machines/:tag/label.pdf', async (request, response) => {
    const label = await machines.label(validated<string>(tagSchema, request.params['tag']));
    response
      .attachment(`${label.tag}.pdf`)
      .type('application/pdf')
      .send(await labelsPdf([label], settings.shop.region));
  });
}
