/** Several brought back at once: a minute each, the order to begin in, the hopeless named, then a batch. */
import type { BatteryAnswer, JobAnswer } from '@cork-ember/core/contract/answers.ts';
import { pick, sent } from './keys.ts';
import { expect, test } from './shop.ts';

test('three that came together are put in order, the damaged one is named, the others become a batch', async ({
  page,
  shop,
}) => {
  test.setTimeout(240_000);
  await page.goto(`${shop.url}/intake`);
  await page.getByRole('link', { name: 'Several brought back' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Brought back together' })).toBeVisible();
  await page.getByLabel('Whose they are').fill('night ferry');
  const rows = page.getByRole('main').getByRole('listitem');
  for (const [index, volts] of ['12.1', '2.4', '11.9'].entries()) {
    await page.getByRole('button', { name: index === 0 ? 'The first' : 'One more' }).click();
    const row = rows.nth(index);
    if (index === 0) await pick(row, 'Type', 'LW-A12/9');
    await row.getByLabel('Voltage').fill(volts);
    await row.getByLabel('Date code').fill('2023-05');
  }
  await rows.nth(2).getByLabel('Cracked, bulged or leaking').check();
  // What was typed outlives the page.
  await page.reload();
  await expect(rows).toHaveCount(3);
  await expect(page.getByText('Damaged: not charged, to the recycler.')).toBeVisible();
  await expect(page.getByRole('status').filter({ hasText: /start with/i })).toBeVisible({ timeout: 180_000 });
  await expect(rows.first()).toContainText(
    /\d+ % come back, by .+ min of hands; .+ (hour of them|more than it brings)/,
  );
  const first = (await rows.first().getAttribute('aria-label')) ?? '';
  await expect(page.getByRole('status').filter({ hasText: /start with/i })).toContainText(first);
  await expect(rows.last()).toContainText(/Damaged|Hopeless/);
  await page.getByRole('button', { name: /^Take (it|these \d) in, in this order$/ }).click();
  await expect(page).toHaveURL(/\/batch\?jobs=/);
  await sent(page);
  const { jobs, owner } = await shop.ask<BatteryAnswer>(`/api/batteries/${first}`);
  expect(owner).toBe('night ferry');
  const { events } = await shop.ask<JobAnswer>(`/api/jobs/${jobs.at(-1)?.id ?? ''}`);
  expect(events.map(({ kind }) => kind)).toEqual(['opened', 'evidenced']);
  await page.goto(`${shop.url}/brought`);
  await expect(page.getByText('Damaged: not charged, to the recycler.')).toBeVisible();
});
