/** The record over HTTP: what cannot be read stands apart, and what belongs together is written together. */
import { randomUUID } from 'node:crypto';
import { expect } from 'chai';
import type { JobAnswer, OpenJob, Quarantined } from '@cork-ember/core/contract/answers.ts';
import { answerOf, detailOf, OPEN } from '../test/endedJob.ts';
import { affirm, note, openTestShop, requestKey, type TestShop } from '../test/testShop.ts';

describe('the record over HTTP', () => {
  let shop: TestShop;

  beforeEach(async () => {
    shop = await openTestShop();
  });

  afterEach(() => shop.cleanUp());

  describe('a record that cannot be read', () => {
    const harm = (sql: string): Promise<unknown> => shop.services.store['database'].sequelize.query(sql);

    for (const [what, sql, why] of [
      [
        'a step nobody knows any more',
        `UPDATE job_events SET payload = REPLACE(payload, '#1', '-renamed#1') WHERE job = '${OPEN}' AND seq = 4`,
        '“',
      ],
      [
        'an entry of the year 287396',
        `UPDATE job_events SET at = 9000000000000000 WHERE job = '${OPEN}' AND seq = 4`,
        'Entry #4 has a date that no shop has seen',
      ],
      [
        'a damaged entry',
        `UPDATE job_events SET payload = SUBSTR(payload, 1, 9) WHERE job = '${OPEN}' AND seq = 4`,
        'damaged',
      ],
      ['an entry lost', `DELETE FROM job_events WHERE job = '${OPEN}' AND seq = 4`, 'run sheets'],
    ] as const)
      it(`stands alone: ${what} stops nothing else, and it is said, readable raw and taken away`, async () => {
        const all = (await shop.services.store.jobs({ isOpen: true })).length;
        await harm(sql);
        const { body } = await shop.api.get('/api/jobs').expect(200);
        expect((body as OpenJob[]).length).to.equal(all - 1);
        const apart = (await shop.api.get('/api/quarantine').expect(200)).body as Quarantined[];
        expect(apart).to.have.length(1);
        expect(apart[0]).to.include({ id: OPEN, tag: 'SK-0144', bay: 4 });
        expect(apart[0]?.why).to.include(why);
        const shown = await shop.api.get(`/api/jobs/${OPEN}`).expect(422);
        expect(detailOf(shown)).to.equal(apart[0]?.why);
        await shop.append(OPEN, 4, note('x')).expect(422);
        await shop.intake({}, { bay: 4 }).expect(409);
        await shop.intake().expect(201);
        await shop.api.get('/api/ledger/ways').expect(200);
        await shop.api.get('/api/ledger/shelf').expect(200);
        await shop.api.get('/api/batteries').expect(200);
        const raw = await shop.api.get(`/api/jobs/${OPEN}/export`).expect(200);
        expect(raw.text).to.include(OPEN);
      });
  });

  describe('one transaction', () => {
    it('holds an entry, its stock and its job: where one cannot be written, none is, and the retry draws it once', async () => {
      const { sequelize } = shop.services.store['database'];
      const id = ((await shop.intake().expect(201)).body as JobAnswer).id;
      let seq = 1;
      for (const step of ['identify#1']) await shop.append(id, seq++, affirm(step)).expect(201);
      const label = { step: 'label#1', values: {}, source: 'keypad' };
      await shop.append(id, seq++, { kind: 'measured', payload: label }).expect(201);
      for (const step of ['safety#1', 'inspect#1']) await shop.append(id, seq++, affirm(step)).expect(201);
      await shop
        .append(id, seq++, { kind: 'observed', payload: { step: 'pack-code#1', code: 'P-09' } })
        .expect(201);
      for (let left = 0; left < 8; left++) {
        const { state } = await shop.services.jobs.job(id);
        const step = state.steps[state.cursor];
        if (step?.stepId === 'pack-on') break;
        if (step?.stepId === 'weigh-dry')
          await shop.append(id, seq++, { kind: 'skipped', payload: { step: step.key } }).expect(201);
        else await shop.append(id, seq++, affirm(step?.key ?? '')).expect(201);
      }
      const packs = async (): Promise<number> =>
        (await shop.services.stock.levels()).find(({ id: item }) => item === 'pack:P-09')?.amount ?? 0;
      const before = await packs();
      await sequelize.query('ALTER TABLE stock_moves RENAME TO elsewhere');
      const key = requestKey();
      const press = () => shop.append(id, seq, affirm('pack-on#1'), { requestKey: key });
      await press().expect(500);
      expect((await answerOf(shop, id)).events).to.have.length(seq);
      await sequelize.query('ALTER TABLE elsewhere RENAME TO stock_moves');
      await press().expect(201);
      await press().expect(201);
      expect((await answerOf(shop, id)).events).to.have.length(seq + 1);
      expect(before - (await packs())).to.equal(1);
    });

    it('holds a type read off a label and the battery it was read off, by somebody who is new here; a retry is the same', async () => {
      const [like] = shop.services.settings.types;
      const type = { ...like, id: 'OWN-9' };
      const asked = { type, by: 'Maeve', requestKey: requestKey() };
      const battery = { tag: 'SK-0401', typeId: 'OWN-9' };
      const { body } = await shop.intake(battery, asked).expect(201);
      const again = await shop.intake(battery, asked).expect(201);
      expect((again.body as JobAnswer).id).to.equal((body as JobAnswer).id);
      expect(shop.services.settings.types.filter(({ id }) => id === 'OWN-9')).to.have.length(1);
      const { sequelize } = shop.services.store['database'];
      await sequelize.query('ALTER TABLE owners RENAME TO elsewhere');
      const other = { type: { ...like, id: 'OWN-10' }, bay: 0, by: 'Maeve' };
      await shop.intake({ tag: 'SK-0402', typeId: 'OWN-10' }, other).expect(500);
      await sequelize.query('ALTER TABLE elsewhere RENAME TO owners');
      expect(shop.services.settings.types.some(({ id }) => id === 'OWN-10')).to.equal(false);
      expect(await shop.services.store.battery('SK-0402')).to.equal(undefined);
    });

    it('names no picture that is not there', async () => {
      const payload = { photo: randomUUID(), step: 'soak#1', caption: 'x' };
      const { events } = await answerOf(shop, OPEN);
      const answer = await shop.append(OPEN, events.length, { kind: 'photographed', payload }).expect(400);
      expect(detailOf(answer)).to.include('no such picture');
    });

    it('says when an entry was recorded where that was later than it happened', async () => {
      const { events } = await answerOf(shop, OPEN);
      const happened = shop.services.clock.now();
      shop.services.clock.jumpTo(happened + 3_600_000);
      const { body } = await shop
        .append(OPEN, events.length, note('by hand'), { enteredAt: happened })
        .expect(201);
      expect((body as { at: number }).at).to.equal(happened);
      expect((body as { recordedAt: number }).recordedAt).to.be.within(
        happened + 3_600_000,
        happened + 3_700_000,
      );
    });
  });
});
