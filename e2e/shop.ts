/** A demo shop of its own for each test, and a page that fails the test when the browser complains. */
import { spawn, type ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { test as base, expect, type Page } from '@playwright/test';

export { expect };

/** The demo begins on a Tuesday at 11:06; this is the next morning, when a pack can still be pressed on. */
export const NEXT_MORNING = Date.parse('2026-03-11T07:31:00Z');
const MINUTE = 60_000;

/** Most tests keep the program from being kept: see the configuration. */
const NO_WORKER = /Service Worker registration blocked/;

type Json = Readonly<Record<string, unknown>>;

/** Names the folder of a shop that was seeded already, where there is one. */
export const SEEDED = 'CORK_EMBER_E2E_SEEDED';

export class Shop {
  readonly folder = mkdtempSync(join(tmpdir(), 'cork-ember-e2e-'));
  url = '';
  private process: ChildProcess | undefined;
  /** Where it is on https, once it was started so. */
  secureUrl = '';
  private readonly isEmpty: boolean;

  /** @param isEmpty a shop of one's own on its first day, at the same moment */
  constructor(isEmpty = false) {
    this.isEmpty = isEmpty;
    const seeded = isEmpty ? undefined : process.env[SEEDED];
    // Its clock goes on from its start, so a copy begins at the same moment.
    if (seeded !== undefined) cpSync(seeded, this.folder, { recursive: true });
  }

  async start(port = 0, isSecure = false): Promise<void> {
    const env = {
      ...process.env,
      ...(this.isEmpty
        ? { CORK_EMBER_DEMO: 'false', CORK_EMBER_CLOCK_START: '2026-03-10T08:06:00Z' }
        : { CORK_EMBER_DEMO: 'true', CORK_EMBER_DEMO_START: '2026-03-10T11:06:00Z' }),
      CORK_EMBER_TIME_ZONE: 'Etc/UTC',
      CORK_EMBER_FILE: join(this.folder, 'shop.sqlite'),
      CORK_EMBER_PORT: String(port),
      CORK_EMBER_NAMES: 'skerry.test',
      CORK_EMBER_HTTPS: String(isSecure),
      CORK_EMBER_LOG: 'error',
    };
    const child = spawn(process.execPath, ['server/dist/main.js'], {
      cwd: join(import.meta.dirname, '..'),
      env,
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    this.process = child;
    let said = '';
    this.url = await new Promise((resolve, reject) => {
      child.once('exit', () => reject(new Error('the server did not start')));
      child.stdout.on('data', (chunk: Buffer) => {
        said += chunk.toString();
        // What the server could not do is seen beside what the test expected.
        if (chunk.includes('"level":50')) process.stderr.write(chunk);
        const url = /http:\S+/.exec(said)?.[0];
        this.secureUrl = /https:\S+/.exec(said)?.[0] ?? '';
        if (url !== undefined && (!isSecure || this.secureUrl !== '')) resolve(url);
      });
    });
  }

  get port(): number {
    return Number(new URL(this.url).port);
  }

  async kill(): Promise<void> {
    const child = this.process;
    if (!child || child.exitCode !== null || child.signalCode !== null) return;
    child.removeAllListeners('exit');
    const ended = new Promise((resolve) => child.once('exit', resolve));
    child.kill('SIGKILL');
    await ended;
  }

  async close(): Promise<void> {
    await this.kill();
    rmSync(this.folder, { recursive: true, force: true });
  }

  async ask<T>(path: string, body?: Json): Promise<T> {
    const init = body
      ? { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }
      : {};
    const answer = await fetch(`${this.url}${path}`, init);
    const json: unknown = await answer.json();
    if (!answer.ok) throw new Error(JSON.stringify(json));
    return json as T;
  }

  async moveTo(at: number): Promise<void> {
    await this.ask('/api/clock', { to: at });
  }

  async wait(minutes: number): Promise<void> {
    const { shopMs } = await this.ask<{ shopMs: number }>('/api/clock');
    await this.moveTo(shopMs + minutes * MINUTE);
  }
}

/** A job driven over the API up to the point a test looks at. */
export class Sheet {
  readonly shop: Shop;
  readonly id: string;
  private seq = 1;

  private constructor(shop: Shop, id: string) {
    this.shop = shop;
    this.id = id;
  }

  static async open(
    shop: Shop,
    typeId = 'LW-A12/9',
    procedure?: string,
    tag = 'SK-0200',
    bay = 8,
  ): Promise<Sheet> {
    const { shopMs } = await shop.ask<{ shopMs: number }>('/api/clock');
    if (shopMs < NEXT_MORNING) await shop.moveTo(NEXT_MORNING);
    const dateCode = procedure?.startsWith('recover') === true ? '2022-05' : '2026-01';
    const battery = { tag, typeId, serial: '', dateCode, owner: 'tide-gauge hut' };
    const answer = await shop.ask<{ id: string }>('/api/jobs', {
      battery,
      ...(procedure === undefined ? {} : { procedure }),
      bay,
      promisedAt: NEXT_MORNING + 1e8,
      by: 'Solveig',
      requestKey: randomUUID(),
    });
    return new Sheet(shop, answer.id);
  }

  /** A job that was opened on the page. */
  static async at(shop: Shop, id: string): Promise<Sheet> {
    const { events } = await shop.ask<{ events: readonly unknown[] }>(`/api/jobs/${id}`);
    const sheet = new Sheet(shop, id);
    sheet.seq = events.length;
    return sheet;
  }

  get path(): string {
    return `/jobs/${this.id}`;
  }

  async put(kind: string, payload: Json): Promise<this> {
    await this.shop.ask(`/api/jobs/${this.id}/events`, {
      expectedSeq: this.seq,
      requestKey: randomUUID(),
      by: 'Solveig',
      entry: { kind, payload },
    });
    this.seq += 1;
    return this;
  }

  async affirm(...steps: string[]): Promise<this> {
    for (const step of steps) await this.put('affirmed', { step });
    return this;
  }

  async checkIn(): Promise<this> {
    await this.affirm('identify#1');
    await this.put('measured', { step: 'label#1', values: {}, source: 'keypad' });
    return this.affirm('safety#1', 'inspect#1');
  }

  /** A battery that is brought back, read as it came. */
  async asItCame(ocvV: number, complaint = 'unknown'): Promise<this> {
    await this.checkIn();
    await this.put('measured', { step: 'history#1', values: { complaint }, source: 'keypad' });
    await this.affirm('clean#1');
    return this.put('measured', {
      step: 'first-ocv#1',
      values: { ocvV, tempC: 21, rested: 'yes' },
      source: 'Bench meter',
    });
  }

  /** A recovery of an AGM up to its first choice of a route. */
  async findOut(ocvV: number): Promise<this> {
    await this.asItCame(ocvV, 'parked');
    return this.put('skipped', { step: 'first-tester#1' });
  }

  async toDwell(code = 'P-09'): Promise<this> {
    await this.checkIn();
    await this.put('observed', { step: 'pack-code#1', code });
    await this.put('skipped', { step: 'weigh-dry#1' });
    await this.affirm('foil-off#1', 'pack-on#1');
    await this.shop.wait(2);
    await this.put('observed', { step: 'bubbles#1', chambers: [true, true, true, true, true, true] });
    await this.shop.wait(12);
    return this.put('observed', { step: 'empty#1', chambers: [true, true, true, true, true, true] });
  }

  async toSoakReading(code?: string): Promise<this> {
    await this.toDwell(code);
    await this.shop.wait(30);
    await this.affirm('pack-off#1');
    await this.shop.wait(120);
    return this.affirm('strip#1');
  }

  /** Charged, rested, ready for the rested voltage. */
  async toTest(isProven: boolean, code?: string, currentA = 0.9): Promise<this> {
    await this.toSoakReading(code);
    await this.put('measured', { step: 'ocv-soak#1', values: { ocvV: 12.7, tempC: 24 }, source: 'keypad' });
    await this.put('chargeStarted', { step: 'charge#1', currentA, dueMin: 260 });
    await this.shop.wait(140);
    for (let look = 0; look < (isProven ? 3 : 0); look++) {
      await this.put('chargeRead', {
        step: 'charge#1',
        values: { voltageV: 14.7, currentA: 0.04, tempC: 27 },
        source: 'keypad',
      });
      await this.shop.wait(61);
    }
    await this.shop.wait(140);
    await this.put('chargeEnded', { step: 'charge#1', fullSignal: false });
    await this.shop.wait(6);
    await this.affirm('disconnect#1', 'lid#1');
    await this.shop.wait(61);
    return this;
  }
}

/** Nothing may be complained about but what a test names. */
export function listenForComplaints(page: Page, allowed: readonly RegExp[] = []): string[] {
  const complaints: string[] = [];
  const note = (text: string): void => {
    if (!allowed.some((pattern) => pattern.test(text))) complaints.push(text);
  };
  page.on('console', (message) => {
    const isComplaint = message.type() === 'error' || message.type() === 'warning';
    if (isComplaint && !NO_WORKER.test(message.text())) note(message.text());
  });
  page.on('pageerror', (error) => note(error.message));
  return complaints;
}

export async function sitDown(page: Page, person = 'Ines', theme = 'day'): Promise<void> {
  await page.addInitScript(
    ([name, light]) => {
      localStorage.setItem('cork-ember-person', name ?? '');
      localStorage.setItem('cork-ember-theme', light ?? '');
    },
    [person, theme],
  );
}

interface Fixtures {
  readonly shop: Shop;
  /** Complaints a test expects, such as a refused request the browser logs by itself. */
  readonly allowed: readonly RegExp[];
  /** A shop of one's own on its first day, instead of the demo. */
  readonly isEmpty: boolean;
  /** It answers on https too. */
  readonly isSecure: boolean;
}

export const test = base.extend<Fixtures>({
  allowed: [[/status of 4\d\d/], { option: true }],
  isEmpty: [false, { option: true }],
  isSecure: [false, { option: true }],
  shop: async ({ isEmpty, isSecure }, use) => {
    const shop = new Shop(isEmpty);
    await shop.start(0, isSecure);
    await use(shop);
    await shop.close();
  },
  // The shop is asked for so that it closes after the page has been listened to.
  page: async ({ page, allowed, shop: _open }, use) => {
    const complaints = listenForComplaints(page, allowed);
    await sitDown(page);
    await use(page);
    expect(complaints, 'the browser complained').toEqual([]);
  },
});
