/** A shop for API tests: the demo's, in a file of its own, with its clock standing at a fixed morning. */
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pino } from 'pino';
import request from 'supertest';
import type { JobAnswer } from '@cork-ember/core/contract/answers.ts';
import type { Entry, JobEvent } from '@cork-ember/core/runsheet/entries/events.ts';
import { openShop, type ShopServer } from '../src/shopServer.ts';
import { openDatabase } from '../src/store/database.ts';

const DEMO_START = Date.parse('2026-03-10T11:06:00Z');

export interface TestShop extends ShopServer {
  readonly api: ReturnType<typeof request>;
  /** Takes a battery in to bay 8 and answers its job. */
  intake(battery?: Readonly<Record<string, unknown>>, rest?: Readonly<Record<string, unknown>>): request.Test;
  append(
    job: string,
    expectedSeq: number,
    entry: Entry,
    extra?: Readonly<Record<string, unknown>>,
  ): request.Test;
  cleanUp(): Promise<void>;
}

let keys = 0;

/** A well-formed request key, a new one each time. */
export function requestKey(): string {
  keys += 1;
  return `00000000-0000-4000-8000-${String(keys).padStart(12, '0')}`;
}

const open = (file: string, isEmpty: boolean, now?: () => number): Promise<ShopServer> =>
  openShop({
    ...(now ? { now } : {}),
    file,
    timeZone: 'Etc/UTC',
    isDemo: !isEmpty,
    ...(isEmpty ? { clockStart: DEMO_START } : { demoStart: DEMO_START }),
    log: pino({ level: 'silent' }),
  });

let demo: Promise<Buffer> | undefined;

/** The demo's file as it is on its first morning: made once in a process, since making it takes seconds. */
async function makeDemo(folder: string): Promise<Buffer> {
  const file = join(folder, 'demo.sqlite');
  const shop = await open(file, false);
  await shop.close();
  const database = await openDatabase(file);
  // Its clock has been seen by nobody.
  await database.models.settings.destroy({ where: { key: 'demoSeen' } });
  await database.sequelize.query('PRAGMA wal_checkpoint(TRUNCATE)');
  await database.close();
  return readFileSync(file);
}

/**
 * @param isEmpty a shop of one's own on its first day, at the same moment
 * @param now the real time waits and locks go by, ms
 */
export async function openTestShop(file?: string, isEmpty = false, now?: () => number): Promise<TestShop> {
  const folder = mkdtempSync(join(tmpdir(), 'cork-ember-'));
  const own = file ?? join(folder, 'shop.sqlite');
  if (!isEmpty && !existsSync(own)) {
    demo ??= makeDemo(folder);
    writeFileSync(own, await demo);
  }
  const shop = await open(own, isEmpty, now);
  const api = request(shop.server);
  return {
    ...shop,
    api,
    intake: (battery = {}, rest = {}) =>
      api.post('/api/jobs').send({
        battery: {
          tag: 'SK-0200',
          typeId: 'LW-A12/9',
          serial: '',
          dateCode: '2026-01',
          owner: 'stock',
          ...battery,
        },
        bay: 8,
        promisedAt: DEMO_START + 30 * 3_600_000,
        by: 'Ines',
        requestKey: requestKey(),
        ...rest,
      }),
    append: (job, expectedSeq, entry, extra = {}) =>
      api
        .post(`/api/jobs/${job}/events`)
        .send({ expectedSeq, entry, by: 'Ines', requestKey: requestKey(), ...extra }),
    cleanUp: async () => {
      await shop.close();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

export function lastSeq(answer: JobAnswer): number {
  return answer.events.at(-1)?.seq ?? 0;
}

export function affirm(step: string): Entry {
  return { kind: 'affirmed', payload: { step } };
}

export function note(text: string): Entry {
  return { kind: 'noted', payload: { text } };
}

export function textsOf(events: readonly JobEvent[]): string[] {
  return events.flatMap((event) => (event.kind === 'noted' ? [event.payload.text] : []));
}
