import { randomUUID } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { pick, press, tabTo } from './keys.ts';
import { expect, NEXT_MORNING, Sheet, sitDown, test } from './shop.ts';

test('the ledger: what was measured, which ways worked, and which belong together', async ({
  page,
  shop,
}) => {
  await page.goto(shop.url);
  await page.getByRole('link', { name: 'Ledger' }).click();
  const row = page.getByRole('row', { name: /SK-0102/ });
  await expect(row).toContainText('recovered');
  await expect(row).toContainText('B');
  await expect(row).toContainText(/7\d %/);
  await expect(page.getByRole('row', { name: /SK-0139/ })).toContainText('at work, in bay 1');
  await row.getByRole('link').click();
  const life = page.getByRole('region', { name: 'Over the years' });
  await expect(life.getByRole('row')).toHaveText([/^Left/, /9\d %/, /8\d %/, /7\d %/]);
  await page.goBack();

  await page.getByRole('link', { name: 'Ways that worked' }).click();
  const slow = page.getByRole('row', { name: /Slow charge/ });
  await expect(slow).toContainText('AGM');
  await expect(slow).toContainText(/7 of 8; the odds are \d\d to \d\d\s%/);

  await page.getByRole('link', { name: 'Sets' }).click();
  await expect(page.getByRole('heading', { name: 'SK-0091 + SK-0092' })).toBeVisible();
  await expect(page.getByRole('heading', { name: 'SK-0093 + SK-0094' })).toBeVisible();
  await press(page, '4 in a set');
  await expect(page.getByText('No 4 on the shelf are alike enough to work as one.')).toBeVisible();
  await expect(page.getByRole('heading', { name: 'In no set' })).toBeVisible();
  await expect(page.getByText('SK-0101: nothing like it on the shelf.')).toBeVisible();
  await tabTo(page, page.getByRole('link', { name: 'SK-0091' }));
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1, name: 'SK-0091' })).toBeVisible();
});

test('a battery that is back on the bench is in no set', async ({ page, shop }) => {
  await sitDown(page, 'Ines');
  await page.goto(`${shop.url}/ledger/sets`);
  await expect(page.getByRole('heading', { name: 'SK-0091 + SK-0092' })).toBeVisible();
  await Sheet.open(shop, 'BK-A12/55', 'recover-agm', 'SK-0092');
  await expect(page.getByRole('heading', { name: 'SK-0091 + SK-0092' })).toBeHidden();
});

test('the ledger finds a battery by its owner, turns its pages, and keeps what was asked in the address', async ({
  page,
  shop,
}) => {
  for (let number = 500; number < 545; number++)
    await shop.ask('/api/jobs', {
      battery: {
        tag: `PG-${number}`,
        typeId: 'LW-A12/9',
        serial: '',
        dateCode: '2026-01',
        owner: 'Fårö slip',
      },
      bay: 0,
      promisedAt: NEXT_MORNING,
      by: 'Ines',
      requestKey: randomUUID(),
    });
  await page.goto(`${shop.url}/ledger`);
  const rows = page.getByRole('region', { name: 'Batteries' }).getByRole('rowheader');
  const pages = page.getByRole('navigation', { name: 'Pages of batteries' });
  await expect(rows.first()).toHaveText('PG-544');
  await expect(pages).toContainText('1 to 50 of ');
  await press(page, 'Next page');
  await expect(page).toHaveURL(/page=2/);
  await expect(pages).toContainText('51 to ');
  await page.goBack();
  await expect(rows.first()).toHaveText('PG-544');

  await page.getByLabel('Find a battery').fill('faro 99');
  await expect(page.getByText('No battery is found by these words.')).toBeVisible();
  // Letter by letter, faster than the address follows.
  await page.getByLabel('Find a battery').fill('');
  await page.getByLabel('Find a battery').pressSequentially('pg51 farox', { delay: 15 });
  await page.keyboard.press('Backspace');
  await expect(page.getByLabel('Find a battery')).toHaveValue('pg51 faro');
  await expect(rows).toHaveCount(10);
  await expect(page).toHaveURL(/find=pg51\+faro/);
  await page.reload();
  await expect(rows).toHaveCount(10);
  await page.getByLabel('Find a battery').fill('');
  await pick(page, 'Which batteries', 'On the bench');
  await pick(page, 'In which order', 'By tag');
  await expect(rows.first()).toHaveText('PG-500');
  await expect(page.getByRole('row', { name: /SK-0102/ })).toHaveCount(0);
});

test('ledgers of other shops stand beside this one, from the files they gave out', async ({ page, shop }) => {
  await page.goto(`${shop.url}/ledger/shops`);
  await expect(page.getByRole('row', { name: /Skerry Battery Loft this one/ })).toBeVisible();
  const [given] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Give this one out' }).click(),
  ]);
  const own = JSON.parse(await readFile(await given.path(), 'utf8')) as { findings: object[] };
  expect(JSON.stringify(own)).not.toContain('harbour');
  const other = { ...own, shop: 'Holm', findings: own.findings.slice(0, 3) };
  await page.getByLabel('Ledgers of other shops').setInputFiles([
    { name: 'holm.json', mimeType: 'application/json', buffer: Buffer.from(JSON.stringify(other)) },
    { name: 'notes.json', mimeType: 'application/json', buffer: Buffer.from('{}') },
  ]);
  await expect(page.getByRole('row', { name: /Holm/ })).toContainText('3');
  await page
    .getByLabel('Job of another shop')
    .setInputFiles([{ name: 'job.json', mimeType: 'application/json', buffer: Buffer.from('{}') }]);
  await expect(page.getByText(/nothing was taken in/i)).toBeVisible();
  await expect(page.getByText(/notes\.json: The file is no ledger of a shop/)).toBeVisible();
});
