/**
 * Sixty-four bays that charge for a day of the shop at sixty times its pace, each looked at once a second: what that takes of a core and of memory, and whether any
 * second is missing of what was kept. `npm run bench -- bays` does a minute of it, `npm run soak:day` the whole.
 */
import { randomUUID } from 'node:crypto';
import { setTimeout as pass } from 'node:timers/promises';
import type { JobAnswer, Shop } from '@cork-ember/core/contract/answers.ts';
import type { LiveBay } from '@cork-ember/core/devices/bay/messages.ts';
import { elapsedNow } from '../server/src/clock/realTime.ts';
import { askerOf, type Ask } from './asking.ts';
import { switchedOn, takenIn } from './flatBattery.ts';
import { devicesOf, openDevices } from './outsideDevices.ts';
import { benchOf, memoryOf, usedS } from './processes.ts';
import { startServer } from './startedServer.ts';

export const BAYS = 64;
export const PACE = 60;
/** The demo has bays and devices of its own. */
const FIRST_BAY = 101;
const OUTSIDE = { firstPort: 6100, bays: BAYS, battery: { capacityAh: 58, charge: 0.02 } };
const RESTS_V = 11.7;
const BY = 'Tarek';
const MINUTE_MS = 60_000;
/** Two looks that follow each other are so far apart at most, s of the real time: one that is late is not missing. */
const GAP_S = 1.9;

export interface BayMinute {
  /** Share of one core, of the server and of its bench. */
  readonly serverShare: number;
  readonly benchShare: number;
  readonly serverMb: number;
  readonly benchMb: number;
}

export interface BayDay {
  readonly minutes: readonly BayMinute[];
  readonly kept: number;
  /** Bays that went off before the end, and why. */
  readonly off: readonly string[];
  /** Between readings that follow each other in one bay, s of real time. */
  readonly longestGapS: number;
  readonly gaps: number;
}

/** @param file of the shop, which is not there yet */
export async function bayDay(file: string, minutes: number, tell: (one: BayMinute) => void): Promise<BayDay> {
  const devices = await openDevices(OUTSIDE, PACE);
  const { server, url } = await startServer({
    CORK_EMBER_FILE: file,
    CORK_EMBER_LOG: 'silent',
    CORK_EMBER_DEMO: 'true',
  });
  const ask = askerOf(() => url);
  try {
    const jobs = await furnished(ask);
    await ask('/api/clock', { pace: PACE });
    await Promise.all(jobs.map((job, index) => switchedOn(ask, FIRST_BAY + index, job, BY)));
    const measured = await minutesOf(server.pid ?? 0, minutes, tell);
    const off: string[] = [];
    for (const { bay, job, phase, says } of await ask<LiveBay[]>('/api/bays'))
      if (phase !== 'running' && jobs.includes(job) && !(await isOver(ask, job)))
        off.push(`bay ${bay}: ${says}`);
    await ask('/api/bays/stop', { by: BY });
    return { minutes: measured, off, ...(await keptOf(url, jobs)) };
  } finally {
    server.kill('SIGKILL');
    devices.kill('SIGKILL');
  }
}

/** A flat battery in each bay, up to its slow charge of a day. @returns the job of each */
async function furnished(ask: Ask): Promise<string[]> {
  const { version, bays, chargers, devices = [] } = await ask<Shop>('/api/shop');
  const charger = chargers.find(({ kind }) => kind === 'programmable')?.id;
  const numbers = Array.from({ length: BAYS }, (_, index) => FIRST_BAY + index);
  await ask('/api/shop/changes', {
    version,
    requestKey: randomUUID(),
    by: BY,
    why: 'sixty-four bays under control',
    bays: [...bays, ...numbers.map((number) => ({ number, charger }))],
    devices: [...devices, ...devicesOf(OUTSIDE, (bay) => FIRST_BAY + bay - 1)],
  });
  const jobs: string[] = [];
  for (const bay of numbers)
    jobs.push(await takenIn(ask, `DY-${String(bay).padStart(4, '0')}`, bay, RESTS_V, BY));
  return jobs;
}

async function minutesOf(
  server: number,
  minutes: number,
  tell: (one: BayMinute) => void,
): Promise<BayMinute[]> {
  const bench = benchOf(server);
  const all: BayMinute[] = [];
  for (let minute = 0; minute < minutes; minute++) {
    const [since, serverS, benchS] = [elapsedNow(), usedS(server), usedS(bench)];
    await pass(MINUTE_MS);
    const seconds = (elapsedNow() - since) / 1000;
    const one = {
      serverShare: (usedS(server) - serverS) / seconds,
      benchShare: (usedS(bench) - benchS) / seconds,
      serverMb: memoryOf(server),
      benchMb: memoryOf(bench),
    };
    all.push(one);
    tell(one);
  }
  return all;
}

/** A day's charge is over when its day is. */
const isOver = async (ask: Ask, job: string): Promise<boolean> =>
  (await ask<JobAnswer>(`/api/jobs/${job}`)).events.at(-1)?.kind === 'chargeEnded';

/** When each reading of a job was taken, as its file says, ms. */
async function momentsOf(url: string, job: string): Promise<number[]> {
  const file = await (await fetch(`${url}/api/jobs/${job}/readings.csv`)).text();
  return file
    .split('\r\n')
    .slice(1)
    .filter((line) => line !== '')
    .map((line) => Date.parse(line.split(',')[0] ?? ''));
}

async function keptOf(
  url: string,
  jobs: readonly string[],
): Promise<Pick<BayDay, 'kept' | 'longestGapS' | 'gaps'>> {
  let [kept, longestGapS, gaps] = [0, 0, 0];
  for (const job of jobs) {
    const moments = await momentsOf(url, job);
    kept += moments.length;
    for (const [index, at] of moments.entries()) {
      const apartS = (at - (moments[index - 1] ?? at)) / 1000 / PACE;
      longestGapS = Math.max(longestGapS, apartS);
      if (apartS > GAP_S) gaps += 1;
    }
  }
  return { kept, longestGapS, gaps };
}
