import { expect } from 'chai';
import { readdirSync, readFileSync } from 'node:fs';
import { setTimeout as pass } from 'node:timers/promises';
import type { BenchPicture } from '@cork-ember/core/runsheet/plan/benchPicture.ts';
import type { Entry, JobEvent } from '@cork-ember/core/runsheet/entries/events.ts';
import type { DeviceSaid, JobAnswer, Problem, Shop } from '@cork-ember/core/contract/answers.ts';
import type { LiveBay } from '@cork-ember/core/devices/bay/messages.ts';
import type { Stretch } from '@cork-ember/core/devices/samples.ts';
import { openTestShop, type TestShop } from '../../test/testShop.ts';

const LONGEST_MS = 15_000;
const EACH_MS = 100;
/** What is so near is waited for. */
const SOON_MS = 5000;

/** The bench of this very process. */
function benchPid(): number {
  for (const name of readdirSync('/proc').filter((one) => /^\d+$/.test(one)))
    try {
      const parent = Number(readFileSync(`/proc/${name}/stat`, 'utf8').split(') ')[1]?.split(' ')[1]);
      const isBench = readFileSync(`/proc/${name}/cmdline`, 'utf8').includes('benchProcess');
      if (parent === process.pid && isBench) return Number(name);
    } catch {
      // It ended while it was looked at.
    }
  throw new Error('there is no bench');
}

describe('a bay with a supply of its own', function () {
  // A machine that stands still for seconds trips a bay, as it must: a person begins again.
  this.retries(2);
  let shop: TestShop;
  /** The job that stands in each bay. */
  let jobs: ReadonlyMap<number, string>;
  before(async () => {
    shop = await openTestShop();
    const { bays } = (await shop.api.get('/api/bench').expect(200)).body as BenchPicture;
    jobs = new Map(bays.map(({ bay, job }) => [bay, job]));
    await put({ kind: 'chargePaused', payload: { step: 'charge#1', reason: 'stopped' } });
  });
  after(() => shop.cleanUp());

  const asked = async (path: string, body: object = {}): Promise<LiveBay> =>
    (await shop.api.post(`/api/bays/${path}`).send(body).expect(200)).body as LiveBay;
  const refused = async (path: string, body: object = {}): Promise<string> =>
    ((await shop.api.post(`/api/bays/${path}`).send(body).expect(422)).body as Problem).detail;
  const order = (bay = 1) => ({ job: jobs.get(bay) });
  const log = async (): Promise<readonly JobEvent[]> =>
    ((await shop.api.get(`/api/jobs/${jobs.get(1) ?? ''}`).expect(200)).body as JobAnswer).events;
  const put = async (entry: Entry): Promise<unknown> =>
    shop.append(jobs.get(1) ?? '', (await log()).at(-1)?.seq ?? 0, entry).expect(201);

  const bayIs = async (isSo: (live: LiveBay) => boolean): Promise<LiveBay> => {
    let live: LiveBay | undefined;
    for (let waited = 0; waited < LONGEST_MS; waited += EACH_MS) {
      [live] = (await shop.api.get('/api/bays').expect(200)).body as LiveBay[];
      if (live && isSo(live)) return live;
      await pass(EACH_MS);
    }
    throw new Error(`the bay stands otherwise: ${JSON.stringify(live)}`);
  };
  /** Asked beside the bench, whoever has it in hand. */
  const supplyIsOff = async (): Promise<void> => {
    const { figures } = await shop.services.devices.talk('supply-1');
    expect(figures).to.include({ isOn: 0, amps: 0 });
  };
  /** The run sheet's last entry is of that kind, or becomes so. */
  const sheetSays = async (kind: JobEvent['kind']): Promise<void> => {
    for (let waited = 0; waited < LONGEST_MS; waited += EACH_MS) {
      if ((await log()).at(-1)?.kind === kind) return;
      await pass(EACH_MS);
    }
    throw new Error(`the run sheet ends otherwise: ${JSON.stringify((await log()).at(-1))}`);
  };
  const run = async (): Promise<void> => {
    expect(await asked('1/check', order())).to.have.property('phase', 'ready');
    await asked('1/confirm');
    const { sample } = await bayIs(({ phase, sample: seen }) => phase === 'running' && (seen?.amps ?? 0) > 1);
    expect(sample?.amps).to.be.closeTo(1.2, 0.02);
  };

  it('is checked, switched on by a person and stopped; what was read is kept', async () => {
    expect(await refused('1/confirm')).to.include('checked before it is switched on');
    await run();
    expect(await refused('1/check', order())).to.include('stop it first');
    const { body: busy } = await shop.api.post('/api/devices/supply-1/talk').expect(422);
    expect((busy as Problem).detail).to.include('the bench’s until it is stopped');
    await pass(2500);
    const stopped = await asked('1/stop');
    expect(stopped).to.include({ phase: 'off' });
    expect(stopped.says).to.match(/^Stopped by /);
    await supplyIsOff();
    await sheetSays('chargePaused');
    const kinds = (await log()).slice(-3).map(({ kind }) => kind);
    expect(kinds).to.deep.equal(['chargeResumed', 'noted', 'chargePaused']);
    const path = `/api/jobs/${jobs.get(1) ?? ''}/readings`;
    const stretches = (await shop.api.get(path).expect(200)).body as Stretch[];
    expect(stretches).to.have.length.above(1);
    expect(stretches.at(-1)?.amps?.[1]).to.be.closeTo(1.2, 0.02);
    const { text } = await shop.api.get(`${path}.csv`).expect(200);
    expect(text.split('\r\n')[0]).to.equal('time,V,A,°C');
    expect(text.split('\r\n')).to.have.length.above(2);
  });

  it('goes off at once where somebody pauses the charge on its run sheet', async () => {
    await run();
    await put({ kind: 'chargePaused', payload: { step: 'charge#1', reason: 'stopped' } });
    const off = await bayIs(({ phase }) => phase === 'off');
    expect(off.says).to.equal('The charge was paused on the run sheet.');
    await supplyIsOff();
  });

  it('a bench that is killed leaves the bay off, and never goes on by itself', async () => {
    await run();
    process.kill(benchPid(), 'SIGKILL');
    const gone = await bayIs(({ phase }) => phase === 'off');
    expect(gone.says).to.include('the shop’s server switched this bay off');
    await sheetSays('chargePaused');
    await pass(500);
    await supplyIsOff();
    await pass(2000);
    await supplyIsOff();
    await run();
    const all = (await shop.api.post('/api/bays/stop').send({ by: 'Ines' }).expect(200)).body as LiveBay[];
    expect(all.map(({ phase, says }) => [phase, says])).to.deep.equal([['off', 'Stopped by Ines.']]);
    await supplyIsOff();
  });

  it('a bench that stands still is switched off by the supply itself', async () => {
    await run();
    // As a machine stands still that has no memory left: nobody is told anything.
    process.kill(benchPid(), 'SIGSTOP');
    await pass(2600);
    await supplyIsOff();
    const gone = await bayIs(({ phase }) => phase === 'off');
    expect(gone.says).to.include('the shop’s server switched this bay off');
    await sheetSays('chargePaused');
  });

  it('a charge runs to its end with nobody beside it: looks come in by themselves, and prove it full', async function () {
    this.timeout(180_000);
    const from = (await log()).at(-1)?.seq ?? 0;
    await shop.api.post('/api/clock').send({ pace: 600 }).expect(200);
    expect(await asked('1/check', order())).to.have.property('phase', 'ready');
    expect(await asked('1/confirm', { goesOn: { leavesTester: true } })).to.have.nested.property(
      'goesOn.title',
    );
    const isOver = async (): Promise<boolean> =>
      (await log()).some(({ kind, seq }) => seq > from && /^charge(Ended|Paused)$/.test(kind));
    for (let waited = 0; waited < 150_000 && !(await isOver()); waited += 1000) await pass(1000);
    await shop.api.post('/api/clock').send({ pace: 1 }).expect(200);
    const events = (await log()).filter(({ seq }) => seq > from);
    expect(
      events.map(({ kind }) => kind),
      JSON.stringify(events.slice(-3)),
    ).to.include('chargeEnded');
    const looks = events.filter(
      (event) => event.kind === 'chargeRead' && event.payload.source === 'Supply of bay 1',
    );
    expect(looks.length).to.be.above(8);
    await supplyIsOff();
  });

  it('goes on by itself then: once the gas has cleared it is parted, and where hands are asked for it says so', async () => {
    const isDone = (events: readonly JobEvent[]): boolean =>
      events.some(
        ({ kind, payload }) => kind === 'noted' && 'text' in payload && /no further/.test(payload.text),
      );
    for (let waited = 0; waited < 4 * LONGEST_MS && !isDone(await log()); waited += EACH_MS) {
      const [live] = (await shop.api.get('/api/bays').expect(200)).body as LiveBay[];
      const { shopMs } = (await shop.api.get('/api/clock').expect(200)).body as { shopMs: number };
      // What is a moment away comes by itself, and may have come before the clock is asked to go there.
      if ((live?.goesOn?.untilMs ?? 0) > shopMs + SOON_MS)
        await shop.api
          .post('/api/clock')
          .send({ to: Math.ceil(live?.goesOn?.untilMs ?? 0) })
          .expect(200);
      await pass(EACH_MS);
    }
    const last = (await log()).slice(-3);
    expect(last.map(({ kind }) => kind)).to.deep.equal(['noted', 'affirmed', 'noted']);
    expect(last.map(({ payload }) => payload)).to.deep.equal([
      { text: 'The cut-off of bay 1 stands open: nothing is connected.' },
      { step: 'disconnect#1' },
      { text: 'Bay 1 goes on by itself no further. Asked of hands: Press the lid home.' },
    ]);
    expect(await refused('1/check', order())).to.include('no charge');
  });

  it('goes on by itself only where a cut-off parts it', async () => {
    const { devices = [] } = (await shop.api.get('/api/shop').expect(200)).body as Shop;
    const change = async (why: string, has: Shop['devices']): Promise<void> => {
      const answer = await shop.api.post('/api/shop/changes').send({ by: 'Ines', why, devices: has });
      expect(answer.status, JSON.stringify(answer.body)).to.equal(201);
    };
    await change(
      'it went for repair',
      devices.filter(({ id }) => id !== 'cut-off-1'),
    );
    expect(await refused('1/confirm', { goesOn: { leavesTester: true } })).to.include(
      'no cut-off of its own',
    );
    await change('it is back from its repair', devices);
  });

  it('is off, and not checked, while the stop button is pressed', async () => {
    const press = (fault: string | null) =>
      shop.api.post('/api/devices/stop-1/fail').send({ fault, clips: 'on' }).expect(200);
    await press('pressed');
    const said = (await shop.api.post('/api/devices/stop-1/talk').expect(200)).body as DeviceSaid;
    expect(said.figures.isFree).to.equal(0);
    await press(null);
  });

  it('refuses what is not there, in a sentence', async () => {
    expect(await refused('3/check', order(3))).to.include('Bay 3 has no supply of its own');
    expect(await refused('2/check', order(1))).to.include('does not stand in bay 2');
    await shop.api.post('/api/bays/900/stop').expect(400);
    await shop.api.post('/api/bays/7/stop').expect(404);
    await shop.api.post('/api/bays/1/check').send({ job: 'nobody' }).expect(400);
  });
});
