/** The shelf: what is due first, the round that reads it, and where a battery goes. */
import type { Page } from '@playwright/test';
import type { BatteryAnswer, JobSummary, ShelvedBattery } from '@cork-ember/core/contract/answers.ts';
import { pick, sent } from './keys.ts';
import { expect, Sheet, test, type Shop } from './shop.ts';

const readingsOf = async (shop: Shop, tag: string): Promise<readonly number[]> => {
  const all = await shop.ask<readonly ShelvedBattery[]>('/api/shelf');
  const its = all.find((battery) => battery.tag === tag);
  return its?.kept.spells.at(-1)?.readings.map(({ volts }) => volts) ?? [];
};

const rows = (page: Page) => page.getByRole('main').getByRole('listitem');

test('what is due comes first; one that left the bench is put away; a fast loser is named', async ({
  page,
  shop,
}) => {
  await page.goto(`${shop.url}/shelf`);
  await expect(page.getByRole('heading', { level: 1, name: 'Shelf' })).toBeVisible();
  await expect(rows(page).filter({ hasText: 'SK-0121' })).toContainText('where did it go?');
  await page.getByRole('button', { name: 'Put away: SK-0121' }).click();
  const drawer = page.getByRole('dialog', { name: 'SK-0121' });
  await drawer.getByText('Cold store', { exact: true }).click();
  await drawer.getByRole('button', { name: 'Cellar 1' }).click();
  await expect(drawer.getByLabel('How warm it is there')).toHaveValue('7');
  await drawer.getByRole('button', { name: 'Put it there' }).click();
  await expect(drawer).toBeHidden();
  await expect(rows(page).filter({ hasText: 'SK-0121' })).toContainText('Cellar 1');
  await page.getByLabel('Find').fill('sk0062');
  await expect(rows(page)).toHaveCount(1);
  await expect(rows(page)).toContainText(
    /loses \d+ times what its kind does: suspect a leak or contamination/,
  );
  await page.getByLabel('Find').fill('');
  await page.getByText(/^Laid up \d/).click();
  await expect(rows(page).filter({ hasText: 'Pilot launch, laid up' })).toBeVisible();
  await expect(rows(page).filter({ hasText: 'Rack 1' })).toHaveCount(0);
});

test('a reading changes what is foretold at once, on the shelf and in the battery’s life', async ({
  page,
  shop,
}) => {
  await page.goto(`${shop.url}/shelf`);
  await page.getByRole('button', { name: /SK-0071$/ }).click();
  const drawer = page.getByRole('dialog', { name: 'SK-0071' });
  const [last = 0] = (await readingsOf(shop, 'SK-0071')).slice(-1);
  await expect(drawer).toContainText(`Read${last.toFixed(2)} V`);
  await drawer.getByLabel('Rested voltage', { exact: true }).fill('12.52');
  await drawer.getByRole('button', { name: 'Record the reading' }).click();
  await expect(drawer).toContainText(/suspect a leak|recharge/);
  await sent(page);
  expect((await readingsOf(shop, 'SK-0071')).at(-1)).toBe(12.52);
  await drawer.getByRole('link', { name: 'Its whole life' }).click();
  await expect(page.getByRole('region', { name: 'On the bench and off it' })).toContainText(
    'Read: 12.52 V at rest',
  );
});

test('the oldest good one is taken; another one wants a reason, and the record keeps it', async ({
  page,
  shop,
}) => {
  await page.goto(`${shop.url}/shelf`);
  await page.getByRole('button', { name: 'Take one' }).click();
  const dialog = page.getByRole('dialog', { name: 'Take one' });
  await pick(page, 'What is needed', '12 V 9 Ah');
  const lines = dialog.getByRole('listitem');
  await expect(lines.first()).toContainText('SK-0051');
  await dialog.getByRole('button', { name: 'Take SK-0052' }).click();
  await dialog.getByRole('button', { name: 'Take SK-0052 all the same' }).click();
  await expect(dialog.getByRole('alert')).toContainText('Say why SK-0052 goes before SK-0051');
  await dialog.getByLabel('Why SK-0052, and not SK-0051?').fill('its posts are the other way round');
  await dialog.getByRole('button', { name: 'Take SK-0052 all the same' }).click();
  const done = page.getByRole('dialog', { name: 'SK-0052 is taken' });
  const paper = await page.request.get(
    `${shop.url}${(await done.getByRole('link', { name: 'Hand-over sheet (PDF)' }).getAttribute('href')) ?? ''}`,
  );
  expect((await paper.body()).subarray(0, 5).toString()).toBe('%PDF-');
  await done.getByRole('button', { name: 'Done' }).click();
  await expect(rows(page).filter({ hasText: 'SK-0052' })).toHaveCount(0);
  await page.goto(`${shop.url}/batteries/SK-0052`);
  await expect(page.getByRole('region', { name: 'On the bench and off it' })).toContainText(
    'Sold: its posts are the other way round',
  );
});

/** Types the volts of the battery at hand; Enter goes on to the next. @returns its tag */
async function readNext(page: Page, volts: string): Promise<string> {
  const heading = page.getByRole('main').getByRole('heading', { level: 2 });
  const tag = await heading.innerText();
  await expect(page.getByLabel('Rested voltage', { exact: true })).toBeFocused();
  await page.keyboard.type(volts);
  await page.keyboard.press('Enter');
  await expect(heading).not.toHaveText(tag);
  return tag;
}

/** Ten that nobody has read yet and everybody is to. */
async function tenToRead(shop: Shop): Promise<readonly string[]> {
  const tags = Array.from({ length: 10 }, (_, index) => `SK-07${String(index).padStart(2, '0')}`);
  for (const tag of tags)
    await shop.ask(`/api/shelf/${tag}/entries`, {
      requestKey: crypto.randomUUID(),
      by: 'Solveig',
      battery: { tag, typeId: 'LW-A12/9', serial: '', dateCode: '2025-10', owner: 'stock' },
      entry: {
        kind: 'placed',
        payload: { place: { kind: 'shelf', name: 'A new rack', warmth: { tempC: 15 } } },
      },
    });
  return tags;
}

test('a round of ten on the keyboard: volts and Enter, each answered before the next', async ({
  page,
  shop,
}) => {
  const tags = await tenToRead(shop);
  await page.goto(`${shop.url}/shelf/round`);
  for (let index = 0; index < tags.length; index++) expect(tags).toContain(await readNext(page, '12.84'));
  await expect(page.getByRole('main')).toContainText('12.84 V');
  await sent(page);
  for (const tag of tags) expect(await readingsOf(shop, tag)).toEqual([12.84]);
});

test('a scan goes to its battery, whichever is next', async ({ page, shop }) => {
  await tenToRead(shop);
  await page.goto(`${shop.url}/shelf/round`);
  await expect(page.getByLabel('Rested voltage', { exact: true })).toBeFocused();
  const heading = page.getByRole('main').getByRole('heading', { level: 2 });
  for (const tag of ['SK-0707', 'SK-0703']) {
    await page.evaluate((scanned) => {
      for (const key of [...scanned, 'Enter'])
        window.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
    }, tag);
    await expect(heading).toHaveText(tag);
    await readNext(page, '12.8');
  }
  await sent(page);
  expect(await readingsOf(shop, 'SK-0707')).toEqual([12.8]);
  expect(await readingsOf(shop, 'SK-0703')).toEqual([12.8]);
});

test.describe('on a phone, by touch', () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true, allowed: [/ERR_/] });

  test('a round goes on while the server is away, and arrives', async ({ page, shop }) => {
    const tags = await tenToRead(shop);
    await page.goto(`${shop.url}/shelf/round`);
    const volts = page.getByLabel('Rested voltage', { exact: true });
    await expect(volts).toBeVisible();
    const { port } = shop;
    await shop.kill();
    const heading = page.getByRole('main').getByRole('heading', { level: 2 });
    for (let index = 0; index < 3; index++) {
      const tag = await heading.innerText();
      await volts.fill('12.79');
      await page.getByRole('button', { name: 'Record, and the next' }).tap();
      await expect(heading).not.toHaveText(tag);
    }
    await expect(page.getByRole('button', { name: '3 waiting' })).toBeVisible();
    await shop.start(port);
    await sent(page);
    await expect(page.getByRole('button', { name: /waiting/ })).toBeHidden();
    const read = await Promise.all(tags.map((tag) => readingsOf(shop, tag)));
    expect(read.flat()).toEqual([12.79, 12.79, 12.79]);
  });
});

test.describe('with the server away', () => {
  test.use({ allowed: [/ERR_/] });

  test('what a round found low is taken in with one press, once the server is there again', async ({
    page,
    shop,
  }) => {
    await page.goto(`${shop.url}/shelf`);
    await page.getByRole('link', { name: /^Charge \d/ }).click();
    const asked = page.getByRole('list', { name: 'To be charged' }).getByRole('checkbox', { checked: true });
    const accept = page.getByRole('button', { name: /^Accept/ });
    await expect(accept).toBeEnabled({ timeout: 60_000 });
    const tags = (await asked.evaluateAll((all) =>
      all.flatMap((one) => /SK-\d{4}/.exec(one.closest('li')?.textContent ?? '') ?? []),
    )) as readonly string[];
    expect(tags.length).toBeGreaterThan(0);
    const { port } = shop;
    await shop.kill();
    await accept.click();
    await expect(page.getByText(`${tags.length} wait here to be taken in`)).toBeVisible({ timeout: 30_000 });
    await expect(page.getByRole('button', { name: '1 waiting' })).toBeVisible();
    await shop.start(port);
    await sent(page);
    await expect(page.getByRole('button', { name: /waiting/ })).toBeHidden();
    for (const tag of tags) expect((await jobOf(shop, tag)).tag).toBe(tag);
  });
});

/** The open job of a battery. */
async function jobOf(shop: Shop, tag: string): Promise<JobSummary> {
  const { jobs } = await shop.ask<BatteryAnswer>(`/api/batteries/${tag}`);
  const open = jobs.find(({ outcome }) => outcome === null);
  if (!open) throw new Error(`${tag} is not on the bench`);
  return open;
}

/** A refresh, entry by entry, from its run sheet standing open to its charge signed off. */
async function refreshed(shop: Shop, { id, bay }: JobSummary): Promise<void> {
  const sheet = await Sheet.at(shop, id);
  // Where the plan has it wait for its turn, its turn is now.
  if (bay === 0) await sheet.put('placed', { bay: 8 });
  await sheet.affirm('refresh-take#1', 'refresh-safe#1');
  await sheet.put('measured', { step: 'ocv-soak#1', values: { ocvV: 12.5, tempC: 19 }, source: 'keypad' });
  await sheet.put('chargeStarted', { step: 'charge#1', currentA: 0.9 });
  for (const [minutes, currentA] of [
    [150, 0.06],
    [60, 0.05],
    [60, 0.05],
  ] as const) {
    await shop.wait(minutes);
    const values = { voltageV: 14.7, currentA, tempC: 24 };
    await sheet.put('chargeRead', { step: 'charge#1', values, source: 'meter' });
  }
  await shop.wait(240);
  await sheet.put('chargeEnded', { step: 'charge#1', fullSignal: false });
  await shop.wait(10);
  await sheet.affirm('disconnect#1');
  await shop.wait(70);
  await sheet.put('measured', { step: 'test-ocv#1', values: { ocvV: 12.9, tempC: 20 }, source: 'keypad' });
  await sheet.put('decided', { step: 'verdict#1', verdict: 'pass' });
  await sheet.affirm('put-back#1', 'charged#1');
}

test('what a round finds low is charged in one press, and stands in its place again', async ({
  page,
  shop,
}) => {
  test.setTimeout(180_000);
  const tags = await tenToRead(shop);
  await page.goto(`${shop.url}/shelf/round`);
  const low = new Set<string>();
  for (let index = 0; index < tags.length; index++)
    low.add(await readNext(page, index < 2 ? '12.45' : '12.88'));
  const charged = [...low].slice(0, 2);
  await sent(page);
  const main = page.getByRole('main');
  while (!(await main.getByRole('heading', { name: 'The round is done' }).isVisible()))
    await page.getByRole('button', { name: 'Not here: the next' }).click();
  await expect(main).toContainText(charged[0] ?? '');
  await page.getByRole('link', { name: /^Charge these/ }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Charge off the shelf' })).toBeVisible();
  const listed = page.getByRole('list', { name: 'To be charged' });
  for (const tag of charged)
    await expect(listed.getByRole('checkbox', { name: new RegExp(tag) })).toBeChecked();
  await page.getByRole('button', { name: /^Accept/ }).click();
  await expect(page).toHaveURL(/\/batch\?jobs=|\/$/);
  const [begun] = await Promise.all(charged.map((tag) => jobOf(shop, tag)));
  if (!begun) throw new Error('none was taken in');
  await refreshed(shop, begun);
  await page.goto(`${shop.url}/shelf?tag=${begun.tag}`);
  const drawer = page.getByRole('dialog', { name: begun.tag });
  await expect(drawer).toContainText('A new rack');
  await expect(drawer).toContainText('Charged');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: /^New tags: / })).toBeVisible();
});

test('a display machine’s battery comes onto the shelf with its machine’s name, and goes back when it sells', async ({
  page,
  shop,
}) => {
  await page.goto(`${shop.url}/shelf`);
  await page.getByRole('button', { name: 'Add one' }).click();
  const dialog = page.getByRole('dialog', { name: 'Add one' });
  await dialog.getByLabel('Tag').fill('SK-0720');
  await dialog.getByLabel('Date code').fill('2026-01');
  await pick(page, 'Type', 'BK-S12/75');
  await dialog.getByText('Display', { exact: true }).click();
  await dialog.getByLabel('Machine').fill('Trike by the door');
  await dialog.getByRole('button', { name: 'Put it there' }).click();
  await expect(dialog).toBeHidden();
  await expect(rows(page).filter({ hasText: 'SK-0720' })).toContainText('Trike by the door');
  await page.getByRole('button', { name: /SK-0720$/ }).click();
  const drawer = page.getByRole('dialog', { name: 'SK-0720' });
  await drawer.getByLabel('Rested voltage', { exact: true }).fill('12.5');
  await drawer.getByRole('button', { name: 'Record the reading' }).click();
  await sent(page);
  await drawer.getByRole('button', { name: 'Its machine is sold' }).click();
  await expect(drawer.getByRole('link', { name: 'Charge it first' })).toBeVisible();
  await drawer.getByRole('button', { name: 'It is in Trike by the door, sold' }).click();
  await expect(drawer).toBeHidden();
  await sent(page);
  await page.goto(`${shop.url}/batteries/SK-0720`);
  const life = page.getByRole('region', { name: 'On the bench and off it' });
  await expect(life).toContainText('Sold: refitted in Trike by the door, not charged first');
  await expect(life).toContainText('Display: Trike by the door');
});

test('the month is balanced over its days; whoever subscribes reads it until the address is shut', async ({
  page,
  shop,
}) => {
  await page.goto(`${shop.url}/shelf/month`);
  await expect(page.getByRole('heading', { level: 2 }).first()).toContainText(/^Today/);
  await page.getByRole('button', { name: 'Subscribe …' }).click();
  const dialog = page.getByRole('dialog', { name: 'Subscribe to the shelf' });
  await dialog.getByRole('button', { name: 'Make an address' }).click();
  await expect(dialog).toContainText('Shown once');
  const address = /http\S+\.ics/.exec(await dialog.innerText())?.[0] ?? '';
  const fetched = await page.request.get(address);
  expect(await fetched.text()).toContain('BEGIN:VEVENT');
  await dialog.getByRole('button', { name: 'Shut it' }).click();
  await expect(dialog).toContainText('There is no address yet');
  expect((await page.request.get(address)).status()).toBe(404);
});

test('who is to be called, and what was said, stays with the battery', async ({ page, shop }) => {
  await page.goto(`${shop.url}/shelf/calls`);
  const first = page.getByRole('main').getByRole('listitem').first();
  const tag = /SK-\d{4}/.exec(await first.innerText())?.[0] ?? '';
  await first.getByLabel('What was said').fill('They bring it on Friday');
  await first.getByRole('button', { name: 'Record the call' }).click();
  await expect(page.getByRole('main')).not.toContainText(tag);
  await sent(page);
  await page.goto(`${shop.url}/batteries/${tag}`);
  await expect(page.getByRole('region', { name: 'On the bench and off it' })).toContainText(
    'Called: They bring it on Friday',
  );
});

test('what matches is kept together, and goes as one', async ({ page, shop }) => {
  await page.goto(`${shop.url}/ledger/sets`);
  await page.getByRole('button', { name: '2 in a set' }).click();
  const set = page.getByRole('main').getByRole('listitem').first();
  const tags = ((await set.getByRole('heading', { level: 2 }).innerText()).match(/SK-\d{4}/g) ??
    []) as string[];
  expect(tags).toHaveLength(2);
  await set.getByLabel('Keep together as').fill('Night ferry');
  await set.getByRole('button', { name: 'Keep together' }).click();
  await expect(set.getByLabel('Keep together as')).toHaveValue('');
  await sent(page);
  await page.goto(`${shop.url}/shelf`);
  await expect(rows(page).filter({ hasText: 'set Night ferry' })).toHaveCount(2);
  await page.getByRole('button', { name: 'Take one' }).click();
  const sets = page.getByRole('dialog').getByRole('region', { name: 'Sets' });
  await expect(sets).toContainText(tags.toSorted().join(', '));
  await sets.getByRole('button', { name: 'Take the set Night ferry' }).click();
  await expect(page.getByRole('dialog', { name: '2 are taken' })).toBeVisible();
  await expect(page.getByRole('link', { name: /Hand-over sheet/ })).toHaveCount(2);
  await sent(page);
  await page.getByRole('button', { name: 'Done' }).click();
  await expect(rows(page).filter({ hasText: 'set Night ferry' })).toHaveCount(0);
});
