/** What a badge proves and what it does not, and whose an entry is that waited under somebody's name. */
import { expect } from 'chai';
import type { Badge, Claim } from '@cork-ember/core/access/people.ts';
import { CATALOGUE } from '@cork-ember/core/demo/catalogue.ts';
import type { JobAnswer } from '@cork-ember/core/contract/answers.ts';
import { verbatim } from '@cork-ember/core/units/localise.ts';
import { detailOf } from '../../test/endedJob.ts';
import { BENCH, held, LEAD, sessionOf, type Browser, type Held } from '../../test/heldShop.ts';
import { note, requestKey } from '../../test/testShop.ts';

describe('a name at the bench', () => {
  let here: Held;
  before(async () => {
    here = await held();
  });
  after(() => here.shop.cleanUp());

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
    expect(claims[0]?.says).to.equal(`Note: ${verbatim('seen')}`);
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
});
