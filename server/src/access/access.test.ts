import type { AddressInfo } from 'node:net';
import { expect } from 'chai';
import request from 'supertest';
import type {
  Badge,
  Claim,
  EnrolmentCode,
  PersonKept,
  SessionAnswer,
} from '@cork-ember/core/access/people.ts';
import { CATALOGUE } from '@cork-ember/core/demo/catalogue.ts';
import type { JobAnswer } from '@cork-ember/core/contract/answers.ts';
import { mayDo, ROLES, type Standing } from '@cork-ember/core/access/rights.ts';
import { detailOf, WHY } from '../../test/endedJob.ts';
import { note, openTestShop, requestKey, type TestShop } from '../../test/testShop.ts';
import { openApiDocument } from '../openapi.ts';
import { MOST_TRIES } from './limits.ts';
import { ROUTE_RIGHTS } from './routeRights.ts';

const LEAD = { name: 'Maeve', role: 'lead', pin: '5184', passphrase: 'kelp over cold slate' };
const BENCH = { name: 'Odd', role: 'bench', pin: '6041' };
const COUNTER = { name: 'Runa', role: 'counter', pin: '9273' };

type Browser = ReturnType<typeof request.agent>;

/** A shop of one's own with three people, a browser that is the shop's, and a real clock that can be turned. */
interface Held {
  readonly shop: TestShop;
  readonly lead: Browser;
  /** One the shop has never seen. */
  browser(): Browser;
  readonly people: ReadonlyMap<string, PersonKept>;
  pass(minutes: number): void;
  /** A browser that is the shop's, with nobody at it. */
  enrolled(name?: string): Promise<Browser>;
  signIn(browser: Browser, name: string, pin: string): request.Test;
}

async function held(): Promise<Held> {
  let now = Date.parse('2026-03-10T08:00:00Z');
  const shop = await openTestShop(undefined, true, () => now);
  // One port for all: a cookie goes by it.
  const url = `http://127.0.0.1:${await shop.listen(0, '127.0.0.1')}`;
  const browser = (): Browser => request.agent(url);
  const lead = browser();
  await lead.post('/api/people').send(LEAD).expect(201);
  for (const person of [BENCH, COUNTER]) await lead.post('/api/people').send(person).expect(201);
  const kept = (await lead.get('/api/people').expect(200)).body as PersonKept[];
  const people = new Map(kept.map((person) => [person.name, person]));
  return {
    shop,
    browser,
    lead,
    people,
    pass: (minutes) => {
      now += minutes * 60_000;
    },
    enrolled: async (name = 'Acid bench') => {
      const { code } = (await lead.post('/api/tablets/codes').expect(201)).body as EnrolmentCode;
      const fresh = browser();
      await fresh.post('/api/tablets').send({ code, name }).expect(201);
      return fresh;
    },
    signIn: (browser, name, pin) => browser.post('/api/session').send({ person: people.get(name)?.id, pin }),
  };
}

const sessionOf = async (browser: Browser): Promise<SessionAnswer> =>
  (await browser.get('/api/session').expect(200)).body as SessionAnswer;

const countSoda = { by: 'Somebody', item: 'soda', amount: 1, why: 'counted' };

describe('a shop whose people have PINs', () => {
  let here: Held;
  before(async () => {
    here = await held();
  });
  after(() => here.shop.cleanUp());

  it('lets nobody in who is not one of its browsers, and says how to become one', async () => {
    const refused = await here.browser().get('/api/bench').expect(401);
    expect(detailOf(refused)).to.include('a lead enrols it');
    const { people, mode } = (await here.browser().get('/api/session').expect(200)).body as SessionAnswer;
    expect([mode, people]).to.deep.equal(['held', []]);
  });

  it('shows the bench on a browser of its own with nobody at it, and records nothing there', async () => {
    const browser = await here.enrolled();
    await browser.get('/api/bench').expect(200);
    const refused = await browser
      .post('/api/stock')
      .send({ ...countSoda, requestKey: requestKey() })
      .expect(401);
    expect(detailOf(refused)).to.include('Nobody is at the bench');
  });

  it('records under the name of who is there, whatever the body says', async () => {
    const browser = await here.enrolled();
    await here.signIn(browser, 'Odd', BENCH.pin).expect(200);
    await browser
      .post('/api/stock')
      .send({ ...countSoda, by: 'Maeve', requestKey: requestKey() })
      .expect(201);
    const { moves } = (await browser.get('/api/stock').expect(200)).body as {
      moves: readonly { by: string }[];
    };
    expect(moves[0]?.by).to.equal('Odd');
  });

  it('refuses what is a lead’s in one sentence that names them, and writes that down', async () => {
    const browser = await here.enrolled();
    await here.signIn(browser, 'Odd', BENCH.pin).expect(200);
    const refused = await browser
      .post('/api/shop/changes')
      .send({ by: 'Odd', why: 'a taller room', room: { volumeM3: 44, pricePerKwh: 0.31 } })
      .expect(403);
    expect(detailOf(refused)).to.equal('Odd may not change how the shop works: a lead (Maeve) does that.');
    const audit = (await here.lead.get('/api/audit').expect(200)).body as readonly {
      what: string;
      by: string;
    }[];
    expect(audit.some(({ by, what }) => by === 'Odd' && what === 'POST /shop/changes')).to.equal(true);
    const csv = await here.lead.get('/api/audit.csv').expect(200);
    expect(csv.text).to.match(/^at,by,tablet,kind,what/);
  });

  it('asks for a lead where an entry goes against the house or changes what papers say, and for nobody else', async () => {
    const browser = await here.enrolled();
    await here.signIn(browser, 'Odd', BENCH.pin).expect(200);
    const id = '00000000-0000-4000-8000-0000000000aa';
    const put = (entry: object, more: object = {}) =>
      browser
        .post(`/api/jobs/${id}/events`)
        .send({ expectedSeq: 1, requestKey: requestKey(), by: 'Odd', entry, ...more });
    await put(note('nothing special')).expect(404);
    for (const entry of [
      { kind: 'overridden', payload: { step: 'soak#1', reason: 'in a hurry' } },
      { kind: 'routed', payload: { step: 'route#1', route: 'pulse', reason: 'to try it' } },
      {
        kind: 'corrected',
        payload: { replaces: '#3', payload: { step: 'route#1', route: 'pulse', reason: 'to try it' } },
      },
      { kind: 'amended', payload: { changes: [{ replaces: '#3' }], why: WHY } },
    ])
      expect(detailOf(await put(entry).expect(403)), entry.kind).to.include('a lead (Maeve)');
  });

  it('answers an entry that is none with one sentence, whatever is missing of it', async () => {
    const browser = await here.enrolled();
    await here.signIn(browser, 'Odd', BENCH.pin).expect(200);
    for (const kind of ['routed', 'corrected', 'overridden', 'amended'])
      for (const payload of [null, 5, {}, { payload: null }])
        await browser
          .post('/api/jobs/00000000-0000-4000-8000-0000000000aa/events')
          .send({ expectedSeq: 1, requestKey: requestKey(), by: 'Odd', entry: { kind, payload } })
          .expect(400);
  });

  it('gives whoever is there a new PIN against the old one, and nobody stays in by that', async () => {
    const [browser, other] = [await here.enrolled('One'), await here.enrolled('Other')];
    for (const one of [browser, other]) await here.signIn(one, 'Runa', COUNTER.pin).expect(200);
    await browser.post('/api/session/pin').send({ old: '0000', pin: '6381' }).expect(401);
    await browser.post('/api/session/pin').send({ old: COUNTER.pin, pin: '6381' }).expect(200);
    expect((await sessionOf(browser)).person?.name).to.equal('Runa');
    expect((await sessionOf(other)).person).to.equal(undefined);
    await browser.post('/api/session/pin').send({ old: '6381', pin: COUNTER.pin }).expect(200);
  });

  it('locks where nobody touched it for a while, and stays open for who does', async () => {
    const browser = await here.enrolled();
    await here.signIn(browser, 'Odd', BENCH.pin).expect(200);
    here.pass(8);
    await browser.post('/api/session/touch').expect(204);
    here.pass(8);
    expect((await sessionOf(browser)).person?.name).to.equal('Odd');
    here.pass(11);
    expect((await sessionOf(browser)).person).to.equal(undefined);
    await here.signIn(browser, 'Odd', BENCH.pin).expect(200);
    await browser.delete('/api/session').expect(204);
    expect((await sessionOf(browser)).person).to.equal(undefined);
    await here.signIn(here.lead, 'Maeve', LEAD.pin).expect(200);
  });

  it('changes the token with whoever is there: one that was seen before is nobody’s', async () => {
    const browser = await here.enrolled();
    const first = await here.signIn(browser, 'Odd', BENCH.pin).expect(200);
    const cookie = (first.headers['set-cookie'] as unknown as string[])[0] ?? '';
    expect(cookie)
      .to.match(/HttpOnly/)
      .and.to.match(/SameSite=Strict/);
    await here.signIn(browser, 'Odd', BENCH.pin).expect(200);
    await here
      .browser()
      .get('/api/bench')
      .set('cookie', cookie.split(';')[0] ?? '')
      .expect(401);
  });

  it('slows wrong PINs down, then locks, and a lead unlocks', async () => {
    const browser = await here.enrolled();
    const wrong = () => here.signIn(browser, 'Runa', '0000');
    for (let slip = 0; slip < 2; slip++) await wrong().expect(401);
    expect(detailOf(await wrong().expect(401))).to.include('waits 5 s');
    expect(detailOf(await here.signIn(browser, 'Runa', COUNTER.pin).expect(429))).to.include('wait 5 s');
    for (let more = 0; more < 7; more++) {
      here.pass(60);
      await wrong().expect(401);
    }
    here.pass(600);
    expect(detailOf(await here.signIn(browser, 'Runa', COUNTER.pin).expect(429))).to.include('is locked');
    await here.signIn(here.lead, 'Maeve', LEAD.pin).expect(200);
    const id = here.people.get('Runa')?.id ?? '';
    const [runa] = ((await here.lead.get('/api/people').expect(200)).body as PersonKept[]).filter(
      (person) => person.id === id,
    );
    expect(runa?.isLocked).to.equal(true);
    expect((await sessionOf(here.lead)).locked).to.deep.equal(['Runa']);
    await here.lead.post(`/api/people/${id}`).send({ unlock: true }).expect(200);
    await here.signIn(browser, 'Runa', COUNTER.pin).expect(200);
  });

  it('takes a lead in from anywhere by passphrase, nobody else, and for half a day', async () => {
    const { pass } = here;
    const anywhere = here.browser();
    const come = (name: string, passphrase: string) =>
      anywhere.post('/api/session/passphrase').send({ name, passphrase });
    const [wrongName, wrongWords] = [
      await come('Nobody', LEAD.passphrase).expect(401),
      await come('Maeve', 'not these words at all').expect(401),
    ];
    expect(detailOf(wrongName)).to.equal(detailOf(wrongWords));
    await come('maeve', LEAD.passphrase).expect(200);
    await anywhere.get('/api/people').expect(200);
    await here.signIn(anywhere, 'Odd', BENCH.pin).expect(403);
    pass(13 * 60);
    await anywhere.get('/api/bench').expect(401);
    await here.signIn(here.lead, 'Maeve', LEAD.pin).expect(200);
  });

  it('enrols a browser once by a code, within ten minutes, and lets it go again', async () => {
    const { lead, pass } = here;
    const codeNow = async (): Promise<string> =>
      ((await lead.post('/api/tablets/codes').expect(201)).body as EnrolmentCode).code;
    const code = await codeNow();
    const browser = here.browser();
    await browser.post('/api/tablets').send({ code: code.toLowerCase(), name: 'Till' }).expect(201);
    await here.browser().post('/api/tablets').send({ code, name: 'Again' }).expect(401);
    const late = await codeNow();
    pass(11);
    await here.browser().post('/api/tablets').send({ code: late, name: 'Late' }).expect(401);
    await here.signIn(lead, 'Maeve', LEAD.pin).expect(200);
    const tablets = (await lead.get('/api/tablets').expect(200)).body as { id: string; name: string }[];
    const till = tablets.find(({ name }) => name === 'Till')?.id ?? '';
    await lead.delete(`/api/tablets/${till}`).expect(204);
    await browser.get('/api/bench').expect(401);
  });

  it('tells a browser that was let go nothing more, though it listened before', async () => {
    const { lead, shop } = here;
    const { code } = (await lead.post('/api/tablets/codes').expect(201)).body as EnrolmentCode;
    const window = await here.browser().post('/api/tablets').send({ code, name: 'Window' }).expect(201);
    const [cookie = ''] = ((window.headers['set-cookie'] as unknown as string[])[0] ?? '').split(';');
    const { port } = shop.server.address() as AddressInfo;
    const answer = await fetch(`http://127.0.0.1:${port}/api/stream`, { headers: { cookie } });
    const reader = answer.body?.getReader();
    await reader?.read();
    const tablets = (await lead.get('/api/tablets').expect(200)).body as { id: string; name: string }[];
    await lead.delete(`/api/tablets/${tablets.find(({ name }) => name === 'Window')?.id}`).expect(204);
    await lead
      .post('/api/stock')
      .send({ ...countSoda, requestKey: requestKey() })
      .expect(201);
    expect(await reader?.read()).to.include({ done: true });
  });

  it('locks nobody out of the bench by guesses from the network, and slows those down by name', async () => {
    const { people } = here.shop.services.access;
    const guess = (name: string): Promise<string> =>
      people.byPassphrase(name, 'not these words').then(String, String);
    for (let count = 0; count < 100; count++)
      expect(await guess('Nobody')).to.include('do not belong together');
    expect(await guess('nobody')).to.include('wait for the next');
    expect(await guess('Maeve')).to.include('do not belong together');
    here.pass(61);
    expect(await guess('Nobody')).to.include('do not belong together');
    await here.signIn(here.lead, 'Maeve', LEAD.pin).expect(200);
  }).timeout(60_000);

  it('takes somebody in by badge, a lead as the bench does, and by an older badge nobody', async () => {
    const { lead, people } = here;
    const badgeOf = async (name: string): Promise<string> =>
      ((await lead.post(`/api/people/${people.get(name)?.id}/badge`).expect(201)).body as Badge).code;
    const [first, odd] = [await badgeOf('Odd'), await badgeOf('Odd')];
    const browser = await here.enrolled('Badges');
    const scan = (badge: string) => browser.post('/api/session/badge').send({ badge });
    expect(detailOf(await scan(first).expect(401))).to.include('nobody’s here any more');
    await scan(odd.toLowerCase()).expect(200);
    expect((await sessionOf(browser)).person?.name).to.equal('Odd');
    await scan(await badgeOf('Maeve')).expect(200);
    const { person, isByBadge } = await sessionOf(browser);
    expect([person?.role, isByBadge]).to.deep.equal(['bench', true]);
    expect(detailOf(await browser.get('/api/people').expect(403))).to.equal(
      'Maeve came by badge, which may not change people, PINs and tablets: come by PIN for that.',
    );
    await here.signIn(browser, 'Maeve', LEAD.pin).expect(200);
    await browser.get('/api/people').expect(200);
    await here.signIn(lead, 'Maeve', LEAD.pin).expect(200);
    await lead
      .post(`/api/people/${people.get('Odd')?.id}`)
      .send({ badge: false })
      .expect(200);
    await scan(odd).expect(401);
    await here.browser().post('/api/session/badge').send({ badge: odd }).expect(401);
  });

  it('marks what waited under another’s name until that name is proven', async () => {
    const { lead } = here;
    const battery = {
      tag: 'CL-0001',
      typeId: CATALOGUE[0]?.id,
      serial: '',
      dateCode: '2026-01',
      owner: 'stock',
    };
    await here.signIn(lead, 'Maeve', LEAD.pin).expect(200);
    const now = here.shop.services.clock.now();
    const taken = await lead.post('/api/jobs').send({
      battery,
      bay: 0,
      type: CATALOGUE[0],
      promisedAt: now + 30 * 3_600_000,
      by: 'Maeve',
      requestKey: requestKey(),
    });
    expect(taken.status, detailOf(taken)).to.equal(201);
    const job = (taken.body as JobAnswer).events[0]?.job ?? '';
    const browser = await here.enrolled('Cellar');
    await here.signIn(browser, 'Odd', BENCH.pin).expect(200);
    const enter = (expectedSeq: number, by: string, late: object, key = requestKey()) =>
      browser
        .post(`/api/jobs/${job}/events`)
        .send({ expectedSeq, requestKey: key, by, entry: note('seen'), ...late });
    const enteredAt = here.shop.services.clock.now();
    for (const [at, by, late] of [
      [1, 'Maeve', { enteredAt }],
      [2, 'Odd', { enteredAt }],
      [3, 'Maeve', {}],
    ] as const)
      await enter(at, by, late).expect(201);
    // Sent again because its answer was lost: it was proven the first time.
    const key = requestKey();
    for (const [by, late] of [
      ['Odd', {}],
      ['Maeve', { enteredAt }],
    ] as const)
      await enter(4, by, late, key).expect(201);
    const claims = (await browser.get('/api/claims').expect(200)).body as readonly Claim[];
    expect(claims.map(({ by, sentBy, tablet, tag }) => [by, sentBy, tablet, tag])).to.deep.equal([
      ['Maeve', 'Odd', 'Cellar', 'CL-0001'],
    ]);
    const settle = (who: Browser, isMine: boolean) =>
      who.post('/api/claims').send({ keys: claims.map(({ key }) => key), isMine });
    expect(detailOf(await settle(browser, true).expect(403))).to.include('under Maeve’s name');
    expect((await settle(lead, false).expect(200)).body).to.have.length(1);
    expect((await settle(lead, true).expect(200)).body).to.deep.equal([]);
    const audit = (await lead.get('/api/audit').expect(200)).body as readonly { what: string }[];
    expect(
      audit.filter(({ what }) => what.startsWith('CL-0001: “noted” under Maeve’s name')).length,
    ).to.equal(2);
  });

  it('is never left without a lead, and somebody who is gone is at no browser any more', async () => {
    const { lead, people } = here;
    const maeve = people.get('Maeve')?.id ?? '';
    for (const change of [{ role: 'bench' }, { gone: true }])
      expect(detailOf(await lead.post(`/api/people/${maeve}`).send(change).expect(422))).to.include(
        'only lead',
      );
    const fresh = (
      await lead.post('/api/people').send({ name: 'Ailsa', role: 'bench', pin: '3917' }).expect(201)
    ).body as PersonKept[];
    const ailsa = fresh.find(({ name }) => name === 'Ailsa')?.id ?? '';
    const browser = await here.enrolled('Ailsa’s');
    await browser.post('/api/session').send({ person: ailsa, pin: '3917' }).expect(200);
    await lead.post(`/api/people/${ailsa}`).send({ gone: true }).expect(200);
    expect((await sessionOf(browser)).person).to.equal(undefined);
  });

  it('takes no passphrase that is among those tried first, however long', async () => {
    for (const passphrase of ['passwordpassword', 'qwertyuiop12345', 'Una Una Una Una']) {
      const refused = await here.lead
        .post('/api/people')
        .send({ name: 'Una', role: 'lead', pin: '3917', passphrase })
        .expect(400);
      expect(detailOf(refused), passphrase).to.include('tried first');
    }
  });

  it('lets no answer of the API be kept on the way', async () => {
    const { headers } = await here.lead.get('/api/shop').expect(200);
    expect(headers['cache-control']).to.equal('no-store');
  });

  for (const [pin, sentence] of [
    ['123', '4 to 8 digits'],
    ['1234', 'not tried first'],
    ['7777', 'not tried first'],
    ['1987', 'not tried first'],
  ] as const)
    it(`a PIN of ${pin} is not taken`, async () => {
      const refused = await here.lead
        .post('/api/people')
        .send({ name: 'Una', role: 'bench', pin })
        .expect(400);
      expect(detailOf(refused)).to.include(sentence);
    });

  it('gives a lead who forgot it a new PIN on the machine itself, and nobody else', async () => {
    const { people } = here.shop.services.access;
    const pin = await people.renewPin('Maeve');
    await here.signIn(here.lead, 'Maeve', LEAD.pin).expect(401);
    await here.signIn(here.lead, 'Maeve', pin).expect(200);
    for (const name of ['Odd', 'Nobody at all']) {
      const refusal = await people.renewPin(name).then(String, String);
      expect(refusal).to.include(`No lead of this shop is called “${name}”; there is Maeve`);
    }
  });

  it('keeps neither PIN nor token in its file', async () => {
    const { models } = here.shop.services.database;
    const [people, sessions] = [
      await models.people.findAll({ raw: true }),
      await models.sessions.findAll({ raw: true }),
    ];
    for (const { pin } of people.filter(({ isGone }) => !isGone)) expect(pin).to.match(/^\$argon2id\$/);
    for (const { hash } of sessions) expect(hash).to.match(/^[0-9a-f]{64}$/);
  });
});

describe('whoever tries too often', () => {
  let here: Held;
  before(async () => {
    here = await held();
  });
  after(() => here.shop.cleanUp());

  it('is told to wait, with the true number', async () => {
    const browser = here.browser();
    const come = () =>
      browser.post('/api/session/passphrase').send({ name: 'Nobody', passphrase: 'not these words' });
    for (let tried = 0; tried < MOST_TRIES; tried++) await come().expect(401);
    expect(detailOf(await come().expect(429))).to.include(`More than ${MOST_TRIES} tries`);
    // Who is in already goes on.
    await here.lead.get('/api/bench').expect(200);
  });
});

describe('a shop where nobody has a PIN yet', () => {
  let shop: TestShop;
  before(async () => {
    shop = await openTestShop(undefined, true);
  });
  after(() => shop.cleanUp());

  it('goes by names that are said, on its own machine', async () => {
    await shop.api
      .post('/api/stock')
      .send({ ...countSoda, requestKey: requestKey() })
      .expect(201);
  });

  it('is only read over the network', async () => {
    await shop.api.get('/api/bench').set('x-forwarded-for', '192.168.1.20').expect(200);
    for (const path of ['/api/stock', '/api/people']) {
      const refused = await shop.api
        .post(path)
        .set('x-forwarded-for', '192.168.1.20')
        .send({ ...countSoda, requestKey: requestKey() })
        .expect(403);
      expect(detailOf(refused)).to.include('over the network');
    }
  });

  it('wants a lead first', async () => {
    expect(detailOf(await shop.api.post('/api/people').send(BENCH).expect(400))).to.include('leads the shop');
  });
});

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
