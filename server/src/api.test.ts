import { expect } from 'chai';
import type { JobAnswer, OpenJob, Problem } from '@cork-ember/core/contract/answers.ts';
import { affirm, lastSeq, note, openTestShop, requestKey, textsOf, type TestShop } from '../test/testShop.ts';

const HOT = '5ce77e00-0000-4000-8000-000000000142';
const CERTIFIED = '5ce77e00-0000-4000-8000-000000000121';
const RETURNED = '5ce77e00-0000-4000-8000-000000000119';

describe('the shop over HTTP', () => {
  let shop: TestShop;
  beforeEach(async () => {
    shop = await openTestShop();
  });
  afterEach(() => shop.cleanUp());

  async function newJob(tag?: string): Promise<string> {
    const { body } = await shop.intake(tag === undefined ? {} : { tag }).expect(201);
    return (body as JobAnswer).id;
  }

  describe('intake', () => {
    it('opens a run sheet, once however often it is retried', async () => {
      const key = requestKey();
      const first = await shop.intake({}, { requestKey: key }).expect(201);
      const again = await shop.intake({}, { requestKey: key }).expect(201);
      expect(again.body).to.deep.equal(first.body);
    });

    for (const [what, battery, rest, sentence] of [
      ['a tag that is no tag', { tag: '§' }, {}, 'Tag: 2 to 16 letters, digits or hyphens'],
      ['an unknown type', { typeId: 'XX-1' }, {}, 'there is no “XX-1” in this shop’s list'],
      ['lithium', { typeId: 'VX-L12/7' }, {}, 'A lithium battery is not taken'],
      [
        'work a kind is not for',
        { typeId: 'BK-F12/70' },
        { procedure: 'agm-from-pack' },
        'Flooded, dry-charged is not commissioned by “AGM from its own pack”',
      ],
      ['a month that is none', { dateCode: '2026-13' }, {}, 'year and month, such as 2026-01'],
      ['a month to come', { dateCode: '2026-09' }, {}, 'lies ahead'],
      ['a promise in the past', {}, { promisedAt: Date.parse('2026-03-09T10:00:00Z') }, 'must lie ahead'],
      ['a promise to the great-grandchildren', {}, { promisedAt: 9e15 }, 'between the years 2000 and 2100'],
      ['nobody at the bench', {}, { by: ' ' }, 'Say who is at the bench'],
      ['a bay that is not there', {}, { bay: 13 }, 'there is no bay 13; this shop has 12'],
    ] as const)
      it(`answers ${what} with one sentence`, async () => {
        const { body } = await shop
          .intake(battery, rest)
          .expect(400)
          .expect('content-type', /problem\+json/);
        expect((body as Problem).detail).to.include(sentence);
      });

    it('refuses a taken bay, a battery already on the bench and a tag of another type', async () => {
      for (const [battery, rest, sentence] of [
        [{}, { bay: 2 }, 'Bay 2 is taken by SK-0142'],
        [{ tag: 'SK-0142' }, {}, 'is at work here already, in bay 2'],
        [{ tag: 'sk-0112' }, {}, 'in the ledger as LW-A6/4'],
      ] as const) {
        const { body } = await shop.intake(battery, rest).expect(409);
        expect((body as Problem).detail).to.include(sentence);
      }
    });
  });

  describe('a delivery', () => {
    const PROMISED = Date.parse('2026-03-12T16:00:00Z');
    const one = (tag: string, more: object = {}): object => ({
      battery: { tag, typeId: 'LW-A12/9', serial: '', dateCode: '2026-01', owner: 'stock' },
      bay: 0,
      promisedAt: PROMISED,
      requestKey: requestKey(),
      ...more,
    });
    const deliver = (...batteries: readonly object[]) =>
      shop.api.post('/api/deliveries').send({ by: 'Ines', batteries });
    const open = async (): Promise<string[]> =>
      ((await shop.api.get('/api/jobs')).body as OpenJob[]).map(({ state }) => state.opened.battery.tag);

    it('arrives whole, for two owners alike, once however often it is sent', async () => {
      const like = ['harbour', 'quay'].map((owner, at) =>
        one(`DL-0${at}`, {
          battery: { tag: `DL-0${at}`, typeId: 'LW-A12/9', serial: '', dateCode: '2026-01', owner },
        }),
      );
      const first = await deliver(...like).expect(201);
      const again = await deliver(...like).expect(201);
      expect(again.body).to.deep.equal(first.body);
      expect((first.body as JobAnswer[]).map(({ events }) => events[0]?.seq)).to.deep.equal([1, 1]);
      expect((await open()).filter((tag) => tag.startsWith('DL-'))).to.have.members(['DL-00', 'DL-01']);
    });

    for (const [what, batteries, sentence, status] of [
      ['a bay that is taken', [one('DL-1'), one('DL-2', { bay: 2 })], 'DL-2: Bay 2 is taken by SK-0142', 409],
      [
        'a bay given to two',
        [one('DL-1', { bay: 8 }), one('DL-2', { bay: 8 })],
        'DL-2: Bay 8 is given to two',
        409,
      ],
      ['a tag given twice', [one('DL-1'), one('DL-1')], 'DL-1: Its tag is given twice', 409],
      [
        'a month to come',
        [
          one('DL-1'),
          one('DL-2', {
            battery: { tag: 'DL-2', typeId: 'LW-A12/9', serial: '', dateCode: '2026-09', owner: 'stock' },
          }),
        ],
        'DL-2: Date code: 2026-09 lies ahead',
        400,
      ],
      ['none at all', [], 'at least one', 400],
      ['more than a pallet', Array.from({ length: 31 }, (_, at) => one(`DL-${at}00`)), 'at most 30', 400],
    ] as const)
      it(`with ${what} is refused in one sentence, and none of it is taken in`, async () => {
        const before = await open();
        const { body } = await deliver(...batteries).expect(status);
        expect((body as Problem).detail).to.include(sentence);
        expect(await open()).to.deep.equal(before);
      });

    it('brings a type that is new here with its first battery, or not at all', async () => {
      const { body: types } = await shop.api.get('/api/types');
      const like = (types as readonly { id: string }[]).find(({ id }) => id === 'LW-A12/9');
      const type = { ...like, id: 'NEW-1' };
      const battery = (tag: string): object => ({
        tag,
        typeId: 'NEW-1',
        serial: '',
        dateCode: '2026-01',
        owner: 'stock',
      });
      const known = async (): Promise<boolean> =>
        ((await shop.api.get('/api/types')).body as readonly { id: string }[]).some(
          ({ id }) => id === 'NEW-1',
        );
      await deliver(
        one('DL-1', { battery: battery('DL-1'), type }),
        one('DL-2', { battery: battery('DL-2'), bay: 2 }),
      ).expect(409);
      expect(await known()).to.equal(false);
      await deliver(
        one('DL-1', { battery: battery('DL-1'), type }),
        one('DL-2', { battery: battery('DL-2') }),
      ).expect(201);
      expect(await known()).to.equal(true);
    });
  });

  describe('moving', () => {
    it('puts any number on the shelf, whose bays are free again, and one in a bay', async () => {
      const move = (id: string, seq: number, bay: number) =>
        shop.append(id, seq, { kind: 'placed', payload: { bay } });
      const first = await newJob('SK-7001');
      await move(first, 1, 0).expect(201);
      await move(await newJob('SK-7002'), 1, 0).expect(201);
      const third = await newJob('SK-7003');
      const { body: taken } = await move(first, 2, 8).expect(409);
      expect((taken as Problem).detail).to.equal('Bay 8 is taken by SK-7003; choose a free one.');
      const { body: none } = await move(first, 2, 99).expect(400);
      expect((none as Problem).detail).to.include('there is no bay 99');
      await shop.append(third, 1, { kind: 'withdrawn', payload: { reason: 'owner came back' } }).expect(201);
      await move(first, 2, 8).expect(201);
      const again = await shop.intake({ tag: 'SK-7002' }, { bay: 8 }).expect(409);
      expect((again.body as Problem).detail).to.include('SK-7002 is at work here already, on the shelf');
    });
  });

  describe('appending', () => {
    it('records an entry at shop time and shows it in the job', async () => {
      const id = await newJob();
      const { body } = await shop.append(id, 1, affirm('identify#1')).expect(201);
      expect(body).to.include({ job: id, seq: 2, by: 'Ines', kind: 'affirmed' });
      const job = await shop.api.get(`/api/jobs/${id}`).expect(200);
      expect(lastSeq(job.body as JobAnswer)).to.equal(2);
    });

    it('never doubles a retry', async () => {
      const id = await newJob();
      const extra = { requestKey: requestKey() };
      const first = await shop.append(id, 1, note('scratch on the lid'), extra).expect(201);
      const again = await shop.append(id, 1, note('scratch on the lid'), extra).expect(201);
      expect(again.body).to.deep.equal(first.body);
      const { body } = await shop.api.get(`/api/jobs/${id}`);
      expect(textsOf((body as JobAnswer).events)).to.deep.equal(['scratch on the lid']);
    });

    it('answers a stale entry with what changed, and keeps order under a crowd', async () => {
      const id = await newJob();
      const answers = await Promise.all(
        Array.from({ length: 20 }, (_, index) => shop.append(id, 1, note(`note ${index}`))),
      );
      expect(answers.filter((answer) => answer.status === 201)).to.have.length(1);
      const stale = answers.find((answer) => answer.status === 409)?.body as Problem;
      expect(stale.detail).to.include('Ines recorded something in the meantime');
      expect(stale.changed?.map((event) => event.seq)).to.deep.equal([2]);
    });

    it('passes on what the run sheet says, and records nothing', async () => {
      const id = await newJob();
      const { body } = await shop.append(id, 1, affirm('pack-off#1')).expect(422);
      expect(body).to.include({ type: '/problems/not-open' });
      expect((body as Problem).detail).to.include('“Identify the battery” comes first');
      const job = await shop.api.get(`/api/jobs/${id}`);
      expect(lastSeq(job.body as JobAnswer)).to.equal(1);
    });

    it('keeps the time of an entry that waited in the browser, but not one from the future', async () => {
      const id = await newJob();
      await shop.append(id, 1, note('first'));
      shop.services.clock.jumpTo(shop.services.clock.now() + 600_000);
      const enteredAt = shop.services.clock.now() - 60_000;
      const late = await shop.append(id, 2, note('late'), { enteredAt }).expect(201);
      expect(late.body).to.include({ at: enteredAt });
      const early = await shop.append(id, 3, note('early'), { enteredAt: enteredAt + 1e9 }).expect(201);
      expect((early.body as { at: number }).at).to.be.within(enteredAt, shop.services.clock.now());
    });

    it('lists only jobs that have not ended', async () => {
      const id = await newJob();
      await shop.append(id, 1, { kind: 'withdrawn', payload: { reason: 'owner took it back' } }).expect(201);
      const { body } = await shop.api.get('/api/jobs');
      expect((body as OpenJob[]).map((job) => job.id)).not.to.include(id);
      const battery = await shop.api.get('/api/batteries/sk-0200').expect(200);
      expect(battery.body).to.have.nested.property('jobs[0].outcome', 'withdrawn');
    });
  });

  describe('bad input', () => {
    for (const [what, send, status, sentence] of [
      [
        'malformed JSON',
        () => shop.api.post('/api/jobs').type('json').send('{"bay":'),
        400,
        'not valid JSON',
      ],
      [
        'a body of 2 MB',
        () => shop.api.post('/api/jobs').send({ text: 'x'.repeat(2_000_000) }),
        413,
        'larger than the 1 MB allowed',
      ],
      [
        'an unknown tag',
        () => shop.api.get('/api/batteries/SK-9999'),
        404,
        'No battery in this shop carries the tag SK-9999',
      ],
      ['an unknown job', () => shop.api.get(`/api/jobs/${requestKey()}`), 404, 'no such job'],
      ['an unknown address', () => shop.api.get('/api/nothing'), 404, 'There is nothing at /nothing'],
      ['a pace that is none', () => shop.api.post('/api/clock').send({ pace: 7 }), 400, '1, 60 or 600'],
      ['an empty body', () => shop.api.post('/api/clock'), 400, 'a pace or a jump'],
      [
        'negative volts on charge',
        () =>
          shop.append(HOT, 28, {
            kind: 'chargeRead',
            payload: { step: 'charge#1', values: { voltageV: -3, currentA: 1, tempC: 20 }, source: 'x' },
          }),
        400,
        'voltageV',
      ],
      [
        'an entry without a kind',
        () =>
          shop.api
            .post(`/api/jobs/${HOT}/events`)
            .send({ expectedSeq: 1, requestKey: requestKey(), by: 'Ines', entry: {} }),
        400,
        'needs a kind',
      ],
    ] as const)
      it(`answers ${what} in one sentence`, async () => {
        const { body } = await send()
          .expect(status)
          .expect('content-type', /problem\+json/);
        const { detail } = body as Problem;
        expect(detail).to.include(sentence);
        expect(detail).to.match(/[.!?]$/);
      });
  });

  describe('files and papers', () => {
    it('writes the certificate of a battery that passed and the return note of one that did not', async () => {
      for (const [id, name] of [
        [CERTIFIED, 'SK-0121-certificate.pdf'],
        [RETURNED, 'SK-0119-note.pdf'],
      ] as const) {
        const { body, headers } = await shop.api.get(`/api/jobs/${id}/certificate.pdf`).expect(200);
        expect(headers['content-disposition']).to.include(name);
        expect((body as Buffer).subarray(0, 5).toString()).to.equal('%PDF-');
      }
    });

    it('gives the owner’s sheet only with a battery that passed, and a warranty record of any', async () => {
      const { body, headers } = await shop.api.get(`/api/jobs/${CERTIFIED}/owner-sheet.pdf`).expect(200);
      expect(headers['content-disposition']).to.include('SK-0121-owner-sheet.pdf');
      expect((body as Buffer).subarray(0, 5).toString()).to.equal('%PDF-');
      const refused = await shop.api.get(`/api/jobs/${RETURNED}/owner-sheet.pdf`).expect(422);
      expect((refused.body as Problem).detail).to.include('this one did not');
      for (const id of [CERTIFIED, RETURNED])
        await shop.api.get(`/api/jobs/${id}/warranty-record.pdf`).expect(200);
    });

    it('has no certificate for a job under way', async () => {
      const { body } = await shop.api.get(`/api/jobs/${HOT}/certificate.pdf`).expect(422);
      expect((body as Problem).detail).to.include('still under way');
    });
  });

  describe('clock and instruments', () => {
    it('jumps to the next moment that needs hands', async () => {
      const before = shop.services.clock.now();
      const { body } = await shop.api.post('/api/clock').send({ jump: 'next-hands' }).expect(200);
      expect((body as { shopMs: number }).shopMs).to.be.within(before + 60_000, before + 600_000);
    });

    it('reads a battery by name of instrument and quantity', async () => {
      const { body } = await shop.api
        .post('/api/instruments/meter/read')
        .send({ job: HOT, quantity: 'temperature' })
        .expect(200);
      expect(body).to.include({ quantity: 'temperature', instrument: 'Bench meter' });
      expect((body as { value: number }).value).to.be.within(30, 52);
      const wrong = await shop.api
        .post('/api/instruments/scale/read')
        .send({ job: HOT, quantity: 'voltage' })
        .expect(422);
      expect((wrong.body as Problem).detail).to.include('does not read voltage');
      await shop.api.post('/api/instruments/wand/read').send({ job: HOT, quantity: 'voltage' }).expect(404);
    });
  });

  it('answers compressed where a browser takes it', async () => {
    const { headers } = await shop.api.get('/api/jobs').set('accept-encoding', 'gzip').expect(200);
    expect(headers['content-encoding']).to.equal('gzip');
  });

  it('begins with a bench in every state the demo promises', async () => {
    const { body } = await shop.api.get('/api/jobs');
    expect((body as OpenJob[]).length).to.be.at.least(6);
  });
});
