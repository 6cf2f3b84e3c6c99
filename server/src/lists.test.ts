/** Lists by page and word, as the file answers them. */
import { expect } from 'chai';
import type { BatteryAnswer, BatteryPage, NextTag } from '@cork-ember/core/contract/answers.ts';
import type { Shelf } from '@cork-ember/core/ledger/sets.ts';
import { wayRecords, type WayRecord } from '@cork-ember/core/ledger/ways.ts';
import { openTestShop, type TestShop } from '../test/testShop.ts';
import { matchOf } from './store/batteryList.ts';

describe('the list of batteries', () => {
  let shop: TestShop;
  before(async () => {
    shop = await openTestShop();
  });
  after(() => shop.cleanUp());

  const asked = async (query: Readonly<Record<string, string | number>>): Promise<BatteryPage> =>
    (await shop.api.get('/api/batteries').query(query).expect(200)).body as BatteryPage;
  const tags = async (words: string): Promise<string[]> =>
    (await asked({ words, sort: 'tag' })).rows.map(({ tag }) => tag);

  it('has each battery once, the one with the latest work first', async () => {
    const { rows: first, total } = await asked({});
    const rows = [...first, ...(await asked({ page: 1 })).rows];
    expect(new Set(rows.map(({ tag }) => tag)).size).to.equal(total);
    // One that never was on the bench comes last.
    const opened = rows.map(({ last }) => last?.openedAt ?? 0);
    expect(opened).to.deep.equal(opened.toSorted((a, b) => b - a));
  });

  it('is asked by page', async () => {
    for (let number = 300; number < 345; number++)
      await shop.intake({ tag: `PG-${number}` }, { bay: 0 }).expect(201);
    const [first, second] = [await asked({ sort: 'tag' }), await asked({ sort: 'tag', page: 1 })];
    expect(first.rows).to.have.length(first.size);
    expect(first.total).to.equal(second.total);
    const both = [...first.rows, ...second.rows].map(({ tag }) => tag);
    expect(both).to.deep.equal(both.toSorted());
    expect(new Set(both).size).to.equal(first.total);
  });

  for (const [words, found] of [
    ['SK-0121', 'SK-0121'],
    ['sk0121', 'SK-0121'],
    ['0121', 'SK-0121'],
    ['fårö', 'SK-0777'],
    ['faro slip', 'SK-0777'],
    ['ser55', 'SK-0777'],
    ['LW-A12/9 fär', 'SK-0777'],
  ] as const)
    it(`finds ${found} by “${words}”`, async () => {
      await shop.intake({ tag: 'SK-0777', owner: 'Fårö slip', serial: 'SER-55/x' }, { bay: 0 });
      expect(await tags(words)).to.include(found);
    });

  it('finds a type by its maker', async () => {
    const { types } = shop.services.settings;
    const maker = types[0]?.maker ?? '';
    const own = new Set(types.filter((type) => type.maker === maker).map(({ id }) => id));
    const { rows } = await asked({ words: maker.slice(0, 4) });
    expect(rows.some(({ typeId }) => own.has(typeId))).to.equal(true);
  });

  for (const words of ['zzz', '"', '* OR *', 'tag:', ')(', 'NEAR(', '--'])
    it(`finds nothing by “${words}”, and nothing breaks`, async () => {
      expect(await asked({ words })).to.include({ total: 0 });
    });

  it('shows what stands on the bench alone', async () => {
    const { rows, total } = await asked({ where: 'bench' });
    expect(total).to.be.greaterThan(0);
    expect(rows.every(({ last }) => last !== null && last.outcome === null)).to.equal(true);
  });

  it('finds a battery by its new owner and no more by the old one', async () => {
    await shop.intake({ tag: 'OW-1', owner: 'Quillfeather' }, { bay: 0 }).expect(201);
    const id = (await asked({ words: 'OW-1' })).rows[0]?.last?.id ?? '';
    await shop
      .append(id, 1, { kind: 'arranged', payload: { owner: 'Brambleton', why: 'sold on to her' } })
      .expect(201);
    expect([await tags('brambl'), await tags('quill')]).to.deep.equal([['OW-1'], []]);
    await shop.services.batteries.rebuild();
    expect([await tags('brambl'), await tags('quill')]).to.deep.equal([['OW-1'], []]);
  });

  it('shows what was last measured of each', async () => {
    const { rows } = await asked({ words: 'SK-0102' });
    const { findings } = (await shop.api.get('/api/batteries/SK-0102')).body as BatteryAnswer;
    expect(rows[0]?.measured.capacityShare).to.equal(findings.at(-1)?.capacityShare);
    expect(findings.length).to.be.greaterThan(1);
  });

  it('says in one sentence what it cannot be asked', async () => {
    for (const [query, sentence] of [
      ['page=-1', 'page'],
      ['page=x', 'page'],
      ['sort=colour', 'sort'],
      [`words=${'x'.repeat(81)}`, 'at most 80 letters'],
    ] as const) {
      const { body } = await shop.api.get(`/api/batteries?${query}`).expect(400);
      expect((body as { detail: string }).detail).to.include(sentence);
    }
  });

  it('gives out the next tag of the shop’s row, whatever else is called like one', async () => {
    const next = async (): Promise<NextTag> => (await shop.api.get('/api/tags/next')).body as NextTag;
    const { number } = await next();
    await shop.intake({ tag: 'SK-9X99' }, { bay: 0 }).expect(201);
    expect(await next()).to.deep.equal({ number, tag: `SK-0${number}` });
    await shop.intake({ tag: 'SK-12000' }, { bay: 0 }).expect(201);
    expect(await next()).to.deep.equal({ number: 12_001, tag: 'SK-12001' });
  });
});

describe('what the ledger says of all batteries', () => {
  let shop: TestShop;
  before(async () => {
    shop = await openTestShop();
  });
  after(() => shop.cleanUp());

  it('the ways that worked are those of every finding', async () => {
    const { body } = await shop.api.get('/api/ledger/ways').expect(200);
    const { rows } = (await shop.api.get('/api/batteries')).body as BatteryPage;
    const each = await Promise.all(
      rows.map(async ({ tag }) => (await shop.api.get(`/api/batteries/${tag}`)).body as BatteryAnswer),
    );
    const { costs, room } = shop.services.settings.shop;
    const all = each.flatMap(({ findings }) => findings).toSorted((a, b) => a.endedAt - b.endedAt);
    expect(body).to.deep.equal(wayRecords(all, { ...costs, pricePerKwh: room.pricePerKwh }));
    expect((body as WayRecord[]).length).to.be.greaterThan(0);
  });

  it('one that is back on the bench is matched into no set', async () => {
    const shelf = async (): Promise<string[]> =>
      ((await shop.api.get('/api/ledger/shelf').expect(200)).body as Shelf).members.map(({ tag }) => tag);
    expect(await shelf()).to.include('SK-0091');
    await shop.intake({ tag: 'SK-0091', typeId: 'BK-A12/55' }, { procedure: 'recover-agm' });
    const { jobs } = (await shop.api.get('/api/batteries/SK-0091')).body as BatteryAnswer;
    expect(jobs.at(-1)?.outcome).to.equal(null);
    expect(await shelf()).not.to.include('SK-0091');
  });
});

describe('what was typed as a question to the index', () => {
  it('wants every word, as it begins, and takes signs for what they are', () => {
    const none = (): readonly string[] => [];
    expect(matchOf('P-09 "ferry', none)).to.equal('("P-09" *) AND ("""ferry" *)');
    expect(matchOf(' -- ', none)).to.equal(undefined);
    expect(matchOf('lind', () => ['LW-A12/9'])).to.equal('("lind" * OR typeId : "LW-A12/9")');
  });
});
