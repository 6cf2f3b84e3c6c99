/** How warm it is where batteries stand: told of a place, month by month or by a logger, and what that makes of its batteries. */
import { sent } from './keys.ts';
import { expect, test } from './shop.ts';

test('a logger’s file says how warm a rack is; its batteries are foretold by it', async ({ page, shop }) => {
  const restsAt = async (): Promise<number> => {
    await page.goto(`${shop.url}/shelf`);
    const row = page.getByRole('main').getByRole('listitem').filter({ hasText: 'SK-0056' });
    return Number(/(\d+\.\d+) V/.exec(await row.innerText())?.[1]);
  };
  const before = await restsAt();
  await page.getByRole('link', { name: 'How warm' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'How warm it is' })).toBeVisible();
  const row = page.getByRole('main').getByRole('listitem').filter({ hasText: 'Rack 1' });
  await expect(row).toContainText('9 to 21 °C by month');
  await row.getByRole('button').click();
  const dialog = page.getByRole('dialog', { name: 'Rack 1' });
  await dialog.getByText('From a logger').click();
  await dialog.getByRole('button', { name: 'So warm it is' }).click();
  await expect(dialog).toContainText('Choose the logger’s file first.');
  const file = (lines: readonly string[]) => ({
    name: 'rack.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(lines.join('\n')),
  });
  await dialog.getByLabel(/The logger’s file/).setInputFiles(file(['no table at all']));
  await expect(dialog).toContainText('This is no table');
  const days = Array.from({ length: 100 }, (_, day) => new Date(Date.UTC(2025, 11, 1 + day)).toISOString());
  await dialog
    .getByLabel(/The logger’s file/)
    .setInputFiles(file(['Time;Temperature °C', ...days.map((day) => `${day.slice(0, 10)} 12:00;33.0`)]));
  await expect(dialog.getByRole('status')).toContainText('100 days');
  await dialog.getByRole('button', { name: 'So warm it is' }).click();
  await expect(dialog).toBeHidden();
  await expect(row).toContainText('logged 2025-12-01 to 2026-03-10');
  await sent(page);
  // Three months at 33 °C instead of ten take their charge.
  await expect.poll(restsAt).toBeLessThan(before - 0.02);
  // The record says who, and what was so before.
  await page.goto(`${shop.url}/setup?part=changes`);
  await expect(page.getByRole('main')).toContainText('Store Rack 1');
});

test('a maintainer that does not suit its battery is named where it is looked after', async ({
  page,
  shop,
}) => {
  await page.goto(`${shop.url}/shelf?tag=SK-0066`);
  const drawer = page.getByRole('dialog', { name: 'SK-0066' });
  await expect(drawer).toContainText('On Keeper, 50 mA');
  await expect(drawer).toContainText(
    'holds a current, not a voltage: it dries a small one out and starves a large one.',
  );
  await drawer.getByRole('button', { name: 'Move it' }).click();
  await drawer.getByRole('combobox', { name: 'On which charger' }).click();
  await page.getByRole('option', { name: 'Automatic, 0.8 to 5 A' }).click();
  await drawer.getByRole('button', { name: 'Put it there' }).click();
  await expect(drawer).toBeHidden();
  await sent(page);
  await page.goto(`${shop.url}/shelf?tag=SK-0066`);
  await expect(page.getByRole('dialog', { name: 'SK-0066' })).toContainText('On Automatic, 0.8 to 5 A');
});
