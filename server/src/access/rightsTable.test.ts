/** Every route, walked by everybody there can be: it answers whom the table says, and nobody else. */
import { expect } from 'chai';
import type request from 'supertest';
import type { Badge } from '@cork-ember/core/access/people.ts';
import { mayDo, ROLES, type Standing } from '@cork-ember/core/access/rights.ts';
import { BENCH, COUNTER, held, LEAD, type Browser, type Held } from '../../test/heldShop.ts';
import { openApiDocument } from '../openapi.ts';
import { ROUTE_RIGHTS } from './routeRights.ts';

describe('the table of rights', () => {
  let here: Held;
  const browsers = new Map<Standing, Browser>();
  before(async () => {
    here = await held();
    browsers.set('nobody', here.browser());
    browsers.set('tablet', await here.enrolled('Empty'));
    for (const { name, role, pin } of [LEAD, BENCH, COUNTER]) {
      const browser = await here.enrolled(name);
      await here.signIn(browser, name, pin).expect(200);
      browsers.set(role as Standing, browser);
    }
  });
  // Time is passed in between: nobody is left at the lead's own browser by it.
  beforeEach(() => here.signIn(here.lead, 'Maeve', LEAD.pin).expect(200));
  after(() => here.shop.cleanUp());

  const documented = Object.entries(openApiDocument()['paths'] as Readonly<Record<string, object>>).flatMap(
    ([path, methods]) => Object.keys(methods).map((method) => `${method.toUpperCase()} ${path}`),
  );

  it('has every route of the OpenAPI document, and no other', () => {
    expect(Object.keys(ROUTE_RIGHTS).sort()).to.deep.equal([...documented].sort());
  });

  /** What ends a standing is asked for last, and a stream never ends. */
  const ASKED = Object.entries(ROUTE_RIGHTS).filter(
    ([route]) => !['DELETE /api/session', 'GET /api/stream'].includes(route),
  );

  type Called = Pick<Browser, 'get' | 'post' | 'delete'>;

  /** @param prepare lays over each call what makes it another's */
  async function walk(
    browser: Called,
    standing: Standing,
    prepare: (call: request.Test) => request.Test = (call) => call,
  ): Promise<void> {
    for (const [route, right] of ASKED) {
      // Ways in say 401 to what is not right, not to who asks.
      if (right === 'arrive') continue;
      const [method = '', path = ''] = route.split(' ');
      const url = path.replace(/\{\w+\}/g, 'none');
      const call = { GET: browser.get(url), POST: browser.post(url), DELETE: browser.delete(url) }[method];
      const { status } = await prepare(call as request.Test);
      const isRefused = [401, 403].includes(status);
      expect(isRefused, `${standing}: ${route} answers ${status}`).to.equal(!mayDo(standing, right));
      expect(status, route).to.be.below(500);
    }
  }

  for (const standing of ['nobody', 'tablet', ...ROLES] as const)
    it(`answers ${standing} nothing it forbids, on every route`, async () => {
      const browser = browsers.get(standing);
      if (!browser) throw new Error('no such browser');
      await walk(browser, standing);
    });

  it('answers a lead who has not touched it for too long as a browser with nobody at it, on every route', async () => {
    const left = await here.enrolled('Idle');
    await here.signIn(left, 'Maeve', LEAD.pin).expect(200);
    here.pass(11);
    await walk(left, 'tablet');
  });

  for (const [whose, cookieOf] of [
    ['another browser’s token, from before somebody else came to it', (rotated: string) => rotated],
    ['a token that is nobody’s', (rotated: string) => rotated.replace(/=.*/, `=${'x'.repeat(43)}`)],
  ] as const)
    it(`answers ${whose}, nothing at all, on every route`, async () => {
      const other = await here.enrolled('Other');
      const { headers } = await here.signIn(other, 'Maeve', LEAD.pin).expect(200);
      const rotated = ((headers['set-cookie'] as unknown as string[])[0] ?? '').split(';')[0] ?? '';
      await here.signIn(other, 'Odd', BENCH.pin).expect(200);
      await walk(here.browser(), 'nobody', (call) => call.set('cookie', cookieOf(rotated)));
    });

  it('answers a lead who came by badge what it answers the bench, on every route', async () => {
    const browser = await here.enrolled('Badge');
    const { code } = (await here.lead.post(`/api/people/${here.people.get('Maeve')?.id}/badge`).expect(201))
      .body as Badge;
    await browser.post('/api/session/badge').send({ badge: code }).expect(200);
    await walk(browser, 'bench');
  });
});
