import { expect } from 'chai';
import express from 'express';
import { pino } from 'pino';
import request from 'supertest';
import { openTestShop, type TestShop } from '../test/testShop.ts';
import { accessLog } from './accessLog.ts';

interface Line {
  readonly by: string;
  readonly from: string;
  readonly req: { readonly id: string; readonly url: string };
  readonly res: { readonly statusCode: number };
  readonly responseTime: number;
}

describe('the log of calls', () => {
  let shop: TestShop;
  before(async () => {
    shop = await openTestShop(undefined, true);
  });
  after(() => shop.cleanUp());

  it('has who, what, what came of it and how long, a number the answer carries too, and no cookie', async () => {
    const lines: string[] = [];
    const log = pino({ level: 'info' }, { write: (line: string) => void lines.push(line) });
    const logged = accessLog(log, shop.services.access);
    if (!logged) throw new Error('nothing is logged');
    const app = express().use('/api', logged, (_request, response) => void response.status(204).end());
    const looked = await request(app).get('/api/bench').set('cookie', 'ember-1=secret');
    const changed = await request(app)
      .post('/api/stock')
      .set('cookie', 'ember-1=secret')
      .send({ why: 'counted' });
    await request(app).get('/api/copy');
    const said = lines.map((line) => JSON.parse(line) as Line);
    expect(said.map(({ req }) => req.url)).to.deep.equal(['/api/stock', '/api/copy']);
    expect(said[0]?.req.id).to.equal(changed.headers['x-request-id']);
    expect(looked.headers['x-request-id']).to.not.equal(changed.headers['x-request-id']);
    expect(said[0]).to.include({ by: '' }).and.to.have.property('responseTime');
    expect(said[0]?.res.statusCode).to.equal(204);
    expect(lines.join()).to.not.include('secret').and.not.to.include('counted');
  });

  it('is none where nobody wants one', () => {
    expect(accessLog(pino({ level: 'error' }), shop.services.access)).to.equal(undefined);
  });
});
