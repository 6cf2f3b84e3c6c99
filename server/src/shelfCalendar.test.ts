import { expect } from 'chai';
import ICAL from 'ical.js';
import type { FeedAnswer, Problem } from '@cork-ember/core/contract/answers.ts';
import { openTestShop, requestKey, type TestShop } from '../test/testShop.ts';

interface Entry {
  readonly day: string;
  readonly summary: string;
  readonly description: string;
}

/** As another program reads it. */
function entriesOf(text: string): readonly Entry[] {
  const calendar = new ICAL.Component(ICAL.parse(text) as unknown[]);
  return calendar.getAllSubcomponents('vevent').map((one) => {
    const { startDate, summary, description } = new ICAL.Event(one);
    expect(startDate.isDate).to.equal(true);
    return { day: startDate.toString(), summary, description };
  });
}

describe('the shelf’s calendar', () => {
  let shop: TestShop;
  beforeEach(async () => {
    shop = await openTestShop();
  });
  afterEach(() => shop.cleanUp());

  const place = (tag: string, place: object) =>
    shop.api
      .post(`/api/shelf/${tag}/entries`)
      .send({ requestKey: requestKey(), by: 'Ines', entry: { kind: 'placed', payload: { place } } })
      .expect(201);
  const calendar = async (path = '/api/shelf/calendar.ics'): Promise<string> =>
    (
      await shop.api
        .get(path)
        .expect(200)
        .expect('Content-Type', /^text\/calendar/)
    ).text;
  const renew = async (): Promise<string> => {
    const { body } = await shop.api.post('/api/shelf/feed').send({ by: 'Ines' }).expect(201);
    return (body as { path: string }).path;
  };

  it('is read by another program: a whole day each, with what is to be done and where', async () => {
    const days = entriesOf(await calendar());
    expect(days.length).to.be.above(2);
    expect(days[0]?.day).to.equal('2026-03-10');
    for (const { summary, description } of days) {
      expect(summary).to.match(/^Shelf: \d+ .*about \d+ min$/);
      expect(description).to.match(/^SK-\d{4}: /m);
    }
    const all = days.map(({ description }) => description).join('\n');
    expect(all).to.match(/SK-0077: recharge, Rack 3, about 6\.\d\d V/);
    expect(new Set(days.map(({ day }) => day)).size).to.equal(days.length);
  });

  it('names no customer, no machine and nobody who has one', async () => {
    await place('SK-0121', { kind: 'lent', name: '', to: 'B. Aune' });
    await place('SK-0101', { kind: 'laidUp', name: 'Aune’s launch' });
    const text = await calendar();
    expect(text).to.include('SK-0101');
    for (const name of ['Aune', 'launch', 'tide-gauge']) expect(text).to.not.include(name);
  });

  it('has one secret address, which a new one and a word revoke', async () => {
    expect((await shop.api.get('/api/shelf/feed').expect(200)).body).to.equal(null);
    const first = await renew();
    expect(first).to.match(/^\/api\/feeds\/[\w-]{32}\.ics$/);
    expect(await calendar(first)).to.equal(await calendar());
    const second = await renew();
    const { body } = await shop.api.get(first).expect(404);
    expect((body as Problem).detail).to.include('no calendar at this address');
    expect(entriesOf(await calendar(second))).to.not.deep.equal([]);
    expect(((await shop.api.get('/api/shelf/feed')).body as FeedAnswer).by).to.equal('Ines');
    await shop.api.delete('/api/shelf/feed').expect(204);
    await shop.api.get(second).expect(404);
  });

  it('keeps no secret that could be read out of the shop’s file', async () => {
    const secret = (await renew()).slice('/api/feeds/'.length, -'.ics'.length);
    const rows = await shop.services.database.models.feeds.findAll({ raw: true });
    expect(JSON.stringify(rows)).to.not.include(secret);
  });

  it('a round comes on paper too', async () => {
    const { body } = await shop.api
      .get('/api/shelf/round.pdf')
      .buffer(true)
      .parse((response, done) => {
        const parts: Buffer[] = [];
        response.on('data', (part: Buffer) => parts.push(part));
        response.on('end', () => done(null, Buffer.concat(parts)));
      })
      .expect(200);
    expect((body as Buffer).subarray(0, 5).toString()).to.equal('%PDF-');
    expect((body as Buffer).length).to.be.above(5000);
  });
});
