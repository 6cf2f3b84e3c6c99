/** One current picture of each main view, from the demo shop at a fixed moment, into docs/screenshots. */
import { mkdirSync } from 'node:fs';
import { chromium, type Page } from '@playwright/test';
import { pick } from '../e2e/keys.ts';
import { Sheet, Shop, sitDown } from '../e2e/shop.ts';
import { buildAll, isBuilt } from './building.ts';

const FOLDER = 'docs/screenshots';
const JOB = '/jobs/5ce77e00-0000-4000-8000-000000000';

interface Shot {
  readonly name: string;
  readonly path: string;
  readonly theme?: 'day' | 'night';
  readonly size?: { readonly width: number; readonly height: number };
  /** A shop of its own; the demo's otherwise. */
  readonly from?: Shop;
  readonly prepare?: (page: Page) => Promise<void>;
}

const SHOTS: readonly Shot[] = [
  { name: 'bench', path: '/' },
  { name: 'bench-wide', path: '/', size: { width: 1920, height: 1080 } },
  { name: 'bench-night-tablet', path: '/', theme: 'night', size: { width: 768, height: 1024 } },
  {
    name: 'intake-label',
    path: '/intake',
    prepare: async (page) => {
      await page.getByRole('button', { name: /^Not in the list/ }).click();
      await page.getByRole('group', { name: 'Built as' }).getByText('Gel', { exact: true }).click();
      await page.getByRole('group', { name: 'Volts' }).getByText('12 V', { exact: true }).click();
      await page.getByLabel('Capacity', { exact: true }).fill('40');
      await page.getByLabel('Date code').fill('2625');
      await page.getByRole('region', { name: 'Read off the label' }).scrollIntoViewIfNeeded();
    },
  },
  {
    name: 'first-day',
    path: '/first-day',
    prepare: async (page) => {
      await page
        .getByRole('heading', { name: 'Chargers and bays' })
        .locator('..')
        .getByRole('button')
        .click();
      await page.getByText('Charger with a current knob').click();
      await page.getByLabel(/^What does its knob say/).fill('2 6 10');
    },
  },
  { name: 'run-sheet-dwell', path: `${JOB}147` },
  { name: 'shelf', path: '/shelf' },
  {
    name: 'run-sheet-charge',
    path: `${JOB}139`,
    prepare: async (page) => {
      await page.getByRole('button', { name: 'Read all three' }).click();
    },
  },
  {
    name: 'what-if',
    path: '/what-if?battery=type:BK-F12/70',
    prepare: async (page) => {
      await page.getByRole('button', { name: 'Try another plan: C' }).click();
      await pick(page, 'Plan C', 'Constant current');
    },
  },
  {
    name: 'delivery',
    path: '/delivery',
    prepare: async (page) => {
      await page.getByRole('button', { name: 'First type' }).click();
      await pick(page, 'Type 1', 'TQ-F12/14');
      await page.getByLabel('How many').fill('3');
      await page.getByLabel('Date code').fill('2026-01');
      await page.getByRole('button', { name: 'Another type' }).click();
      await pick(page, 'Type 2', 'BK-S12/75');
      await page.getByRole('region', { name: 'Plan' }).waitFor({ timeout: 60_000 });
    },
  },
  {
    name: 'run-sheet-band',
    path: `${JOB}104`,
    prepare: async (page) => {
      const forecast = page.getByRole('region', { name: 'Forecast of this charge' });
      await forecast.getByText('eight of ten').waitFor({ timeout: 60_000 });
      await forecast.evaluate((element) => element.scrollIntoView({ block: 'end' }));
    },
  },
  {
    name: 'evidence',
    path: `${JOB}107/evidence`,
    prepare: async (page) => {
      await page
        .getByRole('region', { name: 'Ways back, side by side' })
        .first()
        .waitFor({ timeout: 60_000 });
      await page.waitForTimeout(3_000);
      await page.getByRole('progressbar').waitFor({ state: 'hidden', timeout: 60_000 });
    },
  },
  { name: 'batch', path: '/batch' },
  { name: 'reckoner', path: '/reckoner?c=dilution' },
  { name: 'setup', path: '/setup' },
  { name: 'ledger', path: '/ledger/sets' },
  { name: 'battery', path: '/batteries/SK-0102' },
];

if (!isBuilt()) await buildAll();
mkdirSync(FOLDER, { recursive: true });
const shop = new Shop();
await shop.start();
const browser = await chromium.launch({
  executablePath: process.env['CHROMIUM_PATH'] ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--disable-background-networking'],
});

async function take({
  name,
  path,
  theme = 'day',
  from = shop,
  size = { width: 1280, height: 800 },
  prepare,
}: Shot): Promise<void> {
  const page = await browser.newPage({ viewport: size, locale: 'en-GB', timezoneId: 'Etc/UTC' });
  await sitDown(page, 'Ines', theme);
  // Answered on some day before.
  await page.addInitScript(() => localStorage.setItem('cork-ember-call', 'no'));
  await page.goto(from.url + path);
  await page.getByRole('heading', { level: 1 }).waitFor();
  await prepare?.(page);
  await page.waitForTimeout(900);
  await page.screenshot({ path: `${FOLDER}/${name}.png` });
  await page.close();
}

for (const shot of SHOTS) await take(shot);

// The steps no demo battery stands at: the next morning, one more is taken that far.
const sheet = await Sheet.open(shop);
await sheet.toTest(true);
await sheet.put('measured', {
  step: 'test-ocv#1',
  values: { ocvV: 12.84, tempC: 22 },
  source: 'Bench meter',
});
await sheet.put('measured', {
  step: 'test-load#1',
  values: { method: 'load', loadV: 10.42 },
  source: 'Battery tester',
});
await take({ name: 'run-sheet-verdict', path: sheet.path });

// And one brought back, at the choice of its route.
const back = new Shop();
await back.start();
const recovery = await Sheet.open(back, 'BK-A12/55', 'recover-agm');
await recovery.findOut(5.4);
await take({
  name: 'run-sheet-route',
  path: recovery.path,
  from: back,
  prepare: async (page) => {
    await page
      .getByRole('region', { name: 'Advised' })
      .getByRole('button', { name: /^Begin/ })
      .waitFor({ timeout: 90_000 });
    await page.waitForTimeout(1500);
  },
});

await browser.close();
await back.close();
await shop.close();
