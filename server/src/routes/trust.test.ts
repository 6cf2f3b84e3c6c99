import { X509Certificate } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import { Agent, request as ask } from 'node:https';
import { openTestShop, type TestShop } from '../../test/testShop.ts';

describe('a tablet that is to trust the shop', () => {
  let shop: TestShop;
  let folder: string;

  before(async () => {
    shop = await openTestShop();
    folder = mkdtempSync(join(tmpdir(), 'cork-ember-trust-'));
  });

  after(async () => {
    await shop.cleanUp();
    rmSync(folder, { recursive: true });
  });

  it('is told that there is no https where there is none', async () => {
    await shop.api.get('/api/trust').expect(200, { port: null, fingerprint: null });
    await shop.api.get('/api/trust/authority.crt').expect(404);
  });

  it('gets the authority over http, and reaches the same shop on https with it', async () => {
    await shop.listenHttps(0, '127.0.0.1', { folder, addresses: ['127.0.0.1'] });
    const { body } = await shop.api.get('/api/trust').expect(200);
    const { port, fingerprint } = body as { port: number; fingerprint: string };
    const answer = await shop.api
      .get('/api/trust/authority.crt')
      .expect(200)
      .expect('content-type', /x-x509-ca-cert/)
      .responseType('blob');
    const authority = new X509Certificate(answer.body as Buffer);
    expect(authority.fingerprint256).to.equal(fingerprint);
    const page = await shop.api.get('/api/shop').set('host', 'localhost:4180').expect(200);
    expect(page.headers['content-security-policy']).to.include(
      `connect-src 'self' https://localhost:${port}`,
    );
    const name = await new Promise<string>((resolve, reject) => {
      const agent = new Agent({ ca: authority.toString() });
      ask({ host: '127.0.0.1', servername: 'localhost', port, path: '/api/shop', agent }, (response) => {
        let text = '';
        response.on('data', (chunk: Buffer) => (text += chunk.toString()));
        response.on('end', () => resolve((JSON.parse(text) as { name: string }).name));
      })
        .once('error', reject)
        .end();
    });
    expect(name).to.equal('Skerry Battery Loft');
  });
});
