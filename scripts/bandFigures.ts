/**
 * What the belief's band says on slow charges of random batteries, and how often that is untrue, into docs/stop-rules.
 * Takes hours, in two processes: what was run is kept, and a run that was stopped goes on where it was.
 * TRIALS batteries of each kind; no new one is begun after MINUTES. FRESH forgets what was kept.
 */
import { spawn } from 'node:child_process';
import { appendFileSync, existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createInterface } from 'node:readline';
import { fileURLToPath } from 'node:url';
import { isFalse, wordsTrial, type WordsResult } from '@cork-ember/core/test/wordsTrial.ts';

const KINDS = ['sound', 'sulfated'] as const;
type Kind = (typeof KINDS)[number];

interface Kept {
  readonly kind: Kind;
  readonly index: number;
  readonly result: WordsResult;
}

const stopwatch = globalThis.performance;
const EACH = Number(process.env['TRIALS'] ?? 500);
const UNTIL = stopwatch.now() + Number(process.env['MINUTES'] ?? 240) * 60_000;
const FOLDER = 'test-results';
const KEPT = `${FOLDER}/band-words.jsonl`;
const PROCESSES = 2;

const keyOf = (kind: Kind, index: number): string => `${kind} ${index}`;

function kept(): Kept[] {
  if (!existsSync(KEPT)) return [];
  const all = readFileSync(KEPT, 'utf8').split('\n').filter(Boolean);
  return all.map((line) => JSON.parse(line) as Kept).filter(({ index }) => index < EACH);
}

/** Every so many of what is still to do, one after the other, each on its own line. */
function work(part: number): void {
  const done = new Set(kept().map(({ kind, index }) => keyOf(kind, index)));
  for (let index = part; index < EACH; index += PROCESSES)
    for (const kind of KINDS) {
      if (done.has(keyOf(kind, index)) || stopwatch.now() > UNTIL) continue;
      process.stdout.write(`${JSON.stringify({ kind, index, result: wordsTrial(kind, index) })}\n`);
    }
}

async function inProcess(part: number): Promise<void> {
  const child = spawn(process.execPath, ['--import', 'tsx', fileURLToPath(import.meta.url), String(part)], {
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  for await (const line of createInterface({ input: child.stdout })) appendFileSync(KEPT, `${line}\n`);
}

const share = (part: number, whole: number): string => `${part} (${((100 * part) / whole).toFixed(1)} %)`;

function rowOf(kind: Kind, results: readonly WordsResult[]): string {
  const words = results.flatMap((one) => one.words);
  const atRest = words.filter((word) => isFalse(kind, word.atRest));
  const atOnce = words.filter((word) => isFalse(kind, word.atOnce));
  const danger = words.filter(({ atRest: word }) => isFalse(kind, word) && word.tone === 'danger');
  const batteries = results.filter((one) => one.words.some(({ atRest: word }) => isFalse(kind, word)));
  return `| ${kind} | ${results.length} | ${words.length} | ${share(atOnce.length, words.length)} | ${share(atRest.length, words.length)} | ${share(danger.length, words.length)} | ${share(batteries.length, results.length)} | ${results.filter(({ isStopped }) => isStopped).length} |`;
}

function said(kind: Kind, results: readonly WordsResult[]): string {
  const lines = results.flatMap(({ typeId, roomC, words }) =>
    words.flatMap(({ minute, atRest }) =>
      isFalse(kind, atRest)
        ? [`| ${kind} | ${typeId} | ${roomC} °C | ${minute / 60} h | ${atRest.course} | ${atRest.words} |`]
        : [],
    ),
  );
  return lines.join('\n');
}

function write(): void {
  const all = kept();
  const of = (kind: Kind): WordsResult[] =>
    all.filter((one) => one.kind === kind).map(({ result }) => result);
  mkdirSync('docs/stop-rules', { recursive: true });
  writeFileSync(
    'docs/stop-rules/words.md',
    `# What the band says of sound and of waking batteries

Made by \`npm run band-figures\`. Slow charges of the same random batteries as in [results](results.md), a look every
hour with each instrument's own error until the charge is proven full or its time is up; after each look the word the
run sheet shows, by the answer of the moment and once the belief is at rest. False is whatever is not “as forecast”, “full”
or “full, or sulfated”; of a sulfated one “waking” and “sulfated rise” are true as well.

| batteries | how many | looks | false at once | false at rest | of these “danger” | batteries with a false word at rest | stopped |
|---|---|---|---|---|---|---|---|
${KINDS.map((kind) => rowOf(kind, of(kind))).join('\n')}

## Every false word

| battery | type | room | after | word | in full |
|---|---|---|---|---|---|
${KINDS.map((kind) => said(kind, of(kind)))
  .filter(Boolean)
  .join('\n')}
`,
  );
  console.log('docs/stop-rules/words.md');
}

const [, , part] = process.argv;
if (part !== undefined) work(Number(part));
else {
  mkdirSync(FOLDER, { recursive: true });
  if (process.env['FRESH'] !== undefined) rmSync(KEPT, { force: true });
  await Promise.all(Array.from({ length: PROCESSES }, (_, one) => inProcess(one)));
  write();
}
