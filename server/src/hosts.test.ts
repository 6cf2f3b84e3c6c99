import request from 'supertest';
import { openTestShop, requestKey, type TestShop } from '../test/testShop.ts';

describe('names the shop answers to', () => {
  let shop: TestShop;

  before(async () => {
    shop = await openTestShop();
  });

  after(() => shop.cleanUp());

  for (const host of ['localhost:4180', '127.0.0.1:4180', '192.168.1.20', '[fe80::1]:4180'])
    it(`it answers to ${host}`, async () => {
      await request(shop.server).get('/api/shop').set('host', host).expect(200);
    });

  for (const host of ['evil.example', 'localhost.evil.example:4180', 'skerry.test.'])
    it(`it turns ${host} away, in one sentence, and nothing is written`, async () => {
      const before = await shop.api.get('/api/stock');
      await request(shop.server)
        .post('/api/stock')
        .set('host', host)
        .send({ by: 'Ines', item: 'soda', amount: 1, why: 'from elsewhere' })
        .expect(421)
        .expect('content-type', /problem\+json/)
        .expect(/does not answer to/);
      await shop.api.get('/api/stock').expect(200, before.body as object);
    });

  for (const origin of ['http://evil.example', 'http://127.0.0.1:9999', 'null', 'no address'])
    it(`a page of ${origin} may ask for nothing, however it was led here`, async () => {
      await request(shop.server)
        .post('/api/stock')
        .set('host', '127.0.0.1:4180')
        .set('origin', origin)
        .send({ by: 'Ines', item: 'soda', amount: 1, why: requestKey() })
        .expect(421)
        .expect(/A page of another name/);
    });

  it('its own page may', async () => {
    await request(shop.server)
      .get('/api/shop')
      .set('host', '192.168.1.20:4180')
      .set('origin', 'http://192.168.1.20:4180')
      .expect(200);
  });
});
