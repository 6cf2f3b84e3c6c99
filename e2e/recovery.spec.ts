import { readFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import { PDFParse } from 'pdf-parse';
import { pace, press, type } from './keys.ts';
import { expect, Sheet, test, type Shop } from './shop.ts';

const atStep = (page: Page, title: string | RegExp) =>
  expect(page.getByRole('heading', { level: 2, name: title })).toBeVisible();

/** A large AGM that stood flat, on the bench for recovery. */
async function brought(page: Page, shop: Shop, rules: Record<string, string> = {}): Promise<void> {
  if (Object.keys(rules).length > 0)
    await shop.ask('/api/shop/changes', { by: 'Ines', why: 'as agreed', rules });
  const sheet = await Sheet.open(shop, 'BK-A12/55', 'recover-agm');
  await page.goto(shop.url + sheet.path);
}

/** From the door to the choice of a route, on the keyboard. */
async function findOut(page: Page, volts: string): Promise<void> {
  await atStep(page, 'Identify the battery');
  await page.keyboard.press('Enter');
  await atStep(page, 'Read the label and the sheet');
  await page.keyboard.press('Enter');
  await atStep(page, 'Make the place safe');
  await page.keyboard.press('Enter');
  await atStep(page, 'Look before you touch');
  await page.keyboard.press('Enter');
  await atStep(page, 'What is known of it');
  await press(page, /^Record$/);
  await atStep(page, 'Clean it first');
  await press(page, 'Clean, posts bright');
  await atStep(page, 'Read it as it came');
  await reads(page, { 'Open-circuit voltage': volts, 'Case temperature': '21' });
  await atStep(page, 'Tester, if there is one');
  await press(page, 'No tester, go on');
  await atStep(page, 'Choose how it goes on');
}

/** Fills the fields and records them, unusual or not. */
async function reads(page: Page, values: Record<string, string>, button: RegExp = /^Record$/): Promise<void> {
  for (const [label, text] of Object.entries(values)) await type(page, label, text);
  await press(page, button, page.locator('main article'));
}

async function choose(page: Page, route: string): Promise<void> {
  await page.getByRole('radio', { name: new RegExp(`^${route}`) }).press('Space');
  await press(page, route);
}

const look = (page: Page, voltageV: string, currentA: string, tempC: string): Promise<void> =>
  reads(
    page,
    { 'Charge voltage': voltageV, 'Charge current': currentA, 'Case temperature': tempC },
    /^Record the look$/,
  );

test('a deep AGM goes from triage through donor wake and long soak to a grade B certificate at 600×', async ({
  page,
  shop,
}) => {
  test.setTimeout(300_000);
  await brought(page, shop, { wakeMethod: 'donor', gradeRest: 'h12' });
  await findOut(page, '5.4');
  await page.getByText('Not open to it, and why').press('Enter');
  await expect(page.getByText('An AGM is never equalised')).toBeVisible();
  await choose(page, 'Wake beside a donor');
  await atStep(page, 'Check the donor');
  await reads(page, { 'Donor’s rested voltage': '12.6' });
  await atStep(page, 'Polarity, twice');
  await press(page, 'Checked by eye and by meter');
  await atStep(page, /^Leads on/);
  await expect(page.getByText(/A may leap over if a cell is shorted/)).toBeVisible();
  await press(page, 'Leads are on and stay cool');
  await atStep(page, 'One hour beside the donor');
  await press(page, 'Charger is on');
  await shop.wait(30);
  await look(page, '11.9', '8', '24');
  await shop.wait(31);
  await press(page, 'Charger is off at the mains');
  await atStep(page, 'Charger off, then leads off');
  await press(page, 'Charger off, leads off');
  await atStep(page, 'Let the surface charge go');
  await pace(page, 600);
  await atStep(page, 'Read it, 10 minutes on');
  await pace(page, 1);
  await reads(page, { 'Open-circuit voltage': '11.3' });
  await shop.wait(21);
  await atStep(page, 'Read it again, 30 minutes on');
  await reads(page, { 'Open-circuit voltage': '11.25' });
  await atStep(page, 'Choose how it goes on');
  await expect(page.getByText('11.25 V and holding')).toBeVisible();

  await choose(page, 'Slow charge');
  await press(page, 'Charger is on');
  await shop.wait(600);
  await look(page, '14.69', '0.35', '24');
  await shop.wait(61);
  await look(page, '14.7', '0.32', '24');
  await shop.wait(61);
  await look(page, '14.7', '0.31', '24');
  await expect(page.getByText('Done: the looks say so.')).toBeVisible();
  await press(page, 'Charger is off at the mains');
  await shop.wait(6);
  await press(page, 'Clips are off');
  await shop.wait(61);
  await reads(page, { 'Open-circuit voltage': '12.6', 'Case temperature': '22' });

  await choose(page, 'Long soak');
  await press(page, 'Charger is on');
  await shop.wait(16 * 60 + 1);
  await press(page, 'Charger is off at the mains');
  await shop.wait(6);
  await press(page, 'Clips are off');
  await atStep(page, 'Days of rest');
  await shop.wait(3 * 24 * 60);
  await atStep(page, 'Read it rested');
  await reads(page, { 'Open-circuit voltage': '12.8', 'Case temperature': '21' });

  await choose(page, 'Prove and grade it');
  await press(page, 'Disconnected');
  await shop.wait(12 * 60 + 1);
  await reads(page, { 'Open-circuit voltage': '12.75', 'Case temperature': '21' });
  await reads(page, { 'Minutes at 25 A': '62' });
  await reads(page, { 'Cranking current on the tester': '480' });
  await shop.wait(24 * 60);
  await atStep(page, 'Read it after a day');
  await reads(page, { 'Open-circuit voltage': '12.73' });
  await shop.wait(6 * 24 * 60 + 5);
  await atStep(page, 'Read it after a week');
  await reads(page, { 'Open-circuit voltage': '12.7' });
  await atStep(page, /^Grade it/);
  await expect(page.getByText(/^Grade B:/)).toBeVisible();
  await press(page, 'Grade it so');
  await press(page, 'Marked and told');
  await press(page, 'Sign it');
  await expect(page.getByRole('heading', { name: 'Recovered, as used' })).toBeVisible();
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: /Recovery certificate/ }).press('Enter'),
  ]);
  const { text } = await new PDFParse({ data: await readFile(await file.path()) }).getText();
  expect(text).toContain('Recovery certificate');
  expect(text).toContain('Grade');
  expect(text).toMatch(/B: Capacity is \d\d % of the rating/);
  expect(text).toContain('not sold as new');
});

test('a shorted battery is stopped by the app, and only another way is open', async ({ page, shop }) => {
  test.setTimeout(120_000);
  await brought(page, shop);
  await findOut(page, '7.9');
  await choose(page, 'Wake with a supply');
  await press(page, 'Checked by eye and by meter');
  await press(page, 'Charger is on');
  await shop.wait(15);
  await look(page, '8.1', '2.7', '23');
  await shop.wait(20);
  await look(page, '8.1', '2.75', '26');
  await expect(
    page.getByText(/not rising while it takes the current: suspected short/).first(),
  ).toBeVisible();
  await press(page, 'Charger is off');
  await press(page, 'Leave this route, choose another way');
  await atStep(page, 'Choose how it goes on');
  await choose(page, 'Retire it');
  await press(page, 'In the tray');
  await press(page, 'Retire it');
  await expect(page.getByRole('heading', { name: 'To the recycler' })).toBeVisible();
});

test('evidence narrows down what is the matter, on the keyboard and at 768 px', async ({ page, shop }) => {
  test.setTimeout(120_000);
  await page.setViewportSize({ width: 768, height: 1024 });
  const sheet = await Sheet.open(shop, 'BK-A12/55', 'recover-agm');
  await sheet.findOut(10.6);
  await page.goto(shop.url + sheet.path);
  await page.getByRole('link', { name: 'What is the matter?' }).press('Enter');
  await expect(page.getByRole('heading', { level: 1, name: 'Evidence' })).toBeVisible();
  const causes = page.getByRole('region', { name: 'What is probably the matter' });
  await expect(causes.getByRole('listitem').first()).toContainText('A shorted cell', { timeout: 30_000 });
  await expect(page.getByRole('region', { name: 'Why' })).toContainText('Rested 10.60 V');
  await press(page, 'Tester');
  await type(page, 'Cranking current on the tester', '430');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('region', { name: 'Why' })).toContainText('Tester shows 430 A', {
    timeout: 30_000,
  });
  await expect(page.getByLabel('Cranking current on the tester', { exact: true })).toHaveValue('');
  await page.reload();
  await expect(page.getByRole('region', { name: 'Why' })).toContainText('Tester shows 430 A', {
    timeout: 30_000,
  });
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(768);
});
