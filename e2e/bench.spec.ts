import { readFile } from 'node:fs/promises';
import { press, sent } from './keys.ts';
import { expect, Sheet, sitDown, test } from './shop.ts';

const JOB = '/jobs/5ce77e00-0000-4000-8000-000000000';

test('the bench says what hands do next, and a key goes there', async ({ page, shop }) => {
  await page.goto(shop.url);
  const band = page.getByRole('banner');
  await expect(band).toContainText('Lift the acid pack off');
  await expect(band).toContainText('SK-0136 · bay 6 · Overdue since 09:12');
  const list = page.getByRole('region', { name: 'Next hands' }).getByRole('listitem');
  await expect(list.first()).toContainText('SK-0136');
  await expect(list.filter({ hasText: 'SK-0149' }).first()).toContainText(
    'Pack code P-09 is not for this battery; it takes P-05.',
  );
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1, name: 'SK-0136' })).toBeVisible();
  await page.getByRole('link', { name: 'Bench' }).click();
  await expect(page.getByRole('heading', { level: 1, name: /^Bench/ })).toBeVisible();
  await page.locator('body').evaluate(() => (document.activeElement as HTMLElement).blur());
  await page.keyboard.press('3');
  await expect(page.getByRole('heading', { level: 1, name: 'SK-0147' })).toBeVisible();
});

test('an empty bay leads to intake with that bay chosen', async ({ page, shop }) => {
  await page.goto(shop.url);
  await page.getByRole('link', { name: /^empty/ }).click();
  await expect(page.getByLabel('Bay', { exact: true })).toContainText('8 · ');
});

test('too hot on charge: danger on every page, off now, and on again only when cool', async ({
  page,
  shop,
  browser,
}) => {
  const other = await browser.newPage();
  await sitDown(other, 'Tarek');
  await other.goto(shop.url);
  await page.goto(`${shop.url}${JOB}139`);
  await page.getByLabel('Charge voltage', { exact: true }).fill('14.1');
  await page.getByLabel('Charge current', { exact: true }).fill('1.1');
  await page.getByLabel('Case temperature', { exact: true }).fill('52');
  await page.getByRole('button', { name: 'Record the look' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'charger off now' })).toBeVisible();
  await expect(other.getByRole('banner')).toContainText('Charger off now');
  await expect(other.getByRole('banner')).toContainText('Danger');
  // The refusal comes while the answer to the entry before is still on its way, and outlasts it.
  let letGo = (): void => undefined;
  const held = new Promise<void>((resolve) => {
    letGo = resolve;
  });
  await page.route(
    '**/events',
    async (route) => {
      const response = await route.fetch();
      await held;
      await route.fulfill({ response });
    },
    { times: 1 },
  );
  await page.getByRole('button', { name: 'Charger is off' }).click();
  await page.getByLabel('Case temperature', { exact: true }).fill('44');
  await page.getByRole('button', { name: 'Charger is on again' }).click();
  const refusal = page.getByRole('alert');
  await expect(refusal).toContainText('it must be below 40 °C before the charger goes on again');
  letGo();
  await sent(page);
  await expect(refusal).toContainText('it must be below 40 °C before the charger goes on again');
  await page.getByLabel('Case temperature', { exact: true }).fill('38');
  await page.getByRole('button', { name: 'Charger is on again' }).click();
  await expect(page.getByRole('timer')).toBeVisible();
  await other.close();
});

test('a short fill by mass is held; it goes back, or on with a reason', async ({ page, shop }) => {
  const sheet = await (await Sheet.open(shop)).checkIn();
  await sheet.put('observed', { step: 'pack-code#1', code: 'P-09' });
  await sheet.put('measured', { step: 'weigh-dry#1', values: { dryG: 2910 }, source: 'keypad' });
  await sheet.affirm('foil-off#1', 'pack-on#1');
  await shop.wait(2);
  await sheet.put('observed', { step: 'bubbles#1', chambers: Array(6).fill(true) });
  await shop.wait(12);
  await sheet.put('observed', { step: 'empty#1', chambers: Array(6).fill(true) });
  await shop.wait(31);
  await sheet.affirm('pack-off#1');
  await page.goto(shop.url + sheet.path);
  await expect(page.getByText('492 mL × 1.320 kg/L = 649 g of acid.')).toBeVisible();
  await page.getByLabel('Mass, filled', { exact: true }).fill('3537');
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  await expect(page.getByRole('alert')).toContainText('627 g went in, 649 g were due');
  await expect(page.getByRole('button', { name: 'Short fill: send it back' })).toBeVisible();
  await page.getByRole('button', { name: /Go on all the same/ }).click();
  await page.getByLabel(/^Why\?/).fill('scale stood on the cable');
  await page.getByRole('button', { name: 'Record and go on' }).click();
  await expect(page.getByRole('heading', { level: 2, name: 'Let it soak' })).toBeVisible();
});

test('a number says where it came from', async ({ page, shop }) => {
  await page.goto(`${shop.url}${JOB}147`);
  await page.getByRole('button', { name: /Pack stays on/ }).click();
  await expect(page.getByText('30 min, from the handbook')).toBeVisible();
  await expect(page.getByText('Gravity needs this long to empty the pack')).toBeVisible();
});

test('what was taken back is struck through, and the step is asked again', async ({ page, shop }) => {
  const sheet = await (await Sheet.open(shop)).checkIn();
  await page.goto(shop.url + sheet.path);
  await page.getByRole('button', { name: 'Undo: Identify the battery' }).click();
  await expect(page.getByText(/Later entries rest on this one/)).toBeVisible();
  await page.getByRole('button', { name: 'Undo: Inspect case, posts and foil' }).click();
  await expect(page.getByRole('heading', { level: 2, name: 'Inspect case, posts and foil' })).toBeVisible();
  await expect(page.getByText(/#5 · Solveig, .*taken back by Ines/)).toBeVisible();
});

test.describe('on a tablet', () => {
  test.use({ hasTouch: true, viewport: { width: 768, height: 1024 } });

  test('the pad types where the finger was last and hides nothing, and every target is big enough for a glove', async ({
    page,
    shop,
  }) => {
    const sheet = await (await Sheet.open(shop)).toSoakReading();
    await page.goto(shop.url + sheet.path);
    const keypad = page.getByRole('group', { name: 'Keypad' });
    const press = async (...keys: string[]): Promise<void> => {
      for (const key of keys) await keypad.getByRole('button', { name: key, exact: true }).tap();
    };
    const volts = page.getByLabel('Open-circuit voltage', { exact: true });
    const warmth = page.getByLabel('Case temperature', { exact: true });
    const record = page.getByRole('button', { name: 'Record', exact: true });
    // The tablet's own keyboard stays down.
    await expect(volts).toHaveAttribute('inputmode', 'none');
    await volts.tap();
    await press('1', '2', 'Point', '7', '9', 'Delete last', 'Plus or minus');
    await expect(volts).toHaveValue('-12.7');
    await press('Plus or minus', 'Next field');
    await expect(warmth).toBeFocused();
    await press('2', '4');
    await expect(warmth).toHaveValue('24');
    // What stands in a field that is reached again is replaced by the first digit.
    await volts.tap();
    await press('9');
    await expect(volts).toHaveValue('9');
    for (const seen of [volts, record]) await expect(seen).toBeInViewport({ ratio: 1 });
    // Put away, it comes back for the same field too.
    await page.getByRole('button', { name: 'Put the pad away' }).tap();
    await expect(keypad).toBeHidden();
    await volts.tap();
    await expect(keypad).toBeVisible();
    const small = await page.locator('button:visible, input:visible, nav a:visible').evaluateAll((elements) =>
      elements
        .filter((element) => element.getBoundingClientRect().height > 0)
        .filter((element) => !(element as HTMLInputElement).classList.contains('sr-only'))
        .map((element) => ({
          name: element.getAttribute('aria-label') ?? element.textContent,
          height: element.getBoundingClientRect().height,
        }))
        .filter(({ height }) => height < 48),
    );
    expect(small).toEqual([]);
    const overflow = await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
    expect(overflow).toBeLessThanOrEqual(0);
  });
});

test('an ended job is downloaded as a file that says it all', async ({ page, shop }) => {
  await page.goto(`${shop.url}/batteries`);
  await page.getByRole('link', { name: 'SK-0121' }).click();
  await expect(page.getByText('certified', { exact: true })).toBeVisible();
  await page.getByRole('link', { name: 'Run sheet' }).click();
  const downloading = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Whole job (JSON)' }).click();
  const file = JSON.parse(await readFile(await (await downloading).path(), 'utf8')) as {
    format: string;
    entries: unknown[];
  };
  expect(file.format).toBe('cork-ember-job');
  expect(file.entries.length).toBeGreaterThan(25);
});

test('the theme follows the machine until one is chosen', async ({ page, shop }) => {
  await page.addInitScript(() => localStorage.removeItem('cork-ember-theme'));
  await page.emulateMedia({ colorScheme: 'dark' });
  await page.goto(shop.url);
  const root = page.locator('html');
  await expect(root).toHaveAttribute('data-theme', 'night');
  await page.emulateMedia({ colorScheme: 'light' });
  await expect(root).toHaveAttribute('data-theme', 'day');
  await page.getByRole('button', { name: 'Night shift' }).click();
  await page.emulateMedia({ colorScheme: 'light' });
  await expect(root).toHaveAttribute('data-theme', 'night');
});

test('the night theme is remembered', async ({ page, shop }) => {
  await page.goto(`${shop.url}/batteries`);
  await page.getByRole('button', { name: 'Night shift' }).click();
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'night');
  await expect(page.getByRole('button', { name: 'Day light' })).toBeVisible();
});

test('a battery that needs no charger goes to the shelf and frees its bay, on the keyboard', async ({
  page,
  shop,
}) => {
  await sitDown(page, 'Ines');
  const sheet = await Sheet.open(shop);
  await page.goto(shop.url + sheet.path);
  await press(page, 'in bay 8');
  await expect(page.getByRole('button', { name: 'To bay 1', exact: true })).toBeHidden();
  await press(page, 'To the shelf, no charger');
  await expect(page.getByRole('button', { name: 'on the shelf' })).toBeVisible();
  await sent(page);
  await page.goto(shop.url);
  await expect(page.getByRole('heading', { level: 1 })).toContainText('1 on the shelf');
  await expect(page.getByRole('link', { name: 'shelf SK-0200' })).toBeVisible();
  await page.getByRole('link', { name: /^empty/ }).click();
  await expect(page.getByLabel('Bay', { exact: true })).toContainText('8 · ');
  await page.goto(shop.url + sheet.path);
  await press(page, 'on the shelf');
  await press(page, 'To bay 8');
  await expect(page.getByRole('button', { name: 'in bay 8' })).toBeVisible();
});

test('what a view is for, and its keys, are one key away', async ({ page, shop }) => {
  for (const [path, title, key] of [
    ['/', 'Bench', 'open that bay'],
    ['/intake', 'Intake', 'type or scan a tag'],
    ['/setup', 'Setup', 'this page'],
  ] as const) {
    await page.goto(shop.url + path);
    await page.getByRole('button', { name: 'Help' }).waitFor();
    await page.locator('body').press('?');
    const pane = page.getByRole('dialog', { name: title });
    await expect(pane).toContainText(key);
    await page.keyboard.press('Escape');
    await expect(pane).toBeHidden();
  }
});
