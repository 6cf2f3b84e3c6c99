import { test } from './shop.ts';
import { shownOn, strangeIn } from './figures.ts';
test('sweep', async ({ page, shop }) => {
  test.setTimeout(400_000);
  const region = {
    temperature: '°F',
    volume: 'fl oz',
    mass: 'lb',
    decimalMark: ',',
    clock: '12 h',
    date: 'MMM d, yyyy',
    money: { sign: 'kr', decimals: 2, isAfter: true },
  };
  await shop.ask('/api/shop/changes', { region, by: 'Ines', why: 'trying it' });
  const jobs = await shop.ask<readonly { id: string }[]>('/api/jobs');
  const bats = await shop.ask<readonly { tag: string }[]>('/api/batteries');
  const paths = [
    '/',
    '/intake',
    '/what-if',
    '/ledger',
    '/ledger/ways',
    '/ledger/sets',
    '/reckoner',
    '/setup',
    '/delivery',
    '/batch',
    ...['bays', 'shop', 'region', 'costs', 'types', 'stock', 'changes'].map((p) => `/setup?part=${p}`),
    ...jobs.map(({ id }) => `/jobs/${id}`),
    ...jobs.slice(0, 6).map(({ id }) => `/jobs/${id}/evidence`),
    ...bats.slice(0, 8).map(({ tag }) => `/batteries/${tag}`),
  ];
  for (const path of paths) {
    await page.goto(`${shop.url}${path}`);
    await page.waitForTimeout(path.includes('evidence') || path.includes('what') ? 6000 : 1200);
    for (const line of new Set(strangeIn(await shownOn(page)))) console.log(path, '|', line.slice(0, 180));
  }
});
