import { pick } from './keys.ts';
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { Locator, Page } from '@playwright/test';
import type { AxeResults } from 'axe-core';
import { expect, Sheet, sitDown, test } from './shop.ts';

const axe = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');
const JOB = '/jobs/5ce77e00-0000-4000-8000-000000000';

const VIEWS = [
  ['bench', '/'],
  ['first day', '/first-day'],
  ['intake', '/intake'],
  ['shelf', '/shelf'],
  ['round', '/shelf/round'],
  ['brought back together', '/brought'],
  ['the shelf’s month', '/shelf/month'],
  ['who to call', '/shelf/calls'],
  ['charge off the shelf', '/shelf/charge'],
  ['how warm it is', '/shelf/stores'],
  ['machines', '/shelf/machines'],
  ['a machine', '/shelf/machines/M-0001'],
  ['a machine’s set brought in', '/brought?machine=M-0002'],
  ['what if', '/what-if'],
  ['batch', '/batch'],
  ['delivery', '/delivery'],
  ['reckoner', '/reckoner?c=inrush'],
  ['setup: rules', '/setup'],
  ['setup: bays', '/setup?part=bays'],
  ['setup: devices', '/setup?part=devices'],
  ['setup: hours and people', '/setup?part=shop'],
  ['setup: figures and money', '/setup?part=region'],
  ['setup: costs', '/setup?part=costs'],
  ['trust', '/trust'],
  ['check of a paper', '/check/ABCDE-12345'],
  ['setup: types', '/setup?part=types'],
  ['setup: stock', '/setup?part=stock'],
  ['setup: learned', '/setup?part=learning'],
  ['setup: record', '/setup?part=changes'],
  ['ledger', '/ledger'],
  ['ledger: ways', '/ledger/ways'],
  ['ledger: sets', '/ledger/sets'],
  ['ledger: shops', '/ledger/shops'],
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

/** Of every impact: what axe finds is mended, not weighed. */
async function violationsOf(page: Page, within = 'body'): Promise<string[]> {
  if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(axe);
  const { violations } = await page.evaluate<AxeResults>(
    `axe.run('${within}', { resultTypes: ['violations'] })`,
  );
  return violations.map(
    ({ id, impact, nodes }) => `${id} (${impact ?? ''}): ${nodes.map((node) => node.html).join(' ')}`,
  );
}

const WIDTHS = [1280, 768, 390] as const;

for (const theme of ['day', 'night'])
  test(`no axe violation on any view by ${theme}, in three widths, and none is wider than the screen`, async ({
    page,
    shop,
  }) => {
    // A score of views one after the other, each gone through by axe three times.
    test.setTimeout(600_000);
    await sitDown(page, 'Ines', theme);
    const found: string[] = [];
    for (const [name, path] of VIEWS) {
      await page.goto(shop.url + path);
      await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
      await expect(page.locator('html')).toHaveAttribute('data-theme', theme);
      for (const width of WIDTHS) {
        await page.setViewportSize({ width, height: 800 });
        found.push(...(await violationsOf(page)).map((violation) => `${name}, ${width}: ${violation}`));
        // What is wider than its view scrolls in a place of its own, never the view.
        const beyond = await page.locator('main').evaluate((main) => main.scrollWidth - main.clientWidth);
        if (beyond > 0) found.push(`${name}, ${width}: ${beyond} px wider than the screen`);
      }
    }
    expect(found).toEqual([]);
  });

/** What opens over a view: where, and how it is opened. */
const OPENED: readonly (readonly [name: string, path: string, open: (page: Page) => Promise<void>])[] = [
  ['the clock', '/', (page) => page.getByRole('button', { name: /Shop clock/ }).click()],
  ['who is at the bench', '/', (page) => page.getByRole('button', { name: /at the bench/ }).click()],
  ['help', '/', (page) => page.getByRole('button', { name: 'Help' }).click()],
  ['the camera', '/', (page) => page.getByRole('button', { name: 'Scan a tag with the camera' }).click()],
  ['where it stands', `${JOB}139`, (page) => page.getByRole('button', { name: 'in bay 1' }).click()],
  [
    'promise and owner',
    `${JOB}139`,
    (page) => page.getByRole('button', { name: 'Change', exact: true }).click(),
  ],
  [
    'a correction',
    `${JOB}139`,
    (page) =>
      page
        .getByRole('button', { name: /^Correct: On charge/ })
        .first()
        .click(),
  ],
  ['leaving a route', `${JOB}104`, (page) => page.getByRole('button', { name: 'Leave this route' }).click()],
  [
    'a way’s words',
    `${JOB}106`,
    (page) =>
      page
        .getByRole('button', { expanded: false, name: /^Retire it/ })
        .first()
        .click(),
  ],
  [
    'a reading beside the step',
    `${JOB}106`,
    (page) => page.getByRole('button', { name: /^(Others|Read something more)$/ }).click(),
  ],
  [
    'a plan sent to a battery',
    '/what-if',
    (page) => page.getByRole('button', { name: /^Send/ }).first().click(),
  ],
  ['a list to choose of', '/what-if', (page) => page.getByRole('combobox', { name: 'Fault' }).press('Enter')],
  [
    'a list to search',
    '/intake',
    (page) => page.getByRole('combobox', { name: 'Type on the label' }).click(),
  ],
  ['a moment to pick', '/intake', (page) => page.getByLabel('Promised').click()],
  ['a battery on the shelf', '/shelf', (page) => page.getByRole('button', { name: /SK-0062$/ }).click()],
  ['adding one to the shelf', '/shelf', (page) => page.getByRole('button', { name: 'Add one' }).click()],
  ['new tags', '/shelf', (page) => page.getByRole('button', { name: /^New tags/ }).click()],
  ['subscribing', '/shelf/month', (page) => page.getByRole('button', { name: 'Subscribe …' }).click()],
  [
    'how warm a store is',
    '/shelf/stores',
    (page) => page.getByRole('button', { name: 'Tell how warm it is: Rack 1' }).click(),
  ],
  ['a set to fit', '/shelf/machines/M-0002', (page) => page.getByRole('button', { name: /set$/ }).click()],
  ['a new machine', '/shelf/machines', (page) => page.getByRole('button', { name: 'A machine' }).click()],
  ['taking one off the shelf', '/shelf', (page) => page.getByRole('button', { name: 'Take one' }).click()],
  [
    'where a battery goes',
    '/shelf',
    (page) =>
      page
        .getByRole('button', { name: /^Put away/ })
        .first()
        .click(),
  ],
];

/** What is there once it is open: a pane, or something within the view. */
function opened(page: Page, name: string): Locator {
  switch (name) {
    case 'leaving a route':
      return page.getByLabel(/^Why\? It stands on the record/);
    case 'a way’s words':
      return page.getByRole('button', { expanded: true }).first();
    case 'a reading beside the step':
      return page.getByRole('region', { name: 'Read something more' });
    default:
      return page.getByRole('dialog');
  }
}

for (const theme of ['day', 'night'])
  test(`no axe violation in what opens over a view, by ${theme}`, async ({ page, shop }) => {
    test.setTimeout(600_000);
    await sitDown(page, 'Ines', theme);
    const found: string[] = [];
    for (const width of WIDTHS)
      for (const [name, path, open] of OPENED) {
        // What stands beside a step where there is room lies in a drawer elsewhere.
        if (width < 1024 && name === 'a reading beside the step') continue;
        await page.setViewportSize({ width, height: 800 });
        await page.goto(shop.url + path);
        await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
        await open(page);
        await expect(opened(page, name)).toBeVisible();
        // The page behind an open list is hidden from everybody by the list itself.
        const within = name.startsWith('a list to') ? '[role=dialog]' : 'body';
        found.push(
          ...(await violationsOf(page, within)).map((violation) => `${name}, ${width}: ${violation}`),
        );
      }
    await page.setViewportSize({ width: 390, height: 800 });
    await page.goto(`${shop.url}${JOB}106`);
    await page.getByRole('button', { name: /Judgement$/ }).click();
    await expect(page.getByRole('dialog')).toContainText('What is probably the matter');
    found.push(...(await violationsOf(page)));
    expect(found).toEqual([]);
  });

/** How often the Tab key goes round a view before what it did not come to counts as out of its reach. */
const WAYS_ROUND = 5;

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
  test.setTimeout(600_000);
  await sitDown(page);
  const left: string[] = [];
  for (const [name, path] of VIEWS) {
    await page.goto(shop.url + path);
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    // What came up on the way, as an alarm does, or what was still being drawn, is come to on the next
    // way round; what the key never leads to is left after any number of them.
    let unreached = await unreachedOn(page);
    for (let round = 1; round < WAYS_ROUND && unreached.length > 0; round++)
      unreached = await unreachedOn(page);
    left.push(...unreached.map((element) => `${name}: ${element}`));
  }
  expect(left).toEqual([]);
});

test('intake with its plan and its warnings, both themes', async ({ page, shop }) => {
  await page.goto(`${shop.url}/intake`);
  await pick(page, 'Type on the label', 'TQ-A12/20');
  await expect(page.getByRole('region', { name: 'Plan' })).toContainText('cannot be charged before');
  expect(await violationsOf(page)).toEqual([]);
  await page.getByLabel('Promised').click();
  expect(await violationsOf(page)).toEqual([]);
  await page.getByRole('button', { name: 'That is it' }).click();
  await page.getByRole('combobox', { name: 'Work' }).press('Enter');
  expect(await violationsOf(page, '[role=listbox]')).toEqual([]);
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Night shift' }).click();
  expect(await violationsOf(page)).toEqual([]);
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
    expect(await violationsOf(page)).toEqual([]);
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: /^Not in the list/ }).click();
    await page.getByRole('group', { name: 'Built as' }).getByText('AGM', { exact: true }).click();
    await page.getByRole('group', { name: 'Volts' }).getByText('12 V', { exact: true }).click();
    await page.getByLabel('Cranking', { exact: true }).fill('540');
    await page.getByRole('button', { name: /^More of the label/ }).click();
    await page.getByLabel('Date code').fill('0326');
    await expect(page.getByRole('group', { name: 'What the stamp means' })).toBeVisible();
    expect(await violationsOf(page)).toEqual([]);
    await page.goto(`${shop.url}/first-day`);
    for (let left = 0; left < 4; left++) {
      await page.getByRole('button', { name: 'Leave it for later' }).click();
      await expect(page.getByRole('button', { name: 'Left: take it up' })).toHaveCount(left + 1);
    }
    // People, the shop, its figures and hours are left; its chargers are at hand.
    await page.getByText('Automatic charger').click();
    expect(await violationsOf(page)).toEqual([]);
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
  expect(await violationsOf(page)).toEqual([]);
  await page.getByRole('button', { name: 'Night shift' }).click();
  expect(await violationsOf(page)).toEqual([]);
  await sheet.put('routed', { step: 'choose-route#1', route: 'supply-wake' });
  await sheet.affirm('supply-polarity#1');
  await expect(page.getByRole('heading', { level: 2, name: 'Wake with the supply' })).toBeVisible();
  expect(await violationsOf(page)).toEqual([]);
  await page.getByRole('button', { name: 'Day light' }).click();
  expect(await violationsOf(page)).toEqual([]);
  await page.goto(`${shop.url}${sheet.path}/evidence`);
  await expect(page.getByRole('region', { name: 'Ways back, side by side' }).first()).toBeVisible({
    timeout: 60_000,
  });
  expect(await violationsOf(page)).toEqual([]);
  await page.getByRole('button', { name: 'Night shift' }).click();
  expect(await violationsOf(page)).toEqual([]);
});
