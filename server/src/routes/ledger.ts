/** What the shop knows of every battery it has had: paged, searched, and what came of the ways that were taken. */
import type { Router } from 'express';
import type { BatteryQuery } from '@cork-ember/core/contract/answers.ts';
import { batteryQuerySchema } from '@cork-ember/core/contract/schemas.ts';
import { validated } from '../validate.ts';
import type { Services } from './api.ts';

export function ledgerRoutes(
  router: Router,
  { ledger, learning }: Pick<Services, 'ledger' | 'learning'>,
): void {
  router.get('/batteries', async (request, response) => {
    response.json(await ledger.page(validated<BatteryQuery>(batteryQuerySchema, request.query)));
  });
  router.get('/batteries/:tag', async (request, response) => {
    response.json(await ledger.battery(request.params.tag.trim().toUpperCase()));
  });
  router.get('/tags/next', async (_request, response) => void response.json(await ledger.nextTag()));
  router.get('/ledger/ways', async (_request, response) => void response.json(await ledger.ways()));
  router.get('/ledger/file', async (_request, response) => {
    response.attachment('ledger.json').json(await ledger.file());
  });
  router.get('/ledger/learned', async (_request, response) => void response.json(await learning.answer()));
  router.post('/ledger/learned', async (_request, response) => {
    learning.drawNow();
    response.status(202).json(await learning.answer());
  });
  router.get('/ledger/shelf', async (_request, response) => void response.json(await ledger.shelf()));
}
