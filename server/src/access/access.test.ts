import type { AddressInfo } from 'node:net';
import { expect } from 'chai';
import type { EnrolmentCode, PersonKept, SessionAnswer } from '@cork-ember/core/access/people.ts';
import { detailOf, WHY } from '../../test/endedJob.ts';
import { BENCH, COUNTER, countSoda, held, LEAD, sessionOf, type Held } from '../../test/heldShop.ts';
import { note, openTestShop, requestKey, type TestShop } from '../../test/testShop.ts';
import { MOST_TRIES } from './limits.ts';

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
