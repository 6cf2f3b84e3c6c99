/** A shop opened, closed and opened again. */
import { createHash } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import { pino } from 'pino';
import { Op } from 'sequelize';
import request from 'supertest';
import type { BatteryPage, OpenJob, Shop } from '@cork-ember/core/contract/answers.ts';
import { atHand } from '@cork-ember/core/runsheet/plan/atHand.ts';
import { unpacked } from '@cork-ember/core/runsheet/log/outline.ts';
import { demoMoment } from './demo/skerry.ts';
import { openDatabase } from './store/database.ts';
import { openShop, type ShopServer } from './shopServer.ts';

const START = Date.parse('2026-03-10T11:06:00Z');
const log = pino({ level: 'silent' });

describe('a shop and its file', () => {
  let folder: string;
  beforeEach(() => {
    folder = mkdtempSync(join(tmpdir(), 'cork-ember-shop-'));
  });
  afterEach(() => rmSync(folder, { recursive: true, force: true }));

  const open = (isDemo: boolean): Promise<ShopServer> =>
    openShop({ file: join(folder, 'shop.sqlite'), timeZone: 'Etc/UTC', isDemo, demoStart: START, log });

  it('begins empty when it is the shop’s own, in real time, with no instrument pretending', async () => {
    const shop = await open(false);
    const api = request(shop.server);
    expect((await api.get('/api/jobs')).body).to.deep.equal([]);
    expect((await api.get('/api/instruments')).body).to.deep.equal([]);
    expect((await api.get('/api/clock')).body).to.include({ pace: 1, isPaced: false });
    expect((await api.post('/api/clock').send({ pace: 60 })).status).to.equal(422);
    expect(((await api.get('/api/shop')).body as Shop).bays).to.have.length(6);
    await shop.close();
  });

  it('a demo that was killed while it was made is made again, whole', async () => {
    const jobsOf = async (shop: ShopServer): Promise<unknown> =>
      (await request(shop.server).get('/api/jobs')).body as unknown;
    const first = await open(true);
    const whole = (await jobsOf(first)) as readonly OpenJob[];
    await first.close();
    const database = await openDatabase(join(folder, 'shop.sqlite'));
    // As it lies there when the third battery was being written.
    await database.models.settings.upsert({ key: 'seeding', value: true });
    await database.models.events.destroy({ where: { seq: { [Op.gt]: 3 } } });
    await database.models.moves.destroy({ where: {} });
    await database.close();
    const again = await open(true);
    expect(((await jobsOf(again)) as readonly OpenJob[]).length).to.equal(whole.length);
    expect(await jobsOf(again)).to.deep.equal(whole);
    const { moves } = (await request(again.server).get('/api/stock')).body as { moves: readonly unknown[] };
    expect(moves.length).to.be.greaterThan(0);
    await again.close();
  });

  it('shows the demo in every state it promises', async () => {
    const shop = await open(true);
    const now = shop.services.clock.now();
    const jobs = (await request(shop.server).get('/api/jobs')).body as OpenJob[];
    const states = new Map(
      jobs.map((job) => {
        const { state } = unpacked(job);
        const hand = atHand(state, now);
        const isOverdue = hand !== undefined && now >= hand.overdueAt;
        return [
          state.opened.battery.tag,
          `${hand?.definition.id} ${hand?.phase ?? ''} ${hand?.hold ? 'held' : ''} ${isOverdue ? 'overdue' : ''}`
            .replace(/ +/g, ' ')
            .trim(),
        ];
      }),
    );
    expect(Object.fromEntries(states)).to.deep.equal({
      'SK-0139': 'charge running',
      'SK-0142': 'charge cooling held',
      'SK-0147': 'pack-dwell',
      'SK-0144': 'soak',
      'SK-0149': 'pack-code held',
      'SK-0136': 'pack-off overdue',
      'SK-0128': 'rest',
      'SK-0104': 'donor-hour running',
      'SK-0105': 'pulse running',
      'SK-0106': 'choose-route',
      'SK-0107': 'choose-route',
    });
    const { rows } = (await request(shop.server).get('/api/batteries')).body as BatteryPage;
    const outcomes = rows.map(({ last }) => last?.outcome);
    expect(outcomes).to.include.members(['certified', 'returned']);
    await shop.close();
  });

  it('finds everything again after a stop, and its clock no earlier than its last entry', async () => {
    const first = await open(true);
    const before = (await request(first.server).get('/api/jobs')).body as OpenJob[];
    await first.close();
    const second = await open(true);
    const after = (await request(second.server).get('/api/jobs')).body as OpenJob[];
    expect(after).to.deep.equal(before);
    const last = Math.max(...before.map(({ at }) => at));
    expect(second.services.clock.now()).to.be.at.least(last);
    await second.close();
  });

  it('sends no page it does not have, and keeps strangers’ scripts out', async () => {
    const shop = await open(false);
    const answer = await request(shop.server).get('/api/shop');
    const policy = answer.headers['content-security-policy'] ?? '';
    expect(policy).to.include("default-src 'self'").and.to.include("frame-ancestors 'none'");
    expect(policy).to.not.match(/unsafe|https?:|\*/);
    // The rules a toast lays down by itself are those the policy lets through.
    const toast = readFileSync(createRequire(import.meta.url).resolve('sonner'), 'utf8');
    const laid = /__insertCSS\(("(?:[^"\\]|\\.)*")\)/.exec(toast)?.[1] ?? '""';
    const hash = createHash('sha256')
      .update(JSON.parse(laid) as string)
      .digest('base64');
    expect(policy).to.include(`'sha256-${hash}'`);
    expect(answer.headers).not.to.have.property('x-powered-by');
    expect((await request(shop.server).get('/')).status).to.equal(404);
    await shop.close();
  });
});

describe('the demo’s moment', () => {
  for (const [now, start] of [
    ['2026-03-10T20:00:00Z', '2026-03-10T11:06:00Z'],
    ['2026-03-14T09:00:00Z', '2026-03-13T11:06:00Z'],
    ['2026-03-15T09:00:00Z', '2026-03-13T11:06:00Z'],
  ] as const)
    it(`on ${now.slice(0, 10)} it is ${start}`, () => {
      expect(new Date(demoMoment(Date.parse(now), 'Etc/UTC')).toISOString()).to.equal(
        start.replace('Z', '.000Z'),
      );
    });
});
