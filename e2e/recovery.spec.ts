import { readFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import { PDFParse } from 'pdf-parse';
import { atStep, pace, passes, pick, press, sent, type } from './keys.ts';
import { expect, Sheet, test, type Shop } from './shop.ts';

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

/** Takes a way that is open: the advised one, if it is that, by its large button. */
async function choose(page: Page, route: string, reason?: string): Promise<void> {
  const way = page
    .getByRole('button', { name: new RegExp(`^(Choose: (.*beginning: )?${route}|Begin: ${route})`, 'i') })
    .first();
  await way.press('Enter');
  if (reason === undefined) return;
  await type(page, 'Why all the same? It stays on the record.', reason);
  await press(page, 'Take it all the same');
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
  await page.locator('summary').filter({ hasText: 'Not open to it, and why' }).press('Enter');
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
  await passes(page, shop, 30);
  await look(page, '11.9', '4', '24');
  await passes(page, shop, 31);
  await press(page, 'Charger is off at the mains');
  await atStep(page, 'Charger off, then leads off');
  await press(page, 'Charger off, leads off');
  await atStep(page, 'Let the surface charge go');
  await pace(page, 600);
  await atStep(page, 'Read it, 10 minutes on');
  await pace(page, 1);
  await reads(page, { 'Open-circuit voltage': '11.3' });
  await passes(page, shop, 21);
  await atStep(page, 'Read it again, 30 minutes on');
  await reads(page, { 'Open-circuit voltage': '11.25' });
  await atStep(page, 'Choose how it goes on');
  await expect(page.getByText('11.25 V and holding')).toBeVisible();

  await choose(page, 'Slow charge');
  await press(page, 'Charger is on');
  await passes(page, shop, 600);
  await look(page, '14.69', '0.35', '24');
  await passes(page, shop, 61);
  await look(page, '14.7', '0.32', '24');
  await passes(page, shop, 61);
  await look(page, '14.7', '0.31', '24');
  await expect(page.getByText('Done: the looks say so.')).toBeVisible();
  await press(page, 'Charger is off at the mains');
  await passes(page, shop, 6);
  await press(page, 'Clips are off');
  await passes(page, shop, 61);
  await reads(page, { 'Open-circuit voltage': '12.6', 'Case temperature': '22' });

  await choose(page, 'Long soak');
  await press(page, 'Charger is on');
  await passes(page, shop, 12 * 60);
  for (const amps of ['0.32', '0.31', '0.3', '0.3', '0.3']) {
    await passes(page, shop, 60);
    await look(page, '14.7', amps, '24');
  }
  await expect(page.getByText('Its current is flat: off, days of rest')).toBeVisible();
  await press(page, 'Charger is off at the mains');
  await passes(page, shop, 6);
  await press(page, 'Clips are off');
  await atStep(page, 'Days of rest');
  await passes(page, shop, 3 * 24 * 60);
  await atStep(page, 'Read it rested');
  await reads(page, { 'Open-circuit voltage': '12.8', 'Case temperature': '21' });

  await choose(page, 'Prove');
  await press(page, 'Disconnected');
  await passes(page, shop, 12 * 60 + 1);
  await reads(page, { 'Open-circuit voltage': '12.75', 'Case temperature': '21' });
  await reads(page, { 'Cranking current on the tester (EN)': '480' });
  await reads(page, { 'Minutes at 25 A': '62' });
  // Empty from its test it is charged to proven full and rested before its hold begins.
  await atStep(page, 'Charge it again');
  await press(page, 'Charger is on');
  await passes(page, shop, 900);
  for (const amps of ['0.35', '0.32', '0.31']) {
    await look(page, '14.7', amps, '24');
    await passes(page, shop, 61);
  }
  await press(page, 'Charger is off at the mains');
  await passes(page, shop, 6);
  await press(page, 'Clips are off');
  await passes(page, shop, 12 * 60 + 1);
  await atStep(page, 'Read it where the hold begins');
  await reads(page, { 'Open-circuit voltage': '12.76' });
  await passes(page, shop, 24 * 60);
  await atStep(page, 'Read it after a day');
  await reads(page, { 'Open-circuit voltage': '12.75' });
  await passes(page, shop, 6 * 24 * 60 + 5);
  await atStep(page, 'Read it after a week');
  await reads(page, { 'Open-circuit voltage': '12.74' });
  await atStep(page, /^Grade it/);
  await expect(page.getByText(/^Grade B:/)).toBeVisible();
  await press(page, 'Grade it so');
  await press(page, 'Marked and told');
  await press(page, 'All with it');
  await press(page, 'Sign it');
  await expect(page.getByRole('heading', { name: 'Recovered, as used' })).toBeVisible();
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: /Recovery certificate/ }).press('Enter'),
  ]);
  const { text } = await new PDFParse({ data: await readFile(await file.path()) }).getText();
  expect(text).toContain('Recovery certificate');
  expect(text).toContain('Grade');
  expect(text).toMatch(/Grade B[\s\S]*Capacity is \d\d % of the rating/);
  expect(text).toContain('not sold as new');
});

test('a wake by supply is raised as it takes it, read twice with nothing connected, and the automatic charger follows', async ({
  page,
  shop,
}) => {
  test.setTimeout(120_000);
  await brought(page, shop);
  await findOut(page, '5.4');
  await choose(page, 'Wake with a supply');
  await press(page, 'Checked by eye and by meter');
  await atStep(page, 'Wake with the supply');
  await expect(page.getByLabel('Current set on the charger', { exact: true })).toHaveValue('1.10');
  await press(page, 'Charger is on');
  await passes(page, shop, 15);
  await press(page, 'Raise to 2.75 A');
  await expect(page.getByRole('alert').filter({ hasText: 'Look first' })).toBeVisible();
  await type(page, 'Charge voltage', '14.2');
  await type(page, 'Charge current', '1.09');
  await type(page, 'Case temperature', '22');
  // Both in the same moment, as on a slow tablet: the second waits for the first, and neither is lost.
  await page.locator('main article').evaluate((card) => {
    const buttons = [...card.querySelectorAll('button')];
    for (const text of ['Record the look', 'Raise to 2.75 A'])
      buttons.find(({ textContent }) => textContent === text)?.click();
  });
  await expect(page.getByText('Current set to 2.75 A')).toBeVisible();
  await passes(page, shop, 15);
  await look(page, '13.3', '2.74', '23');
  await expect(page.getByText('It takes its current: off, then its readings')).toBeVisible();
  await press(page, 'Charger is off at the mains');
  await press(page, 'Charger off, clips off');
  await atStep(page, 'Let the surface charge go');
  await passes(page, shop, 11);
  await reads(page, { 'Open-circuit voltage': '11.4' });
  await passes(page, shop, 21);
  await reads(page, { 'Open-circuit voltage': '11.3' });
  await expect(page.getByText('11.30 V and holding')).toBeVisible();
  await choose(page, 'Slow charge');
  // It wants 10.5 V, and gets them now: what it came with does not count any more.
  await page.getByText(/^Why not another of the shop’s/).press('Enter');
  await expect(page.getByText('this one stands at 5.4 V')).toHaveCount(0);
});

test('a shorted battery is stopped by the app, and only another way is open', async ({ page, shop }) => {
  test.setTimeout(120_000);
  await brought(page, shop);
  await findOut(page, '7.9');
  await choose(page, 'Wake with a supply');
  await press(page, 'Checked by eye and by meter');
  await press(page, 'Charger is on');
  await passes(page, shop, 15);
  await look(page, '8.1', '1.09', '23');
  await passes(page, shop, 20);
  await look(page, '8.1', '1.1', '26');
  await expect(page.getByText(/^Suspected short\. Saw 8\.10 V after 35 min/).first()).toBeVisible();
  await press(page, 'Charger is off');
  await press(page, 'Leave this route, choose another way');
  await atStep(page, 'Choose how it goes on');
  await choose(page, 'Retire it');
  await atStep(page, 'Why it goes');
  await expect(page.getByRole('radio', { name: 'A dead or shorted cell' })).toBeChecked();
  await press(page, 'Record');
  await press(page, 'In the tray');
  await press(page, 'Retire it');
  await expect(page.getByRole('heading', { name: 'To the recycler' })).toBeVisible();
});

/** An AGM on its slow charge. */
async function charging(shop: Shop, ocvV: number): Promise<Sheet> {
  const sheet = await Sheet.open(shop, 'BK-A12/55', 'recover-agm');
  await sheet.findOut(ocvV);
  await sheet.put('routed', { step: 'choose-route#1', route: 'slow-charge' });
  return sheet.put('chargeStarted', { step: 'slow#1', currentA: 2.75 });
}

/** A logger's file of two hours: decimal commas, semicolons, seconds; the battery fills sooner than believed. */
function logFile(minutes: number): Buffer {
  const rows = Array.from({ length: minutes * 6 + 1 }, (_, index) => {
    const minute = index / 6;
    const volts = minute < 80 ? 13.2 + (1.48 * minute) / 80 : 14.68;
    const amps = minute < 80 ? 2.75 : 2.75 * Math.exp(-(minute - 80) / 25);
    return [minute * 60, volts.toFixed(3), amps.toFixed(3), (21 + minute / 60).toFixed(1)]
      .join(';')
      .replaceAll('.', ',');
  });
  return Buffer.from(['Logger 7;;;', 'Zeit (s);Spannung (V);Strom (A);Temp (°C)', ...rows].join('\n'));
}

test('a logger’s file is recognised, shown before it is taken in, and corrects the forecast', async ({
  page,
  shop,
}) => {
  test.setTimeout(150_000);
  const sheet = await charging(shop, 12.35);
  await shop.wait(125);
  await page.goto(shop.url + sheet.path);
  const forecast = page.getByRole('region', { name: 'Forecast of this charge' });
  const tapered = async (): Promise<number> =>
    Number(/after ([\d.]+) h/.exec((await forecast.textContent()) ?? '')?.[1]);
  await expect(forecast).toContainText(/Tapered off after/, { timeout: 60_000 });
  const before = await tapered();
  await page.getByLabel('Take in a logger’s file').setInputFiles({
    name: 'letter.txt',
    mimeType: 'text/plain',
    buffer: Buffer.from('Dear all,\nall is well.'),
  });
  await expect(page.getByRole('alert')).toContainText(
    /letter\.txt: This is no table|letter\.txt: The file holds/,
  );
  // What could be either of two columns is asked about, and remembered for this logger.
  const preview = page.getByRole('region', { name: 'The logger’s file' });
  const twin = {
    name: 'twin.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('t (s),U1 (V),U2 (V),I (A)\n0,5.0,13.2,2.7\n60,5.0,13.3,2.7'),
  };
  await page.getByLabel('Take in a logger’s file').setInputFiles(twin);
  await expect(preview.getByRole('alert')).toHaveText(
    'Say which column holds the voltage: “U1 (V)” or “U2 (V)” could.',
  );
  await expect(preview.getByRole('button', { name: 'Take it in' })).toBeDisabled();
  await pick(preview, 'Voltage', 'U2 (V)');
  await expect(preview).toContainText('2 rows over 0.02 h, 13.20 to 13.30 V');
  await preview.getByRole('button', { name: 'Leave it' }).click();
  await page.getByLabel('Take in a logger’s file').setInputFiles(twin);
  await expect(preview).toContainText('2 rows over 0.02 h, 13.20 to 13.30 V');
  await page
    .getByLabel('Take in a logger’s file')
    .setInputFiles({ name: 'bay-9.csv', mimeType: 'text/csv', buffer: logFile(120) });
  await expect(preview).toContainText('721 rows over 2.00 h, 13.20 to 14.68 V');
  await pick(preview, 'Voltage', 'choose a column');
  await expect(preview.getByRole('alert')).toContainText('Say which column holds the voltage');
  await pick(preview, 'Voltage', 'Spannung (V)');
  // Two hours of log cannot begin half an hour into a charge that is two hours old.
  await preview.getByLabel('It began after the charger went on, min').fill('30');
  await preview.getByRole('button', { name: 'Take it in' }).click();
  await expect(page.getByRole('alert')).toContainText('The log lasts 150 min');
  await preview.getByLabel('It began after the charger went on, min').fill('0');
  await preview.getByRole('button', { name: 'Take it in' }).click();
  await expect(page.getByText('Logger’s file taken in: bay-9.csv, 721 rows')).toBeVisible();
  await expect(async () => expect(await tapered()).toBeLessThan(before - 1)).toPass({ timeout: 60_000 });
});

test('a capacity test is extrapolated while it runs, look by look', async ({ page, shop }) => {
  test.setTimeout(150_000);
  const sheet = await charging(shop, 12.0);
  await shop.wait(1441);
  await sheet.put('chargeEnded', { step: 'slow#1', fullSignal: false });
  await shop.wait(6);
  await sheet.affirm('slow-clips#1');
  await shop.wait(61);
  const rested = { values: { ocvV: 12.85, tempC: 21 }, source: 'keypad' };
  await sheet.put('measured', { step: 'after-charge#1', ...rested });
  await sheet.put('routed', { step: 'choose-route#2', route: 'prove', reason: 'as far as it goes' });
  await sheet.affirm('prove-off#2');
  await shop.wait(1445);
  await sheet.put('measured', { step: 'prove-ocv#2', ...rested });
  await sheet.put('skipped', { step: 'prove-load#2' });
  await page.goto(shop.url + sheet.path);
  await page.getByText('While it runs: a look').click();
  const comesTo = page.getByRole('status').filter({ hasText: 'It will probably give' });
  const under = page.getByRole('textbox', { name: 'Voltage under the test' });
  const look = async (volts: string): Promise<void> => {
    await under.fill(volts);
    await under.press('Enter');
    await sent(page);
  };
  const width = async (): Promise<number> => {
    const [, low, high] = /\((\d+) to (\d+)\)/.exec((await comesTo.textContent()) ?? '') ?? [];
    return Number(high) - Number(low);
  };
  await expect(comesTo).toBeVisible({ timeout: 60_000 });
  const before = await width();
  await page.getByLabel('Minutes so far').fill('50');
  await look('12.20');
  const clock = page.getByText(/^On for/);
  await expect(clock).toContainText('On for 50 min, last look 12.20 V at 50 min.');
  await passes(page, shop, 20);
  await expect(clock).toContainText('On for 70 min');
  await look('11.60');
  await expect(clock).toContainText('last look 11.60 V at 70 min.');
  await expect(async () => expect(await width()).toBeLessThan(0.8 * before)).toPass({ timeout: 60_000 });
  await expect(comesTo).toContainText(/Be there from|Stay with it/);
  await passes(page, shop, 14);
  // The clock is told to the page: a look before that is one of the minute it knows.
  await expect(clock).toContainText('On for 84 min');
  await look('10.48');
  await expect(page.getByRole('alert').filter({ hasText: 'Load off now' })).toContainText(
    '10.48 V at 84 min',
  );
  // What it gave stands in its field, and is recorded by a person.
  await expect(page.getByLabel('Minutes at 25 A')).toHaveValue('84');
  await page.getByRole('button', { name: 'Record' }).click();
  await expect(page.getByRole('heading', { name: 'Charge it again' })).toBeVisible();
});
