/** How a shop answers after five years: every list, how long anything holds up everything else, and what memory it takes. */
import { existsSync, mkdirSync, readFileSync, renameSync, rmSync } from 'node:fs';
import { join } from 'node:path';
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

/** Asks one thing again and again, and a small one beside it all the while. */
async function askedOf(url: string, what: string, path: (round: number) => string): Promise<Asked> {
  const times: number[] = [];
  let bytes = 0;
  let blockedMs = 0;
  let isOver = false;
  const beside = (async () => {
    while (!isOver) blockedMs = Math.max(blockedMs, (await timed(`${url}/api/clock`)).ms);
  })();
  for (let round = 0; round < ROUNDS; round++) {
    const one = await timed(`${url}${path(round)}`);
    times.push(one.ms);
    ({ bytes } = one);
  }
  isOver = true;
  await beside;
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
  return [
    await askedOf(url, 'Bench and Intake: open jobs', () => '/api/jobs'),
    await askedOf(url, 'Intake: the next tag', () => '/api/tags/next'),
    await askedOf(url, 'Ledger: a page of batteries', (round) => `/api/batteries?page=${round * 6}`),
    await askedOf(url, 'Ledger: by tag, the last page', () => '/api/batteries?sort=tag&page=203'),
    await askedOf(url, 'search by tag', (round) => `/api/batteries?words=${tagOf(round)}`),
    await askedOf(url, 'search by owner', (round) => `/api/batteries?words=ferry+${round}`),
    await askedOf(url, 'search as it is typed', () => '/api/batteries?words=y'),
    await askedOf(url, 'Ledger: ways that worked', () => '/api/ledger/ways'),
    await askedOf(url, 'Ledger: sets', () => '/api/ledger/shelf'),
    await askedOf(url, 'a battery by its tag', (round) => `/api/batteries/${tagOf(round)}`),
    await askedOf(url, 'a job and its log', () => `/api/jobs/${jobs[0]?.id ?? ''}`),
    await askedOf(url, 'records that stand apart', () => '/api/quarantine'),
  ];
}

/** Memory a process holds, MB. */
export function memoryOf(pid: number): number {
  const line = /^VmRSS:\s+(\d+) kB/m.exec(readFileSync(`/proc/${pid}/status`, 'utf8'));
  return Number(line?.[1] ?? 0) / 1024;
}
