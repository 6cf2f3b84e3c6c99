import { expect } from 'chai';
import type { Health } from '@cork-ember/core/contract/health.ts';
import { openTestShop, type TestShop } from '../test/testShop.ts';
import { healthOf } from './services/health.ts';

const HOUR_MS = 3_600_000;

describe('how the shop is', () => {
  let shop: TestShop;
  before(async () => {
    shop = await openTestShop(undefined, true);
  });
  after(() => shop.cleanUp());

  it('is told whole on its own machine, and in a word elsewhere', async () => {
    const own = (await shop.api.get('/healthz').expect(200)).body as Health;
    expect(Object.keys(own.parts)).to.deep.equal(['store', 'disk', 'copy', 'clock', 'wire']);
    expect(own.parts.disk.says).to.match(/^The disk has \d+ MB left/);
    const far = (await shop.api.get('/healthz').set('x-forwarded-for', '192.168.1.20').expect(200))
      .body as object;
    expect(Object.keys(far)).to.deep.equal(['state']);
  });

  const of = (copyAt: number | undefined, apartMs?: number, endsAt?: number, isOwn = false) =>
    healthOf({
      database: shop.services.database,
      copies: { newest: () => Promise.resolve(copyAt) },
      clock: { apart: () => apartMs },
      certificate: () => (endsAt === undefined ? undefined : { endsAt, isOwn }),
      now: () => 100 * HOUR_MS,
    });

  it('is to be watched where a copy was missed, or the clocks tell different times', async () => {
    expect((await of(90 * HOUR_MS)).state).to.equal('well');
    const missed = await of(50 * HOUR_MS);
    expect([missed.state, missed.parts.copy.says]).to.deep.equal([
      'watch',
      'The last nightly copy is 50 h old.',
    ]);
    expect((await of(undefined)).parts.copy.state).to.equal('watch');
    expect((await of(90 * HOUR_MS, HOUR_MS)).parts.clock.says).to.include('60 min ahead');
  });

  it('says in time that a certificate ends, and what is to be done: a given one is not renewed by itself', async () => {
    const wireOf = async (days: number, isOwn: boolean) =>
      (await of(90 * HOUR_MS, undefined, (100 + 24 * days) * HOUR_MS, isOwn)).parts.wire;
    expect((await wireOf(40, false)).state).to.equal('well');
    expect(await wireOf(10, false)).to.deep.equal({
      state: 'watch',
      says: 'The certificate ends in 10 days: put the next one in its place.',
    });
    expect((await wireOf(10, true)).says).to.include('look into the log');
    expect((await wireOf(-1, false)).state).to.equal('ill');
  });

  it('is ill where its file cannot be read', async () => {
    const broken = await healthOf({
      database: {
        file: shop.services.database.file,
        sequelize: { query: () => Promise.reject(new Error('disk I/O error')) } as never,
      },
      copies: { newest: () => Promise.resolve('none wanted') },
      clock: { apart: () => undefined },
      certificate: () => undefined,
      now: () => 0,
    });
    expect([broken.state, broken.parts.store.state]).to.deep.equal(['ill', 'ill']);
  });

  it('counts calls by their route, and names no battery', async () => {
    await shop.api.get('/api/batteries/B-0001').expect(404);
    const { text } = await shop.api.get('/metrics').expect(200);
    expect(text).to.include('cork_ember_call_seconds_count{route="GET /api/batteries/{tag}",status="404"} 1');
    expect(text).to.include('cork_ember_pages 0').and.not.to.include('B-0001');
    await shop.api.get('/metrics').set('x-forwarded-for', '192.168.1.20').expect(403);
  });
});
