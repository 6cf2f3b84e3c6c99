/**
 * A full shop for an hour: twenty browsers that listen, sixty-four open jobs that are read each second. `npm run load` goes on where it was
 * stopped, five minutes at a time, and writes docs/soak/load.md; a number after it says how many minutes there are to be in all.
 */
import { randomUUID } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { Agent, request, type IncomingMessage } from 'node:http';
import { join } from 'node:path';
import { setTimeout as pass } from 'node:timers/promises';
import { chanceFrom, type Chance } from '@cork-ember/core/chance/chance.ts';
import { CATALOGUE } from '@cork-ember/core/demo/catalogue.ts';
import type { JobAnswer } from '@cork-ember/core/contract/answers.ts';
import type { PersonKept } from '@cork-ember/core/access/people.ts';
import { elapsedNow } from '../server/src/clock/realTime.ts';
import { buildAll, isBuilt } from './building.ts';
import { meanOf, quantileOf } from './means.ts';
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
/** Ticks of the scheduler a second. @see proc(5), sysconf(_SC_CLK_TCK) */
const TICKS = 100;

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

  private open(method: string, path: string, body?: string): Promise<IncomingMessage> {
    return new Promise((resolve, reject) => {
      const call = request(
        {
          host: '127.0.0.1',
          port: this.port,
          agent: this.agent,
          method,
          path,
          headers: {
            cookie: this.cookie,
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

  /** @throws Error with the answer, where it is refused */
  async ask<T>(path: string, body?: object): Promise<T> {
    const text = body && JSON.stringify(body);
    const answer = await this.open(body ? 'POST' : 'GET', path, text);
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

function usedS(pid: number): number {
  const fields = readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ')[1]?.split(' ') ?? [];
  return (Number(fields[11]) + Number(fields[12])) / TICKS;
}

function memoryMb(pid: number): number {
  return Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1]) / 1024;
}

/** A shop with its lead at twenty browsers, and sixty-four jobs. */
async function furnished(port: number): Promise<{ browsers: Browser[]; jobs: string[] }> {
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
  const { shopMs } = await lead.ask<{ shopMs: number }>('/api/clock');
  const [type] = CATALOGUE;
  const jobs: string[] = [];
  for (let index = 0; index < JOBS; index++) {
    const { id } = await lead.ask<JobAnswer>('/api/jobs', {
      battery: {
        tag: `LD-${String(index + 1).padStart(4, '0')}`,
        typeId: type?.id,
        serial: '',
        dateCode: '2026-01',
        owner: 'stock',
      },
      ...(index === 0 ? { type } : {}),
      bay: 0,
      procedure: 'recover-agm',
      promisedAt: Math.round(shopMs) + 30 * 3_600_000,
      by: LEAD.name,
      requestKey: randomUUID(),
    });
    jobs.push(id);
  }
  return { browsers, jobs };
}

/** @param untilMs by the time that passes */
async function readOn(
  browser: Browser,
  job: string,
  first: number,
  untilMs: number,
  took: number[],
  chance: Chance,
): Promise<number> {
  let refused = 0;
  // Hands are not all at once.
  let at = elapsedNow() + 1000 * chance();
  for (let seq = first; elapsedNow() < untilMs;) {
    await pass(Math.max(0, at - elapsedNow()));
    at += 1000;
    const since = elapsedNow();
    try {
      await browser.ask(`/api/jobs/${job}/events`, {
        expectedSeq: seq,
        requestKey: randomUUID(),
        by: LEAD.name,
        entry: { kind: 'evidenced', payload: { reading: { kind: 'ocv', volts: 12.6, isRested: true } } },
      });
      took.push(elapsedNow() - since);
      seq += 1;
    } catch (error) {
      // Why is the same for all of them.
      if (refused === 0) process.stderr.write(`${String(error)}\n`);
      refused += 1;
    }
  }
  return refused;
}

async function segment(
  browsers: readonly Browser[],
  jobs: readonly string[],
  pid: number,
  minutes: number,
): Promise<Segment> {
  const lasts = await Promise.all(
    jobs.map(async (job) => (await browsers[0]?.ask<JobAnswer>(`/api/jobs/${job}`))?.events.length ?? 1),
  );
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
      readOn(browsers[index % browsers.length] as Browser, job, lasts[index] ?? 1, untilMs, took, chance),
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
    memoryMb: memoryMb(pid),
  };
}

const heardBy = (browsers: readonly Browser[]): number => browsers.reduce((sum, { heard }) => sum + heard, 0);

function write(segments: readonly Segment[]): void {
  const minutes = segments.reduce((sum, one) => sum + one.minutes, 0);
  mkdirSync('docs/soak', { recursive: true });
  writeFileSync(
    RESULTS,
    [
      '# A full shop, for an hour',
      '',
      `Written by \`npm run load\`: ${minutes} minutes of ${BROWSERS} browsers that listen and look at the bench every ${LOOK_EVERY_S} s, and ${JOBS} open jobs with a reading each second, on one machine with those who ask. Mean share of one core: ${(100 * meanOf(segments.map(({ core }) => core))).toFixed(0)} %.`,
      '',
      '| minutes | entries | refused | news heard | half within, ms | 99 % within, ms | worst, ms | of one core | memory, MB |',
      '| --- | --- | --- | --- | --- | --- | --- | --- | --- |',
      ...segments.map(
        (one) =>
          `| ${one.minutes} | ${one.entries} | ${one.refused} | ${one.heard} | ${one.medianMs.toFixed(0)} | ${one.p99Ms.toFixed(0)} | ${one.worstMs.toFixed(0)} | ${(100 * one.core).toFixed(0)} % | ${one.memoryMb.toFixed(0)} |`,
      ),
      '',
    ].join('\n'),
  );
}

const most = Number(process.argv[2] ?? USUAL_MINUTES);
if (!isBuilt()) await buildAll();
mkdirSync(FOLDER, { recursive: true });
let segments = existsSync(STATE) ? (JSON.parse(readFileSync(STATE, 'utf8')) as readonly Segment[]) : [];
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
  for (let done = segments.reduce((sum, one) => sum + one.minutes, 0); done < most;) {
    const minutes = Math.min(SEGMENT_MIN, most - done);
    segments = [...segments, await segment(browsers, jobs, server.pid ?? 0, minutes)];
    done += minutes;
    writeFileSync(STATE, JSON.stringify(segments));
    write(segments);
  }
} finally {
  server.kill('SIGKILL');
}
process.exit(0);
