/** The server is away for an hour, and the page is opened anew meanwhile: nothing that was known or entered is lost. */
import type { Page } from '@playwright/test';
import type { JobEvent } from '@cork-ember/core/runsheet/entries/events.ts';
import { PICTURE, press, sent } from './keys.ts';
import { expect, Sheet, sitDown, test, type Shop } from './shop.ts';

test.use({ serviceWorkers: 'allow', allowed: [/./] });

const JOB = '/jobs/5ce77e00-0000-4000-8000-000000000';

/** The program is kept, what views open with, and the log of each of these jobs. */
async function isKept(page: Page, jobs: readonly string[]): Promise<void> {
  await page.evaluate(() => navigator.serviceWorker.ready);
  await expect(async () => {
    const paths = await page.evaluate(
      () =>
        new Promise<string[]>((resolve, reject) => {
          const opening = indexedDB.open('cork-ember');
          opening.onerror = () => reject(new Error('no store'));
          opening.onsuccess = () => {
            const asking = opening.result.transaction('answers').objectStore('answers').getAllKeys();
            asking.onsuccess = () => {
              opening.result.close();
              resolve(asking.result.map(String));
            };
          };
        }),
    );
    for (const path of ['/api/instruments', ...jobs.map((id) => `/api/jobs/${id}`)])
      expect(paths).toContain(path);
  }).toPass({ timeout: 60_000 });
}

test('every view opens anew with the server away, and a batch is worked through', async ({ page, shop }) => {
  test.setTimeout(240_000);
  const sheets: Sheet[] = [];
  for (const at of [1, 2])
    sheets.push(await (await Sheet.open(shop, undefined, undefined, `AW-${at}`, 0)).checkIn());
  await page.goto(shop.url);
  await expect(page.getByRole('heading', { level: 1, name: /^Bench/ })).toBeVisible();
  const own = ['142', '107'].map((end) => `${JOB}${end}`.replace('/jobs/', ''));
  await isKept(page, [...own, ...sheets.map(({ id }) => id)]);
  await shop.kill();
  for (const [path, heading] of [
    ['/', /^Bench/],
    ['/intake', 'Take a battery in'],
    ['/shelf', 'Shelf'],
    ['/shelf/round', 'Round'],
    ['/shelf/month', 'The shelf’s month'],
    ['/shelf/calls', 'Who to call'],
    ['/what-if', 'What if'],
    ['/ledger/ways', 'Ledger'],
    ['/ledger/sets', 'Ledger'],
    ['/delivery', 'A delivery'],
    ['/setup', 'Setup'],
    ['/reckoner', 'Reckoner'],
    [`${JOB}142`, 'SK-0142'],
    [`${JOB}107`, 'SK-0107'],
    [`${JOB}107/evidence`, 'Evidence'],
  ] as const) {
    await page.goto(shop.url + path);
    await expect(page.getByRole('heading', { level: 1, name: heading }), path).toBeVisible();
    await expect(page.getByText('The server is away')).toBeVisible({ timeout: 20_000 });
    await expect(page.getByText('One moment …'), path).toHaveCount(0);
  }
  await page.goto(`${shop.url}/batch?jobs=${sheets.map(({ id }) => id).join()}`);
  for (const answered of [1, 2]) {
    await page.getByLabel('Code on the pack').fill('p09');
    await page.getByRole('button', { name: 'Check the code' }).click();
    await expect(page.getByRole('button', { name: `${answered} waiting` })).toBeVisible();
  }
  await page.reload();
  await expect(page.getByRole('button', { name: '2 waiting' })).toBeVisible();
  await shop.start(Number(new URL(page.url()).port));
  await sent(page);
  for (const { id } of sheets) {
    const { events } = await shop.ask<{ events: readonly JobEvent[] }>(`/api/jobs/${id}`);
    expect(events.filter(({ kind }) => kind === 'observed')).toHaveLength(1);
  }
});

/** Enters a look on the charge this tab shows. */
async function enterLook(tab: Page, volts: string): Promise<void> {
  await tab.getByLabel('Charge voltage', { exact: true }).fill(volts);
  await tab.getByLabel('Charge current', { exact: true }).fill('0.90');
  await tab.getByLabel('Case temperature', { exact: true }).fill('25');
  await press(tab, 'Record the look');
}

async function note(tab: Page, text: string): Promise<void> {
  await tab.getByLabel('Note for the log').fill(text);
  await tab.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(tab.getByLabel('Note for the log')).toHaveValue('');
}

/** When the last entry on its way was made, shop time. */
const lastEntered = (tab: Page): Promise<number> =>
  tab.evaluate(
    () =>
      new Promise<number>((resolve) => {
        const opening = indexedDB.open('cork-ember');
        opening.onsuccess = () => {
          const asking = opening.result.transaction('parcels').objectStore('parcels').getAll();
          asking.onsuccess = () => {
            opening.result.close();
            resolve(
              Math.max(...(asking.result as { enteredAt: number }[]).map(({ enteredAt }) => enteredAt)),
            );
          };
        };
      }),
  );

/** Five batteries, the first of them on charge. */
async function five(shop: Shop): Promise<Sheet[]> {
  const all: Sheet[] = [];
  for (const [at, bay] of [8, 0, 0, 0, 0].entries())
    all.push(await Sheet.open(shop, undefined, undefined, `AW-${at}`, bay));
  for (const sheet of all.slice(0, 1)) {
    await sheet.toSoakReading();
    await sheet.put('measured', { step: 'ocv-soak#1', values: { ocvV: 12.7, tempC: 24 }, source: 'keypad' });
    await sheet.put('chargeStarted', { step: 'charge#1', currentA: 0.9, dueMin: 400 });
  }
  return all;
}

test('an hour of it: sixty entries on five batteries from two tabs, opened anew between, arrive once and in order', async ({
  page,
  context,
  shop,
}) => {
  test.setTimeout(300_000);
  const all = await five(shop);
  const charged = all.slice(0, 1);
  const other = await context.newPage();
  await sitDown(other);
  for (const tab of [page, other]) await tab.goto(shop.url);
  await isKept(
    page,
    all.map(({ id }) => id),
  );
  await shop.ask('/api/clock', { pace: 60 });
  // What is not heard before the server goes is not known: the page would go on at its old pace.
  for (const tab of [page, other])
    await expect(tab.getByRole('button', { name: /Shop clock.* 60×/ })).toBeVisible();
  const { shopMs: leftAt } = await shop.ask<{ shopMs: number }>('/api/clock');
  const { port } = shop;
  await shop.kill();
  let entered = 0;
  const said: Record<string, string[]> = {};
  for (let round = 0; round < 6; round++)
    for (const sheet of all)
      for (const tab of [page, other]) {
        // A page of its own for each: nothing is known but what was kept.
        await tab.goto(shop.url + sheet.path);
        entered += 1;
        if (tab === page && charged.includes(sheet)) await enterLook(tab, `14.${10 + round}`);
        else {
          await note(tab, `entry ${entered}`);
          (said[sheet.id] ??= []).push(`entry ${entered}`);
        }
        await expect(tab.getByRole('button', { name: `${entered} waiting` })).toBeVisible({
          timeout: 20_000,
        });
      }
  expect(entered).toBe(60);
  await page.getByLabel('Photo of this step').setInputFiles(PICTURE);
  await other.reload();
  for (const tab of [page, other])
    await expect(tab.getByRole('button', { name: '61 waiting' })).toBeVisible({ timeout: 20_000 });
  // The demo's clock stood still with its server; a machine's does not.
  const enteredUntil = Math.max(...(await Promise.all([page, other].map(lastEntered))));
  await context.route('**/events', (route) => route.abort());
  await shop.start(port);
  await shop.moveTo(enteredUntil);
  await context.unroute('**/events');
  for (const tab of [page, other]) await sent(tab);
  for (const { id } of all) {
    const { events } = await shop.ask<{ events: readonly JobEvent[] }>(`/api/jobs/${id}`);
    const notes = events.flatMap((event) => (event.kind === 'noted' ? [event.payload.text] : []));
    expect(notes).toEqual(said[id]);
    expect(events.map(({ seq }) => seq)).toEqual(events.map((_, at) => at + 1));
    expect(events.map(({ at }) => at)).toEqual(events.map(({ at }) => at).toSorted((a, b) => a - b));
  }
  for (const { id } of charged) {
    const { events } = await shop.ask<{ events: readonly JobEvent[] }>(`/api/jobs/${id}`);
    const looks = events.flatMap((event) =>
      event.kind === 'chargeRead' ? [event.payload.values['voltageV']] : [],
    );
    expect(looks).toEqual([14.1, 14.11, 14.12, 14.13, 14.14, 14.15]);
  }
  const last = (
    await shop.ask<{ events: readonly JobEvent[] }>(`/api/jobs/${all.at(-1)?.id ?? ''}`)
  ).events.at(-1);
  expect(last?.kind).toBe('photographed');
  // An hour went by on the shop's clock while nobody answered.
  expect((last?.at ?? 0) - leftAt).toBeGreaterThan(60 * 60_000);
});
