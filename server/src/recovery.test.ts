import { expect } from 'chai';
import type { Charger } from '@cork-ember/core/charge/charger.ts';
import type {
  BatteryAnswer,
  ClockAnswer,
  JobAnswer,
  Problem,
  Shop,
} from '@cork-ember/core/contract/answers.ts';
import type { Finding } from '@cork-ember/core/ledger/finding.ts';
import type { Entry } from '@cork-ember/core/runsheet/entries/events.ts';
import { affirm as affirmed, openTestShop, type TestShop } from '../test/testShop.ts';

describe('a recovery over HTTP', () => {
  let shop: TestShop;
  let id: string;
  let seq: number;
  beforeEach(async () => {
    shop = await openTestShop();
    const { body } = await shop
      .intake({ tag: 'SK-0400', typeId: 'BK-A12/55', dateCode: '2022-05' }, { procedure: 'recover-agm' })
      .expect(201);
    ({ id } = body as JobAnswer);
    seq = 1;
  });
  afterEach(() => shop.cleanUp());

  async function put(...entries: Entry[]): Promise<void> {
    for (const entry of entries) {
      await shop.append(id, seq, entry).expect(201);
      seq += 1;
    }
  }
  const refused = async (entry: object, status: number): Promise<string> => {
    const { body } = await shop.append(id, seq, entry as Entry).expect(status);
    return (body as Problem).detail;
  };
  const foundOut = (ocvV: number): Promise<void> =>
    put(
      affirmed('identify#1'),
      { kind: 'measured', payload: { step: 'label#1', values: {}, source: 'keypad' } },
      affirmed('safety#1'),
      affirmed('inspect#1'),
      { kind: 'measured', payload: { step: 'history#1', values: { complaint: 'parked' }, source: 'keypad' } },
      affirmed('clean#1'),
      {
        kind: 'measured',
        payload: { step: 'first-ocv#1', values: { ocvV, tempC: 21, rested: 'yes' }, source: 'keypad' },
      },
      { kind: 'skipped', payload: { step: 'first-tester#1' } },
    );

  it('what was said of it is kept with the job, within what is possible, and never with a new one', async () => {
    const intake = (tag: string, typeId: string, more: Record<string, unknown>) =>
      shop.intake({ tag, typeId, dateCode: '2025-01' }, more);
    const leave = (job: string): Promise<unknown> =>
      shop.append(job, 1, { kind: 'withdrawn', payload: { reason: 'taken home again' } }).expect(201);
    await leave(id);
    const told = { complaint: 'parked', flatMonths: 5 };
    const back = (await intake('SK-0401', 'BK-A12/55', { procedure: 'recover-agm', told }).expect(201))
      .body as JobAnswer;
    const [opened] = back.events;
    expect(opened?.kind === 'opened' && opened.payload.told).to.deep.equal(told);
    await leave(back.id);
    const fresh = (await intake('SK-0402', 'LW-A12/9', { told }).expect(201)).body as JobAnswer;
    const [first] = fresh.events;
    expect(first?.kind === 'opened' && first.payload).not.to.have.property('told');
    const asked = { procedure: 'recover-agm', told: { complaint: 'parked', flatMonths: 999 } };
    const { body } = await intake('SK-0403', 'BK-A12/55', asked).expect(400);
    expect((body as Problem).detail).to.include('0 to 240 months');
  });

  it('a logger’s file is taken in once, and a row too many refused', async () => {
    await foundOut(12.1);
    await put(
      { kind: 'routed', payload: { step: 'choose-route#1', route: 'slow-charge' } },
      { kind: 'chargeStarted', payload: { step: 'slow#1', currentA: 2.75 } },
    );
    const { body: clock } = await shop.api.get('/api/clock').expect(200);
    const to = (clock as ClockAnswer).shopMs + 60 * 60_000;
    await shop.api.post('/api/clock').send({ to }).expect(200);
    const row = (afterMin: number): object => ({ afterMin, voltageV: 12.8, currentA: 2.75, tempC: 22 });
    const logged = (readings: object[]): object => ({
      kind: 'chargeLogged',
      payload: { step: 'slow#1', file: 'bay-9.csv', rows: 3600, readings },
    });
    await put(logged([row(0), row(30), row(59)]) as Entry);
    expect(await refused(logged([row(0)]), 400)).to.match(/readings/i);
    expect(await refused(logged(Array.from({ length: 401 }, (_, index) => row(index / 10))), 400)).to.match(
      /readings/i,
    );
    expect(await refused(logged([row(0), row(600)]), 422)).to.include('The log lasts 600 min');
  });

  it('a vetoed route is refused in one sentence, and nothing is half done', async () => {
    await foundOut(5.4);
    expect(
      await refused({ kind: 'routed', payload: { step: 'choose-route#1', route: 'equalise' } }, 422),
    ).to.include('never equalised');
    expect(
      await refused({ kind: 'routed', payload: { step: 'choose-route#1', route: 'donor-wake' } }, 422),
    ).to.include('say in a few words why');
    const { body } = await shop.api.get(`/api/jobs/${id}`).expect(200);
    expect((body as JobAnswer).events).to.have.length(seq);
    await put({
      kind: 'routed',
      payload: { step: 'choose-route#1', route: 'donor-wake', reason: 'the supply is away' },
    });
  });

  it('a reading that cannot be is refused with what, where and the range', async () => {
    await foundOut(10.6);
    const evidence = (reading: object): object => ({ kind: 'evidenced', payload: { reading } });
    for (const [reading, sentence] of [
      [{ kind: 'ocv', volts: 80, isRested: true }, 'Voltage: a number from -20 to 20 V'],
      [{ kind: 'density', cell: 2, density: 2.4 }, 'Density: a number from 1 to 1.4'],
      [{ kind: 'density', cell: 0, density: 1.2 }, 'counted from the positive post'],
      [{ kind: 'smell' }, 'needs a kind'],
    ] as const)
      expect(await refused(evidence(reading), 400), JSON.stringify(reading)).to.include(sentence);
    expect(await refused(evidence({ kind: 'level', cell: 9, level: 'low' }), 422)).to.include('cells 1 to 6');
    await put({ kind: 'evidenced', payload: { reading: { kind: 'tester', amps: 400 } } });
  });

  it('a charge that its rule has stopped ends in the battery’s record, with its route', async () => {
    await foundOut(4);
    const inLedger = async (): Promise<Finding | undefined> =>
      ((await shop.api.get('/api/batteries/SK-0400').expect(200)).body as BatteryAnswer).findings.find(
        ({ job }) => job === id,
      );
    expect(await inLedger(), 'under way').to.equal(undefined);
    await put(
      { kind: 'routed', payload: { step: 'choose-route#1', route: 'supply-wake' } },
      affirmed('supply-polarity#1'),
      { kind: 'chargeStarted', payload: { step: 'supply-charge#1', currentA: 2.7 } },
    );
    const look = (voltageV: number, tempC: number): Entry => ({
      kind: 'chargeRead',
      payload: { step: 'supply-charge#1', values: { voltageV, currentA: 2.7, tempC }, source: 'keypad' },
    });
    await put(look(8.1, 22));
    const { shopMs } = (await shop.api.get('/api/clock')).body as { shopMs: number };
    await shop.api
      .post('/api/clock')
      .send({ to: shopMs + 40 * 60_000 })
      .expect(200);
    await put(look(8.1, 25));
    expect(
      await refused({ kind: 'chargeEnded', payload: { step: 'supply-charge#1', fullSignal: true } }, 422),
    ).to.include('Suspected short');
    await put(
      { kind: 'chargePaused', payload: { step: 'supply-charge#1', reason: 'stopped' } },
      { kind: 'routeLeft', payload: { step: 'supply-charge#1', reason: 'Suspected short' } },
      { kind: 'routed', payload: { step: 'choose-route#2', route: 'retire' } },
      { kind: 'measured', payload: { step: 'retire-why#2', values: { why: 'deadCell' }, source: 'keypad' } },
      affirmed('retire-core#2'),
      affirmed('retired#2'),
    );
    const found = await inLedger();
    expect(found).to.include({ tag: 'SK-0400', outcome: 'retired', grade: 'R' });
    expect(found?.routes.map((route) => route.id)).to.deep.equal(['supply-wake']);
    const { body } = await shop.api.get('/api/batteries/SK-0400').expect(200);
    expect((body as { jobs: { outcome: string }[] }).jobs[0]?.outcome).to.equal('retired');
    const { headers } = await shop.api.get(`/api/jobs/${id}/certificate.pdf`).expect(200);
    expect(headers['content-disposition']).to.include('SK-0400-note.pdf');
    await shop.api.get(`/api/jobs/${id}/owner-sheet.pdf`).expect(422);
  });

  it('goes out as a file and comes back the same', async () => {
    await foundOut(10.6);
    await put(
      { kind: 'evidenced', payload: { reading: { kind: 'load', amps: 165, seconds: 15, volts: 7.9 } } },
      {
        kind: 'evidenced',
        payload: { reading: { kind: 'load', amps: 165, seconds: 15, volts: 7.9, firstV: 10.1, backV: 11.9 } },
      },
      { kind: 'evidenced', payload: { reading: { kind: 'drain', amps: 25, minute: 40, volts: 11.8 } } },
      { kind: 'routed', payload: { step: 'choose-route#1', route: 'slow-charge' } },
    );
    const file = (await shop.api.get(`/api/jobs/${id}/export`).expect(200)).body as { entries: unknown[] };
    expect(file.entries).to.have.length(seq);
    const here = (await shop.api.get(`/api/jobs/${id}`).expect(200)).body as JobAnswer;
    const other = await openTestShop();
    await other.api.post('/api/jobs/import').send(file).expect(201);
    const back = (await other.api.get(`/api/jobs/${id}`).expect(200)).body as JobAnswer;
    expect(back.events).to.deep.equal(here.events);
    await other.cleanUp();
  });

  it('takes no charge from a charger that cannot give it, and keeps the one that does', async () => {
    const { chargers } = (await shop.api.get('/api/shop').expect(200)).body as { chargers: Charger[] };

    const bench = chargers.find(({ kind }) => kind === 'programmable');
    if (!bench) throw new Error('the shop has no supply');
    await foundOut(12.1);
    await put({ kind: 'routed', payload: { step: 'choose-route#1', route: 'slow-charge' } });
    const on = (charger: Charger): Entry => ({
      kind: 'chargeStarted',
      payload: { step: 'slow#1', currentA: 2.75, charger },
    });
    expect(await refused(on({ ...bench, leastA: 8, mostA: 10 }), 422)).to.include(bench.name);
    expect(await refused(on({ ...bench, startV: 13 }), 422)).to.include('does not see');
    await put(on(bench));
    const { events } = (await shop.api.get(`/api/jobs/${id}`).expect(200)).body as JobAnswer;
    expect(events.at(-1)?.payload).to.deep.include({ charger: bench });
  });

  it('puts one charger with one setting for all its outputs on at one current, whoever is first', async () => {
    const { bays, chargers } = (await shop.api.get('/api/shop').expect(200)).body as Shop;
    const bench = chargers.find(({ kind }) => kind === 'programmable');
    if (!bench) throw new Error('the shop has no supply');
    await shop.api
      .post('/api/shop/changes')
      .send({ by: 'Ines', why: 'one more', bays: [...bays, { number: 13, charger: bench.id }] })
      .expect(201);
    const toSlowCharge = async (): Promise<{ id: string; seq: number }> => {
      await foundOut(12.1);
      await put({ kind: 'routed', payload: { step: 'choose-route#1', route: 'slow-charge' } });
      return { id, seq };
    };
    const first = await toSlowCharge();
    const rest = { procedure: 'recover-agm', bay: 13 };
    const { body } = await shop
      .intake({ tag: 'SK-0401', typeId: 'BK-A12/55', dateCode: '2022-05' }, rest)
      .expect(201);
    ({ id } = body as JobAnswer);
    seq = 1;
    const second = await toSlowCharge();
    const on = (job: { id: string; seq: number }, currentA: number) =>
      shop.append(job.id, job.seq, {
        kind: 'chargeStarted',
        payload: { step: 'slow#1', currentA, charger: { ...bench, sharesSetting: true } },
      });
    const answers = await Promise.all([on(first, 2.75), on(second, 2)]);
    expect(answers.map(({ status }) => status).sort()).to.deep.equal([201, 422]);
    const no = answers.find(({ status }) => status === 422);
    expect((no?.body as Problem).detail).to.match(
      /one setting for all its outputs, and SK-040[01] in bay \d+ is on it/,
    );
    await on(answers[0].status === 422 ? first : second, answers[0].status === 422 ? 2 : 2.75).expect(201);
  });
});
