/** Sealed ends over HTTP: papers as they were printed, amendments that show both, endings taken back. */
import { expect } from 'chai';
import type { BatteryAnswer } from '@cork-ember/core/contract/answers.ts';
import { amend, answerOf, CERTIFIED, checkOf, detailOf, reopen, rested, WHY } from '../test/endedJob.ts';
import { affirm, openTestShop, requestKey, type TestShop } from '../test/testShop.ts';
import { rebuild } from './services/projections.ts';

describe('sealed ends', () => {
  let shop: TestShop;

  beforeEach(async () => {
    shop = await openTestShop();
  });

  let isHarmed = false;

  /** What is listed beside the record is what the record says, whatever was done. */
  afterEach(async () => {
    const { mended, looked } = await rebuild(shop.services.store, shop.services.lists);
    await shop.cleanUp();
    expect(looked).to.be.greaterThan(20);
    if (!isHarmed) expect(mended).to.deep.equal([]);
    isHarmed = false;
  });

  it('are listed as they say, and listed so again after somebody wrote into the lists', async () => {
    isHarmed = true;
    const { sequelize } = shop.services.store['database'];
    await sequelize.query(`UPDATE jobs SET bay = 5, outcome = 'rejected' WHERE id = '${CERTIFIED}'`);
    await sequelize.query(`UPDATE batteries SET owner = 'somebody' WHERE tag = 'SK-0144'`);
    await sequelize.query(`DELETE FROM findings WHERE job = '${CERTIFIED}'`);
    expect(await shop.services.lists.isListedWhole()).to.equal(false);
    expect((await rebuild(shop.services.store, shop.services.lists)).mended).to.have.members([
      'SK-0121',
      'SK-0144',
    ]);
    expect((await rebuild(shop.services.store, shop.services.lists)).mended).to.deep.equal([]);
    expect(await shop.services.lists.isListedWhole()).to.equal(true);
  });

  it('are there for every ended job, print what was sealed, and vouch for their paper', async () => {
    const { seals } = await answerOf(shop, CERTIFIED);
    expect(seals).to.have.length(1);
    const answer = await checkOf(shop, seals[0]?.code ?? '');
    expect(answer).to.include({ tag: 'SK-0121', issue: 1, job: CERTIFIED });
    expect(answer).not.to.have.any.keys('broken', 'latest');
    expect(answer.rows.flat().join(' ')).to.include('leading light, lower');
    expect((await checkOf(shop, (seals[0]?.code ?? '').replace('-', '').toLowerCase())).issue).to.equal(1);
    await shop.api.get('/api/check/AAAAA-AAAAA').expect(404);
  });

  it('are printed as they were, whatever the shop is called later', async () => {
    const before = await shop.services.sealing.paper(CERTIFIED, 'certificate');
    await shop.api
      .post('/api/shop/changes')
      .send({ by: 'Ines', why: 'sold', name: 'Another loft' })
      .expect(201);
    expect((await shop.services.sealing.paper(CERTIFIED, 'certificate')).content).to.deep.equal(
      before.content,
    );
  });

  it('are not mended in place: an amendment makes issue 2, and both stand', async () => {
    const { events } = await answerOf(shop, CERTIFIED);
    const { key } = await rested(shop, CERTIFIED);
    const mended = await shop
      .append(CERTIFIED, events.length, { kind: 'undone', payload: { replaces: key } })
      .expect(422);
    expect(detailOf(mended)).to.include('amend it');
    expect((await amend(shop, CERTIFIED, 12.71)).status).to.equal(201);
    const { seals } = await answerOf(shop, CERTIFIED);
    expect(seals.map(({ issue }) => issue)).to.deep.equal([1, 2]);
    const old = await checkOf(shop, seals[0]?.code ?? '');
    expect(old.latest).to.include({ issue: 2, code: seals[1]?.code });
    expect(old.broken).to.equal(undefined);
    const { content } = await shop.services.sealing.paper(CERTIFIED, 'certificate');
    expect(content.replaces).to.include('issue 1').and.include(seals[0]?.code);
    const said = content.sections[0]?.rows.flat().join(' ') ?? '';
    expect(said).to.include(WHY).and.include('Ines').and.include('12.71').and.include('issue 1 had');
    const first = await shop.services.sealing.paper(CERTIFIED, 'certificate', 1);
    expect(first.content.replaces).to.equal(undefined);
    for (const issue of [1, 2])
      await shop.api.get(`/api/jobs/${CERTIFIED}/certificate.pdf?issue=${issue}`).expect(200);
    await shop.api.get(`/api/jobs/${CERTIFIED}/certificate.pdf?issue=3`).expect(422);
    await shop.api.get(`/api/jobs/${CERTIFIED}/certificate.pdf?issue=x`).expect(400);
  });

  it('hold what an amendment would put there to its own kind', async () => {
    const { events } = await answerOf(shop, CERTIFIED);
    const { key } = await rested(shop, CERTIFIED);
    for (const payload of [{ step: 'ocv-soak#1' }, { step: 'ocv-soak#1', reason: 'long enough' }])
      await shop
        .append(CERTIFIED, events.length, {
          kind: 'amended',
          payload: { changes: [{ replaces: key, payload: payload as never }], why: WHY },
        })
        .expect(400);
    expect((await answerOf(shop, CERTIFIED)).events).to.have.length(events.length);
  });

  it('are taken back only where bay and battery allow it, and the ledger follows', async () => {
    const inLedger = async (): Promise<boolean> =>
      ((await shop.api.get('/api/batteries/SK-0121')).body as BatteryAnswer).findings.some(
        ({ job }) => job === CERTIFIED,
      );
    expect(await inLedger()).to.equal(true);
    const taken = await reopen(shop, CERTIFIED, 4);
    expect([taken.status, detailOf(taken)]).to.deep.equal([
      409,
      'Bay 4 is taken by SK-0144; choose a free one.',
    ]);
    expect((await reopen(shop, CERTIFIED, 8)).status).to.equal(201);
    expect(await inLedger()).to.equal(false);
    const { seals, events } = await answerOf(shop, CERTIFIED);
    expect(seals).to.have.length(1);
    expect((await shop.intake().expect(409)).body)
      .to.have.property('detail')
      .that.includes('Bay 8 is taken');
    await shop.append(CERTIFIED, events.length, affirm('certify#1')).expect(201);
    expect((await answerOf(shop, CERTIFIED)).seals.map(({ issue }) => issue)).to.deep.equal([1, 2]);
    expect(await inLedger()).to.equal(true);
    const again = { tag: 'SK-0121', owner: 'stock' };
    await shop.intake(again, { requestKey: requestKey() }).expect(201);
    const late = await reopen(shop, CERTIFIED, 9);
    expect([late.status, detailOf(late)]).to.deep.equal([
      409,
      'SK-0121 has been taken in again since: this ending stays.',
    ]);
  });

  it('are found out where somebody wrote into the file', async () => {
    isHarmed = true;
    const { seals } = await answerOf(shop, CERTIFIED);
    const code = seals[0]?.code ?? '';
    const { sequelize } = shop.services.store['database'];
    await sequelize.query(
      `UPDATE job_events SET payload = REPLACE(payload, '"ocvV":12.', '"ocvV":13.') WHERE job = '${CERTIFIED}'`,
    );
    expect((await checkOf(shop, code)).broken).to.match(/^Entry #\d+ is not what was recorded\.$/);
    await sequelize.query(`UPDATE seals SET hash = 'ff' || SUBSTR(hash, 3) WHERE job = '${CERTIFIED}'`);
    expect((await checkOf(shop, code)).broken).to.be.a('string');
  });

  it('outlive a customer’s name: it is gone from every page, and nothing is broken', async () => {
    isHarmed = true;
    const { seals } = await answerOf(shop, CERTIFIED);
    const code = seals[0]?.code ?? '';
    await shop.services.store['database'].models.owners.destroy({
      where: { name: 'leading light, lower' },
    });
    const answer = await checkOf(shop, code);
    expect(answer.broken).to.equal(undefined);
    expect(JSON.stringify(answer)).to.include('name deleted').and.not.include('leading light, lower');
  });
});
