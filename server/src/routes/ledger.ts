/** What the shop knows of every battery it has had: paged, searched, and what came of the ways that were taken. */
import type { Router } from 'express';
import { tagOf } from '@cork-ember/core/battery/tags.ts';
import type { BatteryAnswer, BatteryQuery, NextTag } from '@cork-ember/core/contract/answers.ts';
import { batteryQuerySchema } from '@cork-ember/core/contract/schemas.ts';
import { FIGURES_HOLD_MS, shelfOf } from '@cork-ember/core/ledger/sets.ts';
import { wayRecords } from '@cork-ember/core/ledger/ways.ts';
import { ProblemError } from '../problems.ts';
import { validated } from '../validate.ts';
import type { Services } from './api.ts';

export function ledgerRoutes(router: Router, { store, lists, batteries, settings, clock }: Services): void {
  router.get('/batteries', async (request, response) => {
    const query = validated<BatteryQuery>(batteryQuerySchema, request.query);
    response.json(await batteries.page(query, (word) => settings.typesOfMaker(word)));
  });
  router.get('/batteries/:tag', async (request, response) => {
    const tag = String(request.params['tag']).trim().toUpperCase();
    const battery = await store.battery(tag);
    if (!battery) throw new ProblemError('not-found', `No battery in this shop carries the tag ${tag}.`);
    const [jobs, findings] = [await store.jobs({ tag }), await lists.findingsOf(tag)];
    response.json({ ...battery, jobs, findings } satisfies BatteryAnswer);
  });
  router.get('/tags/next', async (_request, response) => {
    const { tagLetters } = settings.shop;
    const number = (await batteries.lastOfRow(tagLetters)) + 1;
    response.json({ number, tag: tagOf(tagLetters, number) } satisfies NextTag);
  });
  router.get('/ledger/ways', async (_request, response) => {
    const { costs, room } = settings.shop;
    response.json(wayRecords(await lists.graded(), { ...costs, pricePerKwh: room.pricePerKwh }));
  });
  router.get('/ledger/shelf', async (_request, response) => {
    response.json(shelfOf(await lists.onShelf(clock.now() - FIGURES_HOLD_MS)));
  });
}
