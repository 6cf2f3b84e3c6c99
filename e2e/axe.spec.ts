import { pick } from './keys.ts';
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { Page } from '@playwright/test';
import type { AxeResults } from 'axe-core';
import { expect, Sheet, sitDown, test } from './shop.ts';

const axe = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');
const JOB = '/jobs/5ce77e00-0000-4000-8000-000000000';

const VIEWS = [
  ['bench', '/'],
  ['first day', '/first-day'],
  ['intake', '/intake'],
  ['what if', '/what-if'],
  ['batch', '/batch'],
  ['delivery', '/delivery'],
  ['reckoner', '/reckoner?c=inrush'],
  ['setup: rules', '/setup'],
  ['setup: bays', '/setup?part=bays'],
  ['setup: hours and people', '/setup?part=shop'],
  ['setup: figures and money', '/setup?part=region'],
  ['setup: costs', '/setup?part=costs'],
  ['trust', '/trust'],
  ['check of a paper', '/check/ABCDE-12345'],
  ['setup: types', '/setup?part=types'],
  ['setup: stock', '/setup?part=stock'],
  ['setup: record', '/setup?part=changes'],
  ['ledger', '/ledger'],
  ['ledger: ways', '/ledger/ways'],
  ['ledger: sets', '/ledger/sets'],
  ['battery', '/batteries/SK-0121'],
  ['battery that was recovered', '/batteries/SK-0102'],
  ['run sheet: wrong pack', `${JOB}149`],
  ['run sheet: dwell', `${JOB}147`],
  ['run sheet: gate overdue', `${JOB}136`],
  ['run sheet: charging', `${JOB}139`],
  ['run sheet: cooling', `${JOB}142`],
  ['run sheet: ended', `${JOB}121`],
  ['run sheet: on a recovery’s charge', `${JOB}104`],
  ['evidence: shorted cell', `${JOB}106/evidence`],
  ['nothing here', '/nowhere'],
] as const;

async function seriousOf(page: Page, within = 'body'): Promise<string[]> {
  await page.evaluate(axe);
  const { violations } = await page.evaluate<AxeResults>(`axe.run('${within}')`);
  return violations
    .filter(({ impact }) => impact === 'serious' || impact === 'critical')
    .map(({ id, nodes }) => `${id}: ${nodes.map((node) => node.html).join(' ')}`);
}

for (const theme of ['day', 'night'])
  test(`no serious axe violation on any view by ${theme}`, async ({ page, shop }) => {
    // A score of views one after the other, each gone through by axe.
    test.setTimeout(300_000);
    await sitDown(page, 'Ines', theme);
    const found: string[] = [];
    for (const [name, path] of VIEWS) {
      await page.goto(shop.url + path);
      await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
      await expect(page.locator('html')).toHaveAttribute('data-theme', theme);
      found.push(...(await seriousOf(page)).map((violation) => `${name}: ${violation}`));
    }
    expect(found).toEqual([]);
  });

/** What a view has that a hand could use, by name, where the Tab key did not stop. */
async function unreachedOn(page: Page): Promise<string[]> {
  const stops = await page.evaluate(() => {
    document.addEventListener('focusin', ({ target }) => {
      if (target instanceof Element) target.setAttribute('data-stopped', '');
    });
    return document.querySelectorAll('a[href], button, input, select, textarea, summary, [tabindex="0"]')
      .length;
  });
  for (let presses = 0; presses < stops + 3; presses++) await page.keyboard.press('Tab');
  return page.evaluate(() =>
    [
      ...document.querySelectorAll<HTMLElement>(
        'a[href], button, input, select, textarea, summary, [tabindex="0"]',
      ),
    ]
      .filter(
        (element) =>
          !element.matches(':disabled, [tabindex="-1"], [data-stopped], [aria-hidden="true"]') &&
          element.checkVisibility() &&
          // Of a row of choices the keyboard stops at one; the arrows go through it.
          !(
            element.parentElement?.closest('[role=radiogroup], fieldset')?.querySelector('[data-stopped]') ??
            false
          ),
      )
      .map((element) => element.outerHTML.slice(0, 160)),
  );
}

test('the Tab key leads to everything on every view', async ({ page, shop }) => {
  test.setTimeout(300_000);
  await sitDown(page);
  const left: string[] = [];
  for (const [name, path] of VIEWS) {
    await page.goto(shop.url + path);
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    // What came up on the way, as an alarm does, is come to on the next way round.
    if ((await unreachedOn(page)).length === 0) continue;
    left.push(...(await unreachedOn(page)).map((element) => `${name}: ${element}`));
  }
  expect(left).toEqual([]);
});

test('intake with its plan and its warnings, both themes', async ({ page, shop }) => {
  await page.goto(`${shop.url}/intake`);
  await pick(page, 'Type on the label', 'TQ-A12/20');
  await expect(page.getByRole('region', { name: 'Plan' })).toContainText('cannot be charged before');
  expect(await seriousOf(page)).toEqual([]);
  await page.getByLabel('Promised').click();
  expect(await seriousOf(page)).toEqual([]);
  await page.getByRole('button', { name: 'That is it' }).click();
  await page.getByRole('combobox', { name: 'Work' }).press('Enter');
  expect(await seriousOf(page, '[role=listbox]')).toEqual([]);
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Night shift' }).click();
  expect(await seriousOf(page)).toEqual([]);
});

test('a label that is read off, its list of types open, and the first day’s chargers, both themes', async ({
  page,
  shop,
}) => {
  test.setTimeout(120_000);
  for (const theme of ['day', 'night']) {
    await sitDown(page, 'Ines', theme);
    await page.goto(`${shop.url}/intake`);
    await page.getByRole('combobox', { name: 'Type on the label' }).click();
    await page.getByPlaceholder('Type to find').fill('agm');
    expect(await seriousOf(page)).toEqual([]);
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: /^Not in the list/ }).click();
    await page.getByRole('group', { name: 'Built as' }).getByText('AGM', { exact: true }).click();
    await page.getByRole('group', { name: 'Volts' }).getByText('12 V', { exact: true }).click();
    await page.getByLabel('Cranking', { exact: true }).fill('540');
    await page.getByRole('button', { name: /^More of the label/ }).click();
    await page.getByLabel('Date code').fill('0326');
    await expect(page.getByRole('group', { name: 'What the stamp means' })).toBeVisible();
    expect(await seriousOf(page)).toEqual([]);
    await page.goto(`${shop.url}/first-day`);
    for (let left = 0; left < 4; left++) {
      await page.getByRole('button', { name: 'Leave it for later' }).click();
      await expect(page.getByRole('button', { name: 'Left: take it up' })).toHaveCount(left + 1);
    }
    // People, the shop, its figures and hours are left; its chargers are at hand.
    await page.getByText('Automatic charger').click();
    expect(await seriousOf(page)).toEqual([]);
    // Taken up again from the beginning for the other theme.
    await shop.ask('/api/shop/changes', {
      by: 'Ines',
      why: 'once more',
      firstDay: {},
      name: `Loft by ${theme}`,
    });
  }
});

test('a recovery’s choice of a route, its charge and its evidence, both themes', async ({ page, shop }) => {
  test.setTimeout(120_000);
  const sheet = await Sheet.open(shop, 'BK-A12/55', 'recover-agm');
  await sheet.findOut(5.4);
  await page.goto(shop.url + sheet.path);
  await page.getByRole('button', { name: /^Choose: Wake beside a donor/ }).click();
  await page.getByText('Not open to it, and why').click();
  expect(await seriousOf(page)).toEqual([]);
  await page.getByRole('button', { name: 'Night shift' }).click();
  expect(await seriousOf(page)).toEqual([]);
  await sheet.put('routed', { step: 'choose-route#1', route: 'supply-wake' });
  await sheet.affirm('supply-polarity#1');
  await expect(page.getByRole('heading', { level: 2, name: 'Wake with the supply' })).toBeVisible();
  expect(await seriousOf(page)).toEqual([]);
  await page.getByRole('button', { name: 'Day light' }).click();
  expect(await seriousOf(page)).toEqual([]);
  await page.goto(`${shop.url}${sheet.path}/evidence`);
  await expect(page.getByRole('region', { name: 'Ways back, side by side' }).first()).toBeVisible({
    timeout: 60_000,
  });
  expect(await seriousOf(page)).toEqual([]);
  await page.getByRole('button', { name: 'Night shift' }).click();
  expect(await seriousOf(page)).toEqual([]);
});
