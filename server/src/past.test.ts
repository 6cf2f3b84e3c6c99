/** Shop files and job exports of November 2026, before construction, duty and delivery were told apart, open with everything in them. */
import { spawnSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gunzipSync } from 'node:zlib';
import { expect } from 'chai';
import { pino } from 'pino';
import request from 'supertest';
import type { JobExport, Shop } from '@cork-ember/core/contract/answers.ts';
import type { StockLevel } from '@cork-ember/core/stock/stock.ts';
import { chainBreak } from './record/chain.ts';
import { openShop, type ShopServer } from './shopServer.ts';

/** What each released form of the record left: 1 told types apart by one word, 2 named entries by their place. */
const kept = (version: number, name: string): Buffer =>
  readFileSync(new URL(`../test/past/${version}/${name}`, import.meta.url));

interface Said {
  readonly tag: string;
  readonly procedure: string;
  readonly outcome: string | null;
  readonly bay: number;
  readonly entries: number;
  readonly step: string | null;
  readonly steps: readonly string[];
  /** Not said by the first. */
  readonly owner?: string;
}

const saidBy = (version: number): Said[] => JSON.parse(kept(version, 'says.json').toString()) as Said[];
const VERSIONS = [1, 2] as const;

describe('What earlier versions wrote', () => {
  let folder: string;
  let shop: ShopServer;
  let api: ReturnType<typeof request>;

  const openAt = async (file: string): Promise<void> => {
    shop = await openShop({ file, timeZone: 'Etc/UTC', isDemo: false, log: pino({ level: 'silent' }) });
    api = request(shop.server);
  };

  const says = async (isOwnerSaid: boolean): Promise<Said[]> => {
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
          ...(isOwnerSaid ? { owner: state.opened.battery.owner } : {}),
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

  it('keeps every type, rule and pack of a shop of the first', async () => {
    const file = join(folder, 'shop.sqlite');
    writeFileSync(file, gunzipSync(kept(1, 'shop.sqlite.gz')));
    await openAt(file);
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

  for (const version of VERSIONS) {
    it(`opens as a shop file: every job at its step, each ended one sealed (${version})`, async () => {
      const file = join(folder, 'shop.sqlite');
      writeFileSync(file, gunzipSync(kept(version, 'shop.sqlite.gz')));
      await openAt(file);
      expect(await says(version > 1)).to.deep.equal(saidBy(version));
      expect((await api.get('/api/quarantine')).body).to.deep.equal([]);
      for (const { id, outcome } of await shop.services.store.jobs()) {
        const { entries } = await shop.services.store.kept(id);
        expect(chainBreak(entries), id).to.equal(undefined);
        const seals = await shop.services.seals.seals(id);
        expect(seals, id).to.have.length(outcome ? 1 : 0);
        for (const { code } of seals)
          expect(await shop.services.sealing.check(code)).not.to.have.property('broken');
      }
    });

    it(`prints the papers of its ended jobs and takes entries of its open ones (${version})`, async () => {
      const file = join(folder, 'shop.sqlite');
      writeFileSync(file, gunzipSync(kept(version, 'shop.sqlite.gz')));
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
          requestKey: randomUUID(),
        });
        expect(answer.status, id).to.equal(201);
      }
    });

    it(`comes in as exported jobs (${version})`, async () => {
      await openAt(join(folder, 'empty.sqlite'));
      const bays = Array.from({ length: 12 }, (_, index) => ({ number: index + 1, charger: 'supply' }));
      await api.post('/api/shop/changes').send({ by: 'Maeve', why: 'as many as there were', bays });
      const exports = JSON.parse(
        gunzipSync(kept(version, 'jobs.json.gz')).toString(),
      ) as readonly JobExport[];
      for (const one of exports)
        expect((await api.post('/api/jobs/import').send(one)).status, one.job).to.equal(201);
      const byTag = (list: readonly Said[]): Said[] => list.toSorted((a, b) => a.tag.localeCompare(b.tag));
      const without = saidBy(version).filter(({ tag }) => tag !== 'OWN-1');
      expect(byTag(await says(version > 1))).to.deep.equal(byTag(without));
    });
  }

  const upgrade = (file: string, after: number): ReturnType<typeof spawnSync> =>
    spawnSync(process.execPath, ['--import', 'tsx', 'server/test/killedMigration.ts', file, String(after)]);

  // Statements of the upgrade: its first tables, a column, half its jobs, and within the last of its migrations.
  for (const [what, after] of [
    ['statement 12', () => 12],
    ['statement 24', () => 24],
    ['statement 300', () => 300],
    ['statement 900', () => 900],
    ['its last migration', (all: number) => all - 7],
    ['its commit', (all: number) => all - 1],
  ] as const)
    it(`killed at ${what} of its upgrade, a shop file is as it was, and opens whole the next time`, async function () {
      this.timeout(60_000);
      const file = join(folder, 'shop.sqlite');
      const old = gunzipSync(kept(2, 'shop.sqlite.gz'));
      writeFileSync(file, old);
      const all = Number(upgrade(file, Number.MAX_SAFE_INTEGER).stdout);
      expect(all).to.be.greaterThan(900);
      for (const suffix of ['-wal', '-shm']) rmSync(`${file}${suffix}`, { force: true });
      writeFileSync(file, old);
      const killed = upgrade(file, after(all));
      expect(killed.signal, killed.stderr.toString()).to.equal('SIGKILL');
      await openAt(file);
      expect(await says(true)).to.deep.equal(saidBy(2));
      expect(await shop.services.seals.unsealed()).to.deep.equal([]);
      const { rows } = await shop.services.batteries.page(
        { words: 'SK-0102', where: 'anywhere', sort: 'tag', page: 0 },
        () => [],
      );
      expect(rows.map(({ tag }) => tag)).to.deep.equal(['SK-0102']);
    });
});
