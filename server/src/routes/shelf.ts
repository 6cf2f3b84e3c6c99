/** The shelf: every battery off the bench, and what is recorded of one. */
import type { Router } from 'express';
import { tagSchema } from '@cork-ember/core/contract/schemas.ts';
import { shelfEntrySchema } from '@cork-ember/core/contract/shelfSchemas.ts';
import type { Shelf, ShelfRequest } from '../services/shelf.ts';
import { validated } from '../validate.ts';

export function shelfRoutes(router: Router, shelf: Shelf): void {
  router.get('/shelf', async (_request, response) => {
    response.type('json').send(await shelf.list());
  });
  router.post('/shelf/:tag/entries', async (request, response) => {
    const tag = validated<string>(tagSchema, request.params['tag']);
    response
      .status(201)
      .json(await shelf.append(tag, validated<ShelfRequest>(shelfEntrySchema, request.body)));
  });
}
