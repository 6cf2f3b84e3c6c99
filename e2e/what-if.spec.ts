import { readFile } from 'node:fs/promises';
import { pick, press, tabTo } from './keys.ts';
import { expect, Sheet, test } from './shop.ts';

test('a sulfated and a shorted battery go wrong each in its own way, as the sliders move', async ({
  page,
  shop,
}) => {
  await page.goto(`${shop.url}/what-if`);
  const plans = page.getByRole('list', { name: 'Plans' }).getByRole('listitem');
  const first = page.getByRole('list', { name: 'Plans' }).locator(':scope > li').first();
  await expect(first).toContainText(/Done after/);
  await pick(page, 'Plan A', 'Long soak');
  const sulfate = page.getByRole('slider', { name: 'Sulfate grown hard' });
  await tabTo(page, sulfate);
  for (let press = 0; press < 7; press++) await page.keyboard.press('PageUp');
  await expect(sulfate).toHaveAttribute('aria-valuetext', '70 %');
  await expect(first).toContainText(/hard sulfate 49 → \d+ % of rating/);
  await expect(plans.filter({ hasText: 'shorted' })).toHaveCount(0);
  await pick(page, 'Fault', 'One cell shorted');
  await expect(first).toContainText('is shorted');
  await expect(first).toContainText(/Stopped|Above 50 °C/);
});

test('plans are refused with their reason, compared in a table and saved as CSV', async ({ page, shop }) => {
  await page.goto(`${shop.url}/what-if?battery=type:BK-S12/75`);
  await page.getByRole('button', { name: 'Try another plan: C' }).click();
  await pick(page, 'Plan C', 'Equalise');
  await expect(page.getByText('An AGM is never equalised')).toBeVisible();
  await page.getByRole('button', { name: 'Remove plan C' }).click();
  await page.getByRole('button', { name: 'Show as table' }).click();
  const table = page.getByRole('region', { name: 'Plans as a table' });
  await expect(table.getByRole('row')).toHaveCount(26);
  const saving = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save as CSV' }).click();
  const file = await (await saving).path();
  const lines = (await readFile(file, 'utf8')).trim().split('\r\n');
  expect(lines[0]).toContain('battery,plan,name,charger,hours,Voltage (V),Current (A)');
  expect(lines.length).toBeGreaterThan(60);
  expect(lines.some((line) => line.startsWith('BK-S12/75 · AGM 12 V 75 Ah,B,'))).toBe(true);
});

test('an impossible battery is refused in one sentence, and the last answer stays', async ({
  page,
  shop,
}) => {
  await page.goto(`${shop.url}/what-if`);
  const first = page.getByRole('list', { name: 'Plans' }).locator(':scope > li').first();
  await expect(first).toContainText(/Done after/);
  await page.getByLabel('Capacity at 20 h').fill('0');
  await expect(page.getByRole('alert')).toHaveText(
    'Capacity must lie between 0.5 and 3000 Ah; 0 Ah does not.',
  );
  await expect(first).toContainText(/Done after/);
  await page.getByLabel('Capacity at 20 h').fill('');
  await expect(page.getByRole('alert')).toHaveText('Capacity: a number from 0.5 to 3000 Ah is needed.');
  await expect(page.getByRole('main')).not.toContainText('NaN');
  // Another chemistry takes nothing down.
  await pick(page, 'Battery', 'VX-L12/7');
  await expect(page.getByRole('alert')).toContainText('A lithium battery is not taken');
  await pick(page, 'Battery', 'BK-F12/70');
  await expect(first).toContainText(/Done after/);
});

test('a plan is sent to the charge of a job, and never above what that step allows', async ({
  page,
  shop,
}) => {
  const sheet = await (await Sheet.open(shop)).toSoakReading();
  await sheet.put('measured', { step: 'ocv-soak#1', values: { ocvV: 12.7, tempC: 24 }, source: 'keypad' });
  await page.goto(`${shop.url}/what-if?battery=tag:SK-0200`);
  await expect(page.getByText('12.70 V after its soak.')).toBeVisible();
  const second = page.getByRole('list', { name: 'Plans' }).locator(':scope > li').nth(1);
  await second.getByRole('button', { name: 'Send to a job' }).click();
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /SK-0200/ })
    .click();
  await expect(page.getByText(/From What if: Current, voltage, float/)).toBeVisible();
  await expect(page.getByText('this step allows 0.90 A')).toBeVisible();
  await expect(page.getByLabel('Current set on the charger', { exact: true })).toHaveValue('0.90');
});

test('on a tablet, by keyboard alone: a plan is added, its charger changed, and wins are named', async ({
  page,
  shop,
}) => {
  await page.setViewportSize({ width: 768, height: 1024 });
  await page.goto(`${shop.url}/what-if?battery=type:BK-F12/70`);
  await tabTo(page, page.getByRole('button', { name: 'Try another plan: C' }));
  await page.keyboard.press('Enter');
  const third = page.getByRole('list', { name: 'Plans' }).locator(':scope > li').nth(2);
  await tabTo(page, page.getByLabel('Plan C', { exact: true }));
  await page.keyboard.type('Equalise');
  await expect(page.getByRole('option', { selected: true })).toHaveText('Equalise');
  await page.keyboard.press('Enter');
  await expect(third).toContainText('this plan alone does not fill it');
  await expect(third).toContainText('Stand by it: never unattended.');
  await page.keyboard.press('Tab');
  await page.keyboard.type('Taper');
  await expect(page.getByRole('option', { selected: true })).toContainText('Taper');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Charger of plan C')).toContainText('Taper');
  await expect(page.getByText(/Coolest: \d+ °C|Least water|Soonest full|Cheapest/).first()).toBeVisible();
  for (const control of await page.getByRole('button').all()) {
    const box = await control.boundingBox();
    if (box && box.y > 72) expect(box.height).toBeGreaterThanOrEqual(40);
  }
});

test('sliders keep what was set while jobs on the bench go on', async ({ page, shop }) => {
  await page.goto(`${shop.url}/what-if?battery=tag:SK-0139`);
  const slider = page.getByRole('slider', { name: 'Charge', exact: true });
  await slider.focus();
  await page.keyboard.press('Home');
  await expect(slider).toHaveAttribute('aria-valuetext', '0 %');
  await shop.wait(30);
  await shop.ask('/api/jobs/5ce77e00-0000-4000-8000-000000000139/events', {
    expectedSeq: (await shop.ask<{ events: unknown[] }>('/api/jobs/5ce77e00-0000-4000-8000-000000000139'))
      .events.length,
    requestKey: crypto.randomUUID(),
    by: 'Tarek',
    entry: { kind: 'noted', payload: { text: 'Looked at it.' } },
  });
  await page.waitForTimeout(300);
  await expect(slider).toHaveAttribute('aria-valuetext', '0 %');
});

test('what is asked stands in the address: it comes back with a reload, and can be sent', async ({
  page,
  shop,
}) => {
  await page.goto(`${shop.url}/what-if`);
  await press(page, 'Try another plan: C');
  await page.getByRole('combobox', { name: 'Plan C', exact: true }).press('Enter');
  await expect(page).toHaveURL(/plan=long-soak/);
  // The address is taken up without what was added going away for a moment: its open list would go with it.
  await expect(page.getByRole('listbox')).toBeVisible();
  await page.keyboard.press('Escape');
  await press(page, '7 days');
  const charge = page.getByRole('slider', { name: 'Charge' });
  await charge.focus();
  for (let steps = 0; steps < 3; steps++) await page.keyboard.press('ArrowRight');
  const value = await charge.getAttribute('aria-valuenow');
  await expect(page).toHaveURL(/hours=168/);
  await expect(page).toHaveURL(/at=/);
  await page.reload();
  await expect(page.getByRole('list', { name: 'Plans' }).getByRole('listitem')).toHaveCount(3);
  await expect(page.getByRole('button', { name: '7 days' })).toHaveAttribute('aria-pressed', 'true');
  await expect(charge).toHaveAttribute('aria-valuenow', value ?? '');
});
