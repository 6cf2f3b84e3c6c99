import { expect } from 'chai';
import type { ListedType } from '@cork-ember/core/battery/types.ts';
import type { LiveBay } from '@cork-ember/core/devices/bay/messages.ts';
import type { BenchPicture } from '@cork-ember/core/runsheet/plan/benchPicture.ts';
import type { Entry } from '@cork-ember/core/runsheet/entries/events.ts';
import { openTestShop, type TestShop } from '../../test/testShop.ts';
import { SettingStore } from '../store/settingStore.ts';
import { bayOrderOf, type BayWork } from './bayOrder.ts';
import { BaySheets, type OnSheet } from './baySheet.ts';

const MINUTE = 60_000;
const BAY = 2;

/** A battery that came charged, up to where its capacity is measured. */
const TO_CAPACITY: readonly (Entry | { readonly waitMin: number })[] = [
  { kind: 'affirmed', payload: { step: 'identify#1' } },
  { kind: 'measured', payload: { step: 'label#1', values: {}, source: 'keypad' } },
  { kind: 'affirmed', payload: { step: 'safety#1' } },
  { kind: 'affirmed', payload: { step: 'inspect#1' } },
  { kind: 'measured', payload: { step: 'history#1', values: { complaint: 'parked' }, source: 'keypad' } },
  { kind: 'affirmed', payload: { step: 'clean#1' } },
  {
    kind: 'measured',
    payload: { step: 'first-ocv#1', values: { ocvV: 12.85, tempC: 21, rested: 'yes' }, source: 'keypad' },
  },
  { kind: 'skipped', payload: { step: 'first-tester#1' } },
  { kind: 'routed', payload: { step: 'choose-route#1', route: 'prove', reason: 'it came charged' } },
  { kind: 'affirmed', payload: { step: 'prove-off#1' } },
  { waitMin: 1445 },
  {
    kind: 'measured',
    payload: { step: 'prove-ocv#1', values: { ocvV: 12.85, tempC: 21 }, source: 'keypad' },
  },
  { kind: 'skipped', payload: { step: 'prove-load#1' } },
];

/** For standby: capacity and resistance grade it. */
const UNRATED = 'OWN-S20';

describe('what a bay with devices writes on its run sheet', () => {
  let shop: TestShop;
  let sheets: BaySheets;
  let job = '';
  before(async () => {
    shop = await openTestShop();
    const { jobs, entries, clock, database, devices } = shop.services;
    expect(devices.inBay(BAY, 'load')).to.not.equal(undefined);
    sheets = new BaySheets({ jobs, entries, settings: new SettingStore(database), clock });
  });
  after(() => shop.cleanUp());

  const seq = async (): Promise<number> => (await shop.services.jobs.job(job)).log.length;
  const pass = (minutes: number): void =>
    shop.services.clock.jumpTo(shop.services.clock.now() + minutes * MINUTE);
  const kinds = async (from: number): Promise<readonly string[]> =>
    (await shop.services.jobs.job(job)).log.slice(from).map(({ kind }) => kind);

  let count = 0;
  const takenIn = async (typeId: string, bay = 0): Promise<void> => {
    count += 1;
    const intake = await shop
      .intake(
        { tag: `SK-07${String(count).padStart(2, '0')}`, typeId },
        {
          procedure: 'recover-agm',
          bay,
          promisedAt: shop.services.clock.now() + 4 * 86_400_000,
          requestKey: `5ce77e00-0000-4000-8000-0000000000${10 + count}`,
        },
      )
      .expect(201);
    job = (intake.body as { id: string }).id;
  };
  const putAll = async (entries: typeof TO_CAPACITY): Promise<void> => {
    for (const entry of entries)
      if ('waitMin' in entry) pass(entry.waitMin);
      else await shop.append(job, await seq(), entry).expect(201);
  };
  const starts = async (kind: BayWork['kind']): Promise<OnSheet> => {
    const { state } = await shop.services.jobs.job(job);
    const asked = { bay: BAY, job, state, now: shop.services.clock.now(), order: 1 };
    const { work, order } = bayOrderOf(asked, shop.services.devices);
    expect(order.does.kind).to.equal(kind);
    return sheets.starts({ bay: BAY, job, by: 'Ines', work, hasCutOff: true });
  };
  /** Up to its capacity test, or of one without a cranking rating to its resistance. */
  const atLoad = async (typeId = 'BK-A12/55'): Promise<OnSheet> => {
    await takenIn(typeId);
    const isRated = typeId !== UNRATED;
    await putAll(isRated ? TO_CAPACITY : TO_CAPACITY.slice(0, -1));
    return starts(isRated ? 'drain' : 'step');
  };
  const onCharge = async (): Promise<OnSheet> => {
    const { bays } = (await shop.api.get('/api/bench')).body as BenchPicture;
    const taken = new Set(bays.map(({ bay }) => bay));
    await takenIn(
      'BK-A12/55',
      [9, 10, 11, 12, 8, 7].find((bay) => !taken.has(bay)),
    );
    const found = TO_CAPACITY.findIndex((entry) => 'kind' in entry && entry.kind === 'routed');
    await putAll([
      ...TO_CAPACITY.slice(0, found),
      {
        kind: 'routed',
        payload: { step: 'choose-route#1', route: 'slow-charge', reason: 'as agreed with its owner' },
      },
    ]);
    return starts('charge');
  };
  const live = (phase: LiveBay['phase'], volts: number, ah: number): LiveBay => ({
    order: 1,
    bay: BAY,
    job,
    phase,
    says: 'as it was',
    ah,
    sample: { at: shop.services.clock.now(), volts, amps: -25 },
  });

  it('is its first look, one each quarter of an hour, and what it came to; then it is charged again', async () => {
    const on = await atLoad();
    const from = await seq();
    expect(await sheets.look(on, live('running', 12.6, 0))).to.equal(undefined);
    pass(10);
    await sheets.look(on, live('running', 12.4, 4.2));
    expect(await kinds(from)).to.deep.equal(['evidenced']);
    pass(6);
    await sheets.look(on, live('running', 12.3, 6.7));
    expect(await kinds(from)).to.deep.equal(['evidenced', 'evidenced']);
    pass(100);
    await sheets.ends(on, live('ended', 10.49, 49));
    expect(await kinds(from)).to.deep.equal(['evidenced', 'evidenced', 'evidenced', 'measured']);
    const { state } = await shop.services.jobs.job(job);
    expect(state.steps[state.cursor]?.stepId).to.equal('prove-charge');
    await sheets.ends(on, live('ended', 10.49, 49));
    expect(await kinds(from), 'once').to.have.length(4);
    const { log } = await shop.services.jobs.job(job);
    expect(sheets.isTouched(job, log, from), 'by nobody else').to.equal(false);
    await shop
      .append(job, await seq(), {
        kind: 'evidenced',
        payload: { reading: { kind: 'ocv', volts: 11.9, isRested: true } },
      })
      .expect(201);
    expect(sheets.isTouched(job, (await shop.services.jobs.job(job)).log, from)).to.equal(true);
  });

  it('is a note where it was broken off, and no capacity', async () => {
    const on = await atLoad();
    await sheets.look(on, live('running', 12.6, 0));
    const from = await seq();
    await sheets.ends(on, live('off', 12.1, 8));
    expect(await kinds(from)).to.deep.equal(['noted']);
  });

  it('is the resistance of one that has no cranking rating, once', async () => {
    const types = (await shop.api.get('/api/types')).body as ListedType[];
    const { cranking: _none, ...unrated } = {
      ...(types.find(({ id }) => id === 'TQ-A12/20') as ListedType),
      id: UNRATED,
    };
    await shop.api
      .post('/api/shop/changes')
      .send({ by: 'Ines', why: 'came with the mast', types: [...types, unrated] })
      .expect(201);
    const on = await atLoad(UNRATED);
    const from = await seq();
    pass(1);
    expect(await sheets.look(on, live('running', 12.6, 0.01))).to.equal(undefined);
    await sheets.ends(on, { ...live('ended', 12.4, 0.02), ohms: 0.0114 });
    await sheets.ends(on, { ...live('ended', 12.4, 0.02), ohms: 0.0114 });
    expect(await kinds(from)).to.deep.equal(['measured']);
    const { state } = await shop.services.jobs.job(job);
    const step = state.steps.find(({ key }) => key === 'prove-load#1');
    expect(step).to.deep.include({
      values: { method: 'ohm', milliohm: 11.4 },
      source: 'Load of bay 2, by a step of current',
    });
  });

  it('is a look at once where what is seen would have the charge off, and otherwise none before its time', async () => {
    const on = await onCharge();
    const from = await seq();
    const seen = (tempC: number): LiveBay => {
      const at = shop.services.clock.now();
      return { ...live('running', 13.1, 0), sample: { at, volts: 13.1, amps: 2.75, tempC } };
    };
    pass(3);
    expect(await sheets.look(on, seen(24))).to.equal(undefined);
    expect(await kinds(from)).to.deep.equal([]);
    pass(3);
    const off = await sheets.look(on, seen(47));
    expect(await kinds(from)).to.deep.equal(['chargeRead']);
    expect(off?.why).to.include('°C');
    await off?.write();
    expect(await kinds(from)).to.deep.equal(['chargeRead', 'noted', 'chargePaused']);
    const { log } = await shop.services.jobs.job(job);
    expect(log.at(-1)?.payload).to.deep.include({ reason: 'hot' });
  });

  it('is off at once where somebody ends the step on the sheet', async () => {
    const on = await atLoad();
    await sheets.look(on, live('running', 12.6, 0));
    await shop
      .append(job, await seq(), {
        kind: 'measured',
        payload: {
          step: 'prove-capacity#1',
          values: { method: 'reserve', reserveMin: 1 },
          source: 'keypad',
        },
      })
      .expect(201);
    const off = await sheets.look(on, live('running', 12.5, 0.4));
    expect(off?.why).to.equal('It was ended on the run sheet.');
  });
});
