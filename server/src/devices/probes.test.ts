import { expect } from 'chai';
import type { JobAnswer, ProbeKey, Shop, StreamMessage } from '@cork-ember/core/contract/answers.ts';
import type { Device } from '@cork-ember/core/devices/device.ts';
import { GENERIC_PUSH } from '@cork-ember/core/devices/genericProfiles.ts';
import { openTestShop, type TestShop } from '../../test/testShop.ts';

const BAY = 8;
const PROBE: Device = {
  id: 'probe-8',
  name: 'Probe of bay 8',
  profile: GENERIC_PUSH.id,
  place: { kind: 'push' },
  bay: BAY,
};

describe('probes that send by themselves', () => {
  let shop: TestShop;
  let key = '';
  before(async () => {
    shop = await openTestShop();
    await add([PROBE, { ...PROBE, id: 'loose', name: 'Loose probe', bay: undefined }]).expect(201);
    key = await newKey('probe-8');
  });
  after(() => shop.cleanUp());

  const add = (more: readonly object[]) =>
    shop.api.post('/api/shop/changes').send({
      by: 'Ines',
      why: 'soldered one',
      devices: [...(shop.services.settings.shop.devices ?? []), ...more],
    });
  const newKey = async (id: string): Promise<string> =>
    ((await shop.api.post(`/api/devices/${id}/key`).expect(201)).body as ProbeKey).key;
  const send = (message: object, by = key, id = 'probe-8') =>
    shop.api.post(`/api/devices/${id}/readings`).set('authorization', `Bearer ${by}`).send(message);
  const readings = async (job: string) =>
    shop.services.readings.read(job, 0, shop.services.clock.now() + 1000);

  it('keep what they send with the job in their bay, tell who listens, and nothing while the bay is free', async () => {
    expect((await send({ volts: 12.6 }).expect(200)).body).to.deep.equal({ kept: 0 });
    const { id } = (await shop.intake().expect(201)).body as JobAnswer;
    const told: StreamMessage[] = [];
    const end = shop.services.stream.listen((message) => told.push(message));
    const answer = await send([{ volts: 12.61, tempC: 23.5, agoS: 4 }, { tempC: 23.6 }]).expect(200);
    end();
    expect(answer.body).to.deep.equal({ kept: 2 });
    const kept = await readings(id);
    expect(kept.map(({ at: _at, ...figures }) => figures)).to.deep.equal([
      { volts: 12.61, tempC: 23.5 },
      { tempC: 23.6 },
    ]);
    expect((kept[1]?.at ?? 0) - (kept[0]?.at ?? 0)).to.be.closeTo(4000, 1);
    expect(told.filter(({ kind }) => kind === 'seen')).to.deep.equal(
      kept.map((sample) => ({ kind: 'seen', bay: BAY, job: id, sample })),
    );
    const { text } = await shop.api.get(`/api/jobs/${id}/readings.csv`).expect(200);
    expect(text.split('\r\n')[2]).to.match(/,,,23\.6$/);
  });

  it('many at once, all on disk when they are answered', async () => {
    const { job: id, bay } =
      (await shop.services.jobs.openJobs()).find(({ state }) => state.bay === 2)?.state ?? {};
    await add([{ ...PROBE, id: 'probe-2', name: 'Probe of bay 2', bay }]).expect(201);
    const own = await newKey('probe-2');
    const answers = await Promise.all(
      Array.from({ length: 40 }, (_, index) =>
        send({ volts: 12 + index / 100, agoS: index }, own, 'probe-2'),
      ),
    );
    expect(answers.map(({ status }) => status)).to.deep.equal(answers.map(() => 200));
    expect(await readings(id ?? '')).to.have.length(40);
  });

  it('keep nothing of a message that holds anything that is no reading', async () => {
    const { body } = await send([{ volts: 12.6 }, { volts: 'twelve' }]).expect(400);
    expect((body as { detail: string }).detail).to.equal('Probe of bay 8: volts: a number; “twelve” is not.');
  });

  it('are believed by their key alone, and by the newest of it', async () => {
    const said = async (by: string, id = 'probe-8'): Promise<number> =>
      (await send({ volts: 12.6 }, by, id)).status;
    expect(await said('')).to.equal(401);
    expect(await said('x'.repeat(32))).to.equal(401);
    expect(await said(key, 'loose')).to.equal(401);
    expect(await said(key, 'none')).to.equal(401);
    const before = key;
    key = await newKey('probe-8');
    expect(await said(before)).to.equal(401);
    expect(await said(key)).to.equal(200);
    await shop.api.post('/api/devices/supply-1/key').expect(404);
  });

  it('a key is not that of another probe that comes to have the same id', async () => {
    const devices = shop.services.settings.shop.devices ?? [];
    const change = (all: readonly Device[]) =>
      shop.api.post('/api/shop/changes').send({ by: 'Ines', why: 'another one', devices: all }).expect(201);
    await change(devices.map((one) => (one.id === 'probe-8' ? { ...one, name: 'Another probe' } : one)));
    await send({ volts: 12.6 }).expect(401);
    await change(devices);
    await send({ volts: 12.6 }).expect(200);
  });

  it('say what they sent last, where one is asked to talk', async () => {
    const talk = async (id: string) =>
      (await shop.api.post(`/api/devices/${id}/talk`).expect(200)).body as unknown;
    expect(await talk('loose')).to.deep.equal({
      figures: {},
      trouble: 'Loose probe: it has sent nothing since the shop’s server began.',
    });
    await send({ volts: 12.64, tempC: 24.1 }).expect(200);
    expect(await talk('probe-8')).to.deep.equal({ figures: { volts: 12.64, tempC: 24.1 } });
    await shop.api.post('/api/devices/probe-8/off').expect(422);
  });

  it('have a profile that sends and no address, and the others an address', async () => {
    const refused = async (device: Partial<Device>): Promise<string> =>
      (
        (await add([{ ...PROBE, id: 'x', name: 'X', ...device } as Device]).expect(400)).body as {
          detail: string;
        }
      ).detail;
    expect(await refused({ profile: 'scpi-scanner' })).to.include('is asked at its address: give one');
    expect(await refused({ place: { kind: 'tcp', host: '192.168.1.5', port: 80 } })).to.include(
      'sends by itself and has no address',
    );
    const { devices } = (await shop.api.get('/api/shop')).body as Shop;
    expect(devices?.map(({ id }) => id)).to.not.include('x');
  });

  it('are put right by their calibration', async () => {
    const before = shop.services.settings.shop.devices ?? [];
    const lines = {
      tempC: [
        { shown: 1, is: 0 },
        { shown: 51, is: 50 },
      ],
    };
    const calibration = { at: 0, everyMonths: 12, lines };
    const change = (all: readonly object[]) =>
      shop.api.post('/api/shop/changes').send({ by: 'Ines', why: 'ice and kettle', devices: all });
    const withIt = before.map((one) => (one.id === 'probe-8' ? { ...one, calibration } : one));
    await change(withIt).expect(201);
    await send({ volts: 12.6, tempC: 25 }).expect(200);
    const { body } = await shop.api.post('/api/devices/probe-8/talk').expect(200);
    expect(body).to.deep.equal({ figures: { volts: 12.6, tempC: 24 } });
    const wrong = { ...calibration, lines: { tempC: [lines.tempC[0], { shown: 2, is: 1 }] } };
    const refused = await change(before.map((one) => ({ ...one, calibration: wrong }))).expect(400);
    expect((refused.body as { detail: string }).detail).to.include('two points at least 5 apart');
    await change(before).expect(201);
  });

  it('are not guessed: who fails is slowed down, who has the key is not', async () => {
    const tried = await Promise.all(Array.from({ length: 40 }, () => send({ volts: 12.6 }, 'y'.repeat(32))));
    expect(tried.filter(({ status }) => status === 429)).to.have.length.above(5);
    await send({ volts: 12.6 }).expect(200);
  });
});

describe('a form of a shop whose bay has a probe', () => {
  it('is filled by what the probe sent last', async () => {
    const shop = await openTestShop(undefined, true);
    try {
      const { types } = { types: (await shop.api.get('/api/types')).body as { id: string }[] };
      await shop.api
        .post('/api/shop/changes')
        .send({ by: 'Ines', why: 'soldered one', devices: [{ ...PROBE, bay: 1 }] })
        .expect(201);
      const { key } = (await shop.api.post('/api/devices/probe-8/key').expect(201)).body as ProbeKey;
      const { id } = (
        await shop.intake({ typeId: types[0]?.id }, { bay: 1, procedure: undefined }).expect(201)
      ).body as JobAnswer;
      const [instrument] = (await shop.api.get('/api/instruments')).body as {
        id: string;
        quantities: string[];
      }[];
      expect(instrument?.quantities).to.deep.equal(['voltage', 'current', 'temperature']);
      const read = (quantity: string) =>
        shop.api.post('/api/instruments/bay/read').send({ job: id, quantity });
      const { body } = await read('temperature').expect(422);
      expect((body as { detail: string }).detail).to.include(
        'has no device of its own that reads temperature',
      );
      await shop.api
        .post('/api/devices/probe-8/readings')
        .set('authorization', `Bearer ${key}`)
        .send({ tempC: 25.4 })
        .expect(200);
      expect((await read('temperature').expect(200)).body).to.include({ value: 25.4 });
    } finally {
      await shop.cleanUp();
    }
  });
});
