/** What is kept of a customer goes to them whole, or goes away; the record stands either way. */
import { readFileSync } from 'node:fs';
import { expect } from 'chai';
import type { Customer, CustomerData, Forgotten } from '@cork-ember/core/contract/customers.ts';
import type { BatteryPage } from '@cork-ember/core/contract/answers.ts';
import { answerOf, CERTIFIED, checkOf, detailOf, fileOf } from '../test/endedJob.ts';
import { note, openTestShop, type TestShop } from '../test/testShop.ts';

const WHY = 'asked for it by letter';
const MARA = 'Mara Quillfeather';
/** Taken in, and in no bay yet. */
const OFF = { bay: 0 } as const;

describe('a customer', () => {
  let shop: TestShop;
  before(async () => {
    shop = await openTestShop();
  });
  after(() => shop.cleanUp());

  const customers = async (): Promise<readonly Customer[]> =>
    (await shop.api.get('/api/customers').expect(200)).body as Customer[];
  const ownerOf = async (job: string): Promise<string> => {
    const [opened] = (await answerOf(shop, job)).events;
    return opened?.kind === 'opened' ? opened.payload.battery.owner : '';
  };
  const forget = (name: string, why = WHY) => shop.api.post('/api/customers/forget').send({ name, why });

  it('is told everything that is kept of them, in an open format', async () => {
    const { body } = await shop.intake({ tag: 'SK-0601', owner: MARA }, OFF).expect(201);
    const { id } = body as { id: string };
    await shop.append(id, 1, note('rings at noon')).expect(201);
    const { body: told } = await shop.api
      .get('/api/customers/data')
      .query({ name: MARA.toUpperCase() })
      .expect(200);
    const { batteries, jobs } = told as CustomerData;
    expect(batteries.map(({ tag, owner }) => [tag, owner])).to.deep.equal([['SK-0601', MARA]]);
    expect(jobs.map(({ job, events }) => [job, events.length])).to.deep.equal([[id, 2]]);
  });

  it('is gone by name, and nothing else is: hashes, seals and papers are what they were', async () => {
    const owner = await ownerOf(CERTIFIED);
    expect((await customers()).some(({ name }) => name === owner)).to.equal(true);
    const before = await fileOf(shop, CERTIFIED);
    const { body } = await forget(owner).expect(200);
    expect((body as Forgotten).jobs).to.be.at.least(1);
    expect(await ownerOf(CERTIFIED)).to.equal('name deleted');
    const after = await fileOf(shop, CERTIFIED);
    expect(after.entries.map(({ hash }) => hash)).to.deep.equal(before.entries.map(({ hash }) => hash));
    const code = (await answerOf(shop, CERTIFIED)).seals.at(-1)?.code ?? '';
    expect((await checkOf(shop, code)).broken).to.equal(undefined);
    const pdf = await shop.api.get(`/api/jobs/${CERTIFIED}/certificate.pdf`).expect(200);
    expect((pdf.body as Buffer).length).to.be.above(1000);
    expect((await customers()).some(({ name }) => name === owner)).to.equal(false);
    const found = (await shop.api.get('/api/batteries').query({ words: owner }).expect(200))
      .body as BatteryPage;
    expect(found.rows).to.deep.equal([]);
  });

  it('is told to stand still in what somebody wrote by hand', async () => {
    const { body: taken } = await shop.intake({ tag: 'SK-0602', owner: 'Zzyvaline Orrt' }, OFF).expect(201);
    const { id } = taken as { id: string };
    await shop.append(id, 1, note('Zzyvaline Orrt rings at noon')).expect(201);
    const { body } = await forget('zzyvaline orrt').expect(200);
    expect((body as Forgotten).stillSaid).to.deep.equal(['SK-0602']);
  });

  it('leaves no letter of theirs in the file', async () => {
    await shop.intake({ tag: 'SK-0604', owner: 'Brannaghue Tild' }, OFF).expect(201);
    await forget('Brannaghue Tild').expect(200);
    const { file } = shop.services.database;
    for (const part of [file, `${file}-wal`])
      expect(readFileSync(part).includes('Brannaghue'), part).to.equal(false);
  });

  it('nobody has heard of is said so; a reason is asked for', async () => {
    expect(detailOf(await forget('Nobody Atall').expect(404))).to.include('“Nobody Atall”');
    expect(detailOf(await forget(MARA, 'x').expect(400))).to.include('in a few words why');
    await shop.api.get('/api/customers/data').query({ name: '' }).expect(400);
  });
});

describe('a picture of a job', () => {
  let shop: TestShop;
  before(async () => {
    shop = await openTestShop();
  });
  after(() => shop.cleanUp());

  it('goes with a trace of who let it go, and why; the entry that named it stays', async () => {
    const { default: sharp } = await import('sharp');
    const picture = await sharp({ create: { width: 8, height: 8, channels: 3, background: '#888' } })
      .png()
      .toBuffer();
    const { body } = await shop.intake({ tag: 'SK-0605' }).expect(201);
    const { id } = body as { id: string };
    const kept = await shop.api.post(`/api/jobs/${id}/photos`).type('image/png').send(picture).expect(201);
    const { photo } = kept.body as { photo: string };
    await shop
      .append(id, 1, { kind: 'photographed', payload: { photo, step: 'soak#1', caption: 'x' } })
      .expect(201);
    const gone = () => shop.api.post(`/api/jobs/${id}/photos/${photo}/gone`).send({ why: 'shows a face' });
    await gone().expect(200);
    expect(detailOf(await gone().expect(404))).to.include('it was deleted');
    await shop.api.get(`/api/jobs/${id}/photos/${photo}`).expect(404);
    expect((await answerOf(shop, id)).events).to.have.length(2);
    const audit = (await shop.api.get('/api/audit').expect(200)).body as readonly { what: string }[];
    expect(audit.some(({ what }) => what === 'SK-0605: a picture was deleted; shows a face')).to.equal(true);
  });
});
