import { expect } from 'chai';
import express from 'express';
import request from 'supertest';
import { detailOf } from '../../test/endedJob.ts';
import { pino } from 'pino';
import { problemHandler } from '../problems.ts';
import type { Trust } from '../routes/trust.ts';
import { plainHttp } from './plainHttp.ts';

const HTTPS: Trust = { port: 4181 };

/** @param from an address of the network, or the machine itself */
function asked(path: string, trust: Trust | undefined, isLeftOpen: boolean, from?: string): request.Test {
  const app = express()
    .use(plainHttp(() => trust, isLeftOpen))
    .use((_request, response) => void response.status(204).end())
    .use(problemHandler(pino({ level: 'silent' })));
  const call = request(app).get(path).set('host', 'skerry.local:4180');
  return from === undefined ? call : call.set('x-forwarded-for', from);
}

const TABLET = '192.168.1.20';

describe('plain http', () => {
  for (const path of ['/', '/jobs/1?part=2', '/setup'])
    it(`leads ${path} on to https from the network`, async () => {
      const { headers } = await asked(path, HTTPS, false, TABLET).expect(307);
      expect(headers['location']).to.equal(`https://skerry.local:4181${path}`);
    });

  for (const path of ['/api/bench', '/api/stream', '/api/people', '/api/nothing'])
    it(`refuses ${path} from the network, and says where to`, async () => {
      const refused = await asked(path, HTTPS, false, TABLET).expect(403);
      expect(detailOf(refused)).to.include('open https://skerry.local:4181').and.to.include('/trust');
    });

  for (const path of [
    '/check/ABCD',
    '/trust',
    '/assets/a.js',
    '/manifest.json',
    '/api/check/ABCD',
    '/api/trust',
    '/api/session',
  ])
    it(`answers ${path} from the network: a paper in hand, and how to trust the shop`, async () => {
      await asked(path, HTTPS, false, TABLET).expect(204);
    });

  it('answers everything on the machine itself, where https does not answer, and where it was left open', async () => {
    await asked('/api/bench', HTTPS, false).expect(204);
    await asked('/api/bench', undefined, false, TABLET).expect(204);
    await asked('/api/bench', HTTPS, true, TABLET).expect(204);
  });
});
