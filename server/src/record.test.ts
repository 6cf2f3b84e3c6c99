/** The record over HTTP: sealed ends, amendments, files that prove themselves, and what cannot be read. */
import { randomUUID } from 'node:crypto';
import { expect } from 'chai';
import type {
  BatteryAnswer,
  CheckAnswer,
  JobAnswer,
  OpenJob,
  Problem,
  Quarantined,
} from '@cork-ember/core/contract/answers.ts';
import { affirm, note, openTestShop, requestKey, type TestShop } from '../test/testShop.ts';
import { rebuild } from './services/projections.ts';
import type { ChainedEntry } from './record/chain.ts';
import type { FileSeal } from './record/fileReader.ts';
import type { KeptName } from './record/names.ts';

const CERTIFIED = '5ce77e00-0000-4000-8000-000000000121';
const OPEN = '5ce77e00-0000-4000-8000-000000000144';
const WHY = 'the meter was read wrongly';

interface RecordFile {
  readonly format: 'cork-ember-job';
  readonly version: 3;
  readonly job: string;
  readonly entries: readonly ChainedEntry[];
  readonly names: readonly KeptName[];
  readonly seals: readonly FileSeal[];
  readonly photos: readonly { readonly id: string; readonly jpeg: string }[];
}

describe('the record over HTTP', () => {
  let shop: TestShop;

  const answerOf = async (id: string, of = shop): Promise<JobAnswer> =>
    (await of.api.get(`/api/jobs/${id}`).expect(200)).body as JobAnswer;
  const fileOf = async (id: string, of = shop): Promise<RecordFile> =>
    (await of.api.get(`/api/jobs/${id}/export`).expect(200)).body as RecordFile;
  const check = async (code: string): Promise<CheckAnswer> =>
    (await shop.api.get(`/api/check/${code}`).expect(200)).body as CheckAnswer;
  const detailOf = ({ body }: { body: unknown }): string => (body as Problem).detail;
  const rested = async (id: string): Promise<JobAnswer['events'][number]> => {
    const found = (await answerOf(id)).events.find(
      ({ kind, payload }) => kind === 'measured' && payload.step === 'ocv-soak#1',
    );
    if (!found) throw new Error('it was not read at rest');
    return found;
  };
  const amend = async (id: string, ocvV: number) => {
    const { key } = await rested(id);
    const payload = { step: 'ocv-soak#1', values: { ocvV, tempC: 26 }, source: 'keypad' };
    const { events } = await answerOf(id);
    return shop.append(id, events.length, {
      kind: 'amended',
      payload: { changes: [{ replaces: key, payload }], why: WHY },
    });
  };
  const reopen = async (id: string, bay: number) => {
    const { events } = await answerOf(id);
    const ending = events.findLast(({ kind }) => kind === 'affirmed' || kind === 'withdrawn')?.key ?? '';
    return shop.append(id, events.length, { kind: 'reopened', payload: { ending, bay, why: WHY } });
  };

  beforeEach(async () => {
    shop = await openTestShop();
  });

  afterEach(() => shop.cleanUp());

  describe('sealed ends', () => {
    let isHarmed = false;

    /** What is listed beside the record is what the record says, whatever was done. */
    afterEach(async () => {
      const { mended, looked } = await rebuild(shop.services.store, shop.services.lists);
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
      const { seals } = await answerOf(CERTIFIED);
      expect(seals).to.have.length(1);
      const answer = await check(seals[0]?.code ?? '');
      expect(answer).to.include({ tag: 'SK-0121', issue: 1, job: CERTIFIED });
      expect(answer).not.to.have.any.keys('broken', 'latest');
      expect(answer.rows.flat().join(' ')).to.include('leading light, lower');
      expect((await check((seals[0]?.code ?? '').replace('-', '').toLowerCase())).issue).to.equal(1);
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
      const { events } = await answerOf(CERTIFIED);
      const { key } = await rested(CERTIFIED);
      const mended = await shop
        .append(CERTIFIED, events.length, { kind: 'undone', payload: { replaces: key } })
        .expect(422);
      expect(detailOf(mended)).to.include('amend it');
      expect((await amend(CERTIFIED, 12.71)).status).to.equal(201);
      const { seals } = await answerOf(CERTIFIED);
      expect(seals.map(({ issue }) => issue)).to.deep.equal([1, 2]);
      const old = await check(seals[0]?.code ?? '');
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
      const { events } = await answerOf(CERTIFIED);
      const { key } = await rested(CERTIFIED);
      for (const payload of [{ step: 'ocv-soak#1' }, { step: 'ocv-soak#1', reason: 'long enough' }])
        await shop
          .append(CERTIFIED, events.length, {
            kind: 'amended',
            payload: { changes: [{ replaces: key, payload: payload as never }], why: WHY },
          })
          .expect(400);
      expect((await answerOf(CERTIFIED)).events).to.have.length(events.length);
    });

    it('are taken back only where bay and battery allow it, and the ledger follows', async () => {
      const inLedger = async (): Promise<boolean> =>
        ((await shop.api.get('/api/batteries/SK-0121')).body as BatteryAnswer).findings.some(
          ({ job }) => job === CERTIFIED,
        );
      expect(await inLedger()).to.equal(true);
      const taken = await reopen(CERTIFIED, 4);
      expect([taken.status, detailOf(taken)]).to.deep.equal([
        409,
        'Bay 4 is taken by SK-0144; choose a free one.',
      ]);
      expect((await reopen(CERTIFIED, 8)).status).to.equal(201);
      expect(await inLedger()).to.equal(false);
      const { seals, events } = await answerOf(CERTIFIED);
      expect(seals).to.have.length(1);
      expect((await shop.intake().expect(409)).body)
        .to.have.property('detail')
        .that.includes('Bay 8 is taken');
      await shop.append(CERTIFIED, events.length, affirm('certify#1')).expect(201);
      expect((await answerOf(CERTIFIED)).seals.map(({ issue }) => issue)).to.deep.equal([1, 2]);
      expect(await inLedger()).to.equal(true);
      const again = { tag: 'SK-0121', owner: 'stock' };
      await shop.intake(again, { requestKey: requestKey() }).expect(201);
      const late = await reopen(CERTIFIED, 9);
      expect([late.status, detailOf(late)]).to.deep.equal([
        409,
        'SK-0121 has been taken in again since: this ending stays.',
      ]);
    });

    it('are found out where somebody wrote into the file', async () => {
      isHarmed = true;
      const { seals } = await answerOf(CERTIFIED);
      const code = seals[0]?.code ?? '';
      const { sequelize } = shop.services.store['database'];
      await sequelize.query(
        `UPDATE job_events SET payload = REPLACE(payload, '"ocvV":12.', '"ocvV":13.') WHERE job = '${CERTIFIED}'`,
      );
      expect((await check(code)).broken).to.match(/^Entry #\d+ is not what was recorded\.$/);
      await sequelize.query(`UPDATE seals SET hash = 'ff' || SUBSTR(hash, 3) WHERE job = '${CERTIFIED}'`);
      expect((await check(code)).broken).to.be.a('string');
    });

    it('outlive a customer’s name: it is gone from every page, and nothing is broken', async () => {
      isHarmed = true;
      const { seals } = await answerOf(CERTIFIED);
      const code = seals[0]?.code ?? '';
      await shop.services.store['database'].models.owners.destroy({
        where: { name: 'leading light, lower' },
      });
      const answer = await check(code);
      expect(answer.broken).to.equal(undefined);
      expect(JSON.stringify(answer)).to.include('name deleted').and.not.include('leading light, lower');
    });
  });

  describe('a job’s file', () => {
    let other: TestShop;

    beforeEach(async () => {
      other = await openTestShop(undefined, true);
    });

    afterEach(() => other.cleanUp());

    it('comes into another shop with chain, seals and pictures, and goes out of it the same', async () => {
      const picture = await (
        await import('sharp')
      )
        .default({ create: { width: 40, height: 30, channels: 3, background: '#c8a47a' } })
        .png()
        .toBuffer();
      const kept = await shop.api
        .post(`/api/jobs/${CERTIFIED}/photos`)
        .set('content-type', 'image/png')
        .send(picture)
        .expect(201);
      const { photo } = kept.body as { photo: string };
      const { events } = await answerOf(CERTIFIED);
      const seen = { photo, step: 'certify#1', caption: 'as it left' };
      await shop.append(CERTIFIED, events.length, { kind: 'photographed', payload: seen }).expect(201);
      await amend(CERTIFIED, 12.71);
      const file = await fileOf(CERTIFIED);
      expect([file.seals.length, file.photos.length]).to.deep.equal([2, 1]);
      await other.api.post('/api/jobs/import').send(file).expect(201);
      expect(await fileOf(CERTIFIED, other)).to.deep.equal(file);
      await other.api.post('/api/jobs/import').send(file).expect(201);
      await other.api.get(`/api/jobs/${CERTIFIED}/photos/${photo}`).expect(200);
      const answer = await other.api.get(`/api/check/${file.seals[1]?.code ?? ''}`).expect(200);
      expect(answer.body).not.to.have.property('broken');
      const { body } = await other.api.get('/api/batteries/SK-0121').expect(200);
      expect((body as BatteryAnswer).findings.map(({ job }) => job)).to.deep.equal([CERTIFIED]);
    });

    it('is refused in one sentence where anything in it is not what was recorded', async () => {
      const file = await fileOf(CERTIFIED);
      const [first, second, ...rest] = file.entries;
      if (!first || !second) throw new Error('it has entries');
      const [name] = file.names;
      const [seal] = file.seals;
      for (const [changed, sentence] of [
        [{ entries: [first, { ...second, by: 'Odd' }, ...rest] }, 'Entry #2 is not what was recorded.'],
        [{ entries: [first, ...rest] }, 'Entry #2 is missing.'],
        [{ entries: [first, { ...second, occurredAt: second.occurredAt + 1 }, ...rest] }, 'Entry #2'],
        [{ names: [{ ...name, name: 'somebody else' }] }, 'not the one that was given'],
        [
          { seals: [{ ...seal, content: { ...(seal?.content as object), issue: 2 } }] },
          'Issue 1 is not what was sealed',
        ],
        [{ job: randomUUID() }, 'different jobs'],
      ] as const) {
        const answer = await other.api
          .post('/api/jobs/import')
          .send({ ...file, ...changed })
          .expect(400);
        expect(detailOf(answer)).to.include(sentence);
      }
      await other.api.get(`/api/jobs/${CERTIFIED}`).expect(404);
    });

    it('is read as it arrives, and refused in one sentence where it breaks off or is no such file', async () => {
      const file = await fileOf(CERTIFIED);
      const whole = JSON.stringify(file);
      const photo = { id: randomUUID(), jpeg: 'AAAA' };
      const cases: readonly (readonly [body: string, sentence: string])[] = [
        [whole.slice(0, -20), 'cut short'],
        [whole.slice(0, 400), 'cut short'],
        ['', 'cut short'],
        ['entries', 'no JSON'],
        ['[]', 'format'],
        [whole.replace('"version":3', '"version":4'), 'version'],
        [whole.replace('"entries":[', '"entries":7,"more":['), 'must be a list'],
        [JSON.stringify({ ...file, colour: 'red' }), 'colour'],
        [JSON.stringify({ ...file, entries: [] }), 'no entries'],
        [JSON.stringify({ ...file, entries: [...file.entries, { seq: 1 }] }), 'job'],
        [JSON.stringify({ ...file, photos: Array.from({ length: 41 }, () => photo) }), 'at most 40 pictures'],
        [JSON.stringify({ ...file, photos: [photo] }), 'no JPEG'],
      ];
      for (const [body, sentence] of cases) {
        const answer = await other.api.post('/api/jobs/import').type('json').send(body);
        expect([answer.status, body.length, detailOf(answer)], sentence).to.deep.equal([
          400,
          body.length,
          detailOf(answer),
        ]);
        expect(detailOf(answer)).to.include(sentence);
      }
      const text = await other.api.post('/api/jobs/import').type('text').send(whole).expect(400);
      expect(detailOf(text)).to.include('application/json');
      await other.api.get(`/api/jobs/${CERTIFIED}`).expect(404);
    });

    it('of before there were hashes is taken as it says, sealed here, and refused where no run sheet would have taken it', async () => {
      const { events } = await answerOf(CERTIFIED);
      const old = events.map(({ key: _key, ...event }) => event);
      const file = { format: 'cork-ember-job', version: 2, job: CERTIFIED, events: old };
      const holed = old
        .filter(({ kind }) => kind !== 'observed')
        .map((event, index) => ({ ...event, seq: index + 1 }));
      const broken = await other.api
        .post('/api/jobs/import')
        .send({ ...file, events: holed })
        .expect(400);
      expect(detailOf(broken)).to.include('does not hold together');
      await other.api.post('/api/jobs/import').send(file).expect(201);
      await other.api.post('/api/jobs/import').send(file).expect(201);
      const here = await answerOf(CERTIFIED, other);
      expect(here.seals).to.have.length(1);
      expect(here.events.map(({ key }) => key)).to.deep.equal(events.map(({ seq }) => `#${seq}`));
      const shorter = await other.api
        .post('/api/jobs/import')
        .send({ ...file, events: old.slice(0, 5) })
        .expect(409);
      expect(detailOf(shorter)).to.include('another log');
    });

    it('never rewrites a battery that is known here as another piece', async () => {
      const file = await fileOf(CERTIFIED);
      await other.services.store.createJob(
        { tag: 'SK-0121', typeId: 'LW-A12/9', serial: 'B-77', dateCode: '2025-11', owner: 'stock' },
        { id: randomUUID(), tag: 'SK-0121', bay: 1, openedAt: 1e12, outcome: 'withdrawn', endedAt: 1e12 },
        { entries: [], names: [] },
      );
      const answer = await other.api.post('/api/jobs/import').send(file).expect(409);
      expect(detailOf(answer)).to.include('is known here with another serial (B-77, not ');
      expect((await other.services.store.battery('SK-0121'))?.serial).to.equal('B-77');
    });
  });

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
      expect((await answerOf(id)).events).to.have.length(seq);
      await sequelize.query('ALTER TABLE elsewhere RENAME TO stock_moves');
      await press().expect(201);
      await press().expect(201);
      expect((await answerOf(id)).events).to.have.length(seq + 1);
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
      const { events } = await answerOf(OPEN);
      const answer = await shop.append(OPEN, events.length, { kind: 'photographed', payload }).expect(400);
      expect(detailOf(answer)).to.include('no such picture');
    });

    it('says when an entry was recorded where that was later than it happened', async () => {
      const { events } = await answerOf(OPEN);
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
