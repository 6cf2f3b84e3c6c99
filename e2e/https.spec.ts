/** A tablet that is told to trust the shop, and a whole commissioning on https under a name of the shop's network. */
import { X509Certificate } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { sent } from './keys.ts';
import { expect, NEXT_MORNING, Sheet, test, type Shop } from './shop.ts';

test.use({ isSecure: true });

const nameOf = (shop: Shop, scheme: 'http' | 'https'): string =>
  scheme === 'http'
    ? `http://skerry.test:${shop.port}`
    : `https://skerry.test:${new URL(shop.secureUrl).port}`;

test.describe('before it trusts', () => {
  test.use({ allowed: [/ERR_CERT_AUTHORITY_INVALID/] });

  test('on plain http the camera says why it is not there, and the way leads to the certificate', async ({
    page,
    shop,
  }) => {
    await page.goto(nameOf(shop, 'http'));
    await page.getByRole('button', { name: 'Scan a tag with the camera' }).click();
    await expect(page.getByRole('dialog')).toContainText('The camera is kept from a page on plain http');
    await page.getByRole('link', { name: 'Open the shop on https' }).click();
    await expect(page.getByRole('heading', { level: 1 })).toHaveText('Trust this shop’s https');
    await expect(page.getByRole('status')).toContainText('does not trust the shop yet');
    const download = page.waitForEvent('download');
    await page.getByRole('link', { name: 'The shop’s certificate' }).click();
    const authority = new X509Certificate(await readFile(await (await download).path()));
    await expect(page.getByLabel(`Fingerprint ${authority.fingerprint256}`)).toBeVisible();
    await page.keyboard.press('?');
    await expect(page.getByRole('dialog')).toContainText('The screen may go dark');
  });
});

test.describe('once it trusts', () => {
  test.use({ ignoreHTTPSErrors: true });

  test('a boxed AGM is commissioned on https, with nothing kept back', async ({ page, shop }) => {
    test.setTimeout(120_000);
    const url = nameOf(shop, 'https');
    await shop.moveTo(NEXT_MORNING);
    await page.goto(`${url}/trust`);
    await expect(page.getByText('This page is secure already')).toBeVisible();
    await expect(page.getByText('This tablet trusts the shop.')).toBeVisible();
    expect(await page.evaluate(() => window.isSecureContext)).toBe(true);
    await page.goto(`${url}/intake`);
    await page.getByRole('combobox', { name: 'Type on the label' }).click();
    await page.getByPlaceholder('Type to find').fill('LW-A12/9');
    await page.keyboard.press('Enter');
    await page.getByLabel('Date code').fill('2026-01');
    await page.getByLabel('For', { exact: true }).fill('stock');
    await page.getByRole('button', { name: 'Accept and open the run sheet' }).click();
    await expect(page.getByRole('heading', { level: 2, name: 'Identify the battery' })).toBeVisible();
    const id = /jobs\/([^/?]+)/.exec(page.url())?.[1] ?? '';
    // What waits between is recorded by another tablet; this one sees it come.
    const sheet = await Sheet.at(shop, id);
    await sheet.toTest(true);
    await page.getByLabel('Open-circuit voltage', { exact: true }).fill('12.84');
    await page.getByLabel('Case temperature', { exact: true }).fill('23');
    await page.getByRole('button', { name: 'Record', exact: true }).click();
    await expect(page.getByRole('heading', { level: 2, name: 'Load it, or use the tester' })).toBeVisible();
    await sent(page);
    const tested = await Sheet.at(shop, id);
    await tested.put('measured', {
      step: 'test-load#1',
      values: { method: 'load', loadV: 10.9 },
      source: 'keypad',
    });
    await page.getByRole('button', { name: 'It passes' }).click();
    await expect(page.getByRole('heading', { level: 2, name: 'Ready it for hand-over' })).toBeVisible();
    await sent(page);
    await (await Sheet.at(shop, id)).affirm('hand-over#1');
    await page.getByRole('button', { name: 'Sign and certify' }).click();
    await expect(page.getByText('Certified, ready to hand over')).toBeVisible();
    await sent(page);
    const paper = page.waitForEvent('download');
    await page
      .getByRole('link', { name: /certificate/i })
      .first()
      .click();
    expect((await paper).suggestedFilename()).toMatch(/certificate\.pdf$/);
  });
});
