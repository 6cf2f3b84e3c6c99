/** What a hand waits for, in a real browser: a slider, a touch on a slow processor, a full bench. */
import { randomUUID } from 'node:crypto';
import { chromium } from '@playwright/test';
import { pick } from '../e2e/keys.ts';
import { median, show, start, stop } from './benching.ts';

/** From the key that moves a slider to the charts drawn anew, four plans over 24 hours, in ms. */
export async function benchSlider(): Promise<void> {
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
  await page.getByRole('figure').nth(5).waitFor();
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
              ({ target }) => target instanceof Element && target.closest('figure') !== null,
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
export async function benchTouch(): Promise<void> {
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
  show('bench at rest, batches of changes a second', (batches / (IDLE_MS / 1000)).toFixed(1), '≤ 1');
}

const FULL = 200;

/** Bays the demo's own batteries may stand in. */
const DEMO_BAYS = 12;

/** A bench of two hundred open jobs: from the address to the first row, and from an entry to the list of hands. */
export async function benchFull(): Promise<void> {
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
