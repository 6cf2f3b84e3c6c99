/** What the interface stands on: a form that keeps what is typed, a shell that stays, a scanner caught anywhere. */
import { holdBack, PICTURE, press, sent } from './keys.ts';
import { expect, Sheet, sitDown, test } from './shop.ts';

/** What stands on the bench: worked out, and what a page works it out from. */
const BENCH = /\/api\/(bench|jobs)$/;

const LOOK = { voltageV: 14.2, currentA: 0.9, tempC: 25 };

/** On its first charge, a look just due. */
async function onCharge(sheet: Sheet): Promise<Sheet> {
  await sheet.toSoakReading();
  await sheet.put('measured', { step: 'ocv-soak#1', values: { ocvV: 12.7, tempC: 24 }, source: 'keypad' });
  await sheet.put('chargeStarted', { step: 'charge#1', currentA: 0.9, dueMin: 260 });
  await sheet.shop.wait(61);
  return sheet;
}

test('what is typed stays through a colleague’s entry, another view and a reload, until it is recorded', async ({
  page,
  shop,
}) => {
  const sheet = await onCharge(await Sheet.open(shop));
  await page.goto(shop.url + sheet.path);
  const volts = page.getByLabel('Charge voltage', { exact: true });
  await volts.fill('14.31');
  await sheet.put('chargeRead', { step: 'charge#1', values: LOOK, source: 'keypad' });
  await expect(page.getByText('On charge: 14.20 V, 0.90 A, 25.0 °C')).toBeVisible();
  await expect(volts).toHaveValue('14.31');
  await page.getByRole('link', { name: 'Reckoner' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Reckoner' })).toBeVisible();
  await page.goBack();
  await expect(volts).toHaveValue('14.31');
  await page.reload();
  await expect(volts).toHaveValue('14.31');
  // Enter goes from empty to empty, and records at the last.
  await volts.focus();
  await page.keyboard.press('Enter');
  await page.keyboard.type('0.88');
  await page.keyboard.press('Enter');
  await page.keyboard.type('26');
  await page.keyboard.press('Enter');
  await expect(page.getByText('On charge: 14.31 V, 0.88 A, 26.0 °C')).toBeVisible();
  await expect(volts).toHaveValue('');
});

test('a look is corrected while another is typed, each in its own fields', async ({ page, shop }) => {
  const sheet = await onCharge(await Sheet.open(shop));
  await sheet.put('chargeRead', { step: 'charge#1', values: LOOK, source: 'keypad' });
  await page.goto(shop.url + sheet.path);
  await page.getByLabel('Charge voltage', { exact: true }).fill('14.4');
  await press(page, 'Correct: On charge: 14.20 V, 0.90 A, 25.0 °C');
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Why').fill('read the wrong dial');
  await dialog.getByLabel('Charge voltage', { exact: true }).fill('14.1');
  await dialog.getByRole('button', { name: 'Save the correction' }).click();
  await expect(dialog).toBeHidden();
  await expect(page.getByText('On charge: 14.10 V, 0.90 A, 25.0 °C')).toBeVisible();
  await expect(page.getByLabel('Charge voltage', { exact: true })).toHaveValue('14.4');
});

test('a scanner is caught inside a field, and what stood there stands there', async ({ page, shop }) => {
  const sheet = await onCharge(await Sheet.open(shop));
  await page.goto(shop.url + sheet.path);
  const volts = page.getByLabel('Charge voltage', { exact: true });
  await volts.fill('14.3');
  await page.evaluate(() => {
    const field = document.activeElement as HTMLInputElement;
    // Made at once: a key's time is when it was pressed, not when a busy page came to it.
    const keys = [...'SK-0121', 'Enter'].map(
      (key) => new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }),
    );
    for (const event of keys) {
      const { key } = event;
      const isTaken = !field.dispatchEvent(event);
      if (key.length > 1 || isTaken) continue;
      field.setRangeText(key, field.value.length, field.value.length, 'end');
      field.dispatchEvent(new Event('input', { bubbles: true }));
    }
  });
  await expect(page).toHaveURL(/batteries\/SK-0121$/);
  await page.goBack();
  await expect(volts).toHaveValue('14.3');
});

test.describe('when something fails', () => {
  test.use({ allowed: [/./] });

  test('a view that throws leaves the band, the alarms and the way elsewhere, and can be tried again', async ({
    page,
    shop,
  }) => {
    let isBroken = true;
    await page.route('**/api/ledger/ways', (route) =>
      isBroken ? route.fulfill({ json: [{ way: null }] }) : route.fallback(),
    );
    await page.goto(`${shop.url}/ledger/ways`);
    await expect(page.getByRole('heading', { level: 1, name: 'This view could not be shown' })).toBeVisible();
    await expect(page).toHaveTitle('Lift the acid pack off · SK-0136');
    await page.keyboard.press('Alt+h');
    await expect(page.getByRole('button', { name: 'Heard' })).toBeHidden();
    // What falls due later calls all the same.
    await shop.wait(120);
    await expect(page.getByRole('button', { name: 'Heard' })).toBeVisible({ timeout: 20_000 });
    isBroken = false;
    await page.getByRole('button', { name: 'To the bench' }).click();
    await expect(page.getByRole('heading', { level: 1, name: /^Bench/ })).toBeVisible();
  });

  test('a first load that fails says so, and is tried again', async ({ page, shop }) => {
    let isAway = true;
    await page.route(BENCH, (route) => (isAway ? route.abort() : route.fallback()));
    await page.goto(shop.url);
    await expect(page.getByRole('button', { name: 'Try again' })).toBeVisible({ timeout: 20_000 });
    await expect(page.getByText('The bench is empty')).toBeHidden();
    isAway = false;
    await page.getByRole('button', { name: 'Try again' }).click();
    await expect(page.getByRole('heading', { level: 1, name: /^Bench/ })).toBeVisible();
  });

  test('the bench stands and moves on while the means to work it out cannot be fetched', async ({
    page,
    shop,
  }) => {
    const sheet = await (await Sheet.open(shop)).checkIn();
    let isBroken = true;
    await page.route('**/assets/reckoned-*', (route) => (isBroken ? route.abort() : route.fallback()));
    await page.goto(shop.url);
    const row = page.getByRole('link', { name: /SK-0200/ });
    const hands = page.getByRole('region', { name: 'Next hands' }).getByRole('listitem');
    await expect(row.first()).toBeVisible();
    await expect(hands.filter({ hasText: 'SK-0200' }).first()).toContainText('Match the pack’s code');
    await sheet.put('observed', { step: 'pack-code#1', code: 'P-09' });
    await expect(hands.filter({ hasText: 'SK-0200' }).first()).toContainText('Weigh it dry');
    // Nor is the server needed for the hour to strike.
    await page.route(BENCH, (route) => route.abort());
    await page.getByRole('button', { name: 'Heard' }).click();
    await shop.wait(180);
    await expect(page.getByRole('button', { name: 'Heard' })).toBeVisible({ timeout: 20_000 });
    await page.unroute(BENCH);
    isBroken = false;
    await sheet.put('skipped', { step: 'weigh-dry#1' });
    await expect(hands.filter({ hasText: 'SK-0200' }).first()).not.toContainText('Weigh it dry', {
      timeout: 20_000,
    });
  });

  test('an entry that is refused in the batch stays in the band, and can be entered again', async ({
    page,
    shop,
  }) => {
    const sheet = await (await Sheet.open(shop)).checkIn();
    await page.goto(`${shop.url}/batch?jobs=${sheet.id}`);
    await expect(page.getByLabel('Code on the pack')).toBeVisible();
    const { port } = shop;
    await shop.kill();
    await page.getByLabel('Code on the pack').fill('p09');
    await page.getByRole('button', { name: 'Check the code' }).click();
    await expect(page.getByRole('button', { name: '1 waiting' })).toBeVisible();
    const detail = 'Somebody recorded something meanwhile.';
    await page.route('**/events', (route) =>
      route.fulfill({ status: 409, json: { status: 409, title: 'Conflict', detail } }),
    );
    await shop.start(port);
    await page.getByRole('button', { name: '1 refused' }).click();
    const list = page.getByRole('dialog');
    await expect(list).toContainText('Match the pack’s code');
    await expect(list).toContainText(detail);
    await page.unroute('**/events');
    await list.getByRole('button', { name: 'Enter it again' }).click();
    await expect(page.getByRole('heading', { level: 2, name: 'Weigh it dry' })).toBeVisible();
    await expect(page.getByRole('button', { name: /refused/ })).toBeHidden();
    await sent(page);
    const { events } = await shop.ask<{ events: { kind: string }[] }>(`/api/jobs/${sheet.id}`);
    expect(events.filter(({ kind }) => kind === 'observed')).toHaveLength(1);
  });
});

for (const [where, host] of [
  ['on this machine', 'localhost'],
  ['over plain http under a name of the network', 'skerry.test'],
] as const)
  test.describe(`while the server is away, ${where}`, () => {
    test.use({ allowed: [/./] });

    test('what two tabs enter arrives once and in order, a picture with it', async ({
      page,
      context,
      shop,
    }) => {
      const sheet = await (await Sheet.open(shop)).checkIn();
      const { port } = shop;
      const address = `http://${host}:${port}${sheet.path}`;
      const other = await context.newPage();
      await sitDown(other);
      for (const tab of [page, other]) {
        await tab.goto(address);
        await expect(tab.getByLabel('Code on the pack')).toBeVisible();
      }
      await shop.kill();
      for (const [tab, text, waiting] of [
        [page, 'one', 1],
        [other, 'two', 2],
        [page, 'three', 3],
      ] as const) {
        await tab.getByLabel('Note for the log').fill(text);
        await tab.getByRole('button', { name: 'Add', exact: true }).click();
        await expect(tab.getByRole('button', { name: `${waiting} waiting` })).toBeVisible();
      }
      await other.getByLabel('Photo of this step').setInputFiles(PICTURE);
      for (const tab of [page, other])
        await expect(tab.getByRole('button', { name: '4 waiting' })).toBeVisible();
      await shop.start(port);
      for (const tab of [page, other]) await sent(tab);
      const { events } = await shop.ask<{
        events: { kind: string; payload: { text?: string; photo?: string } }[];
      }>(`/api/jobs/${sheet.id}`);
      const [last] = events.slice(-1);
      expect(events.filter(({ kind }) => kind === 'noted').map(({ payload }) => payload.text)).toEqual([
        'one',
        'two',
        'three',
      ]);
      expect(last?.kind).toBe('photographed');
      const photo = last?.payload.photo ?? '';
      const picture = await fetch(`${shop.url}/api/jobs/${sheet.id}/photos/${photo}`);
      expect(picture.headers.get('content-type')).toBe('image/jpeg');
    });

    test('a colleague’s note makes no entry late, and a step somebody else answered is not answered twice', async ({
      page,
      shop,
    }) => {
      const sheet = await (await Sheet.open(shop)).checkIn();
      await page.goto(`http://${host}:${shop.port}${sheet.path}`);
      await expect(page.getByLabel('Code on the pack')).toBeVisible();
      // What this page enters leaves it, and does not arrive.
      await page.route('**/events', (route) => route.abort());
      await page.getByLabel('Code on the pack').fill('P 09');
      await page.getByRole('button', { name: 'Check the code' }).click();
      await expect(page.getByRole('button', { name: '1 waiting' })).toBeVisible();
      await sheet.put('noted', { text: 'lamp over bay 8 is out' });
      await page.unroute('**/events');
      await sent(page);
      const kinds = async (): Promise<string[]> => {
        const { events } = await shop.ask<{ events: { kind: string }[] }>(`/api/jobs/${sheet.id}`);
        return events.slice(-2).map(({ kind }) => kind);
      };
      expect(await kinds()).toEqual(['noted', 'observed']);
      const late = await Sheet.at(shop, sheet.id);
      await expect(page.getByRole('heading', { level: 2, name: 'Weigh it dry' })).toBeVisible();
      await page.route('**/events', (route) => route.abort());
      await page.getByRole('button', { name: 'No scale, go on' }).click();
      await expect(page.getByRole('button', { name: '1 waiting' })).toBeVisible();
      await late.put('skipped', { step: 'weigh-dry#1' });
      await page.unroute('**/events');
      await expect(page.getByRole('button', { name: '1 refused' })).toBeVisible();
      expect(await kinds()).toEqual(['observed', 'skipped']);
    });
  });

test('the band says a load that has not come yet, and never that the bench is empty', async ({
  page,
  shop,
}) => {
  const release = await holdBack(page, BENCH);
  await page.goto(shop.url);
  await expect(page.getByRole('banner')).toBeVisible();
  await expect(page.getByText('The bench is empty')).toBeHidden();
  release();
  await expect(page.getByRole('heading', { level: 1, name: /^Bench/ })).toBeVisible();
});

test('a form that goes by the clock waits for it: nothing is promised for the year 1970', async ({
  page,
  shop,
}) => {
  const release = await holdBack(page, '**/api/clock');
  await page.goto(`${shop.url}/intake`);
  await expect(page.getByText('One moment …')).toBeVisible();
  release();
  await expect(page.getByLabel('Promised')).toContainText('Wed 11 Mar');
});
