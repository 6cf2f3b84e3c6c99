/** People with PINs: a shop gets its lead, lets a tablet in, locks without loss, and refuses what is a lead's. */
import type { Browser, Page } from '@playwright/test';
import { expect, listenForComplaints, Sheet, test } from './shop.ts';

const step = (title: string) => ({ level: 2, name: title, exact: true }) as const;
const seat = (page: Page) => page.getByRole('button', { name: /at the bench/ });

/** Comes to the bench with a PIN, by keys. */
async function come(page: Page, name: string, pin: string): Promise<void> {
  await seat(page).click();
  const pane = page.getByRole('dialog', { name: 'Who is at the bench' });
  await pane.getByRole('button', { name }).click();
  await pane.getByLabel(`PIN of ${name}`).fill(pin);
  await pane.getByRole('button', { name: 'Come' }).click();
}

/** Another browser, which has never been here. */
async function another(browser: Browser, url: string): Promise<Page> {
  const context = await browser.newContext({ serviceWorkers: 'block' });
  const page = await context.newPage();
  await page.goto(url);
  return page;
}

test.describe('a shop of one’s own', () => {
  test.use({ isEmpty: true });

  test('gets its lead, then lets a tablet in by a code, and somebody comes to it by PIN', async ({
    page,
    shop,
    browser,
  }) => {
    await page.goto(`${shop.url}/setup?part=people`);
    await page.getByLabel('Name', { exact: true }).fill('Maeve');
    await page.getByLabel(/^PIN/).fill('1234');
    await page.getByRole('button', { name: 'Lead this shop' }).click();
    await expect(page.getByRole('alert')).toContainText('not tried first');
    await page.getByLabel(/^PIN/).fill('5184');
    await page.getByLabel(/^Passphrase/).fill('kelp over cold slate');
    await page.getByRole('button', { name: 'Lead this shop' }).click();
    await expect(seat(page)).toContainText('Maeve');
    await page.getByLabel('Name', { exact: true }).fill('Odd');
    await page.getByLabel(/^PIN/).fill('6041');
    await page.getByRole('button', { name: 'Add', exact: true }).click();
    await expect(page.getByRole('button', { name: 'Change Odd' })).toBeVisible();

    const tablet = await another(browser, shop.url);
    const complaints = listenForComplaints(tablet, [/status of 401/]);
    await expect(tablet.getByRole('heading', { level: 1 })).toContainText('not one of the shop’s');
    await page.getByRole('button', { name: 'Let a browser in' }).click();
    const code = await page.getByText(/^[A-Z2-9]{10}$/).innerText();
    await tablet.getByLabel('Code', { exact: true }).fill('WRONGCODE2');
    await tablet.getByLabel('What it is called').fill('Acid bench');
    await tablet.getByRole('button', { name: 'Make it one of the shop’s' }).click();
    await expect(tablet.getByRole('alert')).toContainText('not good any more');
    await tablet.getByLabel('Code', { exact: true }).fill(code);
    await tablet.getByRole('button', { name: 'Make it one of the shop’s' }).click();
    await expect(tablet.getByText('Nobody is at the bench')).toBeVisible();
    await come(tablet, 'Odd', '9999');
    await expect(tablet.getByRole('alert')).toContainText('That is not the PIN');
    await tablet.keyboard.press('Escape');
    await come(tablet, 'Odd', '6041');
    await expect(seat(tablet)).toContainText('Odd');
    await tablet.goto(`${shop.url}/setup`);
    await expect(tablet.getByText('it is changed by a lead (Maeve)')).toBeVisible();
    expect(complaints).toEqual([]);
    await tablet.context().close();

    await page.keyboard.press('Escape');
    await expect(page.getByText('Acid bench')).toBeVisible();
    await page.goto(`${shop.url}/setup?part=audit`);
    await expect(page.getByText('Odd: came to the bench')).toBeVisible();
    await page.getByText('Refused', { exact: true }).click();
    await expect(page.getByText('Odd: a wrong PIN')).toBeVisible();
  });
});

test('locked, nothing that was typed is lost; what is a lead’s is refused to the bench and done by the lead', async ({
  page,
  shop,
}) => {
  const sheet = await (await Sheet.open(shop)).toDwell();
  await page.goto(shop.url + sheet.path);
  await come(page, 'Tarek', '7352');
  await expect(seat(page)).toContainText('Tarek');
  await page.getByRole('button', { name: /Cut it short/ }).click();
  await page.getByLabel(/^Why\?/).fill('bone dry, the ferry leaves');
  await page.getByRole('button', { name: 'Record and go on' }).click();
  await expect(page.getByRole('alert')).toContainText('Tarek may not go against a house rule: a lead (Ines)');
  await expect(page.getByLabel(/^Why\?/)).toHaveValue('bone dry, the ferry leaves');

  await seat(page).click();
  await page.getByRole('button', { name: 'Leave the bench' }).click();
  await expect(page.getByText('Nobody is at the bench: say who you are')).toBeVisible();
  await expect(page.getByLabel(/^Why\?/)).toHaveValue('bone dry, the ferry leaves');
  await page.getByRole('button', { name: 'Record and go on' }).click();
  await expect(page.getByRole('alert')).toContainText('Say who is at the bench');

  await come(page, 'Ines', '4190');
  await expect(seat(page)).toContainText('Ines');
  await page.getByRole('button', { name: 'Record and go on' }).click();
  await expect(page.getByRole('heading', step('Lift the acid pack off'))).toBeVisible();
  await expect(page.getByText('passed over, “bone dry, the ferry leaves”')).toBeVisible();
});

/** As a scanner types: faster than any hand. */
async function scan(page: Page, code: string): Promise<void> {
  await page.evaluate((scanned) => {
    for (const key of [...scanned, 'Enter'])
      document.body.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
  }, code);
}

test.describe('while the server is away', () => {
  // What waits is tried while nobody is at the bench, and goes on waiting.
  test.use({ allowed: [/ERR_FAILED|status of 401/] });

  test('what waited under somebody’s name is marked until they confirm it', async ({ page, shop }) => {
    const sheet = await (await Sheet.open(shop)).toDwell();
    await page.goto(shop.url + sheet.path);
    await come(page, 'Tarek', '7352');
    await expect(seat(page)).toContainText('Tarek');
    await page.route('**/events', (route) => route.abort());
    const entry = page.getByLabel('Note for the log');
    await entry.fill('rings at noon');
    await page.getByRole('button', { name: 'Add', exact: true }).click();
    await expect(page.getByText('One entry is on the way')).toBeVisible();
    await seat(page).click();
    await page.getByRole('button', { name: 'Leave the bench' }).click();
    await expect(page.getByText('Nobody is at the bench: say who you are')).toBeVisible();
    await come(page, 'Ines', '4190');
    await page.unroute('**/events');
    await expect(page.getByText('One entry is on the way')).toBeHidden({ timeout: 20_000 });
    const marked = page.getByRole('listitem').filter({ hasText: 'rings at noon' });
    await expect(marked).toContainText('Tarek');
    await expect(marked).toContainText('as the browser knew it, not confirmed');
    await expect(page.getByText('came in under a name nobody proved')).toBeVisible();

    await come(page, 'Tarek', '7352');
    await expect(page.getByText('One entry came in under your name')).toBeVisible();
    await page.getByRole('button', { name: 'Look at it' }).click();
    const asked = page.getByRole('dialog', { name: 'Whose are these?' });
    await expect(asked).toContainText('sent by Ines');
    await asked.getByRole('button', { name: 'Confirm all' }).click();
    await expect(page.getByText('One entry came in under your name')).toBeHidden();
    await expect(marked).not.toContainText('not confirmed');
  });
});

test('a badge lets in on any page, never as the lead; a run sheet that is left may lock', async ({
  page,
  shop,
}) => {
  const sheet = await (await Sheet.open(shop)).toDwell();
  await page.goto(`${shop.url}/setup?part=people`);
  await come(page, 'Ines', '4190');
  await page.getByLabel('And as soon as a battery’s run sheet is left').check();
  await page.getByRole('button', { name: 'Set', exact: true }).click();
  await expect(page.getByText('In force on every browser.')).toBeVisible();
  await page.getByRole('button', { name: 'Change Ines' }).click();
  await page.getByRole('button', { name: 'Make a badge' }).click();
  const code = ((await page.getByAltText(/^Code /).getAttribute('alt')) ?? '').slice('Code '.length);
  expect(code).toMatch(/^EMBER[0-9A-F]{32}$/);
  await page.getByRole('button', { name: 'Done' }).click();
  await seat(page).click();
  await page.getByRole('button', { name: 'Leave the bench' }).click();

  await page.goto(shop.url + sheet.path);
  await expect(page.getByText('Nobody is at the bench: say who you are')).toBeVisible();
  await scan(page, code);
  await expect(seat(page)).toContainText('Ines');
  await page.getByRole('button', { name: /Cut it short/ }).click();
  await page.getByLabel(/^Why\?/).fill('bone dry');
  await page.getByRole('button', { name: 'Record and go on' }).click();
  await expect(page.getByRole('alert')).toContainText('Ines came by badge');
  await page.getByRole('link', { name: 'Ledger' }).click();
  await expect(page.getByText('Nobody is at the bench: say who you are')).toBeVisible();
});

test('a customer’s name is deleted, and what was done stays', async ({ page, shop }) => {
  await page.goto(`${shop.url}/setup?part=changes`);
  const customers = page.getByRole('region', { name: 'Customers' });
  await customers.getByRole('combobox', { name: 'Customer' }).click();
  await page.getByRole('option', { name: 'harbour tractor' }).click();
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    customers.getByRole('link', { name: /All that is kept/ }).click(),
  ]);
  expect(file.suggestedFilename()).toBe('customer.json');
  await customers.getByRole('button', { name: 'Delete the name' }).click();
  const asked = page.getByRole('dialog', { name: /Delete the name/ });
  await asked.getByLabel('Why').fill('asked for it by letter');
  await asked.getByRole('button', { name: 'Delete the name' }).click();
  await page.getByRole('button', { name: 'Understood' }).click();
  await page.goto(`${shop.url}/ledger`);
  await expect(page.getByText('name deleted').first()).toBeVisible();
  await expect(page.getByText('harbour tractor')).toHaveCount(0);
});

test('papers that are out are amended by a lead, and by nobody else', async ({ page, shop }) => {
  await page.goto(`${shop.url}/jobs/5ce77e00-0000-4000-8000-000000000121`);
  await come(page, 'Tarek', '7352');
  await expect(seat(page)).toContainText('Tarek');
  await page.getByRole('button', { name: /^Amend: Read voltage and warmth/ }).click();
  const pane = page.getByRole('dialog', { name: /Amend/ });
  await pane.getByRole('textbox', { name: 'Open-circuit voltage' }).fill('12.71');
  await pane.getByLabel('Why', { exact: true }).fill('the meter stood on the wrong range');
  await pane.getByRole('button', { name: 'Save the amendment' }).click();
  await expect(pane.getByRole('alert')).toContainText(
    'Tarek may not change a record whose papers are out: a lead (Ines) does that.',
  );
  await expect(pane.getByRole('textbox', { name: 'Open-circuit voltage' })).toHaveValue('12.71');
  await page.keyboard.press('Escape');
  await come(page, 'Ines', '4190');
  await expect(seat(page)).toContainText('Ines');
  await page.getByRole('button', { name: /^Amend: Read voltage and warmth/ }).click();
  await pane.getByRole('textbox', { name: 'Open-circuit voltage' }).fill('12.71');
  await pane.getByLabel('Why', { exact: true }).fill('the meter stood on the wrong range');
  await pane.getByRole('button', { name: 'Save the amendment' }).click();
  await expect(page.getByRole('region', { name: 'Issues' })).toContainText('Issue 2, sealed');
  await page.goto(`${shop.url}/setup?part=audit`);
  await page.getByText('Amended', { exact: true }).click();
  await expect(page.getByText(/Ines: SK-0121: the meter stood on the wrong range/)).toBeVisible();
});
