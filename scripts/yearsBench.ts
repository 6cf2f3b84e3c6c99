/** How a shop answers after five years: every list, how long anything holds up everything else, and what memory it takes. */
import { existsSync, mkdirSync, readFileSync, renameSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout } from 'node:timers/promises';
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
  /** Longest that the server's event loop was held up, ms. */
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

/** How long a server's event loop was held up at most, told by the meter it was started with. */
export class LoopMeter {
  private readonly pid: number;
  private readonly file: string;

  constructor(pid: number, file: string) {
    this.pid = pid;
    this.file = file;
  }

  /** Since it was last asked, ms. */
  async worst(): Promise<number> {
    rmSync(this.file, { force: true });
    process.kill(this.pid, 'SIGUSR2');
    while (!existsSync(this.file)) await setTimeout(2);
    return Number(readFileSync(this.file, 'utf8'));
  }
}

/** Asks one thing again and again. */
async function askedOf(
  url: string,
  meter: LoopMeter,
  what: string,
  path: (round: number) => string,
): Promise<Asked> {
  const times: number[] = [];
  let bytes = 0;
  for (let round = 0; round < ROUNDS; round++) {
    const one = await timed(`${url}${path(round)}`);
    times.push(one.ms);
    ({ bytes } = one);
  }
  const blockedMs = await meter.worst();
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
export async function askAll(url: string, meter: LoopMeter): Promise<Asked[]> {
  // What loading the program held up is its start, which is measured apart.
  await meter.worst();
  // The bench first: it is what a shop asks for while the server has only just begun.
  const bench = await askedOf(url, meter, 'Bench and Intake: open jobs', () => '/api/jobs');
  const { jobs } = (await (await fetch(`${url}/api/batteries/YR-00007`)).json()) as {
    jobs: { id: string }[];
  };
  const asked = [
    bench,
    await askedOf(url, meter, 'Intake: the next tag', () => '/api/tags/next'),
    await askedOf(url, meter, 'Ledger: a page of batteries', (round) => `/api/batteries?page=${round * 6}`),
    await askedOf(url, meter, 'Ledger: by tag, the last page', () => '/api/batteries?sort=tag&page=203'),
    await askedOf(url, meter, 'search by tag', (round) => `/api/batteries?words=${tagOf(round)}`),
    await askedOf(url, meter, 'search by owner', (round) => `/api/batteries?words=ferry+${round}`),
    await askedOf(url, meter, 'search as it is typed', () => '/api/batteries?words=y'),
    await askedOf(url, meter, 'Ledger: ways that worked', () => '/api/ledger/ways'),
    await askedOf(url, meter, 'Ledger: sets', () => '/api/ledger/shelf'),
    await askedOf(url, meter, 'a battery by its tag', (round) => `/api/batteries/${tagOf(round)}`),
    await askedOf(url, meter, 'a job and its log', () => `/api/jobs/${jobs[0]?.id ?? ''}`),
    await askedOf(url, meter, 'records that stand apart', () => '/api/quarantine'),
  ];
  return asked;
}
