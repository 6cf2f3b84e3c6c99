/** Machines with several batteries: found by their tag, their set brought in together, the bad one named, a whole new set fitted. */
import type { MachineAnswer } from '@cork-ember/core/contract/answers.ts';
import { pick, sent } from './keys.ts';
import { expect, test } from './shop.ts';

test('a set of four, from the complaint to a new set', async ({ page, shop }) => {
  test.setTimeout(300_000);
  // The machine's own label leads to it.
  await page.goto(`${shop.url}/shelf`);
  await page.getByLabel('Scan or type a tag').fill('m-0002');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1, name: 'Scissor lift 3' })).toBeVisible();
  await page.getByRole('link', { name: 'Bring the set in' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'The set of Scissor lift 3' })).toBeVisible();
  const rows = page.getByRole('main').getByRole('listitem');
  await expect(rows).toHaveCount(4);
  for (const [index, volts] of ['12.2', '12.15', '12.25', '10.4'].entries())
    await rows.nth(index).getByLabel('Voltage').fill(volts);
  await rows.filter({ hasText: 'SK-0034' }).getByLabel('Cracked, bulged or leaking').check();
  await expect(page.getByRole('status').filter({ hasText: /start with/i })).toBeVisible({ timeout: 180_000 });
  await page
    .getByRole('listitem', { name: 'SK-0034' })
    .getByRole('button', { name: /recycler/ })
    .click();
  await expect(rows).toHaveCount(3);
  await page.getByRole('button', { name: 'Take these 3 in, in this order' }).click();
  await expect(page).toHaveURL(/\/batch\?jobs=/);
  await sent(page);
  const onBench = await shop.ask<MachineAnswer>('/api/machines/M-0002');
  expect(onBench.batteries.filter(({ job, outcome }) => job && !outcome)).toHaveLength(3);

  // The machine says which one, and that the whole set goes.
  await page.goto(`${shop.url}/shelf/machines/M-0002`);
  await expect(page.getByRole('status')).toContainText('SK-0034 drags the set down');
  await expect(page.getByRole('main')).toContainText('Replace the whole set');
  await page.getByRole('button', { name: 'Replace the set' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Fit Deck four' }).click();
  await expect(page.getByRole('dialog')).toBeHidden();
  await sent(page);
  await expect(page.getByRole('table')).toContainText('SK-0021');
  await expect(page.getByRole('table')).not.toContainText('SK-0034');
  // Those on the bench are its batteries no more; what is good among them makes another set.
  const after = await shop.ask<MachineAnswer>('/api/machines/M-0002');
  expect(after.batteries.map(({ tag }) => tag)).toEqual(['SK-0021', 'SK-0022', 'SK-0023', 'SK-0024']);
  // Scanning one of them leads to its own page, which tells where it works.
  await page.goto(`${shop.url}/batteries/SK-0021`);
  await expect(page.getByRole('main')).toContainText('fitted in M-0002');
});

test('a machine is put down at 390 px, and found again by its name', async ({ page, shop }) => {
  await page.setViewportSize({ width: 390, height: 800 });
  await page.goto(`${shop.url}/shelf/machines`);
  await page.getByRole('button', { name: 'A machine' }).click();
  const dialog = page.getByRole('dialog', { name: 'A machine' });
  await dialog.getByRole('button', { name: 'Put it down' }).click();
  await expect(dialog).toContainText('Machine: what is it called?');
  await dialog.getByLabel('What it is called').fill('Pallet truck');
  await dialog.getByLabel('Whose it is').fill('cannery');
  await pick(dialog, 'What it carries', 'BK-A12/55');
  await dialog.getByLabel('Batteries in it').fill('99');
  await dialog.getByRole('button', { name: 'Put it down' }).click();
  await expect(dialog).toContainText('Batteries in it: from 1 to 24.');
  await dialog.getByLabel('Batteries in it').fill('2');
  await dialog.getByRole('button', { name: 'Put it down' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Pallet truck' })).toBeVisible();
  await expect(page.getByRole('status')).toContainText('Nobody has said yet which batteries work in it.');
  await page.goto(`${shop.url}/shelf/machines`);
  await page.getByLabel('Find').fill('cannery');
  await expect(page.getByRole('main').getByRole('listitem')).toHaveCount(1);
});
