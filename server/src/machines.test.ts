import { expect } from 'chai';
import type { JobAnswer, MachineAnswer, Problem } from '@cork-ember/core/contract/answers.ts';
import type { Machine } from '@cork-ember/core/battery/machines.ts';
import type { ShelfEntry } from '@cork-ember/core/shelf/entries.ts';
import { openTestShop, requestKey, type TestShop } from '../test/testShop.ts';

const LIFT = 'M-0002';
const TRUCK = { by: 'Ines', name: 'Pallet truck', owner: 'cannery', carries: 2, typeId: 'BK-A12/55' };

describe('machines, over HTTP', () => {
  let shop: TestShop;
  beforeEach(async () => {
    shop = await openTestShop();
  });
  afterEach(() => shop.cleanUp());

  const enter = (tag: string, entry: ShelfEntry, more: object = {}) =>
    shop.api.post(`/api/shelf/${tag}/entries`).send({ requestKey: requestKey(), by: 'Ines', entry, ...more });
  const machine = async (tag: string): Promise<MachineAnswer> =>
    (await shop.api.get(`/api/machines/${tag}`).expect(200)).body as MachineAnswer;
  const tags = async (tag: string) => (await machine(tag)).batteries.map((one) => one.tag);

  it('get their tags in the order they are put down, and keep what is changed of them', async () => {
    const { body } = await shop.api.post('/api/machines').send(TRUCK).expect(201);
    const { tag } = body as Machine;
    expect(tag).to.equal('M-0004');
    await shop.api
      .post(`/api/machines/${tag}`)
      .send({ ...TRUCK, carries: 3 })
      .expect(200);
    expect(await machine(tag)).to.deep.include({ tag, name: 'Pallet truck', owner: 'cannery', carries: 3 });
    const all = (await shop.api.get('/api/machines').expect(200)).body as readonly Machine[];
    expect(all.map((one) => one.tag)).to.include.members(['M-0001', LIFT, tag]);
  });

  it('know their set, wherever its batteries are, and what the bench found of one', async () => {
    expect(await tags(LIFT)).to.deep.equal(['SK-0031', 'SK-0032', 'SK-0033', 'SK-0034']);
    const ferry = await machine('M-0001');
    expect(ferry.batteries).to.have.length(1);
    expect(ferry.batteries[0]).to.deep.include({ tag: 'SK-0095', outcome: 'retired' });
    // Nobody who has one is told of with it.
    expect(JSON.stringify(await machine(LIFT))).not.to.include('owner:');
  });

  it('have one taken out by what is recorded of it, also while it is on the bench', async () => {
    await enter('SK-0031', { kind: 'placed', payload: { place: { kind: 'shelf', name: 'Rack 1' } } }).expect(
      201,
    );
    const battery = {
      tag: 'SK-0032',
      typeId: 'BK-A12/55',
      serial: '',
      dateCode: '2022-11',
      owner: 'boatyard',
    };
    const job = {
      battery,
      bay: 0,
      promisedAt: shop.services.clock.now() + 1e8,
      by: 'Ines',
      requestKey: requestKey(),
    };
    const opened = (await shop.api.post('/api/jobs').send(job).expect(201)).body as JobAnswer;
    const onBench = (await machine(LIFT)).batteries.find(({ tag }) => tag === 'SK-0032');
    expect(onBench?.job).to.equal(opened.id);
    expect(onBench).not.to.have.property('outcome');
    await enter('SK-0032', { kind: 'parted', payload: {} }).expect(201);
    expect(await tags(LIFT)).to.deep.equal(['SK-0033', 'SK-0034']);
  });

  it('say nothing of a battery by what was measured before it worked in them', async () => {
    const place = { kind: 'laidUp', name: 'Scissor lift 3', machine: LIFT } as const;
    // Recovered on the bench two months ago.
    await enter('SK-0091', { kind: 'placed', payload: { place } }).expect(201);
    const fitted = (await machine(LIFT)).batteries.find(({ tag }) => tag === 'SK-0091');
    expect(fitted).to.have.all.keys('tag', 'typeId', 'serial', 'dateCode', 'cells', 'place');
  });

  it('have a label of their own to scan', async () => {
    const { body, headers } = await shop.api.get(`/api/machines/${LIFT}/label.pdf`).expect(200);
    expect(headers['content-type']).to.equal('application/pdf');
    expect((body as Buffer).subarray(0, 5).toString()).to.equal('%PDF-');
  });

  for (const [what, machineBody, said] of [
    ['no name', { ...TRUCK, name: '' }, 'Machine'],
    ['none in it', { ...TRUCK, carries: 0 }, 'Batteries in it: from 1 to 24.'],
    ['half a battery', { ...TRUCK, carries: 1.5 }, 'Batteries in it: from 1 to 24.'],
    ['a type nobody knows', { ...TRUCK, typeId: 'NO-1' }, 'Type: this shop knows no type NO-1 it could fit.'],
  ] as const)
    it(`answer ${what} with one sentence, and keep nothing`, async () => {
      const { body } = await shop.api.post('/api/machines').send(machineBody).expect(400);
      expect((body as Problem).detail).to.include(said);
      expect((await shop.api.get('/api/machines')).body).to.have.length(3);
    });

  it('that nobody put down are told of in a sentence', async () => {
    const { body } = await shop.api.get('/api/machines/M-0099').expect(404);
    expect((body as Problem).detail).to.equal('No machine in this shop carries the tag M-0099.');
    await shop.api.post('/api/machines/M-0099').send(TRUCK).expect(404);
  });
});
