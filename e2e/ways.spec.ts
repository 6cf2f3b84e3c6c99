/** Ways to their end, and chargers that are refused where the current would flow. */
import { atStep, passes, press, type } from './keys.ts';
import { expect, Sheet, test, type Shop } from './shop.ts';

const DAY = 24 * 60;
const eachCell = (id: string, of: string | number, cells = 6): Record<string, string | number> =>
  Object.fromEntries(Array.from({ length: cells }, (_, index) => [`${id}${index + 1}`, of]));

const measured = (sheet: Sheet, step: string, values: Record<string, string | number>): Promise<Sheet> =>
  sheet.put('measured', { step, values, source: 'keypad' });

/** A flooded battery, opened and looked into, up to its first choice of a way. */
async function openedUp(shop: Shop, ocvV: number): Promise<Sheet> {
  const sheet = await Sheet.open(shop, 'BK-F12/70', 'recover-flooded');
  await sheet.checkIn();
  await measured(sheet, 'history#1', { complaint: 'parked' });
  await sheet.affirm('clean#1');
  await measured(sheet, 'first-ocv#1', { ocvV, tempC: 21, rested: 'yes' });
  await measured(sheet, 'open-cells#1', { caps: 'caps' });
  await measured(sheet, 'levels-cells#1', eachCell('level', 'at-line'));
  await measured(sheet, 'density-before#1', { ...eachCell('density', 1.2), acidC: 21 });
  for (const step of ['dips-before#1', 'load-before#1']) await sheet.put('skipped', { step });
  await measured(sheet, 'water-before#1', { added: 'none' });
  return sheet.put('skipped', { step: 'first-tester#1' });
}

/** The slow charge of a round up to its proof of full, closed and read again. */
async function chargedFull(sheet: Sheet, shop: Shop, round: number, currentA: number): Promise<void> {
  const slow = `slow#${round}`;
  await sheet.put('chargeStarted', { step: slow, currentA });
  for (const [minutes, amps] of [
    [600, currentA * 0.5],
    [240, currentA * 0.16],
    [60, currentA * 0.14],
    [65, currentA * 0.14],
  ] as const) {
    await shop.wait(minutes);
    const values = { voltageV: 14.6, currentA: amps, tempC: 25 };
    await sheet.put('chargeRead', { step: slow, values, source: 'meter' });
  }
  await sheet.put('chargeEnded', { step: slow, fullSignal: false });
  await shop.wait(6);
  await sheet.affirm(`slow-clips#${round}`);
}

test('a charger for 12 V is not on offer for a 6 V battery, and says why; the server refuses it too', async ({
  page,
  shop,
}) => {
  const sheet = await Sheet.open(shop, 'LW-A6/12', 'recover-agm');
  await sheet.findOut(6);
  await sheet.put('routed', { step: 'choose-route#1', route: 'slow-charge' });
  await page.goto(shop.url + sheet.path);
  await atStep(page, 'Slow charge');
  await page.getByText(/^Why not another of the shop’s/).press('Enter');
  await expect(page.getByText('Old garage charger: is for 12 V; this battery has 6 V.')).toBeVisible();
  await expect(page.getByRole('radio', { name: 'Old garage charger' })).toHaveCount(0);
  const { chargers } = await shop.ask<{ chargers: readonly { id: string }[] }>('/api/shop');
  const charger = chargers.find(({ id }) => id === 'garage');
  const started = sheet.put('chargeStarted', { step: 'slow#1', currentA: 0.6, charger });
  await expect(started).rejects.toThrow('is for 12 V; this battery has 6 V');
});

test('a gel programme is never for an AGM, and says so', async ({ page, shop }) => {
  const sheet = await Sheet.open(shop, 'BK-A12/55', 'recover-agm');
  await sheet.findOut(12.1);
  await sheet.put('routed', { step: 'choose-route#1', route: 'slow-charge' });
  await page.goto(shop.url + sheet.path);
  await page.getByText(/^Why not another of the shop’s/).press('Enter');
  await expect(
    page.getByText('Gel charger, 2 A: has only a gel programme; that is never for an AGM.'),
  ).toBeVisible();
  await expect(page.getByRole('radio', { name: 'Gel charger, 2 A' })).toHaveCount(0);
});

test('a discharge is followed at once by its recharge, a rest and its retest; the looks have a clock', async ({
  page,
  shop,
}) => {
  const sheet = await Sheet.open(shop, 'BK-A12/55', 'recover-agm');
  await sheet.findOut(12.7);
  await sheet.put('routed', { step: 'choose-route#1', route: 'cycle' });
  await page.goto(shop.url + sheet.path);
  await atStep(page, 'Start the discharge');
  await press(page, 'Load is on');
  await atStep(page, 'Load off at 11.5 V');
  await page.getByText('While it runs: a look now and then').press('Enter');
  await type(page, 'Voltage under the test', '12.4');
  await press(page, 'Load is on: start its clock');
  await expect(page.getByText(/^On for/)).toBeVisible();
  await passes(page, shop, 240);
  await type(page, 'Voltage under the test', '11.5');
  await press(page, 'Take the look in');
  await expect(page.getByText(/it is at its end/)).toBeVisible();
  await expect(page.getByLabel('Minutes under load')).toHaveValue('240');
  await press(page, /^Record$/, page.locator('main article'));
  await atStep(page, 'Charge it again, at once');
  await press(page, 'Charger is on');
  await passes(page, shop, DAY);
  await press(page, 'Charger is off at the mains');
  await passes(page, shop, 6);
  await press(page, 'Clips are off');
  await atStep(page, 'Let it rest');
  await passes(page, shop, 240);
  await atStep(page, 'Test it again');
});

test('layered acid is brought level: charged to gassing round after round, every cell read, then closed', async ({
  page,
  shop,
}) => {
  test.setTimeout(150_000);
  const sheet = await openedUp(shop, 12.4);
  await sheet.put('routed', { step: 'choose-route#1', route: 'slow-charge' });
  await chargedFull(sheet, shop, 1, 3.5);
  await measured(sheet, 'slow-to-line#1', { added: 'none' });
  await sheet.affirm('slow-caps#1');
  await shop.wait(61);
  await measured(sheet, 'after-charge#1', { ocvV: 12.7, tempC: 21 });
  await sheet.put('routed', { step: 'choose-route#2', route: 'layered' });
  await page.goto(shop.url + sheet.path);
  for (const density of ['1.252', '1.256', '1.258']) {
    await atStep(page, 'Charge to gassing');
    await press(page, 'Charger is on');
    await passes(page, shop, 121);
    await press(page, 'Charger is off at the mains');
    await passes(page, shop, 6);
    await press(page, 'Clips are off');
    await atStep(page, 'Density of every cell');
    for (let cell = 1; cell <= 6; cell++) await type(page, `Cell ${cell}`, density);
    await type(page, 'Temperature of the electrolyte', '25');
    await press(page, /^Record$/, page.locator('main article'));
  }
  await atStep(page, 'Levels to the line');
});

test('cells are looked at one by one on the drawing, all at one press or each by itself', async ({
  page,
  shop,
}) => {
  const sheet = await Sheet.open(shop, 'BK-F12/70', 'recover-flooded');
  await sheet.checkIn();
  await measured(sheet, 'history#1', { complaint: 'parked' });
  await sheet.affirm('clean#1');
  await measured(sheet, 'first-ocv#1', { ocvV: 12.1, tempC: 21, rested: 'yes' });
  await page.goto(shop.url + sheet.path);
  await atStep(page, 'Open the cells');
  await page.getByRole('radio', { name: 'Ports under a label' }).press('Space');
  await press(page, /^Record$/, page.locator('main article'));
  await atStep(page, 'Lift the label over the ports');
  await press(page, 'Open at its ports');
  await atStep(page, 'Look into every cell');
  // What nobody looked at is asked for, not guessed.
  await press(page, /^Record$/, page.locator('main article'));
  await expect(page.getByText(/cell 1: choose at line or low or bare/)).toBeVisible();
  await press(page, 'All cells: at line');
  await page.getByRole('group', { name: 'Acid above the plates, cell 4' }).getByText('Bare').click();
  await press(page, /^Record$/, page.locator('main article'));
  await atStep(page, 'Density, cell by cell');
  await press(page, 'No acid to draw');
  await atStep(page, 'Cover the bare plates first');
  await expect(page.getByText(/No load is put on this battery before its charge/)).toBeVisible();
});
