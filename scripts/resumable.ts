/**
 * Long runs in two processes: bounded, and gone on with where they stopped, on this machine or another, as long as the code that runs is the
 * same. What was worked out is kept beside the tables that are written from it.
 */
import { execFile } from 'node:child_process';
import { createHash } from 'node:crypto';
import {
  appendFileSync,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { build } from 'vite';
import { realNow } from '../server/src/clock/realTime.ts';

const PROCESSES = Number(process.env['PROCESSES'] ?? 2);
const FOLDER = 'docs/belief/trials';
/** Digits that are kept of a number. */
const DIGITS = 4;

/** What one process is to do. */
export interface Share {
  readonly kind: string;
  readonly indices: readonly number[];
  readonly untilMs: number;
  readonly file: string;
}

interface Kept<T> {
  readonly index: number;
  readonly trial: T;
}

/** A script that does shares, as one plain file, and where its results are kept. */
export interface Runner {
  readonly file: string;
  readonly folder: string;
}

const keptIn = <T>(file: string): Kept<T>[] =>
  existsSync(file)
    ? readFileSync(file, 'utf8')
        .split('\n')
        .filter((line) => line.endsWith('}'))
        .map((line) => JSON.parse(line) as Kept<T>)
    : [];

const start = promisify(execFile);

/**
 * The script as one plain file: run as it is written it would be three times as slow. What another code has worked out is forgotten.
 * @param name of the run
 * @param script that does a share it is given as its argument
 */
export async function runnerOf(name: string, script: string): Promise<Runner> {
  const outDir = join('data', name);
  await build({
    configFile: false,
    logLevel: 'error',
    build: {
      ssr: script,
      outDir,
      emptyOutDir: false,
      rolldownOptions: { output: { entryFileNames: 'run.mjs', codeSplitting: false } },
    },
    ssr: { noExternal: [/^@cork-ember\//] },
  });
  const file = join(outDir, 'run.mjs');
  const code = createHash('sha256').update(readFileSync(file)).digest('hex').slice(0, 12);
  const folder = join(FOLDER, `${name}-${code}`);
  mkdirSync(folder, { recursive: true });
  for (const other of readdirSync(FOLDER))
    if (other.startsWith(`${name}-`) && other !== `${name}-${code}`)
      rmSync(join(FOLDER, other), { recursive: true });
  return { file, folder };
}

/** All of a kind that were done, in one file; those of each process are taken in. */
function gathered<T>(folder: string, kind: string): Kept<T>[] {
  const parts = readdirSync(folder).filter((file) => file.startsWith(`${kind}.part`));
  const whole = join(folder, `${kind}.jsonl`);
  const all = new Map(
    [whole, ...parts.map((part) => join(folder, part))].flatMap(keptIn<T>).map((one) => [one.index, one]),
  );
  const kept = [...all.values()].sort((a, b) => a.index - b.index);
  writeFileSync(whole, kept.map((one) => `${JSON.stringify(one)}\n`).join(''));
  for (const part of parts) rmSync(join(folder, part));
  return kept;
}

/** What was worked out of a kind, in order. */
export const keptOf = <T>(folder: string, kind: string): T[] =>
  keptIn<T>(join(folder, `${kind}.jsonl`)).map(({ trial }) => trial);

/** Trials 0 to `count`, as far as time allows. */
export async function runKept<T>(
  { file, folder }: Runner,
  kind: string,
  count: number,
  untilMs: number,
): Promise<T[]> {
  const known = new Set(gathered(folder, kind).map(({ index }) => index));
  const left = Array.from({ length: count }, (_, index) => index).filter((index) => !known.has(index));
  const shares = Array.from({ length: PROCESSES }, (_, part): Share => ({
    kind,
    indices: left.filter((_, place) => place % PROCESSES === part),
    untilMs,
    file: join(folder, `${kind}.part${part}`),
  }));
  await Promise.all(
    shares
      .filter(({ indices }) => indices.length > 0)
      .map((share) => start(process.execPath, [file, JSON.stringify(share)])),
  );
  return gathered<T>(folder, kind)
    .filter(({ index }) => index < count)
    .map(({ trial }) => trial);
}

const short = (_name: string, value: unknown): unknown =>
  typeof value === 'number' && !Number.isInteger(value) ? Number(value.toPrecision(DIGITS)) : value;

/** Does a share, each trial put down as it is done. */
export function doShare({ indices, untilMs, file }: Share, trialOf: (index: number) => unknown): void {
  for (const index of indices) {
    if (realNow() >= untilMs) return;
    appendFileSync(file, `${JSON.stringify({ index, trial: trialOf(index) }, short)}\n`);
  }
}

/** The share this process was started for. */
export function shareAsked(): Share {
  const [, , share] = process.argv;
  if (share === undefined)
    throw new Error('This does a share it is given as its argument; its figures script starts it.');
  return JSON.parse(share) as Share;
}

/** Until when a run may go on, ms. @param usualMin where MINUTES does not say otherwise */
export const until = (usualMin: number): number =>
  realNow() + Number(process.env['MINUTES'] ?? usualMin) * 60_000;
