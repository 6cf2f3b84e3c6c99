/**
 * Speed figures, printed and never asserted: fold of a 500-event job, the cell model, durable appends end to end, cold start
 * of the built server, and the script a browser loads for each view.
 */
import type { OpenJob } from '@cork-ember/core/contract/answers.ts';
import { pick } from '../e2e/keys.ts';
import { execFile, spawn, type ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { gzipSync } from 'node:zlib';
import { chromium } from '@playwright/test';
import { build as bundle } from 'vite';
import { buildAll, isBuilt } from './building.ts';
import { PRINTS as BELIEF_PRINTS, type BeliefFigures } from './beliefBench.ts';
import { askAll, LoopMeter, memoryOf, yearsFile } from './yearsBench.ts';
import { PRINTS, type ModelFigures, type Rounds } from './modelBench.ts';

const stopwatch = globalThis.performance;
const run = promisify(execFile);
const folder = mkdtempSync(join(tmpdir(), 'cork-ember-bench-'));

function show(name: string, value: string, target: string): void {
  console.log(`${name.padEnd(44)} ${value.padStart(16)}   target ${target}`);
}

function median(values: readonly number[]): number {
  return [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)] ?? Number.NaN;
}

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

/** From the key that moves a slider to the charts drawn anew, four plans over 24 hours, in ms. */
async function benchSlider(): Promise<void> {
  const running = await start('slider');
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu'],
  });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`${running.url}/what-if`);
  await page.getByRole('button', { name: '24 h' }).click();
  for (const letter of ['C', 'D'])
    await page.getByRole('button', { name: `Try another plan: ${letter}` }).click();
  await pick(page, 'Plan D', 'Wake with a supply');
  await page.locator('.recharts-line-curve').nth(20).waitFor();
  const slider = page.getByRole('slider', { name: 'Charge', exact: true });
  await slider.focus();
  const times: number[] = [];
  for (let move = 0; move < 20; move++) {
    const drawn = page.evaluate(
      () =>
        new Promise<number>((resolve) => {
          const watch = globalThis.performance;
          let begun = 0;
          document.addEventListener('keydown', () => (begun = watch.now()), { once: true, capture: true });
          const observer = new MutationObserver((changes) => {
            const isDrawn = changes.some(
              ({ target }) => target instanceof Element && target.closest('svg.recharts-surface') !== null,
            );
            if (!isDrawn || begun === 0) return;
            observer.disconnect();
            requestAnimationFrame(() => setTimeout(() => resolve(watch.now() - begun)));
          });
          observer.observe(document.body, { subtree: true, childList: true, attributes: true });
        }),
    );
    await page.waitForTimeout(150);
    await page.keyboard.press(move % 2 === 0 ? 'ArrowRight' : 'ArrowLeft');
    times.push(await drawn);
  }
  await browser.close();
  await stop(running);
  show('What-if: slider to redraw, four 24-h plans', `${median(times).toFixed(0)} ms`, '< 150 ms');
}

/** So much slower than this machine a tablet's processor is taken to be. */
const SLOWED = 4;
const DEMO_JOB = '/jobs/5ce77e00-0000-4000-8000-000000000';
/** The bench is watched at rest for so long, ms. */
const IDLE_MS = 10_000;

/** From a touch or key to the next frame, as the browser itself tells it, on a slowed processor; and what a page does at rest. */
async function benchTouch(): Promise<void> {
  const running = await start('touch', undefined, [], {
    CORK_EMBER_DEMO_START: '2026-03-10T11:06:00Z',
    CORK_EMBER_TIME_ZONE: 'Etc/UTC',
  });
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu'],
  });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.addInitScript(() => {
    localStorage.setItem('cork-ember-person', 'Ines');
    localStorage.setItem('cork-ember-call', 'no');
    const seen: number[] = [];
    Object.assign(window, { seen });
    new PerformanceObserver((list) =>
      seen.push(...list.getEntries().map(({ duration }) => duration)),
    ).observe({
      type: 'event',
      durationThreshold: 16,
    } as PerformanceObserverInit);
  });
  const session = await page.context().newCDPSession(page);
  await session.send('Emulation.setCPUThrottlingRate', { rate: SLOWED });
  const measured = async (act: () => Promise<void>): Promise<number> => {
    await page.evaluate(() => ((window as unknown as { seen: number[] }).seen.length = 0));
    await act();
    await page.waitForTimeout(1500);
    // What no entry speaks of took less than the least that is told.
    return page.evaluate(() => Math.max(16, ...(window as unknown as { seen: number[] }).seen));
  };
  await page.goto(`${running.url}${DEMO_JOB}139`);
  const volts = page.getByLabel('Charge voltage', { exact: true });
  await volts.focus();
  await page.waitForTimeout(2000);
  const digits: number[] = [];
  for (const key of '14.42') digits.push(await measured(() => page.keyboard.press(key)));
  await page.getByLabel('Charge current', { exact: true }).fill('1.1');
  await page.getByLabel('Case temperature', { exact: true }).fill('25');
  const look = await measured(() => page.getByRole('button', { name: 'Record the look' }).click());
  await page.goto(`${running.url}/batch`);
  const others = page.getByRole('navigation', { name: 'Batteries of the batch' }).getByRole('button');
  await others.nth(3).waitFor();
  await page.waitForTimeout(2000);
  const switches: number[] = [];
  for (const at of [3, 1, 4]) switches.push(await measured(() => others.nth(at).click()));
  await page.goto(`${running.url}${DEMO_JOB}106`);
  await page
    .getByRole('region', { name: 'Advised' })
    .getByRole('button', { name: /^Begin/ })
    .waitFor();
  const evidence = await measured(() => page.getByRole('link', { name: 'The whole argument' }).click());
  await session.send('Emulation.setCPUThrottlingRate', { rate: 1 });
  await page.goto(running.url);
  await page.getByRole('heading', { level: 1 }).waitFor();
  await page.waitForTimeout(8000);
  const batches = await page.evaluate(
    (ms) =>
      new Promise<number>((resolve) => {
        let count = 0;
        const observer = new MutationObserver(() => (count += 1));
        observer.observe(document, { subtree: true, childList: true, attributes: true, characterData: true });
        setTimeout(() => resolve(count), ms);
      }),
    IDLE_MS,
  );
  await browser.close();
  await stop(running);
  const target = '< 100 ms';
  show(`a digit, ${SLOWED}× slowed, slowest of 5`, `${Math.max(...digits).toFixed(0)} ms`, target);
  show(`record a look, ${SLOWED}× slowed`, `${look.toFixed(0)} ms`, target);
  show(`switch battery in the batch, ${SLOWED}× slowed`, `${Math.max(...switches).toFixed(0)} ms`, target);
  show(`open Evidence, ${SLOWED}× slowed`, `${evidence.toFixed(0)} ms`, target);
  show('bench at rest, batches of changes a second', (batches / (IDLE_MS / 1000)).toFixed(1), 'about 1');
}

const FULL = 200;

/** Bays the demo's own batteries may stand in. */
const DEMO_BAYS = 12;

/** A bench of two hundred open jobs: from the address to the first row, and from an entry to the list of hands. */
async function benchFull(): Promise<void> {
  const running = await start('full');
  const post = async (path: string, body: object): Promise<{ id: string }> => {
    const answer = await fetch(`${running.url}${path}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(body),
    });
    if (!answer.ok) throw new Error(await answer.text());
    return (await answer.json()) as { id: string };
  };
  const bays = Array.from({ length: FULL + DEMO_BAYS }, (_, i) => ({ number: i + 1, charger: 'bench' }));
  await post('/api/shop/changes', { by: 'bench', why: 'a full bench', bays });
  const { shopMs } = (await (await fetch(`${running.url}/api/clock`)).json()) as { shopMs: number };
  const ids: string[] = [];
  for (let i = 0; i < FULL - DEMO_BAYS; i++) {
    const battery = {
      tag: `BN-${1000 + i}`,
      typeId: 'LW-A12/9',
      serial: '',
      dateCode: '2025-06',
      owner: 'stock',
    };
    const job = {
      battery,
      bay: DEMO_BAYS + 1 + i,
      promisedAt: shopMs + 1e8,
      by: 'bench',
      requestKey: randomUUID(),
    };
    ids.push((await post('/api/jobs', job)).id);
  }
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu'],
  });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const paints: number[] = [];
  for (let load = 0; load < 5; load++) {
    await page.goto(running.url);
    await page.locator('ul > li svg[role=img]').first().waitFor();
    paints.push(
      await page.evaluate(() => performance.getEntriesByName('first-contentful-paint')[0]?.startTime ?? 0),
    );
  }
  const updates: number[] = [];
  for (const id of ids.slice(0, 15)) {
    const told = page.evaluate(
      () =>
        new Promise<number>((resolve) => {
          const watch = globalThis.performance;
          const source = new EventSource('/api/stream');
          source.onmessage = (message: MessageEvent<string>) => {
            if (!message.data.includes('"event"')) return;
            const heard = watch.now();
            source.close();
            const observer = new MutationObserver(() => {
              observer.disconnect();
              requestAnimationFrame(() => setTimeout(() => resolve(watch.now() - heard)));
            });
            observer.observe(document.body, { subtree: true, childList: true, characterData: true });
          };
        }),
    );
    await page.waitForTimeout(400);
    await post(`/api/jobs/${id}/events`, {
      expectedSeq: 1,
      requestKey: randomUUID(),
      by: 'bench',
      entry: { kind: 'affirmed', payload: { step: 'identify#1' } },
    });
    updates.push(await told);
  }
  await browser.close();
  await stop(running);
  show(`bench of ${FULL} open jobs, first paint`, `${median(paints).toFixed(0)} ms`, '< 1000 ms');
  show(
    `bench of ${FULL} open jobs, next hands after an entry`,
    `${median(updates).toFixed(0)} ms`,
    '< 100 ms',
  );
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

interface Started {
  readonly server: ChildProcess;
  readonly url: string;
  readonly ms: number;
}

async function start(
  name: string,
  file = join(folder, `${name}.sqlite`),
  options: readonly string[] = [],
  settings: Readonly<Record<string, string>> = {},
): Promise<Started> {
  const begun = stopwatch.now();
  const env = {
    ...process.env,
    CORK_EMBER_DEMO: 'true',
    CORK_EMBER_FILE: file,
    CORK_EMBER_PORT: '0',
    ...settings,
  };
  const server = spawn(process.execPath, [...options, 'server/dist/main.js'], {
    env,
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  // A bench that fails leaves no server behind.
  process.once('exit', () => server.kill('SIGKILL'));
  const url = await new Promise<string>((resolve) =>
    server.stdout.on('data', (chunk: Buffer) => {
      const found = /http:\S+/.exec(chunk.toString())?.[0];
      if (found) resolve(found);
    }),
  );
  await fetch(`${url}/api/clock`);
  return { server, url, ms: stopwatch.now() - begun };
}

async function stop({ server }: Started): Promise<void> {
  const ended = new Promise((resolve) => server.once('exit', resolve));
  server.kill('SIGTERM');
  await ended;
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
  const held = (): number =>
    Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${running.server.pid}/status`, 'utf8'))?.[1]) / 1024;
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

const benches = {
  years: benchYears,
  belief: benchBelief,
  memory: benchMemory,
  fold: benchFold,
  model: benchModel,
  planner: benchPlanner,
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
