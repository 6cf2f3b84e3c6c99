/** Long runs in two processes: bounded, and gone on with where they stopped, as long as the code is the same. */
import { execFile } from 'node:child_process';
import { createHash } from 'node:crypto';
import { appendFileSync, existsSync, mkdirSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { build } from 'vite';
import { realNow } from '../server/src/clock/realTime.ts';

const PROCESSES = 2;

/** What one process is to do: every second one from here. */
export interface Share {
  readonly kind: string;
  readonly from: number;
  readonly count: number;
  readonly untilMs: number;
  readonly file: string;
}

interface Kept<T> {
  readonly index: number;
  readonly trial: T;
}

/**
 * What was worked out by this very code is kept beside the shop's data.
 * @param name of the run
 */
export function keptFolder(name: string): string {
  const files = ['core', 'scripts'].flatMap((folder) =>
    readdirSync(folder, { recursive: true, encoding: 'utf8' })
      .filter((file) => file.endsWith('.ts') && !file.endsWith('.test.ts') && !file.includes('node_modules'))
      .sort()
      .map((file) => readFileSync(join(folder, file), 'utf8')),
  );
  const folder = join('data', name, createHash('sha256').update(files.join('\n')).digest('hex').slice(0, 12));
  mkdirSync(folder, { recursive: true });
  return folder;
}

const keptIn = <T>(file: string): Kept<T>[] =>
  existsSync(file)
    ? readFileSync(file, 'utf8')
        .split('\n')
        .filter((line) => line.endsWith('}'))
        .map((line) => JSON.parse(line) as Kept<T>)
    : [];

const start = promisify(execFile);

/** The script as one plain file: run as it is written it would be three times as slow. */
async function bundled(script: string, outDir: string): Promise<string> {
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
  return join(outDir, 'run.mjs');
}

/**
 * Trials 0 to `count`, as far as time allows, half in each process.
 * @param script the file that does a share it is given as its argument
 */
export async function runKept<T>(
  script: string,
  kind: string,
  count: number,
  folder: string,
  untilMs: number,
): Promise<T[]> {
  const shares = Array.from({ length: PROCESSES }, (_, from): Share => ({
    kind,
    from,
    count,
    untilMs,
    file: join(folder, `${kind}-${from}.jsonl`),
  }));
  const file = await bundled(script, folder);
  await Promise.all(shares.map((share) => start(process.execPath, [file, JSON.stringify(share)])));
  return shares
    .flatMap(({ file: kept }) => keptIn<T>(kept))
    .filter(({ index }) => index < count)
    .sort((a, b) => a.index - b.index)
    .map(({ trial }) => trial);
}

/** Does a share, each trial put down as it is done. */
export function doShare({ from, count, untilMs, file }: Share, trialOf: (index: number) => unknown): void {
  const known = new Set(keptIn(file).map(({ index }) => index));
  for (let index = from; index < count && realNow() < untilMs; index += PROCESSES) {
    if (known.has(index)) continue;
    appendFileSync(file, `${JSON.stringify({ index, trial: trialOf(index) })}\n`);
  }
}

/** The share this process was started for; undefined where it is to have them done. */
export function shareAsked(): Share | undefined {
  const [, , share] = process.argv;
  return share === undefined ? undefined : (JSON.parse(share) as Share);
}

/** Until when a run may go on, ms. @param usualMin where MINUTES does not say otherwise */
export const until = (usualMin: number): number =>
  realNow() + Number(process.env['MINUTES'] ?? usualMin) * 60_000;
