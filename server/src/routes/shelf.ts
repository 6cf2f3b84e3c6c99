/** The shelf: every battery off the bench, and what is recorded of one. */
import type { Router } from 'express';
import { tagSchema } from '@cork-ember/core/contract/schemas.ts';
import { feedSchema, shelfEntrySchema } from '@cork-ember/core/contract/shelfSchemas.ts';
import type { Shelf, ShelfRequest } from '../services/shelf.ts';
import { validated } from '../validate.ts';

export function shelfRoutes(router: Router, shelf: Shelf): void {
  router.get('/shelf', async (_request, response) => {
    response.type('json').send(await shelf.list());
  });
  router.get('/shelf/calendar.ics', async (_request, response) => {
    response
      .attachment('shelf.ics')
      .type('text/calendar')
      .send(await shelf.calendar());
  });
  router.get('/shelf/round.pdf', async (_request, response) => {
    response
      .attachment('round.pdf')
      .type('application/pdf')
      .send(await shelf.roundSheet());
  });
  router.get('/batteries/:tag/hand-over.pdf', async (request, response) => {
    const tag = validated<string>(tagSchema, request.params['tag']);
    response
      .attachment(`${tag} hand-over.pdf`)
      .type('application/pdf')
      .send(await shelf.handOver(tag));
  });
  router.get('/shelf/feed', async (_request, response) => {
    response.json((await shelf.feedStanding()) ?? null);
  });
  router.post('/shelf/feed', async (request, response) => {
    const { by } = validated<{ by: string }>(feedSchema, request.body);
    response.status(201).json({ path: `/api/feeds/${await shelf.renewFeed(by)}.ics` });
  });
  router.delete('/shelf/feed', async (_request, response) => {
    await shelf.revokeFeed();
    response.status(204).end();
  });
  router.get('/feeds/:secret.ics', async (request, response) => {
    response
      .type('text/calendar')
      .set('Cache-Control', 'no-store')
      .send(await shelf.feed(request.params.secret));
  });
  router.post('/shelf/:tag/entries', async (request, response) => {
    const tag = validated<string>(tagSchema, request.params['tag']);
    response
      .status(201)
      .json(await shelf.append(tag, validated<ShelfRequest>(shelfEntrySchema, request.body)));
  });
}
