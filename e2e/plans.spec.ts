/** Batteries that wait for a bay, promises that follow the plan, and what was agreed set anew. */
import type { OpenJob } from '@cork-ember/core/contract/answers.ts';
import { pick, press, sent } from './keys.ts';
import { expect, Sheet, test } from './shop.ts';

test('with every bay full a battery is taken in all the same: it waits on the shelf and is planned', async ({
  page,
  shop,
}) => {
  const { bays, version } = await shop.ask<{
    bays: readonly { number: number; charger: string }[];
    version: number;
  }>('/api/shop');
  const jobs = await shop.ask<readonly OpenJob[]>('/api/jobs');
  const taken = new Set(jobs.map(({ state }) => state.opened.bay));
  await shop.ask('/api/shop/changes', {
    by: 'Ines',
    why: 'the other tables are gone',
    version,
    bays: bays.filter(({ number }) => taken.has(number)),
  });
  await page.goto(`${shop.url}/intake`);
  await pick(page, 'Type on the label', 'LW-A12/9');
  await page.getByLabel('Date code').fill('2026-01');
  await page.getByRole('textbox', { name: 'For', exact: true }).fill('harbour office');
  await expect(page.getByText(/^It waits on the shelf: bay \d+ is free/)).toBeVisible();
  await press(page, 'Accept and open the run sheet');
  await expect(page.getByRole('heading', { level: 2, name: 'Identify the battery' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'on the shelf' })).toBeVisible();
});

test('the promise follows the plan until somebody promises something else', async ({ page, shop }) => {
  await page.goto(`${shop.url}/intake`);
  await pick(page, 'Type on the label', 'LW-A12/9');
  await page.getByLabel('Date code').fill('2026-01');
  const promised = page.locator('#promised-moment');
  const first = await promised.textContent();
  await expect(page.getByText(/^Ready /).first()).toBeVisible();
  await expect(page.getByText(/after the promise/)).toHaveCount(0);
  await pick(page, 'Type on the label', 'BK-A12/55');
  await expect(promised).not.toHaveText(first ?? '');
  await expect(page.getByText(/after the promise/)).toHaveCount(0);
});

test('a job opened by mistake is withdrawn with a reason, and its bay is free', async ({ page, shop }) => {
  const sheet = await Sheet.open(shop);
  await page.goto(shop.url + sheet.path);
  await press(page, 'Change');
  const pane = page.getByRole('dialog');
  await pane.getByLabel('For').fill('lighthouse boat');
  await press(page, 'Save', pane);
  await expect(pane.getByText(/Say in a few words why/)).toBeVisible();
  await pane.getByLabel('Why').fill('handed over to the boat');
  await press(page, 'Save', pane);
  await expect(pane).toHaveCount(0);
  await expect(page.getByText('lighthouse boat').first()).toBeVisible();
  await press(page, 'Change');
  await pane.getByLabel('Why').fill('opened by mistake');
  await press(page, 'Withdraw the job', pane);
  await expect(pane).toHaveCount(0);
  await expect(page.getByText(/withdrawn/i).first()).toBeVisible();
  await sent(page);
  await page.goto(`${shop.url}/intake?bay=8`);
  await expect(page.getByLabel('Bay')).toContainText('8 ·');
});

test('two tablets that change the chargers at once: the second is told, and saves after it has looked', async ({
  page,
  shop,
}) => {
  await page.goto(`${shop.url}/setup?part=bays`);
  const { chargers, version } = await shop.ask<{
    chargers: readonly { id: string; name: string }[];
    version: number;
  }>('/api/shop');
  await page.getByRole('button', { name: 'Change' }).first().press('Enter');
  await page.getByRole('textbox', { name: 'Highest voltage on six cells', exact: true }).fill('abc');
  await shop.ask('/api/shop/changes', {
    by: 'Ruben',
    why: 'a new lead',
    version,
    chargers: chargers.map((one, index) => (index === 1 ? { ...one, name: 'Bench charger, new lead' } : one)),
  });
  await page.getByLabel(/Why\?/).fill('its label says so');
  await press(page, 'Put in force for new jobs');
  // What is no number is never taken for the one that stood there before.
  await expect(page.getByText('Highest voltage on six cells: a number from 12 to 32 V.')).toBeVisible();
  await page.getByRole('textbox', { name: 'Highest voltage on six cells', exact: true }).fill('15.5');
  await press(page, 'Put in force for new jobs');
  await expect(page.getByText(/Ruben changed the shop in the meantime/)).toBeVisible();
  await expect(page.getByRole('textbox', { name: 'Highest voltage on six cells', exact: true })).toHaveValue(
    '15.5',
  );
  await press(page, 'Put in force for new jobs');
  await expect(page.getByText('In force for new jobs.')).toBeVisible();
});
