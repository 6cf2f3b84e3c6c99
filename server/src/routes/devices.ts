/** Devices under control over a cable, as they are set up. */
import type { Request, Router } from 'express';
import { deviceProfileSchema, failingSchema } from '@cork-ember/core/contract/deviceSchemas.ts';
import type { Failing } from '@cork-ember/core/devices/simulated/failings.ts';
import { fewTries } from '../access/limits.ts';
import { jsonSchema } from '../openapi/parts.ts';
import { validated } from '../validate.ts';
import type { Services } from './api.ts';

/** @see RFC 6750, 2.1 */
const bearerOf = ({ headers: { authorization = '' } }: Request): string =>
  /^Bearer ([\w~+/.-]+)$/i.exec(authorization)?.[1] ?? '';

export function deviceRoutes(
  router: Router,
  { devices, bays, probes }: Pick<Services, 'devices' | 'bays' | 'probes'>,
): void {
  router.get('/devices/profiles', (_request, response) => void response.json(devices.profiles));
  router.get('/devices/profile.schema.json', (_request, response) => {
    response
      .type('application/schema+json')
      .json({ title: 'Profile of a device', ...jsonSchema(deviceProfileSchema) });
  });
  router.post('/devices/:id/talk', async (request, response) => {
    const { id } = request.params;
    bays.assertQuiet(devices.bayOf(id));
    response.json(probes.said(id) ?? (await devices.talk(id)));
  });
  router.post('/devices/:id/off', async (request, response) => {
    bays.assertQuiet(devices.bayOf(request.params.id));
    response.json(await devices.testOff(request.params.id));
  });
  router.get('/devices/failings', (_request, response) => void response.json(devices.failings()));
  router.post('/devices/:id/fail', (request, response) => {
    const failing = validated<Omit<Failing, 'id'>>(failingSchema, request.body);
    response.json(devices.fail(request.params.id, failing));
  });
  router.post('/devices/:id/key', async (request, response) => {
    response.status(201).json(await probes.newKey(request.params.id));
  });
  const few = fewTries((request) => probes.isProven(String(request.params['id']), bearerOf(request)));
  router.post('/devices/:id/readings', few, async (request, response) => {
    const { params, body } = request;
    response.json(await probes.hear(String(params['id']), bearerOf(request), body as unknown));
  });
}
