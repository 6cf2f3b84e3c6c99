import { expect } from 'chai';
import type { BatteryAnswer, JobAnswer, Problem, ShelvedBattery } from '@cork-ember/core/contract/answers.ts';
import type { ShelfEntry, ShelfEvent } from '@cork-ember/core/shelf/entries.ts';
import { placeOf } from '@cork-ember/core/shelf/keeping.ts';
import { ShelfStore } from './store/shelfStore.ts';
import { openTestShop, requestKey, type TestShop } from '../test/testShop.ts';

/** Certified in the demo's past. */
const CERTIFIED = 'SK-0121';
const ON_BENCH = 'SK-0142';
const RACK: ShelfEntry = {
  kind: 'placed',
  payload: { place: { kind: 'shelf', name: 'Dry rack 3', warmth: { tempC: 16 } } },
};
const read = (volts: number): ShelfEntry => ({ kind: 'read', payload: { volts, source: 'keypad' } });

describe('batteries off the bench, over HTTP', () => {
  let shop: TestShop;
  beforeEach(async () => {
    shop = await openTestShop();
  });
  afterEach(() => shop.cleanUp());

  const enter = (tag: string, entry: unknown, more: object = {}) =>
    shop.api.post(`/api/shelf/${tag}/entries`).send({ requestKey: requestKey(), by: 'Ines', entry, ...more });
  const shelf = async (): Promise<readonly ShelvedBattery[]> =>
    (await shop.api.get('/api/shelf').expect(200)).body as readonly ShelvedBattery[];
  const one = async (tag: string): Promise<ShelvedBattery | undefined> =>
    (await shelf()).find((battery) => battery.tag === tag);

  it('is asked about once it has left the bench charged, and stands where somebody says', async () => {
    const before = await one(CERTIFIED);
    expect(before?.kept.stays).to.deep.equal([]);
    expect(before?.kept.spells).to.have.length(1);
    await enter(CERTIFIED, RACK).expect(201);
    await enter(CERTIFIED, read(12.81)).expect(201);
    const after = await one(CERTIFIED);
    expect(after && placeOf(after.kept)).to.deep.equal({
      kind: 'shelf',
      name: 'Dry rack 3',
      warmth: { tempC: 16 },
    });
    expect(after?.kept.spells.at(-1)?.readings.map(({ volts }) => volts)).to.deep.equal([12.81]);
    const { body } = await shop.api.get(`/api/batteries/${CERTIFIED}`).expect(200);
    expect((body as BatteryAnswer).shelf.map(({ kind, seq }) => [kind, seq])).to.deep.equal([
      ['placed', 1],
      ['read', 2],
    ]);
  });

  it('records an entry once, however often it is sent, in the order it came', async () => {
    const same = { requestKey: requestKey(), by: 'Ines', entry: read(12.7) };
    const path = `/api/shelf/${CERTIFIED}/entries`;
    const [first, again] = [
      await shop.api.post(path).send(same).expect(201),
      await shop.api.post(path).send(same).expect(201),
    ];
    expect(again.body).to.deep.equal(first.body);
    await Promise.all([12.69, 12.68, 12.67].map((volts) => enter(CERTIFIED, read(volts)).expect(201)));
    const { body } = await shop.api.get(`/api/batteries/${CERTIFIED}`);
    expect((body as BatteryAnswer).shelf.map(({ seq }) => seq)).to.deep.equal([1, 2, 3, 4]);
  });

  it('is gone from the list once sold, on the bench, or recycled; one brought back begins again', async () => {
    await enter(CERTIFIED, { kind: 'placed', payload: { place: { kind: 'sold', name: '' } } }).expect(201);
    expect(await one(CERTIFIED)).to.equal(undefined);
    await enter(CERTIFIED, RACK).expect(201);
    expect(await one(CERTIFIED)).to.not.equal(undefined);
    expect(await one(ON_BENCH)).to.equal(undefined);
  });

  it('is charged again and stands where it stood; from a cracked case it goes to the recycler', async () => {
    await enter(CERTIFIED, RACK).expect(201);
    const before = await one(CERTIFIED);
    const { tag, typeId, serial, dateCode, owner } = before ?? { tag: '' };
    const opened = await shop.intake({ tag, typeId, serial, dateCode, owner }, { procedure: 'refresh' });
    expect(opened.status).to.equal(201);
    expect(await one(CERTIFIED)).to.equal(undefined);
    const { id } = opened.body as JobAnswer;
    const denied = { kind: 'denied', payload: { step: 'refresh-take#1', denial: 'damaged' } } as const;
    await shop.append(id, 1, denied).expect(201);
    const { database } = shop.services;
    const row = await database.models.shelf.findOne({ where: { tag: CERTIFIED }, raw: true });
    expect(row?.place).to.equal('recycled');
    expect(await one(CERTIFIED)).to.equal(undefined);
  });

  it('keeps the name of a borrower beside the record, where it can be deleted', async () => {
    const lent = { kind: 'placed', payload: { place: { kind: 'lent', name: '', to: 'B. Aune' } } };
    await enter(CERTIFIED, lent).expect(201);
    const kept = await one(CERTIFIED);
    expect(kept && placeOf(kept.kept)?.to).to.equal('B. Aune');
    const { models } = shop.services.database;
    const [row] = await models.shelfEvents.findAll({ where: { tag: CERTIFIED }, raw: true });
    expect(JSON.stringify(row?.payload)).to.not.include('Aune');
    await models.owners.destroy({ where: { name: 'B. Aune' } });
    const after = await one(CERTIFIED);
    expect(after && placeOf(after.kept)?.to).to.equal('name deleted');
  });

  it('says on its tag when it was charged, at what it rested, and what is next; what a machine’s stands for', async () => {
    const tagOf = async (tag: string): Promise<string> =>
      String((await shop.api.get(`/api/batteries/${tag}/label.svg`).expect(200)).body);
    expect(await tagOf(CERTIFIED)).to.include('certified');
    await enter(CERTIFIED, RACK).expect(201);
    await enter(CERTIFIED, read(12.81)).expect(201);
    const shelved = await tagOf(CERTIFIED);
    for (const words of [
      /charged \d+ \w+ 202\d, 12\.81 V/,
      /recharge by \d+ \w+ 2026/,
      /\d\d · [A-Z][a-z]+ 202\d/,
    ])
      expect(shelved).to.match(words);
    const display = { kind: 'display', name: 'Trike by the door' };
    await enter(CERTIFIED, { kind: 'placed', payload: { place: display } }).expect(201);
    expect(await tagOf(CERTIFIED)).to.include('out of Trike by the door');
  });

  it('knows which tags say what is not so any more', async () => {
    await enter(CERTIFIED, RACK).expect(201);
    expect((await one(CERTIFIED))?.kept.taggedAt).to.equal(undefined);
    await enter(CERTIFIED, { kind: 'tagged', payload: {} }).expect(201);
    const kept = (await one(CERTIFIED))?.kept;
    expect(kept?.taggedAt).to.be.above(kept?.spells.at(-1)?.from ?? Infinity);
  });

  it('adds none under a tag that is taken', async () => {
    const battery = { tag: CERTIFIED, typeId: 'LW-A12/9', serial: '', dateCode: '2026-01', owner: 'stock' };
    const { body } = await enter(CERTIFIED, RACK, { battery }).expect(409);
    expect((body as Problem).detail).to.equal(
      `${CERTIFIED} is in this shop already: give this one another tag.`,
    );
  });

  it('gives a paper to go with one that is taken, a loan slip where it is lent', async () => {
    await shop.api.get('/api/batteries/SK-0144/hand-over.pdf').expect(404);
    for (const kind of ['sold', 'lent'] as const) {
      await enter(CERTIFIED, { kind: 'placed', payload: { place: { kind, name: '' } } }).expect(201);
      await shop.api
        .get(`/api/batteries/${CERTIFIED}/hand-over.pdf`)
        .expect(200)
        .expect('Content-Type', /^application\/pdf/);
    }
  });

  it('takes one the shop has never had on its bench', async () => {
    const battery = {
      tag: 'SK-0900',
      typeId: 'BK-F12/70',
      serial: '',
      dateCode: '2024-05',
      owner: 'K. Lien',
    };
    const laidUp = {
      kind: 'placed',
      payload: { place: { kind: 'laidUp', name: 'Caravan', drawMa: 12, warmth: { tempC: 5 } } },
    };
    await enter('SK-0900', laidUp).expect(404);
    await enter('SK-0900', laidUp, { battery }).expect(201);
    expect(await one('SK-0900')).to.include({ typeId: 'BK-F12/70', owner: 'K. Lien' });
    const lithium = { ...battery, tag: 'SK-0901', typeId: 'VX-L12/7' };
    const { body } = await enter('SK-0901', laidUp, { battery: lithium }).expect(400);
    expect((body as Problem).detail).to.include('A lithium battery is not taken');
  });

  for (const [what, tag, entry, status, sentence] of [
    ['a tag nobody knows', 'SK-0999', RACK, 404, 'No battery in this shop carries the tag SK-0999.'],
    ['a battery on the bench', ON_BENCH, RACK, 422, 'SK-0142 stands on the bench: end its run sheet first.'],
    ['a voltage that is none', CERTIFIED, read(128), 400, 'Rested voltage: from 0 to 40 V.'],
    [
      'a place that is none',
      CERTIFIED,
      { kind: 'placed', payload: { place: { kind: 'moon', name: '' } } },
      400,
      'Place: say where it goes.',
    ],
    [
      'a store hotter than any',
      CERTIFIED,
      { kind: 'placed', payload: { place: { kind: 'shelf', name: '', warmth: { tempC: 200 } } } },
      400,
      'Warmth of the place',
    ],
    [
      'a draw that would start it',
      CERTIFIED,
      { kind: 'placed', payload: { place: { kind: 'laidUp', name: 'Boat', drawMa: 90_000 } } },
      400,
      'Draw while connected: from 0 to 5000 mA.',
    ],
    ['a kind that is none', CERTIFIED, { kind: 'eaten', payload: {} }, 400, 'kind'],
  ] as const)
    it(`answers ${what} with one sentence, and keeps nothing`, async () => {
      const { shelfEvents } = shop.services.database.models;
      const before = await shelfEvents.count();
      const { body } = await enter(tag, entry).expect(status);
      expect((body as Problem).detail).to.include(sentence);
      expect(await shelfEvents.count()).to.equal(before);
    });

  it('is written down anew from its entries and its jobs', async () => {
    await enter(CERTIFIED, RACK).expect(201);
    await enter(CERTIFIED, read(12.81)).expect(201);
    const before = await shelf();
    const { database } = shop.services;
    await database.models.shelf.destroy({ where: { tag: CERTIFIED } });
    await database.models.shelf.update({ place: 'sold' }, { where: { place: 'cold' } });
    expect(await shelf()).to.not.deep.equal(before);
    await new ShelfStore(database).rebuild();
    expect(await shelf()).to.deep.equal(before);
  });

  it('names the entry that somebody changed in the file', async () => {
    await enter(CERTIFIED, RACK).expect(201);
    await enter(CERTIFIED, read(12.81)).expect(201);
    const answer = async (): Promise<BatteryAnswer> =>
      (await shop.api.get(`/api/batteries/${CERTIFIED}`).expect(200)).body as BatteryAnswer;
    expect((await answer()).shelfBroken).to.equal(undefined);
    await shop.services.database.models.shelfEvents.update(
      { payload: { volts: 12.99, source: 'keypad' } },
      { where: { tag: CERTIFIED, seq: 2 } },
    );
    expect((await answer()).shelfBroken).to.match(/^Entry .*2 is not what was recorded\.$/);
  });

  it('tells every page', async () => {
    const told: ShelfEvent[] = [];
    const end = shop.services.stream.listen((message) => {
      if (message.kind === 'shelf') told.push(message.event);
    });
    await enter(CERTIFIED, read(12.7)).expect(201);
    end();
    expect(told.map(({ tag, kind }) => [tag, kind])).to.deep.equal([[CERTIFIED, 'read']]);
  });
});
