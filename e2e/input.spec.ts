import { pick, sent } from './keys.ts';
import { expect, NEXT_MORNING, Sheet, test } from './shop.ts';

test.describe('bad input gets one sentence and keeps what was typed', () => {
  test('readings', async ({ page, shop }) => {
    const sheet = await (await Sheet.open(shop)).toSoakReading();
    await page.goto(shop.url + sheet.path);
    const volts = page.getByLabel('Open-circuit voltage', { exact: true });
    const warmth = page.getByLabel('Case temperature', { exact: true });
    const record = page.getByRole('button', { name: 'Record', exact: true });

    await volts.fill('-12.6');
    await warmth.fill('24');
    await record.click();
    await expect(page.getByRole('alert')).toContainText(
      'below zero; check which lead is on which post. Allowed: 0 to 18 V.',
    );
    await expect(volts).toHaveValue('-12.6');

    await volts.fill('131');
    await record.click();
    await expect(page.getByRole('alert')).toContainText('13.10 V? Allowed: 0 to 18 V.');
    await expect(volts).toHaveValue('131');
    await page.getByRole('button', { name: 'Yes, 13.10 V' }).click();
    await expect(volts).toHaveValue('13.10');

    await volts.fill('12,71');
    await expect(page.getByText('Read as 12.71 V.')).toBeVisible();
    await warmth.fill('77');
    await record.click();
    await expect(page.getByRole('alert')).toContainText('25.0 °C? 77 looks like Fahrenheit.');
    await page.getByRole('button', { name: 'Yes, 25.0 °C' }).click();
    await record.click();
    await expect(page.getByRole('heading', { level: 2, name: 'First charge' })).toBeVisible();
    await expect(
      page.getByText('Read voltage and warmth: Open-circuit voltage 12.71 V, Case temperature 25.0 °C'),
    ).toBeVisible();
  });

  test('an unusual reading can be kept', async ({ page, shop }) => {
    const sheet = await (await Sheet.open(shop)).toSoakReading();
    await page.goto(shop.url + sheet.path);
    await page.getByLabel('Open-circuit voltage', { exact: true }).fill('9.4');
    await page.getByLabel('Case temperature', { exact: true }).fill('24');
    await page.getByRole('button', { name: 'Record', exact: true }).click();
    await page.getByRole('button', { name: 'Keep 9.4 V, I looked twice' }).click();
    await page.getByRole('button', { name: 'Record', exact: true }).click();
    await expect(page.getByRole('alert')).toContainText(
      '9.40 V is below 12.00 V: suspect a cell filled short or dead.',
    );
  });

  test('intake', async ({ page, shop }) => {
    await shop.moveTo(NEXT_MORNING);
    await page.goto(`${shop.url}/intake`);
    await page.getByLabel('Date code').fill('March');
    await page.getByLabel('For').fill('channel buoy 3');
    await page.getByRole('button', { name: 'Accept and open the run sheet' }).click();
    await expect(page.getByText('Type: choose one of the list, or read it off the label.')).toBeVisible();
    await expect(
      page.getByText('Date code: year and month, such as 2026-01, or nothing where nobody knows it.'),
    ).toBeVisible();
    await expect(page.getByLabel('Date code')).toHaveValue('March');
    await expect(page.getByLabel('For')).toHaveValue('channel buoy 3');
  });

  test('an unknown tag', async ({ page, shop }) => {
    await page.goto(shop.url);
    await page.getByLabel('Scan or type a tag').fill('SK-9999');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('alert')).toHaveText('No battery in this shop carries the tag SK-9999.');
    await expect(page.getByLabel('Scan or type a tag')).toHaveValue('SK-9999');
    await page.getByLabel('Scan or type a tag').fill('sk-0142');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('heading', { level: 1, name: 'SK-0142' })).toBeVisible();
  });
});

test('intake says why not today, and when instead', async ({ page, shop }) => {
  await shop.moveTo(Date.parse('2026-03-10T16:05:00Z'));
  await page.goto(`${shop.url}/intake`);
  await pick(page, 'Type on the label', 'LW-A12/9');
  const plan = page.getByRole('region', { name: 'Plan' });
  await expect(plan).toContainText(
    'it cannot be charged before the shop closes at 18:00; fill it Wed 07:30.',
  );
  await expect(plan).toContainText('Fill Wed 07:30');
});

test('a promise is tapped on a calendar and a clock, at 390 px too', async ({ page, shop }) => {
  await shop.moveTo(NEXT_MORNING);
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto(`${shop.url}/intake`);
  await page.getByLabel('Promised').click();
  const calendar = page.getByRole('dialog');
  await expect(calendar.getByRole('button', { name: '10 March' })).toBeDisabled();
  await calendar.getByRole('button', { name: '13 March' }).click();
  await calendar.getByRole('button', { name: '09', exact: true }).click();
  await calendar.getByRole('button', { name: ':30' }).click();
  const heights = await calendar
    .getByRole('button')
    .evaluateAll((keys) => keys.map((key) => key.getBoundingClientRect().height));
  expect(heights.length).toBeGreaterThan(40);
  expect(Math.min(...heights)).toBeGreaterThanOrEqual(48);
  await calendar.getByRole('button', { name: 'That is it' }).click();
  await expect(page.getByLabel('Promised')).toHaveText('Fri 13 Mar 09:30');
});

test('over plain http under a name of the shop’s network a battery is taken in and its steps are recorded', async ({
  page,
  shop,
}) => {
  await shop.moveTo(NEXT_MORNING);
  await page.goto(`http://skerry.test:${shop.port}/intake`);
  expect(await page.evaluate(() => window.isSecureContext)).toBe(false);
  await pick(page, 'Type on the label', 'LW-A12/9');
  await page.getByLabel('Date code').fill('2026-01');
  await page.getByLabel('For', { exact: true }).fill('channel buoy 3');
  await page.getByRole('button', { name: 'Accept and open the run sheet' }).click();
  await page.getByRole('button', { name: 'That is the battery' }).click();
  await expect(page.getByRole('heading', { level: 2, name: 'Read the label and the sheet' })).toBeVisible();
});

test.describe('while the server is away', () => {
  test.use({ allowed: [/./] });

  test('an entry is kept over a reload and recorded once when it is back', async ({ page, shop }) => {
    const sheet = await (await Sheet.open(shop)).checkIn();
    await page.goto(shop.url + sheet.path);
    await expect(page.getByLabel('Code on the pack')).toBeVisible();
    // What is fetched once the step stands there: without a worker that keeps the program it must have come.
    await expect(page.getByLabel('Note for the log')).toBeVisible();
    const { port } = shop;
    await shop.kill();
    await page.getByLabel('Note for the log').fill('lamp over bay 8 is out');
    await page.getByRole('button', { name: 'Add', exact: true }).click();
    await expect(page.getByText('One entry is on the way')).toBeVisible();
    await expect(page.getByText('The server is away.')).toBeVisible();
    await shop.start(port);
    await page.reload();
    await expect(page.getByText('Note: lamp over bay 8 is out')).toHaveCount(1);
    await expect(page.getByText('One entry is on the way')).toHaveCount(0);
    const job = await shop.ask<{ events: { kind: string }[] }>(`/api/jobs/${sheet.id}`);
    expect(job.events.filter((event) => event.kind === 'noted')).toHaveLength(1);
  });

  test('a batch goes on step by step, and each entry is recorded once when it is back', async ({
    page,
    shop,
  }) => {
    const sheet = await (await Sheet.open(shop)).affirm('identify#1');
    await sheet.put('measured', { step: 'label#1', values: {}, source: 'keypad' });
    await page.goto(`${shop.url}/batch?jobs=${sheet.id}`);
    const title = page.getByRole('article').getByRole('heading', { level: 2 });
    await expect(title).toHaveText('Make the place safe');
    const { port } = shop;
    await shop.kill();
    await page.getByRole('button', { name: 'All in place' }).click();
    await expect(title).toHaveText(/^Inspect/);
    await page.getByRole('button', { name: 'All sound' }).click();
    await expect(title).toHaveText('Match the pack’s code');
    await shop.start(port);
    await sent(page);
    await expect(title).toHaveText('Match the pack’s code');
    const { events } = await shop.ask<{ events: { kind: string }[] }>(`/api/jobs/${sheet.id}`);
    expect(events.map(({ kind }) => kind)).toEqual([
      'opened',
      'affirmed',
      'measured',
      'affirmed',
      'affirmed',
    ]);
  });
});
