/**
 * A full shop for an hour: twenty browsers that listen, sixty-four open jobs with a reading each second. `npm run load` goes on where it was
 * stopped, five minutes at a time, and writes docs/soak/load.md; a number after it says how many minutes there are to be in all, and `typed`
 * that each reading goes on its run sheet as if hands had entered it, instead of being sent by a probe.
 */
import { randomUUID } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { Agent, request, type IncomingMessage } from 'node:http';
import { join } from 'node:path';
import { setTimeout as pass } from 'node:timers/promises';
import { chanceFrom, type Chance } from '@cork-ember/core/chance/chance.ts';
import type { JobAnswer, ProbeKey, Shop } from '@cork-ember/core/contract/answers.ts';
import type { ChargeValues, Entry } from '@cork-ember/core/runsheet/entries/events.ts';
import { GENERIC_PUSH } from '@cork-ember/core/devices/genericProfiles.ts';
import type { PersonKept } from '@cork-ember/core/access/people.ts';
import { elapsedNow } from '../server/src/clock/realTime.ts';
import { buildAll, isBuilt } from './building.ts';
import { FLAT_TYPE, flatBattery, toSlowCharge } from './flatBattery.ts';
import { meanOf, quantileOf } from './means.ts';
import { memoryOf, usedS } from './processes.ts';
import { startServer } from './startedServer.ts';

const FOLDER = 'data/load';
const STATE = join(FOLDER, 'state.json');
const RESULTS = 'docs/soak/load.md';
const USUAL_MINUTES = 60;
const BROWSERS = 20;
const JOBS = 64;
const SEGMENT_MIN = 5;
/** A page of the bench is looked at so often by each browser, s. */
const LOOK_EVERY_S = 10;
const LEAD = { name: 'Maeve', role: 'lead', pin: '5184' };

/** Who reads: a probe that sends what it sees, and now and then somebody looks; or hands that enter each. */
type How = 'sent' | 'typed';
const HOW: Readonly<Record<How, string>> = {
  sent: 'Each reading is sent by a probe of the bay and kept beside the record; one in fifteen minutes goes on the run sheet.',
  typed: 'Each reading goes on the run sheet, as no hands could: what a record of that weight costs.',
};
/** The run sheet has a look so often, readings. */
const LOOK_EVERY = 900;

/** A job by the number of its last entry. */
interface OnCharge {
  readonly id: string;
  readonly probe: string;
  readonly key: string;
  seq: number;
}

interface Segment {
  readonly minutes: number;
  readonly entries: number;
  readonly refused: number;
  readonly heard: number;
  readonly medianMs: number;
  readonly p99Ms: number;
  readonly worstMs: number;
  /** Share of one core. */
  readonly core: number;
  readonly memoryMb: number;
}

/** A browser of the shop: its own address, so that it is counted as one, and its own cookie. */
class Browser {
  private readonly agent: Agent;
  private readonly port: number;
  private cookie = '';
  heard = 0;

  constructor(port: number, index: number) {
    this.port = port;
    this.agent = new Agent({ keepAlive: true, localAddress: `127.0.0.${index + 1}`, maxSockets: 16 });
  }

  private open(method: string, path: string, body?: string, key?: string): Promise<IncomingMessage> {
    return new Promise((resolve, reject) => {
      const call = request(
        {
          host: '127.0.0.1',
          port: this.port,
          agent: this.agent,
          method,
          path,
          headers: {
            ...(key === undefined ? { cookie: this.cookie } : { authorization: `Bearer ${key}` }),
            ...(body === undefined
              ? {}
              : { 'content-type': 'application/json', 'content-length': Buffer.byteLength(body) }),
          },
        },
        resolve,
      );
      call.once('error', reject);
      call.end(body);
    });
  }

  /**
   * @param key of a probe that asks instead of a person
   * @throws Error with the answer, where it is refused
   */
  async ask<T>(path: string, body?: object, key?: string): Promise<T> {
    const text = body && JSON.stringify(body);
    const answer = await this.open(body ? 'POST' : 'GET', path, text, key);
    const [given] = answer.headers['set-cookie'] ?? [];
    if (given !== undefined) this.cookie = given.split(';')[0] ?? '';
    let said = '';
    for await (const chunk of answer) said += String(chunk);
    if ((answer.statusCode ?? 500) >= 400) throw new Error(`${path}: ${said}`);
    return (said === '' ? undefined : JSON.parse(said)) as T;
  }

  /** Hears what the shop tells, until it closes. */
  async listen(): Promise<void> {
    const stream = await this.open('GET', '/api/stream');
    stream.on('data', (chunk: Buffer) => (this.heard += chunk.toString().split('\ndata:').length));
    stream.on('error', () => undefined);
  }
}

/** A shop with its lead at twenty browsers, and sixty-four jobs. */
async function furnished(port: number): Promise<{ browsers: Browser[]; jobs: OnCharge[] }> {
  const lead = new Browser(port, 0);
  const [maeve] = await lead.ask<PersonKept[]>('/api/people', LEAD);
  const browsers = [lead];
  for (let index = 1; index < BROWSERS; index++) {
    const browser = new Browser(port, index);
    const { code } = await lead.ask<{ code: string }>('/api/tablets/codes', {});
    await browser.ask('/api/tablets', { code, name: `Bench ${index}` });
    await browser.ask('/api/session', { person: maeve?.id, pin: LEAD.pin });
    browsers.push(browser);
  }
  const { version, chargers } = await lead.ask<Shop>('/api/shop');
  const charger = chargers.find(({ kind }) => kind === 'programmable');
  await lead.ask('/api/shop/changes', {
    version,
    requestKey: randomUUID(),
    by: LEAD.name,
    why: 'a bay for each',
    bays: Array.from({ length: JOBS }, (_, index) => ({ number: index + 1, charger: charger?.id })),
    types: [FLAT_TYPE],
    devices: Array.from({ length: JOBS }, (_, index) => ({
      id: `probe-${index + 1}`,
      name: `Probe of bay ${index + 1}`,
      profile: GENERIC_PUSH.id,
      place: { kind: 'push' },
      bay: index + 1,
    })),
  });
  const { shopMs } = await lead.ask<{ shopMs: number }>('/api/clock');
  const jobs: OnCharge[] = [];
  for (let index = 0; index < JOBS; index++) jobs.push(await onCharge(lead, index, shopMs));
  return { browsers, jobs };
}

/** A battery that was found flat, on a slow charge. */
async function onCharge(lead: Browser, index: number, shopMs: number): Promise<OnCharge> {
  const tag = `LD-${String(index + 1).padStart(4, '0')}`;
  const { id } = await lead.ask<JobAnswer>('/api/jobs', {
    ...flatBattery(tag, index + 1, shopMs),
    by: LEAD.name,
    requestKey: randomUUID(),
  });
  const probe = `/api/devices/probe-${index + 1}`;
  const { key } = await lead.ask<ProbeKey>(`${probe}/key`, {});
  const job = { id, probe, key, seq: 1 };
  const charge: Entry = {
    kind: 'chargeStarted',
    payload: { step: 'slow#1', currentA: FLAT_TYPE.capacityAh / 20 },
  };
  for (const entry of [...toSlowCharge(12.1), charge]) await record(lead, job, entry, randomUUID());
  return job;
}

/** Puts one entry on a job. */
async function record(browser: Browser, job: OnCharge, entry: Entry, requestKey: string): Promise<void> {
  const { id, seq } = job;
  await browser.ask(`/api/jobs/${id}/events`, { expectedSeq: seq, requestKey, by: LEAD.name, entry });
  job.seq += 1;
}

/** Puts a reading on the run sheet; what got no answer is sent again under its key, as a browser does. */
async function look(browser: Browser, job: OnCharge, values: ChargeValues): Promise<void> {
  const entry = { kind: 'chargeRead', payload: { step: 'slow#1', values, source: 'meter' } } as const;
  const key = randomUUID();
  await record(browser, job, entry, key).catch((error: unknown) =>
    isCutOff(error) ? record(browser, job, entry, key) : Promise.reject(error as Error),
  );
}

/** A probe whose answer was cut off sends anew: the same moment is kept once. */
async function send(browser: Browser, { probe, key }: OnCharge, values: ChargeValues): Promise<void> {
  const { voltageV: volts, currentA: amps, tempC } = values;
  const post = () => browser.ask(`${probe}/readings`, { volts, amps, tempC }, key);
  await post().catch((error: unknown) => (isCutOff(error) ? post() : Promise.reject(error as Error)));
}

/** @param untilMs by the time that passes */
async function readOn(
  browser: Browser,
  job: OnCharge,
  { how, untilMs, took, chance }: { how: How; untilMs: number; took: number[]; chance: Chance },
): Promise<number> {
  let [refused, count] = [0, Math.floor(LOOK_EVERY * chance())];
  // Hands are not all at once.
  let at = elapsedNow() + 1000 * chance();
  while (elapsedNow() < untilMs) {
    await pass(Math.max(0, at - elapsedNow()));
    at += 1000;
    count += 1;
    const since = elapsedNow();
    const values = {
      voltageV: Number((13 + 0.1 * chance()).toFixed(2)),
      currentA: FLAT_TYPE.capacityAh / 20,
      tempC: 22,
    };
    try {
      if (how === 'typed' || count % LOOK_EVERY === 0) await look(browser, job, values);
      if (how === 'sent') await send(browser, job, values);
      took.push(elapsedNow() - since);
    } catch (error) {
      // Why is the same for all of them.
      if (refused === 0) process.stderr.write(`${String(error)}\n`);
      refused += 1;
    }
  }
  return refused;
}

const isCutOff = (error: unknown): boolean =>
  error instanceof Error && 'code' in error && error.code === 'ECONNRESET';

async function segment(
  browsers: readonly Browser[],
  jobs: readonly OnCharge[],
  pid: number,
  minutes: number,
  how: How,
): Promise<Segment> {
  const [began, usedBefore, heardBefore] = [elapsedNow(), usedS(pid), heardBy(browsers)];
  const untilMs = began + minutes * 60_000;
  const took: number[] = [];
  const chance = chanceFrom(`load ${began}`);
  const looks = browsers.map(async (browser) => {
    while (elapsedNow() < untilMs) {
      await browser.ask('/api/bench').catch(() => undefined);
      await browser.ask('/api/session/touch', {}).catch(() => undefined);
      await pass(LOOK_EVERY_S * 1000);
    }
  });
  const refused = await Promise.all(
    jobs.map((job, index) =>
      readOn(browsers[index % browsers.length] as Browser, job, { how, untilMs, took, chance }),
    ),
  );
  const passedS = (elapsedNow() - began) / 1000;
  const core = (usedS(pid) - usedBefore) / passedS;
  await Promise.all(looks);
  return {
    minutes,
    entries: took.length,
    refused: refused.reduce((sum, one) => sum + one, 0),
    heard: heardBy(browsers) - heardBefore,
    medianMs: quantileOf(took, 0.5),
    p99Ms: quantileOf(took, 0.99),
    worstMs: Math.max(...took),
    core,
    memoryMb: memoryOf(pid),
  };
}

const heardBy = (browsers: readonly Browser[]): number => browsers.reduce((sum, { heard }) => sum + heard, 0);

type Measured = Readonly<Record<How, readonly Segment[]>>;

const minutesOf = (segments: readonly Segment[]): number =>
  segments.reduce((sum, { minutes }) => sum + minutes, 0);

function tableOf(how: How, segments: readonly Segment[]): string[] {
  if (segments.length === 0) return [];
  const core = 100 * meanOf(segments.map((one) => one.core));
  return [
    `## ${minutesOf(segments)} minutes, readings ${how}`,
    '',
    `${HOW[how]} Mean share of one core: ${core.toFixed(0)} %.`,
    '',
    '| minutes | readings | refused | news heard | half within, ms | 99 % within, ms | worst, ms | of one core | memory, MB |',
    '| --- | --- | --- | --- | --- | --- | --- | --- | --- |',
    ...segments.map(
      (one) =>
        `| ${one.minutes} | ${one.entries} | ${one.refused} | ${one.heard} | ${one.medianMs.toFixed(0)} | ${one.p99Ms.toFixed(0)} | ${one.worstMs.toFixed(0)} | ${(100 * one.core).toFixed(0)} % | ${one.memoryMb.toFixed(0)} |`,
    ),
    '',
  ];
}

function write({ sent, typed }: Measured): void {
  mkdirSync('docs/soak', { recursive: true });
  writeFileSync(
    RESULTS,
    [
      '# A full shop, for an hour',
      '',
      `Written by \`npm run load\`: ${BROWSERS} browsers that listen and look at the bench every ${LOOK_EVERY_S} s, and ${JOBS} open jobs with a reading each second, on one machine with those who ask. Answered is a reading once it is on disk.`,
      '',
      ...tableOf('sent', sent),
      ...tableOf('typed', typed),
    ].join('\n'),
  );
}

const [minutesAsked, howAsked] = process.argv.slice(2);
const most = Number(minutesAsked ?? USUAL_MINUTES);
const how: How = howAsked === 'typed' ? 'typed' : 'sent';
if (!isBuilt()) await buildAll();
mkdirSync(FOLDER, { recursive: true });
let measured: Measured = existsSync(STATE)
  ? (JSON.parse(readFileSync(STATE, 'utf8')) as Measured)
  : { sent: [], typed: [] };
rmSync(join(FOLDER, 'shop'), { recursive: true, force: true });
mkdirSync(join(FOLDER, 'shop'));
const { server, url } = await startServer({
  CORK_EMBER_FILE: join(FOLDER, 'shop', 'shop.sqlite'),
  CORK_EMBER_PLAIN: 'true',
  CORK_EMBER_LOG: 'silent',
});
try {
  const { browsers, jobs } = await furnished(Number(new URL(url).port));
  for (const browser of browsers) await browser.listen();
  for (let done = minutesOf(measured[how]); done < most;) {
    const minutes = Math.min(SEGMENT_MIN, most - done);
    const one = await segment(browsers, jobs, server.pid ?? 0, minutes, how);
    measured = { ...measured, [how]: [...measured[how], one] };
    done += minutes;
    writeFileSync(STATE, JSON.stringify(measured));
    write(measured);
  }
} finally {
  server.kill('SIGKILL');
}
process.exit(0);
