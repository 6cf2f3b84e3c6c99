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
