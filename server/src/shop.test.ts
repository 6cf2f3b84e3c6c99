import { expect } from 'chai';
import sharp from 'sharp';
import type { ListedType } from '@cork-ember/core/battery/types.ts';
import type { JobAnswer, OpenJob, Problem, Shop, ShopChange } from '@cork-ember/core/contract/answers.ts';
import type { RecordedMove, StockLevel } from '@cork-ember/core/stock/stock.ts';
import { openTestShop, requestKey, type TestShop } from '../test/testShop.ts';

describe('how the shop works, over HTTP', () => {
  let shop: TestShop;
  beforeEach(async () => {
    shop = await openTestShop();
  });
  afterEach(() => shop.cleanUp());

  const change = (body: object) =>
    shop.api.post('/api/shop/changes').send({ by: 'Ines', why: 'as agreed', ...body });
  const detail = ({ body }: { body: unknown }): string => (body as Problem).detail;

  it('two tablets that change it at once: the second is told, and nothing is lost unseen', async () => {
    const { version } = (await shop.api.get('/api/shop')).body as Shop;
    const from = (body: object) => change({ version, ...body });
    await from({ name: 'Harbour bench' }).expect(201);
    const late = await from({ name: 'Pier bench' }).expect(409);
    expect(detail(late)).to.match(
      /^Ines changed the shop in the meantime \(.*\): look at it, then save yours again\.$/,
    );
    expect((await shop.api.get('/api/shop')).body).to.include({
      name: 'Harbour bench',
      version: version + 1,
    });
    await change({ version: version + 1, name: 'Pier bench' }).expect(201);
  });

  it('a voltage that is no number is refused in words, and what stood there stays', async () => {
    const { chargers } = (await shop.api.get('/api/shop')).body as Shop;
    const odd = chargers.map((one) => ({ ...one, mostV: Number.NaN }));
    const refused = await change({ chargers: odd }).expect(400);
    expect(detail(refused)).to.equal('Highest voltage on six cells: a number from 12 to 32 V.');
    expect(((await shop.api.get('/api/shop')).body as Shop).chargers).to.deep.equal(chargers);
  });

  describe('house rules', () => {
    it('change for new jobs only, with who, when and why; jobs under way keep theirs', async () => {
      const before = (await shop.intake({ tag: 'SK-0201' }).expect(201)).body as JobAnswer;
      await change({ rules: { soak: 'm60' }, why: 'the mats are thin' }).expect(201);
      const after = (await shop.intake({ tag: 'SK-0202' }, { bay: 8 }).expect(409)).body as Problem;
      expect(after.detail).to.include('Bay 8 is taken');
      const [first] = before.events;
      expect(first?.kind === 'opened' && first.payload.rules.soak).to.equal('m120');
      await shop.append(before.id, 1, { kind: 'withdrawn', payload: { reason: 'makes room' } }).expect(201);
      const next = (await shop.intake({ tag: 'SK-0202' }).expect(201)).body as JobAnswer;
      expect(next.events[0]?.kind === 'opened' && next.events[0].payload.rules.soak).to.equal('m60');
      const [noted] = (await shop.api.get('/api/shop/changes')).body as ShopChange[];
      expect(noted).to.include({ by: 'Ines', why: 'the mats are thin' });
      expect(noted?.what).to.equal('Soak after the pack is off: 60 min (was 120 min)');
    });

    for (const [what, body, sentence] of [
      ['no reason', { why: ' ', rules: { soak: 'm60' } }, 'Say in a few words why'],
      [
        'an option that is none',
        { rules: { soak: 'm5' } },
        'Soak after the pack is off: choose one of its options',
      ],
      ['nothing', {}, 'Say what is to change'],
      ['what is so already', { rules: { soak: 'm120' } }, 'Nothing differs'],
      ['a bay without its charger', { bays: [{ number: 1, charger: 'gone' }] }, 'no charger “gone”'],
      [
        'an impossible room',
        { room: { volumeM3: 0, pricePerKwh: 0.3 } },
        'Room: a number from 1 to 10000 m³',
      ],
    ] as const)
      it(`answer ${what} with one sentence, and change nothing`, async () => {
        expect(detail(await change(body).expect(400))).to.include(sentence);
        expect((await shop.api.get('/api/shop/changes')).body).to.deep.equal([]);
      });

    it('a bay that holds a battery, and a charger that is on, are not taken from under it', async () => {
      const { bays, chargers } = (await shop.api.get('/api/shop')).body as Shop;
      const [taken] = (await shop.api.get('/api/jobs')).body as readonly OpenJob[];
      const holds = taken?.state.bay ?? 0;
      const without = bays.filter(({ number }) => number !== holds);
      expect(detail(await change({ bays: without }).expect(409))).to.match(
        new RegExp(`^Bay ${holds} holds SK-\\d+: move it first, then remove the bay\\.$`),
      );
      // Bay 8 is empty and may go.
      await change({ bays: bays.filter(({ number }) => number !== 8) }).expect(201);
      const on = (await shop.services.jobs.standing()).flatMap(({ charger }) => charger ?? [])[0];
      const left = chargers.filter(({ id }) => id !== on?.id);
      const moved = bays.map((bay) => (bay.charger === on?.id ? { ...bay, charger: left[0]?.id } : bay));
      expect(detail(await change({ chargers: left, bays: moved }).expect(409))).to.include(
        `${on?.name ?? ''} is on at SK-`,
      );
    });

    it('outlive a restart', async () => {
      await change({ rules: { restBeforeTest: 'h24' } }).expect(201);
      const { rules } = (await shop.api.get('/api/shop')).body as Shop;
      expect(rules.restBeforeTest).to.equal('h24');
    });
  });

  describe('hours, people and name', () => {
    const week = async (): Promise<Shop['hours']> => ((await shop.api.get('/api/shop')).body as Shop).hours;

    it('change day by day, each in its own line on the record, and plans keep them', async () => {
      const hours = await week();
      const later = hours.week.map((day, index) => (index === 3 ? [10 * 60, 20 * 60] : day));
      await change({ hours: { ...hours, week: later }, name: 'Skerry Loft', people: ['Ines', 'Odd'] }).expect(
        201,
      );
      const lines = ((await shop.api.get('/api/shop/changes')).body as ShopChange[]).map(({ what }) => what);
      expect(lines).to.include.members([
        'Name: Skerry Loft (was Skerry Battery Loft)',
        'Wednesday: 10:00–20:00 (was 07:30–18:00)',
        'Odd works here now',
      ]);
      const { events } = (await shop.intake({ tag: 'SK-0203' }).expect(201)).body as JobAnswer;
      expect(events[0]?.kind === 'opened' && events[0].payload.hours.week[3]).to.deep.equal([600, 1200]);
    });

    for (const [what, broken, sentence] of [
      [
        'a day that closes before it opens',
        [[600, 500], null, null, null, null, null, null],
        'opens before it closes',
      ],
      ['a shop that never opens', [null, null, null, null, null, null, null], 'at least one day'],
      ['a week of five days', [null, null, null, null, [60, 600]], 'week'],
    ] as const)
      it(`answer ${what} with one sentence`, async () => {
        const hours = await week();
        expect(detail(await change({ hours: { ...hours, week: broken } }).expect(400))).to.include(sentence);
        expect(await week()).to.deep.equal(hours);
      });

    it('answer a name that stands twice', async () => {
      expect(detail(await change({ people: ['Ines', 'Ines'] }).expect(400))).to.include('stands twice');
    });
  });

  describe('types', () => {
    it('say of every printed value who changed it, when, and what it was', async () => {
      const before = await types();
      const next = before.map((type) =>
        type.id === 'LW-A12/9' ? { ...type, sheet: { ...type.sheet, soakMin: 90 } } : type,
      );
      await change({ types: next, why: 'new sheet came' }).expect(201);
      const [noted] = (await shop.api.get('/api/shop/changes')).body as ShopChange[];
      expect(noted?.what).to.equal('Type LW-A12/9, sheet: soak 90 min (was none)');
      expect(noted?.why).to.equal('new sheet came');
    });

    const types = async (): Promise<ListedType[]> => (await shop.api.get('/api/types')).body as ListedType[];

    it('go out as CSV and come back the same', async () => {
      const before = await types();
      const { text } = await shop.api.get('/api/types.csv').expect('content-type', /csv/).expect(200);
      expect(text.split('\n')[0]).to.include('label.chargeCurrentA');
      const back = await shop.api
        .post('/api/types/read')
        .set('content-type', 'text/csv')
        .send(text)
        .expect(200);
      expect(back.body).to.have.deep.members(before);
    });

    it('go out with no formula among them, whatever they are called, and come back under their own names', async () => {
      const [first] = await types();
      if (!first) throw new Error('there is no type');
      const odd = { ...first, id: '=1+1', maker: '+cmd' };
      const added = await change({ types: [...(await types()), odd] });
      expect(added.status, detail(added)).to.equal(201);
      const { text } = await shop.api.get('/api/types.csv').expect(200);
      expect(text)
        .to.include(`'=1+1`)
        .and.to.include(`'+cmd`)
        .and.not.to.match(/(^|,)[=+]/m);
      const back = await shop.api
        .post('/api/types/read')
        .set('content-type', 'text/csv')
        .send(text)
        .expect(200);
      expect((back.body as ListedType[]).map(({ id }) => id)).to.include('=1+1');
      await change({ types: (await types()).filter(({ id }) => id !== odd.id) }).expect(201);
    });

    it('come in from JSON too, with a decimal comma from a spreadsheet, and are used at once', async () => {
      const row = 'id,maker,kind,nominalV,capacityAh,hourRate,positivePost,packCode,packMl,packDensity\n';
      const csv = `${row}NX-A12/7,Nettlewick,agm-dry-charged,12,"7,5",10,left,P-07,410,"1,32"`;
      const read = await shop.api
        .post('/api/types/read')
        .set('content-type', 'text/csv')
        .send(csv)
        .expect(200);
      const added = (read.body as ListedType[]).find(({ id }) => id === 'NX-A12/7');
      expect(added).to.deep.include({
        capacityAh: 7.5,
        cells: 6,
        pack: { code: 'P-07', volumeMl: 410, densityKgPerL: 1.32 },
      });
      const json = await shop.api
        .post('/api/types/read')
        .set('content-type', 'text/plain')
        .send(JSON.stringify([added]));
      await change({ types: json.body, why: 'new supplier' }).expect(201);
      expect((await types()).some(({ id }) => id === 'NX-A12/7')).to.equal(true);
      await shop.intake({ tag: 'SK-0203', typeId: 'NX-A12/7' }).expect(201);
    });

    for (const [what, file, sentence] of [
      ['a missing column', 'id,maker\nA,B', 'no column construction, cells, capacityAh'],
      [
        'an impossible capacity',
        'id,maker,kind,nominalV,capacityAh,hourRate,positivePost\nA,B,agm-dry-charged,12,0,10,left',
        'Line 2: Capacity: a number from 0.5 to 3000 Ah',
      ],
      [
        'a unit slip',
        'id,maker,kind,nominalV,capacityAh,hourRate,positivePost,label.ceilingV\nA,B,agm-activated,12,9,10,left,147',
        'Line 2: Charge voltage: a number from 2 to 30 V',
      ],
      [
        'a voltage of six cells on three',
        'id,maker,construction,duty,delivery,cells,capacityAh,hourRate,positivePost,label.ceilingV\nA,B,gel,standby,in-service,3,9,20,left,14.4',
        'A: Charge voltage of the label: 6.50 to 7.20 V on a gel battery of 6 V',
      ],
      [
        'gel to be filled',
        'id,maker,construction,duty,delivery,cells,capacityAh,hourRate,positivePost\nA,B,gel,standby,bulk-acid,6,9,20,left',
        'A: Delivery: gel is filled at the factory',
      ],
      [
        'loose acid for an AGM',
        'id,maker,construction,duty,delivery,cells,capacityAh,hourRate,positivePost\nA,B,agm,starter,bulk-acid,6,9,20,left',
        'never loose acid',
      ],
      [
        'no pack for a dry AGM',
        'id,maker,construction,duty,delivery,cells,capacityAh,hourRate,positivePost\nA,B,agm,starter,own-pack,6,9,20,left',
        'takes one pack alone',
      ],
      [
        'cranking of another battery',
        'id,maker,construction,duty,delivery,cells,capacityAh,hourRate,positivePost,crankingA,crankingStandard\nA,B,agm,starter,in-service,6,9,20,left,700,EN',
        '9 Ah give 9 to 360 A; 700 A do not go with it',
      ],
      [
        'a double',
        'id,maker,kind,nominalV,capacityAh,hourRate,positivePost\nA,B,agm-activated,12,9,10,left\nA,B,agm-activated,12,9,10,left',
        'stands twice',
      ],
    ] as const)
      it(`refuse a file with ${what}, naming the line, and change nothing`, async () => {
        const before = await types();
        const answer = await shop.api
          .post('/api/types/read')
          .set('content-type', 'text/csv')
          .send(file)
          .expect(400);
        expect(detail(answer)).to.include(sentence);
        expect(await types()).to.deep.equal(before);
      });
  });

  describe('stock', () => {
    const stock = async () =>
      (await shop.api.get('/api/stock')).body as { levels: StockLevel[]; moves: RecordedMove[] };
    const levelOf = async (id: string): Promise<number> =>
      (await stock()).levels.find((level) => level.id === id)?.amount ?? Number.NaN;

    it('counts in, neutralises a spill, and is drawn down by a job', async () => {
      const before = await levelOf('pack:P-09');
      await shop.api
        .post('/api/stock')
        .send({ by: 'Ines', item: 'pack:P-09', amount: 4, why: 'Delivery', requestKey: requestKey() })
        .expect(201);
      expect(await levelOf('pack:P-09')).to.equal(before + 4);
      const soda = await levelOf('soda');
      await shop.api
        .post('/api/stock/spill')
        .send({ by: 'Ines', item: 'acid:1.265', ml: 100, density25: 1.265, requestKey: requestKey() })
        .expect(201);
      expect(await levelOf('soda')).to.be.closeTo(soda - 86, 3);
      expect((await stock()).moves[0]?.why).to.include('neutralised');
    });

    for (const [body, sentence] of [
      [{ item: 'gold', amount: 1, why: 'x' }, 'keeps no “gold”'],
      [{ item: 'soda', amount: 0, why: 'x' }, 'How much: not 0'],
      [{ item: 'soda', amount: 100, why: '' }, 'Why: 1 to 200 letters'],
    ] as const)
      it(`refuses ${JSON.stringify(body)}`, async () => {
        expect(
          detail(
            await shop.api
              .post('/api/stock')
              .send({ by: 'Ines', requestKey: requestKey(), ...body })
              .expect(400),
          ),
        ).to.include(sentence);
      });

    it('is counted once, however often the same request comes; so is a change of the shop', async () => {
      const before = await levelOf('pack:P-09');
      const packs = { by: 'Ines', item: 'pack:P-09', amount: 4, why: 'Delivery', requestKey: requestKey() };
      for (let sent = 0; sent < 3; sent++) await shop.api.post('/api/stock').send(packs).expect(201);
      expect(await levelOf('pack:P-09')).to.equal(before + 4);
      const spill = { by: 'Ines', item: 'acid:1.265', ml: 100, density25: 1.265, requestKey: requestKey() };
      const acid = await levelOf('acid:1.265');
      await Promise.all([1, 2, 3].map(() => shop.api.post('/api/stock/spill').send(spill).expect(201)));
      expect(await levelOf('acid:1.265')).to.equal(acid - 100);
      const name = { by: 'Ines', why: 'painted anew', name: 'Loft', requestKey: requestKey() };
      for (let sent = 0; sent < 2; sent++) await shop.api.post('/api/shop/changes').send(name).expect(201);
      const changes = (await shop.api.get('/api/shop/changes')).body as { why: string }[];
      expect(changes.filter(({ why }) => why === 'painted anew')).to.have.length(1);
    });

    it('a picture sent again under its key is kept once', async () => {
      const { id } = (await shop.intake({ tag: 'SK-0205' })).body as JobAnswer;
      const file = await sharp({ create: { width: 20, height: 20, channels: 3, background: '#884422' } })
        .jpeg()
        .toBuffer();
      const key = requestKey();
      for (let sent = 0; sent < 2; sent++) {
        const { body } = await shop.api
          .post(`/api/jobs/${id}/photos?key=${key}`)
          .set('content-type', 'image/jpeg')
          .send(file)
          .expect(201);
        expect(body).to.deep.equal({ photo: key });
      }
      expect(await shop.services.photos.all(id)).to.have.length(1);
    });
  });

  describe('photos', () => {
    it('are made small and lose everything but the picture', async () => {
      const { id } = (await shop.intake({ tag: 'SK-0204' })).body as JobAnswer;
      const file = await sharp({ create: { width: 2400, height: 1200, channels: 3, background: '#884422' } })
        .withExif({ IFD0: { Artist: 'somebody', Copyright: 'a place' } })
        .jpeg()
        .toBuffer();
      expect((await sharp(file).metadata()).exif).not.to.equal(undefined);
      const { body } = await shop.api
        .post(`/api/jobs/${id}/photos`)
        .set('content-type', 'image/jpeg')
        .send(file)
        .expect(201);
      const { photo } = body as { photo: string };
      await shop
        .append(id, 1, { kind: 'photographed', payload: { photo, step: 'inspect#1', caption: 'Foil' } })
        .expect(201);
      const kept = await shop.api.get(`/api/jobs/${id}/photos/${photo}`).responseType('blob').expect(200);
      const metadata = await sharp(kept.body as Buffer).metadata();
      expect(metadata.exif).to.equal(undefined);
      expect([metadata.width, metadata.height]).to.deep.equal([1600, 800]);
    });

    it('a drawing that is a program is not opened, and holds nobody up', async () => {
      const { id } = (await shop.intake({ tag: 'SK-0206' })).body as JobAnswer;
      const noise = '<filter id="f"><feTurbulence numOctaves="99"/></filter>';
      const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="9000" height="6000">${noise}<rect width="100%" height="100%" filter="url(#f)"/></svg>`;
      for (const type of ['image/svg+xml', 'image/png'])
        expect(
          detail(
            await shop.api
              .post(`/api/jobs/${id}/photos`)
              .set('content-type', type)
              .send(Buffer.from(svg))
              .expect(400),
          ),
        ).to.include('JPEG, PNG or WebP');
    });

    it('refuse what is no picture, and a job that is not there', async () => {
      const { id } = (await shop.intake({ tag: 'SK-0205' })).body as JobAnswer;
      const send = (job: string, bytes: string) =>
        shop.api.post(`/api/jobs/${job}/photos`).set('content-type', 'image/png').send(Buffer.from(bytes));
      expect(detail(await send(id, 'not a picture').expect(400))).to.include('no picture this shop can read');
      await send('00000000-0000-4000-8000-00000000dead', 'x').expect(404);
    });
  });

  describe('tags', () => {
    it('print as a drawing, as one label and as a sheet', async () => {
      const svg = await shop.api
        .get('/api/batteries/SK-0139/label.svg')
        .expect(200)
        .expect('content-type', /svg/);
      const text = String((svg.body as Buffer).toString());
      expect(text).to.include('SK-0139');
      expect(text).to.include('not ready');
      const pdf = await shop.api.get('/api/labels.pdf?tags=SK-0139,sk-0121').expect(200);
      expect(pdf.headers['content-type']).to.include('pdf');
      await shop.api.get('/api/batteries/SK-0121/label.pdf').expect(200);
    });

    it('refuse none, and one nobody knows', async () => {
      expect(detail(await shop.api.get('/api/labels.pdf?tags=').expect(400))).to.include('1 to 270');
      expect(detail(await shop.api.get('/api/labels.pdf?tags=SK-9999').expect(404))).to.include('SK-9999');
    });
  });
});
