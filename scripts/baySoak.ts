/**
 * What is too long for `npm test`: a bay that charges under its own supply, and the server, the bench that looks after it or the devices themselves killed in the midst of it.
 * Current is gone at once, and nothing goes on again by itself. `npm run soak:bays` goes on where it was stopped and writes docs/soak/bays.md; a number after it says how
 * many kills there are to be in all.
 */
import type { ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as pass } from 'node:timers/promises';
import { chanceFrom } from '@cork-ember/core/chance/chance.ts';
import type { JobAnswer, Shop } from '@cork-ember/core/contract/answers.ts';
import { elapsedNow } from '../server/src/clock/realTime.ts';
import { buildAll, isBuilt } from './building.ts';
import { askerOf } from './asking.ts';
import { FLAT_TYPE, switchedOn, takenIn } from './flatBattery.ts';
import { devicesOf, openDevices } from './outsideDevices.ts';
import { benchOf } from './processes.ts';
import { startServer, type StartedServer } from './startedServer.ts';

const FOLDER = 'data/bays';
const STATE = join(FOLDER, 'state.json');
const RESULTS = 'docs/soak/bays.md';
const SEED = 20;
const SPREAD = 40_503;
const USUAL_KILLS = 500;
const OUTSIDE = { firstPort: 5825, bays: 1 };
/** Killed so long after it was switched on, ms. */
const LEAST_MS = 500;
const MOST_MS = 4000;
/** Gone by then, ms: the devices' own watchdogs bark after two seconds. */
const GONE_WITHIN_MS = 2500;
/** Watched so long for going on by itself, ms. */
const WATCHED_MS = 3000;
const EACH_MS = 25;
const LONGEST_MS = 30_000;
/** A new shop so often: a run sheet of a thousand pauses is nobody's. */
const KILLS_PER_SHOP = 50;
const FLOWS_A = 0.05;

const VICTIMS = ['server', 'bench', 'devices'] as const;
type Victim = (typeof VICTIMS)[number];

interface Seen {
  readonly victim: Victim;
  /** Until current was gone, ms. */
  readonly goneMs: number;
  readonly isOnAgain: boolean;
  /** Whether the run sheet then says that the charge is paused. */
  readonly isPaused: boolean;
}

/** The simulated devices, in a program of their own. */
class Devices {
  private readonly child: ChildProcess;

  private constructor(child: ChildProcess) {
    this.child = child;
  }

  static async open(): Promise<Devices> {
    return new Devices(await openDevices(OUTSIDE));
  }

  amps(): Promise<number> {
    if (this.child.exitCode !== null || this.child.signalCode !== null) return Promise.resolve(0);
    return new Promise((resolve) => {
      const gone = (): void => resolve(0);
      this.child.once('exit', gone);
      this.child.once('message', (message) => {
        this.child.off('exit', gone);
        resolve((message as { amps: number }).amps);
      });
      this.child.send('amps');
    });
  }

  async kill(): Promise<void> {
    const gone = new Promise((resolve) => this.child.once('exit', resolve));
    this.child.kill('SIGKILL');
    await gone;
  }
}

/** A shop whose bay 1 has them, and the job of a battery that is to be charged there. */
class Bench {
  private started: StartedServer | undefined;
  private job = '';
  private readonly ask = askerOf(() => this.url);

  get url(): string {
    return this.started?.url ?? '';
  }

  get server(): ChildProcess {
    if (!this.started) throw new Error('there is no server');
    return this.started.server;
  }

  async open(): Promise<void> {
    this.started = await startServer({
      CORK_EMBER_FILE: join(FOLDER, 'shop.sqlite'),
      CORK_EMBER_LOG: 'silent',
      CORK_EMBER_DEMO: 'false',
    });
  }

  /** Takes a flat battery in, up to its slow charge. */
  async furnish(): Promise<void> {
    const { version } = await this.ask<Shop>('/api/shop');
    await this.ask('/api/shop/changes', {
      version,
      requestKey: randomUUID(),
      by: 'Ines',
      why: 'a bay under control',
      types: [FLAT_TYPE],
      devices: devicesOf(OUTSIDE),
    });
    this.job = await takenIn(this.ask, 'BY-0001', 1, 12.5, 'Ines');
  }

  /** Checked, and switched on by a person. */
  async run(devices: Devices): Promise<void> {
    await switchedOn(this.ask, 1, this.job, 'Ines');
    await until(async () => (await devices.amps()) > FLOWS_A, 'current flows');
  }

  async lastKind(): Promise<string> {
    return (await this.ask<JobAnswer>(`/api/jobs/${this.job}`)).events.at(-1)?.kind ?? '';
  }
}

async function until(isSo: () => Promise<boolean>, what: string): Promise<void> {
  for (const since = elapsedNow(); elapsedNow() - since < LONGEST_MS; await pass(EACH_MS))
    if (await isSo()) return;
  throw new Error(`within ${LONGEST_MS / 1000} s it was not so that ${what}`);
}

async function goneWithin(devices: Devices): Promise<number> {
  const since = elapsedNow();
  while (elapsedNow() - since < LONGEST_MS) {
    if (Math.abs(await devices.amps()) <= FLOWS_A) return elapsedNow() - since;
    await pass(EACH_MS);
  }
  return LONGEST_MS;
}

/** One kill, and what came of it. @returns the devices that are there then */
async function killed(bench: Bench, devices: Devices, victim: Victim): Promise<[Seen, Devices]> {
  let there = devices;
  if (victim === 'server') {
    const gone = new Promise((resolve) => bench.server.once('exit', resolve));
    bench.server.kill('SIGKILL');
    await gone;
  } else if (victim === 'bench') process.kill(benchOf(bench.server.pid ?? 0), 'SIGKILL');
  else await devices.kill();
  const goneMs = await goneWithin(devices);
  if (victim === 'devices') there = await Devices.open();
  if (victim === 'server') await bench.open();
  let isOnAgain = false;
  for (const since = elapsedNow(); elapsedNow() - since < WATCHED_MS; await pass(EACH_MS))
    isOnAgain ||= Math.abs(await there.amps()) > FLOWS_A;
  const isPaused = (await bench.lastKind()) === 'chargePaused';
  return [{ victim, goneMs, isOnAgain, isPaused }, there];
}

function write(seen: readonly Seen[], asked: number): void {
  mkdirSync('docs/soak', { recursive: true });
  writeFileSync(STATE, JSON.stringify(seen));
  const rows = VICTIMS.map((victim) => {
    const of = seen.filter((one) => one.victim === victim);
    const longest = Math.max(0, ...of.map(({ goneMs }) => goneMs));
    return `| ${victim} | ${of.length} | ${(longest / 1000).toFixed(2)} | ${of.filter(({ goneMs }) => goneMs > GONE_WITHIN_MS).length} | ${of.filter(({ isOnAgain }) => isOnAgain).length} | ${of.filter(({ isPaused }) => !isPaused).length} |`;
  });
  writeFileSync(
    RESULTS,
    [
      '# Killed in the midst of a charge',
      '',
      `Written by \`npm run soak:bays\` (seed ${SEED}; ${seen.length} of ${asked} kills): a bay charges under its own supply, and the server, the bench or the devices are sent SIGKILL ${LEAST_MS / 1000} to ${MOST_MS / 1000} s after a person switched it on. What flows is known to the simulated battery alone. Then a person checks it and switches it on again.`,
      '',
      `| killed | times | current gone at the latest after, s | later than ${GONE_WITHIN_MS / 1000} s | on again by itself | run sheet not paused |`,
      '| --- | --- | --- | --- | --- | --- |',
      ...rows,
      '',
    ].join('\n'),
  );
}

const asked = Number(process.argv[2] ?? USUAL_KILLS);
if (!isBuilt()) await buildAll();
let seen = existsSync(STATE) ? (JSON.parse(readFileSync(STATE, 'utf8')) as readonly Seen[]) : [];
let devices = await Devices.open();
const bench = new Bench();
for (let isNew = true; seen.length < asked; isNew = seen.length % KILLS_PER_SHOP === 0) {
  if (isNew) {
    if (bench.url !== '') bench.server.kill('SIGKILL');
    mkdirSync(FOLDER, { recursive: true });
    for (const name of readdirSync(FOLDER).filter((one) => one.startsWith('shop.')))
      rmSync(join(FOLDER, name), { force: true, recursive: true });
    await bench.open();
    await bench.furnish();
  }
  const chance = chanceFrom((SEED + seen.length) * SPREAD);
  await bench.run(devices);
  const victim = VICTIMS[Math.floor(chance() * VICTIMS.length)] ?? 'server';
  await pass(LEAST_MS + chance() * (MOST_MS - LEAST_MS));
  const [one, there] = await killed(bench, devices, victim);
  devices = there;
  seen = [...seen, one];
  write(seen, asked);
  process.stdout.write(`${JSON.stringify(one)}\n`);
}
const isWrong = ({ goneMs, isOnAgain, isPaused }: Seen): boolean =>
  goneMs > GONE_WITHIN_MS || isOnAgain || !isPaused;
process.exit(seen.some(isWrong) ? 1 : 0);
