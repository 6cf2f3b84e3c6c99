import { deflateSync, gzipSync } from 'node:zlib';
import { connect, type AddressInfo } from 'node:net';
import { expect } from 'chai';
import { detailOf, OPEN } from '../test/endedJob.ts';
import { hostileCalls, NUL } from '../test/hostileCalls.ts';
import { openTestShop, requestKey, type TestShop } from '../test/testShop.ts';

describe('whatever is sent', () => {
  let shop: TestShop;
  let port: number;
  before(async () => {
    shop = await openTestShop();
    port = await shop.listen(0, '127.0.0.1');
  });
  after(() => shop.cleanUp());

  /** As it stands, past every client that would mend it. @returns status and body */
  const raw = (
    head: readonly string[],
    body: Buffer | string = '',
  ): Promise<{ status: number; text: string }> =>
    new Promise((resolve, reject) => {
      const socket = connect((shop.server.address() as AddressInfo).port, '127.0.0.1', () => {
        socket.write(`${[...head, 'Host: localhost', 'Connection: close'].join('\r\n')}\r\n\r\n`);
        socket.write(body);
      });
      const parts: Buffer[] = [];
      socket.on('data', (part) => parts.push(part));
      socket.on('error', reject);
      socket.on('close', () => {
        const text = Buffer.concat(parts).toString();
        resolve({ status: Number(/^HTTP\/1.1 (\d+)/.exec(text)?.[1] ?? 0), text });
      });
    });

  for (const path of [
    '/api/jobs/%00',
    `/api/jobs/${OPEN}%00`,
    '/api/batteries/%00/label.svg',
    '/api/check/%00',
    '/api/batteries?text=%00&page=%00',
    '/%00',
    '/assets/%00.js',
    '/api/jobs/%E0%A4%A',
    '/api/batteries/%',
    '/%c0%ae%c0%ae/',
    '/assets/..%2f..%2fpackage.json',
  ])
    it(`GET ${path} is no failure of the server`, async () => {
      const { status } = await raw([`GET ${path} HTTP/1.1`]);
      expect(status).to.be.within(200, 499);
    });

  const json = JSON.stringify({
    by: 'Ines',
    item: 'soda',
    amount: 1,
    why: 'sent packed',
    requestKey: requestKey(),
  });
  for (const [name, encoding, body] of [
    ['gzip cut short', 'gzip', gzipSync(json).subarray(0, 20)],
    ['gzip that is none', 'gzip', Buffer.from(json)],
    ['deflate that is none', 'deflate', Buffer.from(json)],
    ['brotli that is none', 'br', Buffer.from(json)],
    ['deflate cut short', 'deflate', deflateSync(json).subarray(0, 12)],
    ['a packing nobody knows', 'snow', Buffer.from(json)],
  ] as const)
    for (const path of ['/api/stock', '/api/jobs/import'])
      it(`${name} to ${path} is answered with one sentence`, async () => {
        const { status, text } = await raw(
          [
            `POST ${path} HTTP/1.1`,
            'Content-Type: application/json',
            `Content-Encoding: ${encoding}`,
            `Content-Length: ${body.length}`,
          ],
          body,
        );
        expect(status, text).to.be.within(400, 422);
        expect(text).to.match(/"detail":"[^"]+\.["\\]/);
      });

  it('takes no NUL into its record', async () => {
    const refused = await shop.api
      .post('/api/stock')
      .send({ by: 'Ines', item: 'soda', amount: 1, why: `count${NUL}ed`, requestKey: requestKey() })
      .expect(400);
    expect(detailOf(refused)).to.include('no control characters');
    await shop.api.get('/api/batteries').query({ text: NUL }).expect(400);
  });

  it('says the true limit of what is too large', async () => {
    const photo = await shop.api
      .post(`/api/jobs/${OPEN}/photos`)
      .set('content-type', 'image/jpeg')
      .send(Buffer.alloc(13 * 1_048_576))
      .expect(413);
    expect(detailOf(photo)).to.include('12 MB');
    const entry = await shop.api
      .post('/api/stock')
      .send({ why: 'x'.repeat(2_000_000) })
      .expect(413);
    expect(detailOf(entry)).to.include('1 MB');
    const types = await shop.api
      .post('/api/types/read')
      .set('content-type', 'text/csv')
      .send('x'.repeat(3_000_000))
      .expect(413);
    expect(detailOf(types)).to.include('2 MB');
  });

  it('is never the server’s failure, on any route, whatever stands in path, query and body', async () => {
    const calls = hostileCalls('hostile');
    for (let count = 0; count < 400; count++) {
      const { method, url, headers, body } = calls.next().value;
      const response = await fetch(`http://127.0.0.1:${port}${url}`, {
        method,
        headers,
        ...(body ? { body } : {}),
      });
      await response.arrayBuffer();
      expect(response.status, `${method} ${url}`).to.be.below(500);
    }
  });
});
