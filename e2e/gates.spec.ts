import { readFile } from 'node:fs/promises';
import { PDFParse } from 'pdf-parse';
import { expect, listenForComplaints, Sheet, sitDown, test } from './shop.ts';

const step = (title: string) => ({ level: 2, name: title, exact: true }) as const;

test('a wrong pack code cannot be passed', async ({ page, shop }) => {
  const sheet = await (await Sheet.open(shop)).checkIn();
  await page.goto(shop.url + sheet.path);
  await page.getByLabel('Code on the pack').fill('P-12');
  await page.getByRole('button', { name: 'Check the code' }).click();
  await expect(page.getByRole('alert')).toContainText(
    'Pack code P-12 is not for this battery; it takes P-09.',
  );
  await expect(page.getByRole('heading', step('Match the pack’s code'))).toBeVisible();
  await expect(page.getByRole('button', { name: /all the same/ })).toHaveCount(0);
  await page.getByLabel('Code on the pack').fill('P-09');
  await page.getByRole('button', { name: 'Check the code' }).click();
  await expect(page.getByRole('heading', step('Weigh it dry'))).toBeVisible();
});

test('a broken foil ends with a return note', async ({ page, shop }) => {
  const sheet = await Sheet.open(shop);
  await sheet.affirm('identify#1');
  await sheet.put('measured', { step: 'label#1', values: {}, source: 'keypad' });
  await sheet.affirm('safety#1');
  await page.goto(shop.url + sheet.path);
  await page.getByRole('button', { name: 'Something is wrong' }).click();
  await page.getByRole('button', { name: 'The foil is broken' }).click();
  await page.getByRole('button', { name: 'End the job' }).click();
  await expect(page.getByRole('heading', step('Back to the supplier'))).toBeVisible();
  const downloading = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Return note (PDF)' }).click();
  const { text } = await new PDFParse({ data: await readFile(await (await downloading).path()) }).getText();
  expect(text).toContain('Return note');
  expect(text).toContain('Foil broken: do not commission.');
});

test('the pack is not lifted early without a reason on record', async ({ page, shop }) => {
  const sheet = await (await Sheet.open(shop)).toDwell();
  await page.goto(shop.url + sheet.path);
  await expect(page.getByRole('heading', step('Leave the pack on'))).toBeVisible();
  await expect(page.getByRole('button', { name: 'Pack is off' })).toHaveCount(0);
  await page.getByRole('button', { name: /Cut it short/ }).click();
  await page.getByLabel(/^Why\?/).fill('late');
  await page.getByRole('button', { name: 'Record and go on' }).click();
  await expect(page.getByRole('alert')).toContainText('at least 8 letters');
  await expect(page.getByLabel(/^Why\?/)).toHaveValue('late');
  await page.getByLabel(/^Why\?/).fill('bone dry, the ferry leaves');
  await page.getByRole('button', { name: 'Record and go on' }).click();
  await expect(page.getByRole('heading', step('Lift the acid pack off'))).toBeVisible();
  await expect(page.getByText('passed over, “bone dry, the ferry leaves”')).toBeVisible();
});

test('12.4 V after a proven charge goes round again', async ({ page, shop }) => {
  const sheet = await (await Sheet.open(shop)).toTest(true);
  await page.goto(shop.url + sheet.path);
  await page.getByLabel('Open-circuit voltage', { exact: true }).fill('12.4');
  await page.getByLabel('Case temperature', { exact: true }).fill('22');
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  await page.getByLabel('Lowest voltage under load', { exact: true }).fill('10.4');
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  await expect(page.getByText('Rested at 12.40 V; the floor is 12.60 V.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'It passes' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Charge it again' }).click();
  await expect(page.getByRole('heading', step('First charge'))).toBeVisible();
  await expect(page.getByText('Charge 2 of 3 at most. The lid is home and stays home.')).toBeVisible();
});

test('12.65 V without proof of full does not pass', async ({ page, shop }) => {
  const sheet = await (await Sheet.open(shop)).toTest(false);
  await sheet.put('measured', { step: 'test-ocv#1', values: { ocvV: 12.65, tempC: 22 }, source: 'keypad' });
  await sheet.put('measured', {
    step: 'test-load#1',
    values: { method: 'load', loadV: 10.4 },
    source: 'keypad',
  });
  await page.goto(shop.url + sheet.path);
  await expect(page.getByText(/^No proof of full/)).toBeVisible();
  await expect(
    page.getByText(/Charge about \d\d % \(\d+ to \d+ %\), from the rested voltage alone/),
  ).toBeVisible();
  await expect(page.getByRole('button', { name: 'It passes' })).toHaveCount(0);
  await expect(page.getByRole('button', { name: 'Charge it again' })).toBeVisible();
});

test('a first charge that stalls is not certified, and a supply has no full signal to press', async ({
  page,
  shop,
}) => {
  const sheet = await (await Sheet.open(shop)).toSoakReading();
  await sheet.put('measured', { step: 'ocv-soak#1', values: { ocvV: 12.7, tempC: 24 }, source: 'keypad' });
  const { chargers } = await shop.ask<{ chargers: { kind: string; modes?: string[] }[] }>('/api/shop');
  const charger = chargers.find(({ kind }) => kind === 'programmable');
  await sheet.put('chargeStarted', { step: 'charge#1', currentA: 0.9, dueMin: 260, charger });
  for (let look = 0; look < 5; look++) {
    await shop.wait(60);
    // Its voltage no longer rises, and its current does not fall.
    await sheet.put('chargeRead', {
      step: 'charge#1',
      values: { voltageV: 12.7, currentA: 0.9, tempC: 25 },
      source: 'keypad',
    });
  }
  await page.goto(shop.url + sheet.path);
  await expect(
    page.getByText(/12\.70 V at the last look; full is judged while 14\.\d V or more are held/),
  ).toBeVisible();
  await expect(page.getByRole('button', { name: /shows full/ })).toHaveCount(0);
  await sheet.put('chargeEnded', { step: 'charge#1', fullSignal: false });
  await shop.wait(6);
  await sheet.affirm('disconnect#1', 'lid#1');
  await shop.wait(61);
  await sheet.put('measured', { step: 'test-ocv#1', values: { ocvV: 12.84, tempC: 22 }, source: 'keypad' });
  await sheet.put('measured', {
    step: 'test-load#1',
    values: { method: 'load', loadV: 10.6 },
    source: 'keypad',
  });
  await expect(page.getByText(/^No proof of full/)).toBeVisible();
  await expect(page.getByRole('button', { name: 'It passes' })).toHaveCount(0);
});

test('a reload in the middle of a dwell shows the right time left', async ({ page, shop }) => {
  const sheet = await (await Sheet.open(shop)).toDwell();
  await page.goto(shop.url + sheet.path);
  await expect(page.getByRole('timer')).toHaveText(/^29:\d\d$/);
  await shop.wait(20);
  await page.reload();
  await expect(page.getByRole('timer')).toHaveText(/^09:\d\d$/);
});

test('two browsers see each other’s entries as they are made, without asking for them', async ({
  page,
  shop,
  browser,
}) => {
  const sheet = await (await Sheet.open(shop)).checkIn();
  const other = await browser.newPage();
  const complaints = listenForComplaints(other);
  await sitDown(other, 'Tarek');
  await Promise.all([page.goto(shop.url + sheet.path), other.goto(shop.url + sheet.path)]);
  for (const one of [page, other]) await expect(one.getByLabel('Code on the pack')).toBeVisible();
  const asked: string[] = [];
  for (const one of [page, other])
    one.on('request', (request) => {
      if (request.method() === 'GET' && request.url().includes('/api/jobs')) asked.push(request.url());
    });
  await other.getByLabel('Note for the log').fill('box was wet');
  await other.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(page.getByText('Note: box was wet')).toBeVisible();
  await page.getByLabel('Code on the pack').fill('P-09');
  await page.getByRole('button', { name: 'Check the code' }).click();
  await expect(other.getByRole('heading', step('Weigh it dry'))).toBeVisible();
  expect(asked).toEqual([]);
  expect(complaints).toEqual([]);
  await other.close();
});

test('a reading is corrected in place, and the old value stays readable in the log', async ({
  page,
  shop,
}) => {
  const sheet = await (await Sheet.open(shop)).toTest(true);
  await sheet.put('measured', { step: 'test-ocv#1', values: { ocvV: 12.44, tempC: 22 }, source: 'keypad' });
  await page.goto(shop.url + sheet.path);
  await page.getByRole('button', { name: /^Correct: Read the rested voltage/ }).click();
  const dialog = page.getByRole('dialog');
  const volts = dialog.getByLabel('Open-circuit voltage', { exact: true });
  await volts.fill('12.84');
  await dialog.getByRole('button', { name: 'Save the correction' }).click();
  await expect(dialog.getByText('Why: say it in a few words')).toBeVisible();
  await dialog.getByLabel('Why').fill('misread the meter');
  await dialog.getByRole('button', { name: 'Save the correction' }).click();
  await expect(dialog).toHaveCount(0);
  await expect(page.getByText(/mended by Ines: misread the meter/)).toBeVisible();
  // Mended again, it begins at the value in force; another field changed does not bring the first one back.
  await page.getByRole('button', { name: /^Correct: Read the rested voltage/ }).click();
  await expect(volts).toHaveValue('12.84');
  await dialog.getByLabel('Case temperature', { exact: true }).fill('23');
  await dialog.getByLabel('Why').fill('the probe had slipped');
  await dialog.getByRole('button', { name: 'Save the correction' }).click();
  await expect(dialog).toHaveCount(0);
  await expect(
    page.getByText('Read the rested voltage: Open-circuit voltage 12.84 V, Case temperature 23.0 °C').first(),
  ).toBeVisible();
  await page.getByLabel('Lowest voltage under load', { exact: true }).fill('10.4');
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  await expect(page.getByText('Rested at 12.84 V; the floor is 12.60 V.')).toBeVisible();
});
