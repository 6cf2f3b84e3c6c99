/** Shop files and job exports of November 2026, before construction, duty and delivery were told apart, open with everything in them. */
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gunzipSync } from 'node:zlib';
import { expect } from 'chai';
import { pino } from 'pino';
import request from 'supertest';
import type { JobExport, Shop } from '@cork-ember/core/contract/answers.ts';
import type { StockLevel } from '@cork-ember/core/stock/stock.ts';
import { openShop, type ShopServer } from './shopServer.ts';

const kept = (name: string): Buffer => readFileSync(new URL(`../test/past/${name}`, import.meta.url));

interface Said {
  readonly tag: string;
  readonly procedure: string;
  readonly outcome: string | null;
  readonly bay: number;
  readonly entries: number;
  readonly step: string | null;
  readonly steps: readonly string[];
}

const SAID = JSON.parse(kept('says.json').toString()) as readonly Said[];

describe('What November’s main wrote', () => {
  let folder: string;
  let shop: ShopServer;
  let api: ReturnType<typeof request>;

  const openAt = async (file: string): Promise<void> => {
    shop = await openShop({ file, timeZone: 'Etc/UTC', isDemo: false, log: pino({ level: 'silent' }) });
    api = request(shop.server);
  };

  const says = async (): Promise<Said[]> => {
    const summaries = await shop.services.store.jobs();
    return Promise.all(
      summaries.map(async ({ id, tag, outcome, bay }) => {
        const { state, log } = await shop.services.jobs.job(id);
        return {
          tag,
          procedure: state.opened.procedure,
          outcome,
          bay,
          entries: log.length,
          step: state.steps[state.cursor]?.key ?? null,
          steps: state.steps.map(({ key, status }) => `${key} ${status}`),
        };
      }),
    );
  };

  beforeEach(() => {
    folder = mkdtempSync(join(tmpdir(), 'cork-ember-'));
  });

  afterEach(async () => {
    await shop.close();
    rmSync(folder, { recursive: true, force: true });
  });

  it('opens as a shop file: every job at its step, every type, rule and pack', async () => {
    const file = join(folder, 'shop.sqlite');
    writeFileSync(file, gunzipSync(kept('shop.sqlite.gz')));
    await openAt(file);
    expect(await says()).to.deep.equal(SAID);
    const { body: settings } = (await api.get('/api/shop')) as { body: Shop };
    expect(settings).to.include({ name: 'Tide Mill batteries' });
    expect(settings.people).to.deep.equal(['Maeve', 'Odd']);
    expect(settings.rules).to.include({ soak: 'm60' });
    expect(shop.services.settings.types).to.have.length(15);
    const own = shop.services.settings.types.find(({ id }) => id === 'OWN-B80');
    expect(own).to.deep.include({
      capacityAh: 80,
      hourRate: 20,
      label: { ceilingV: 14.6, postTorqueNm: 5 },
      sheet: { chargeCurrentA: 8 },
    });
    const { body: stock } = (await api.get('/api/stock')) as {
      body: { readonly levels: readonly StockLevel[] };
    };
    expect(stock.levels.find(({ id }) => id === 'pack:P-09')?.amount).to.equal(4);
  });

  it('prints the papers of its ended jobs and takes entries of its open ones', async () => {
    const file = join(folder, 'shop.sqlite');
    writeFileSync(file, gunzipSync(kept('shop.sqlite.gz')));
    await openAt(file);
    const summaries = await shop.services.store.jobs();
    const certified = summaries.find(({ outcome }) => outcome === 'certified');
    const paper = await api.get(`/api/jobs/${certified?.id ?? ''}/certificate.pdf`);
    expect([paper.status, paper.type]).to.deep.equal([200, 'application/pdf']);
    for (const { id, outcome } of summaries) {
      if (outcome) continue;
      const { log } = await shop.services.jobs.job(id);
      const answer = await api.post(`/api/jobs/${id}/events`).send({
        expectedSeq: log.at(-1)?.seq,
        entry: { kind: 'noted', payload: { text: 'opened again' } },
        by: 'Maeve',
        requestKey: id,
      });
      expect(answer.status, id).to.equal(201);
    }
  });

  it('comes in as exported jobs', async () => {
    await openAt(join(folder, 'empty.sqlite'));
    const bays = Array.from({ length: 12 }, (_, index) => ({ number: index + 1, charger: 'supply' }));
    await api.post('/api/shop/changes').send({ by: 'Maeve', why: 'as many as there were', bays });
    const exports = JSON.parse(gunzipSync(kept('jobs.json.gz')).toString()) as readonly JobExport[];
    for (const one of exports)
      expect((await api.post('/api/jobs/import').send(one)).status, one.job).to.equal(201);
    const byTag = (list: readonly Said[]): Said[] => list.toSorted((a, b) => a.tag.localeCompare(b.tag));
    const without = SAID.filter(({ tag }) => tag !== 'OWN-1');
    expect(byTag(await says())).to.deep.equal(byTag(without));
  });
});
