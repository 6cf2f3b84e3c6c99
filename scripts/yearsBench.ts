/** How a shop answers after five years: every list, how long anything holds up everything else, and what memory it takes. */
import { spawn, type ChildProcessByStdio } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, renameSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import type { Readable, Writable } from 'node:stream';
import { writeYears } from './yearsFile.ts';

const stopwatch = globalThis.performance;

/** Made once, under the folder of things that are not kept with the program. */
const FOLDER = 'data/years';
const ENDED = 10_000;
const OPEN = 200;
const ROUNDS = 30;

/** The file, made where it is not there yet. */
export async function yearsFile(): Promise<string> {
  const file = join(FOLDER, `${ENDED}.sqlite`);
  if (existsSync(file)) return file;
  rmSync(FOLDER, { recursive: true, force: true });
  mkdirSync(FOLDER, { recursive: true });
  const entries = await writeYears(`${file}.making`, ENDED, OPEN);
  renameSync(`${file}.making`, file);
  console.log(`made ${file}: ${ENDED} ended jobs, ${OPEN} open, ${entries} entries`);
  return file;
}

export interface Asked {
  readonly what: string;
  /** Of all rounds the 95th percentile, ms. */
  readonly p95Ms: number;
  /** Longest that a small question beside it waited, ms. */
  readonly blockedMs: number;
  readonly kilobytes: number;
}

async function timed(url: string): Promise<{ ms: number; bytes: number }> {
  const begun = stopwatch.now();
  const answer = await fetch(url);
  const { byteLength: bytes } = await answer.arrayBuffer();
  if (!answer.ok) throw new Error(`${url}: ${answer.status}`);
  return { ms: stopwatch.now() - begun, bytes };
}

/**
 * Asks a small thing all the while, from a process of its own, so that only the server's waiting is counted: a word on its
 * input ends a stretch, and it answers with the longest wait of it, ms.
 */
const BESIDE = `
let worst = 0;
process.stdin.on('data', () => { process.stdout.write(worst + '\\n'); worst = 0; });
process.stdin.on('end', () => process.exit(0));
for (;;) {
  const begun = performance.now();
  await (await fetch(process.argv[1] + '/api/clock')).arrayBuffer();
  worst = Math.max(worst, performance.now() - begun);
}`;

class Beside {
  private readonly child: ChildProcessByStdio<Writable, Readable, null>;

  constructor(url: string) {
    this.child = spawn(process.execPath, ['--input-type=module', '-e', BESIDE, url], {
      stdio: ['pipe', 'pipe', 'inherit'],
    });
  }

  /** The longest wait since it was last asked, ms. */
  worst(): Promise<number> {
    return new Promise((resolve) => {
      this.child.stdout.once('data', (line: Buffer) => resolve(Number(line.toString())));
      this.child.stdin.write('.');
    });
  }

  end(): void {
    this.child.stdin.end();
  }
}

/** Asks one thing again and again, and a small one beside it all the while. */
async function askedOf(
  url: string,
  beside: Beside,
  what: string,
  path: (round: number) => string,
): Promise<Asked> {
  const times: number[] = [];
  let bytes = 0;
  await beside.worst();
  for (let round = 0; round < ROUNDS; round++) {
    const one = await timed(`${url}${path(round)}`);
    times.push(one.ms);
    ({ bytes } = one);
  }
  const blockedMs = await beside.worst();
  const sorted = times.toSorted((a, b) => a - b);
  return {
    what,
    p95Ms: sorted[Math.ceil(sorted.length * 0.95) - 1] ?? 0,
    blockedMs,
    kilobytes: bytes / 1000,
  };
}

const tagOf = (round: number): string => `YR-${String((round * 331) % ENDED).padStart(5, '0')}`;

/** What each view asks for. */
export async function askAll(url: string): Promise<Asked[]> {
  const { jobs } = (await (await fetch(`${url}/api/batteries/YR-00007`)).json()) as {
    jobs: { id: string }[];
  };
  const beside = new Beside(url);
  const asked = [
    await askedOf(url, beside, 'Bench and Intake: open jobs', () => '/api/jobs'),
    await askedOf(url, beside, 'Intake: the next tag', () => '/api/tags/next'),
    await askedOf(url, beside, 'Ledger: a page of batteries', (round) => `/api/batteries?page=${round * 6}`),
    await askedOf(url, beside, 'Ledger: by tag, the last page', () => '/api/batteries?sort=tag&page=203'),
    await askedOf(url, beside, 'search by tag', (round) => `/api/batteries?words=${tagOf(round)}`),
    await askedOf(url, beside, 'search by owner', (round) => `/api/batteries?words=ferry+${round}`),
    await askedOf(url, beside, 'search as it is typed', () => '/api/batteries?words=y'),
    await askedOf(url, beside, 'Ledger: ways that worked', () => '/api/ledger/ways'),
    await askedOf(url, beside, 'Ledger: sets', () => '/api/ledger/shelf'),
    await askedOf(url, beside, 'a battery by its tag', (round) => `/api/batteries/${tagOf(round)}`),
    await askedOf(url, beside, 'a job and its log', () => `/api/jobs/${jobs[0]?.id ?? ''}`),
    await askedOf(url, beside, 'records that stand apart', () => '/api/quarantine'),
  ];
  beside.end();
  return asked;
}

/** Memory a process holds, MB. */
export function memoryOf(pid: number): number {
  const line = /^VmRSS:\s+(\d+) kB/m.exec(readFileSync(`/proc/${pid}/status`, 'utf8'));
  return Number(line?.[1] ?? 0) / 1024;
}
