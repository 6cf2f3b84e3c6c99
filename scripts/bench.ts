/**
 * Speed figures, printed and never asserted: fold of a 500-event job, the cell model, durable appends end to end, cold start
 * of the built server, and the script a browser loads for each view.
 */
import type { OpenJob } from '@cork-ember/core/contract/answers.ts';
import { execFile } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { gzipSync } from 'node:zlib';
import { build as bundle } from 'vite';
import { BAYS, bayDay } from './bayDayTrial.ts';
import { buildAll, isBuilt } from './building.ts';
import { PRINTS as BELIEF_PRINTS, type BeliefFigures } from './beliefBench.ts';
import { folder, median, show, start, stop, stopwatch } from './benching.ts';
import { memoryOf } from './processes.ts';
import { askAll, LoopMeter, yearsFile } from './yearsBench.ts';
import { PRINTS, type ModelFigures, type Rounds } from './modelBench.ts';
import { benchFull, benchSlider, benchTouch } from './screenBench.ts';
import { benchShelfView } from './shelfView.ts';

const run = promisify(execFile);

/** Bundled first, as it ships: the loader of the scripts would be measured otherwise. */
async function bundled(name: string): Promise<string> {
  await bundle({
    configFile: false,
    logLevel: 'silent',
    ssr: { noExternal: true },
    build: {
      ssr: join(import.meta.dirname, `${name}.ts`),
      outDir: folder,
      target: 'node20',
      emptyOutDir: false,
    },
  });
  return join(folder, `${name}.js`);
}

async function benchFold(): Promise<void> {
  const { foldMedianMs } = (await import(await bundled('foldBench'))) as typeof import('./foldBench.ts');
  show('fold of a 500-event job, median', `${(await foldMedianMs()).toFixed(2)} ms`, '< 1 ms');
}

/** In a process of its own: the loader of the scripts and what else this one did would be measured otherwise. */
async function benchModel(): Promise<void> {
  const file = await bundled('modelBench');
  const { stdout } = await run(process.execPath, ['--expose-gc', file], {
    env: { ...process.env, [PRINTS]: '1' },
  });
  const figures = JSON.parse(stdout) as ModelFigures;
  const [fault, faultMs] = figures.worstFault;
  show('48-h charge, six different cells', `${figures.sixDifferentMs.toFixed(2)} ms`, '≤ 8 ms');
  show(`48-h charge, slowest fault (${fault})`, `${faultMs.toFixed(2)} ms`, '≤ 8 ms');
  show('48-h charge, identical cells', `${figures.identicalMs.toFixed(2)} ms`, '≤ 1.5 ms');
  show('heap left by a 48-h charge', `${figures.kilobytesPerRun.toFixed(0)} kB`, '≤ 200 kB');
  const rounds = ({ best, median }: Rounds): string => `${best.toFixed(2)} (${median.toFixed(2)}) s`;
  show('1,000 batteries × 24 h, best (median)', '', 'on two workers');
  show('  six different cells', rounds(figures.thousandSix), '≤ 1.3 s');
  show('  five alike and one', rounds(figures.thousandFive), '≤ 0.5 s');
  show('yardstick loop, for the machine’s speed', `${figures.yardstickMs.toFixed(2)} ms`, 'none');
}

async function benchPlanner(): Promise<void> {
  const { plannerMs } = (await import(await bundled('plannerBench'))) as typeof import('./plannerBench.ts');
  const [cold, warm] = plannerMs();
  show(
    'planner, 30 batteries × 8 bays, first and again',
    `${cold.toFixed(0)}, ${warm.toFixed(0)} ms`,
    '< 1000 ms',
  );
}

async function benchStart(): Promise<void> {
  const first = await start('start');
  await stop(first);
  const times: number[] = [];
  for (let round = 0; round < 5; round++) {
    const again = await start('start');
    times.push(again.ms);
    await stop(again);
  }
  show('cold start, new file with the demo’s past', `${first.ms.toFixed(0)} ms`, '< 2000 ms');
  show('cold start, existing file, median of 5', `${median(times).toFixed(0)} ms`, '< 2000 ms');
}

async function benchAppends(): Promise<void> {
  const running = await start('appends');
  const jobs = (await (await fetch(`${running.url}/api/jobs`)).json()) as OpenJob[];
  const each = 250;
  const write = async ({ id, seq: last }: OpenJob): Promise<void> => {
    for (let seq = last; seq < last + each; seq++) {
      const entry = { kind: 'noted', payload: { text: `note ${seq}` } };
      const answer = await fetch(`${running.url}/api/jobs/${id}/events`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ expectedSeq: seq, requestKey: randomUUID(), by: 'bench', entry }),
      });
      if (answer.status !== 201) throw new Error(await answer.text());
      await answer.arrayBuffer();
    }
  };
  const begun = stopwatch.now();
  await Promise.all(jobs.map(write));
  const perSecond = (jobs.length * each) / ((stopwatch.now() - begun) / 1000);
  await stop(running);
  show(`durable appends over HTTP, ${jobs.length} jobs at once`, `${perSecond.toFixed(0)} /s`, '≥ 500 /s');
}

interface Chunk {
  readonly file: string;
  readonly imports?: readonly string[];
  readonly css?: readonly string[];
}

/** A view's script: its own chunk and everything that chunk needs at once. */
function gzippedOf(manifest: Readonly<Record<string, Chunk>>, names: readonly string[]): number {
  const wanted = new Set<string>();
  const visit = (name: string): void => {
    const chunk = manifest[name];
    if (!chunk || wanted.has(chunk.file)) return;
    wanted.add(chunk.file);
    chunk.imports?.forEach(visit);
  };
  names.forEach(visit);
  return [...wanted].reduce((sum, file) => sum + gzipSync(readFileSync(join('web/dist', file))).length, 0);
}

function benchScript(): void {
  const manifest = JSON.parse(readFileSync('web/dist/.vite/manifest.json', 'utf8')) as Record<string, Chunk>;
  const views: [string, string[]][] = [
    ['bench (first load)', ['index.html']],
    ['intake', ['index.html', 'src/intake/IntakePage.tsx']],
    ['run sheet', ['index.html', 'src/runsheet/RunSheetPage.tsx']],
    ['evidence', ['index.html', 'src/evidence/EvidencePage.tsx']],
    ['batch', ['index.html', 'src/batch/BatchPage.tsx']],
    ['what if', ['index.html', 'src/whatif/WhatIfPage.tsx']],
    ['ledger', ['index.html', 'src/ledger/LedgerPage.tsx']],
    ['battery', ['index.html', 'src/ledger/BatteryPage.tsx']],
  ];
  for (const [name, chunks] of views)
    show(
      `script gzipped, ${name}`,
      `${(gzippedOf(manifest, chunks) / 1000).toFixed(0)} kB`,
      name === 'bench (first load)' ? '≤ 200 kB' : '≤ 250 kB',
    );
}

async function benchBelief(): Promise<void> {
  const file = await bundled('beliefBench');
  const printed = async (what: string): Promise<unknown> => {
    const { stdout } = await run(process.execPath, [file], {
      env: { ...process.env, [BELIEF_PRINTS]: what },
    });
    return JSON.parse(stdout);
  };
  const { readings, openingMs, importMs } = (await printed('rest')) as BeliefFigures;
  for (const [kind, ms] of readings)
    show(`one reading on 1,000 candidates, ${kind}`, `${ms.toFixed(0)} ms`, '< 300 ms');
  show('first answer on one that was charged', `${openingMs.toFixed(0)} ms`, '≤ 1000 ms');
  const halves = (await Promise.all([printed('routes'), printed('routes')])) as number[];
  show('eight ways back on a belief, two workers', `${Math.max(...halves).toFixed(0)} ms`, '≤ 3000 ms');
  show('logger’s file of 200,000 rows', `${importMs.toFixed(0)} ms`, '< 3000 ms');
}

const READINGS_KEPT = 10_000;

/** What the server holds after two thousand readings of one charge, and after ten thousand, MB. */
async function benchMemory(): Promise<void> {
  const running = await start('memory');
  const jobs = (await (await fetch(`${running.url}/api/jobs`)).json()) as OpenJob[];
  const charging = jobs.find(({ state }) => state.steps[state.cursor]?.key === 'donor-hour#1');
  if (!charging) throw new Error('no battery of the demo is on a charge');
  const held = (): number => memoryOf(running.server.pid ?? 0);
  const entry = {
    kind: 'chargeRead',
    payload: { step: 'donor-hour#1', values: { voltageV: 11.8, currentA: 8, tempC: 22 }, source: 'bench' },
  };
  let early = 0;
  for (let count = 0; count < READINGS_KEPT; count++) {
    const expectedSeq = charging.seq + count;
    const body = JSON.stringify({ expectedSeq, requestKey: randomUUID(), by: 'bench', entry });
    const headers = { 'content-type': 'application/json' };
    const answer = await fetch(`${running.url}/api/jobs/${charging.id}/events`, {
      method: 'POST',
      headers,
      body,
    });
    if (answer.status !== 201) throw new Error(await answer.text());
    await answer.arrayBuffer();
    if (count === READINGS_KEPT / 5) early = held();
  }
  const late = held();
  await stop(running);
  show('server’s memory at 2,000 and 10,000 readings', `${early.toFixed(0)}, ${late.toFixed(0)} MB`, 'flat');
}

/** A shop that has worked for five years; its file is made first, which takes some minutes, and then kept. */
async function benchYears(): Promise<void> {
  const file = await yearsFile();
  const told = join(folder, 'loop');
  const meter = ['--import', join(import.meta.dirname, 'loopMeter.mjs')];
  const running = await start('years', file, meter, { LOOP_METER: told });
  const { pid = 0 } = running.server;
  show('five years: start', `${running.ms.toFixed(0)} ms`, '< 2000 ms');
  for (const { what, p95Ms, blockedMs, kilobytes } of await askAll(running.url, new LoopMeter(pid, told))) {
    show(`five years: ${what}`, `${p95Ms.toFixed(0)} ms`, '< 150 ms, 95 of 100');
    show('  event loop held up at most', `${blockedMs.toFixed(0)} ms`, '< 50 ms');
    show('  sent', `${kilobytes.toFixed(0)} kB`, 'none');
  }
  show('five years: memory after all that', `${memoryOf(pid).toFixed(0)} MB`, 'bounded');
  await stop(running);
}

async function benchShelf(): Promise<void> {
  const { shelfMs } = (await import(await bundled('shelfBench'))) as typeof import('./shelfBench.ts');
  const [first, again] = shelfMs();
  show('ten thousand off the bench foretold, first', `${first.toFixed(0)} ms`, '< 300 ms');
  show('  once more', `${again.toFixed(0)} ms`, '< 300 ms');
  await benchShelfView();
}

async function benchBays(): Promise<void> {
  const { minutes, kept, gaps } = await bayDay(join(folder, 'bays.sqlite'), 1, () => undefined);
  for (const { serverShare, benchShare } of minutes)
    show(
      `${BAYS} bays at 1 Hz: server, bench, of a core`,
      `${(serverShare * 100).toFixed(1)}, ${(benchShare * 100).toFixed(1)} %`,
      '< 25 % together',
    );
  show('  readings kept, gaps', `${kept}, ${gaps}`, 'no gap');
}

const benches = {
  bays: benchBays,
  years: benchYears,
  belief: benchBelief,
  memory: benchMemory,
  fold: benchFold,
  model: benchModel,
  planner: benchPlanner,
  shelf: benchShelf,
  start: benchStart,
  appends: benchAppends,
  slider: benchSlider,
  touch: benchTouch,
  full: benchFull,
  script: benchScript,
};

// `npm run bench -- model slider` runs those two; without names all run but the years, whose file takes minutes.
const asked = process.argv.slice(2);
if (!isBuilt()) await buildAll();
for (const [name, bench] of Object.entries(benches))
  if (asked.length === 0 ? name !== 'years' : asked.includes(name)) await bench();
rmSync(folder, { recursive: true, force: true });
