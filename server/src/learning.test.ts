/** What the shop learns from its own jobs, over HTTP. */
import { expect } from 'chai';
import type { LearnedAnswer, Shop, ShopChange } from '@cork-ember/core/contract/answers.ts';
import { openTestShop, type TestShop } from '../test/testShop.ts';

describe('what the shop has learned', function () {
  this.timeout(300_000);
  let shop: TestShop;
  before(async () => {
    shop = await openTestShop();
    await shop.services.learning.drawn();
  });
  after(() => shop.cleanUp());

  const learned = async (): Promise<LearnedAnswer> =>
    (await shop.api.get('/api/ledger/learned').expect(200)).body as LearnedAnswer;
  const change = async (learning: Shop['learning']): Promise<void> => {
    await shop.api
      .post('/api/shop/changes')
      .send({ by: 'Ines', why: 'a new tester came', learning })
      .expect(201);
  };

  it('is drawn from every recovery that ended, and from nothing else', async () => {
    const { left, jobs, causes, ways, minutes, tester } = await learned();
    expect(left).to.equal(0);
    const ended = (await shop.services.store.jobs()).filter(({ outcome }) =>
      ['recovered', 'retired'].includes(outcome ?? ''),
    );
    expect(jobs.causes).to.equal(ended.length);
    for (const said of causes) {
      const sum = said.causes.reduce((all, { now }) => all + now, 0);
      expect(sum, said.answer).to.be.closeTo(1, 1e-9);
    }
    const [slow] = ways;
    expect(slow).to.include({ way: 'slow-charge', title: 'Slow charge', construction: 'agm' });
    expect(slow?.back).to.be.lessThanOrEqual(slow?.tried ?? 0);
    expect(slow?.low).to.be.lessThan(slow?.odds ?? 0);
    expect(minutes.every(({ title }) => title !== '')).to.equal(true);
    expect(tester.count).to.be.greaterThan(0);
    expect(tester.factor).to.be.within(0.8, 1.25);
  });

  it('is begun anew by topic, with a reason on the record, and taken up again', async () => {
    const before = await learned();
    await change({
      countsImported: false,
      countsWithdrawn: false,
      since: { tester: shop.services.clock.now() },
    });
    const anew = await learned();
    expect(anew.jobs).to.deep.equal({ ...before.jobs, tester: 0 });
    expect(anew.inForce.tester).to.equal(1);
    const [last] = (await shop.api.get('/api/shop/changes')).body as ShopChange[];
    expect(last).to.include({
      what: 'Learning, what the tester shows: anew, from later jobs alone',
      why: 'a new tester came',
    });
    await change({ countsImported: false, countsWithdrawn: false, since: {} });
    expect((await learned()).jobs).to.deep.equal(before.jobs);
  });

  it('jobs another shop kept count once it is said that they do', async () => {
    const job = (await shop.services.store.jobs()).find(({ outcome }) => outcome === 'recovered');
    const { text } = await shop.api.get(`/api/jobs/${job?.id ?? ''}/export`).expect(200);
    const foreign = await openTestShop(undefined, true);
    await foreign.api.post('/api/jobs/import').set('content-type', 'application/json').send(text).expect(201);
    await foreign.services.learning.drawn();
    const asked = async (): Promise<LearnedAnswer> =>
      (await foreign.api.get('/api/ledger/learned')).body as LearnedAnswer;
    expect(await asked()).to.deep.include({ imported: 1, left: 0 });
    expect((await asked()).jobs.causes).to.equal(0);
    expect((await foreign.api.get('/api/ledger/ways')).body).to.deep.equal([]);
    await foreign.api
      .post('/api/shop/changes')
      .send({
        by: 'Ines',
        why: 'the same owner',
        learning: { countsImported: true, countsWithdrawn: false, since: {} },
      })
      .expect(201);
    expect((await asked()).jobs.causes).to.equal(1);
    expect((await foreign.api.get('/api/ledger/ways')).body).to.have.length(1);
    await foreign.cleanUp();
  });

  it('bad rules are refused in a sentence', async () => {
    const { body } = await shop.api
      .post('/api/shop/changes')
      .send({
        by: 'Ines',
        why: 'to see',
        learning: { countsImported: 'yes', countsWithdrawn: false, since: {} },
      })
      .expect(400);
    expect((body as { detail: string }).detail).to.not.equal('');
  });
});
