/** Ten thousand batteries off the bench in a real browser: how long its worker takes, and the view. */
import { chromium, type Page } from '@playwright/test';
import { randomUUID } from 'node:crypto';
import { join } from 'node:path';
import { openDatabase } from '../server/src/store/database.ts';
import { folder, median, show, start, stop, stopwatch } from './benching.ts';
import { itemsAt } from './shelfBench.ts';

const NOW = '2026-03-10T11:06:00Z';
const SETTINGS = { CORK_EMBER_DEMO_START: NOW, CORK_EMBER_TIME_ZONE: 'Etc/UTC' };
/** So many rows are written in one go. */
const AT_ONCE = 500;

/** Puts ten thousand more on the shelf of a shop that is closed. */
async function fill(file: string): Promise<void> {
  const { models, close } = await openDatabase(file);
  const all = itemsAt(Date.parse(NOW));
  for (let from = 0; from < all.length; from += AT_ONCE) {
    const part = all.slice(from, from + AT_ONCE);
    await models.batteries.bulkCreate(
      part.map(({ tag, typeId, serial, dateCode, owner }) => ({ tag, typeId, serial, dateCode, owner })),
    );
    await models.shelf.bulkCreate(
      part.map(({ tag, kept }) => ({
        tag,
        place: 'shelf',
        since: kept.stays.at(-1)?.from ?? 0,
        machine: '',
        kept,
      })),
    );
  }
  await close();
}

/** What a page's workers were asked, and how long they took, copies there and back included, ms. */
const watched = (): void => {
  const asked = new Map<string, number>();
  const took: number[] = [];
  Object.assign(globalThis, { took });
  const post = Worker.prototype.postMessage;
  Worker.prototype.postMessage = function (this: Worker, message: unknown, given?: unknown) {
    const { id } = (message ?? {}) as { id?: string };
    if (id !== undefined) {
      asked.set(id, globalThis.performance.now());
      this.addEventListener('message', ({ data }: MessageEvent<{ id?: string }>) => {
        const begun = data.id === undefined ? undefined : asked.get(data.id);
        if (begun === undefined || data.id === undefined) return;
        asked.delete(data.id);
        took.push(globalThis.performance.now() - begun);
      });
    }
    post.call(this, message, given as StructuredSerializeOptions | undefined);
  };
};

const tookOf = (page: Page): Promise<readonly number[]> =>
  page.evaluate(() => (globalThis as unknown as { took: number[] }).took);

/** From a press or key to the frame with its change drawn, ms. */
async function drawnAfter(page: Page, act: () => Promise<void>, selector: string): Promise<number> {
  const drawn = page.evaluate(
    (wanted) =>
      new Promise<number>((resolve) => {
        const watch = globalThis.performance;
        let begun = 0;
        for (const kind of ['keydown', 'click'])
          document.addEventListener(kind, () => (begun ||= watch.now()), { once: true, capture: true });
        const observer = new MutationObserver(() => {
          if (begun === 0 || !document.querySelector(wanted)) return;
          observer.disconnect();
          requestAnimationFrame(() => setTimeout(() => resolve(watch.now() - begun)));
        });
        observer.observe(document.body, { subtree: true, childList: true, characterData: true });
      }),
    selector,
  );
  await page.waitForTimeout(300);
  await act();
  return drawn;
}

const ROW = 'main ul > li';

export async function benchShelfView(): Promise<void> {
  const file = join(folder, 'shelf.sqlite');
  await stop(await start('shelf', file, [], SETTINGS));
  await fill(file);
  const running = await start('shelf', file, [], SETTINGS);
  const begun = stopwatch.now();
  const list = await (await fetch(`${running.url}/api/shelf`)).text();
  const listMs = stopwatch.now() - begun;
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu'],
  });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.addInitScript(watched);
  await page.goto(`${running.url}/shelf`);
  await page.locator(ROW).first().waitFor();
  await page.waitForTimeout(1000);
  const [first = Number.NaN] = await tookOf(page);
  const again: number[] = [];
  const opened: number[] = [];
  for (let round = 0; round < 5; round++) {
    await page.getByRole('link', { name: 'Ledger', exact: true }).click();
    await page.getByRole('heading', { level: 1, name: 'Ledger' }).waitFor();
    await page.waitForTimeout(500);
    opened.push(
      await drawnAfter(page, () => page.getByRole('link', { name: 'Shelf', exact: true }).click(), ROW),
    );
  }
  for (let round = 0; round < 5; round++) {
    const before = (await tookOf(page)).length;
    const read = await fetch(`${running.url}/api/shelf/SK-00011/entries`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({
        requestKey: randomUUID(),
        by: 'bench',
        entry: { kind: 'read', payload: { volts: 12.6, source: 'meter' } },
      }),
    });
    if (!read.ok) throw new Error(await read.text());
    await page.waitForTimeout(2500);
    again.push(...(await tookOf(page)).slice(before, before + 1));
  }
  const anew: number[] = [];
  for (let round = 1; round <= 5; round++) {
    const before = (await tookOf(page)).length;
    // Another hour: all of them are foretold anew.
    const to = Date.parse(NOW) + round * 2 * 3_600_000;
    const moved = await fetch(`${running.url}/api/clock`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ to }),
    });
    if (!moved.ok) throw new Error(await moved.text());
    await page.waitForTimeout(4000);
    anew.push(...(await tookOf(page)).slice(before, before + 1));
  }
  const typed: number[] = [];
  await page.getByLabel('Find').focus();
  for (const key of '9798') typed.push(await drawnAfter(page, () => page.keyboard.press(key), ROW));
  await browser.close();
  await stop(running);
  show(
    'ten thousand off the bench: list',
    `${listMs.toFixed(0)} ms, ${(list.length / 1e6).toFixed(1)} MB`,
    'none',
  );
  show('  in a browser’s worker, first', `${first.toFixed(0)} ms`, '< 300 ms');
  show('  all of them again, median of 5', `${median(anew).toFixed(0)} ms`, '< 300 ms');
  show('  after a reading, median', `${median(again).toFixed(0)} ms`, '< 300 ms');
  show('  view opened, median', `${median(opened).toFixed(0)} ms`, '< 150 ms');
  show('  found as it is typed, median', `${median(typed).toFixed(0)} ms`, '< 150 ms');
}
