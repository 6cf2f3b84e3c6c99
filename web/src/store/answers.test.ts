import 'fake-indexeddb/auto';
import { expect } from 'chai';
import { forgetAnswers, keepAnswer, keptAnswer } from './answers.ts';
import { shopDb } from './shopDb.ts';

const asIs = (body: unknown): unknown => body;

describe('what the server said last', () => {
  it('is given as it was said, the newest', async () => {
    await keepAnswer('/api/shop', { name: 'loft' });
    await keepAnswer('/api/shop', { name: 'quay' });
    expect(await keptAnswer('/api/shop', asIs)).to.deep.equal({ name: 'quay' });
    expect(await keptAnswer('/api/types', asIs)).to.equal(undefined);
  });

  it('of another form, or that cannot be read, is let go of and stops nothing', async () => {
    const db = await shopDb();
    await db?.put('answers', { form: 0, keptAt: 1, body: {} }, '/api/old');
    expect(await keptAnswer('/api/old', asIs)).to.equal(undefined);
    expect(await db?.get('answers', '/api/old')).to.equal(undefined);
    await keepAnswer('/api/jobs/1', { events: 'none' });
    const fold = (): never => {
      throw new Error('no log');
    };
    expect(await keptAnswer('/api/jobs/1', fold)).to.equal(undefined);
    expect(await db?.get('answers', '/api/jobs/1')).to.equal(undefined);
  });

  it('so many are kept, and the oldest go', async () => {
    for (let at = 0; at < 720; at++) await keepAnswer(`/api/batteries/${at}`, at);
    const db = await shopDb();
    expect(await db?.count('answers')).to.be.within(600, 660);
    expect(await keptAnswer('/api/batteries/719', asIs)).to.equal(719);
    expect(await keptAnswer('/api/batteries/0', asIs)).to.equal(undefined);
  });

  it('is let go of where the browser is the shop’s no more, and what has still to be sent stays', async () => {
    const db = await shopDb();
    await keepAnswer('/api/batteries/7', { owner: 'tide-gauge hut' });
    const parcel = { requestKey: 'k', job: 'j', by: 'Ines', place: 1 } as never;
    await db?.put('parcels', parcel, 'k');
    await forgetAnswers();
    expect(await keptAnswer('/api/batteries/7', asIs)).to.equal(undefined);
    expect(await db?.get('parcels', 'k')).to.deep.equal(parcel);
    await db?.delete('parcels', 'k');
  });
});
