/** A job's file, out of one shop and into another. */
import { randomUUID } from 'node:crypto';
import { expect } from 'chai';
import type { BatteryAnswer } from '@cork-ember/core/contract/answers.ts';
import { amend, answerOf, CERTIFIED, detailOf, fileOf } from '../../test/endedJob.ts';
import { openTestShop, type TestShop } from '../../test/testShop.ts';

describe('a job’s file', () => {
  let shop: TestShop;

  beforeEach(async () => {
    shop = await openTestShop();
  });

  afterEach(() => shop.cleanUp());

  let other: TestShop;

  beforeEach(async () => {
    other = await openTestShop(undefined, true);
  });

  afterEach(() => other.cleanUp());

  it('comes into another shop with chain, seals and pictures, and goes out of it the same', async () => {
    const picture = await (
      await import('sharp')
    )
      .default({ create: { width: 40, height: 30, channels: 3, background: '#c8a47a' } })
      .png()
      .toBuffer();
    const kept = await shop.api
      .post(`/api/jobs/${CERTIFIED}/photos`)
      .set('content-type', 'image/png')
      .send(picture)
      .expect(201);
    const { photo } = kept.body as { photo: string };
    const { events } = await answerOf(shop, CERTIFIED);
    const seen = { photo, step: 'certify#1', caption: 'as it left' };
    await shop.append(CERTIFIED, events.length, { kind: 'photographed', payload: seen }).expect(201);
    await amend(shop, CERTIFIED, 12.71);
    const file = await fileOf(shop, CERTIFIED);
    expect([file.seals.length, file.photos.length]).to.deep.equal([2, 1]);
    await other.api.post('/api/jobs/import').send(file).expect(201);
    expect(await fileOf(other, CERTIFIED)).to.deep.equal(file);
    await other.api.post('/api/jobs/import').send(file).expect(201);
    await other.api.get(`/api/jobs/${CERTIFIED}/photos/${photo}`).expect(200);
    const answer = await other.api.get(`/api/check/${file.seals[1]?.code ?? ''}`).expect(200);
    expect(answer.body).not.to.have.property('broken');
    const { body } = await other.api.get('/api/batteries/SK-0121').expect(200);
    expect((body as BatteryAnswer).findings.map(({ job }) => job)).to.deep.equal([CERTIFIED]);
  });

  it('is refused in one sentence where anything in it is not what was recorded', async () => {
    const file = await fileOf(shop, CERTIFIED);
    const [first, second, ...rest] = file.entries;
    if (!first || !second) throw new Error('it has entries');
    const [name] = file.names;
    const [seal] = file.seals;
    for (const [changed, sentence] of [
      [{ entries: [first, { ...second, by: 'Odd' }, ...rest] }, 'Entry #2 is not what was recorded.'],
      [{ entries: [first, ...rest] }, 'Entry #2 is missing.'],
      [{ entries: [first, { ...second, occurredAt: second.occurredAt + 1 }, ...rest] }, 'Entry #2'],
      [{ names: [{ ...name, name: 'somebody else' }] }, 'not the one that was given'],
      [
        { seals: [{ ...seal, content: { ...(seal?.content as object), issue: 2 } }] },
        'Issue 1 is not what was sealed',
      ],
      [{ job: randomUUID() }, 'different jobs'],
    ] as const) {
      const answer = await other.api
        .post('/api/jobs/import')
        .send({ ...file, ...changed })
        .expect(400);
      expect(detailOf(answer)).to.include(sentence);
    }
    await other.api.get(`/api/jobs/${CERTIFIED}`).expect(404);
  });

  it('is read as it arrives, and refused in one sentence where it breaks off or is no such file', async () => {
    const file = await fileOf(shop, CERTIFIED);
    const whole = JSON.stringify(file);
    const photo = { id: randomUUID(), jpeg: 'AAAA' };
    const cases: readonly (readonly [body: string, sentence: string])[] = [
      [whole.slice(0, -20), 'cut short'],
      [whole.slice(0, 400), 'cut short'],
      ['', 'cut short'],
      ['entries', 'no JSON'],
      ['[]', 'no file of a job'],
      [whole.replace('"version":3', '"version":4'), 'version'],
      [whole.replace('"entries":[', '"entries":7,"more":['), 'must be a list'],
      [JSON.stringify({ ...file, colour: 'red' }), 'colour'],
      [JSON.stringify({ ...file, entries: [] }), 'no entries'],
      [JSON.stringify({ ...file, entries: [...file.entries, { seq: 1 }] }), 'job'],
      [JSON.stringify({ ...file, photos: Array.from({ length: 41 }, () => photo) }), 'at most 40 pictures'],
      [JSON.stringify({ ...file, photos: [photo] }), 'no JPEG'],
    ];
    for (const [body, sentence] of cases) {
      const answer = await other.api.post('/api/jobs/import').type('json').send(body);
      expect([answer.status, body.length, detailOf(answer)], sentence).to.deep.equal([
        400,
        body.length,
        detailOf(answer),
      ]);
      expect(detailOf(answer)).to.include(sentence);
    }
    const text = await other.api.post('/api/jobs/import').type('text').send(whole).expect(400);
    expect(detailOf(text)).to.include('application/json');
    await other.api.get(`/api/jobs/${CERTIFIED}`).expect(404);
  });

  it('of before there were hashes is taken as it says, sealed here, and refused where no run sheet would have taken it', async () => {
    const { events } = await answerOf(shop, CERTIFIED);
    const old = events.map(({ key: _key, ...event }) => event);
    const file = { format: 'cork-ember-job', version: 2, job: CERTIFIED, events: old };
    const holed = old
      .filter(({ kind }) => kind !== 'observed')
      .map((event, index) => ({ ...event, seq: index + 1 }));
    const broken = await other.api
      .post('/api/jobs/import')
      .send({ ...file, events: holed })
      .expect(400);
    expect(detailOf(broken)).to.include('does not hold together');
    await other.api.post('/api/jobs/import').send(file).expect(201);
    await other.api.post('/api/jobs/import').send(file).expect(201);
    const here = await answerOf(other, CERTIFIED);
    expect(here.seals).to.have.length(1);
    expect(here.events.map(({ key }) => key)).to.deep.equal(events.map(({ seq }) => `#${seq}`));
    const shorter = await other.api
      .post('/api/jobs/import')
      .send({ ...file, events: old.slice(0, 5) })
      .expect(409);
    expect(detailOf(shorter)).to.include('another log');
  });

  it('never rewrites a battery that is known here as another piece', async () => {
    const file = await fileOf(shop, CERTIFIED);
    await other.services.store.createJob(
      { tag: 'SK-0121', typeId: 'LW-A12/9', serial: 'B-77', dateCode: '2025-11', owner: 'stock' },
      { id: randomUUID(), tag: 'SK-0121', bay: 1, openedAt: 1e12, outcome: 'withdrawn', endedAt: 1e12 },
      { entries: [], names: [] },
    );
    const answer = await other.api.post('/api/jobs/import').send(file).expect(409);
    expect(detailOf(answer)).to.include('is known here with another serial (B-77, not ');
    expect((await other.services.store.battery('SK-0121'))?.serial).to.equal('B-77');
  });
});
