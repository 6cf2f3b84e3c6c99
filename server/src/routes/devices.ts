/** Devices under control over a cable, as they are set up. */
import type { Router } from 'express';
import { deviceProfileSchema } from '@cork-ember/core/contract/deviceSchemas.ts';
import { jsonSchema } from '../openapi/parts.ts';
import type { Services } from './api.ts';

export function deviceRoutes(router: Router, { devices, bays }: Pick<Services, 'devices' | 'bays'>): void {
  router.get('/devices/profiles', (_request, response) => void response.json(devices.profiles));
  router.get('/devices/profile.schema.json', (_request, response) => {
    response
      .type('application/schema+json')
      .json({ title: 'Profile of a device', ...jsonSchema(deviceProfileSchema) });
  });
  router.post('/devices/:id/talk', async (request, response) => {
    bays.assertQuiet(devices.bayOf(request.params.id));
    response.json(await devices.talk(request.params.id));
  });
  router.post('/devices/:id/off', async (request, response) => {
    bays.assertQuiet(devices.bayOf(request.params.id));
    response.json(await devices.testOff(request.params.id));
  });
}
