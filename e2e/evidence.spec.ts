/** What is probably the matter, and what to do about it: beside the run sheet, and with its whole argument. */
import { atStep, press, sent, tabTo, type } from './keys.ts';
import { expect, Sheet, test } from './shop.ts';

test('at the choice the judgement stands beside it: a reading is entered from there, and what is advised is one press', async ({
  page,
  shop,
}) => {
  test.setTimeout(150_000);
  const sheet = await Sheet.open(shop, 'BK-A12/55', 'recover-agm');
  await sheet.findOut(10.6);
  await page.goto(shop.url + sheet.path);
  await atStep(page, 'Choose how it goes on');
  const causes = page.getByRole('region', { name: 'What is probably the matter' });
  await expect(causes).toContainText('A shorted cell', { timeout: 30_000 });
  const advised = page.getByRole('region', { name: 'Advised' });
  await expect(advised.getByRole('button', { name: /^Begin: / })).toBeVisible({ timeout: 60_000 });
  await expect(advised).toContainText(/[ABCR]\s\d+\s%/);
  const others = page.getByRole('list', { name: 'Other ways open to it' });
  await expect(others.getByText(/min$/).first()).toBeVisible();
  await press(page, /^(Others|Read something more)$/);
  await expect(page).toHaveURL(/[?]read=ocv/);
  await press(page, 'Tester', page.getByRole('region', { name: 'Read something more' }));
  await type(page, 'Cranking current on the tester (EN)', '430');
  await page.keyboard.press('Enter');
  // Taken in, the step is back; what it is now stands beside it.
  await atStep(page, 'Choose how it goes on');
  await expect(causes.getByRole('listitem').first()).toContainText('A shorted cell', { timeout: 30_000 });
  await sent(page);
  const recorded = async (kind: string): Promise<number> => {
    const { events } = await shop.ask<{ events: readonly { kind: string }[] }>(`/api${sheet.path}`);
    return events.filter((one) => one.kind === kind).length;
  };
  await expect.poll(() => recorded('evidenced')).toBe(1);
  // One press, and it is chosen.
  await expect(advised.getByRole('button', { name: /^Begin: / })).toBeVisible({ timeout: 60_000 });
  await advised.getByRole('button', { name: /^Begin: / }).click();
  await expect(page.getByRole('heading', { level: 2, name: 'Choose how it goes on' })).toHaveCount(0);
  await sent(page);
  await expect.poll(() => recorded('routed')).toBe(1);
});

test('a way is decided at its end: what is read then and what is done by it, how sure it is, and the first step one press away', async ({
  page,
  shop,
}) => {
  test.setTimeout(150_000);
  const sheet = await Sheet.open(shop, 'BK-A12/55', 'recover-agm');
  await sheet.findOut(12.3);
  await page.goto(`${shop.url}${sheet.path}/evidence`);
  const advice = page.getByRole('region', { name: 'What to do' });
  const then = advice.getByRole('group', { name: 'Then decide' });
  await expect(then).toContainText(/Then, charged and rested, read what it took/, { timeout: 90_000 });
  await expect(then.getByRole('listitem').first()).toContainText(/about .*\d\.\d\d\sV.*\d\s%$/);
  await advice.getByText('How sure that is, and which cost would turn it').press('Enter');
  await expect(advice).toContainText(/Of such batteries it is the best way for \d+\s%/);
  await page.getByRole('link', { name: 'Choose it on the run sheet' }).press('Enter');
  await atStep(page, 'Choose how it goes on');
  const advised = page.getByRole('region', { name: 'Advised' });
  await expect(advised.getByRole('group', { name: 'Then decide' })).toBeVisible({ timeout: 60_000 });
  await advised.getByRole('button', { name: /^Begin: / }).click();
  await expect(page.getByRole('heading', { level: 2, name: 'Choose how it goes on' })).toHaveCount(0);
});

test('a reading that nothing explains is to be read again before anything is done', async ({
  page,
  shop,
}) => {
  test.setTimeout(150_000);
  const sheet = await Sheet.open(shop, 'BK-A12/55', 'recover-agm');
  await sheet.findOut(12.7);
  await page.goto(`${shop.url}${sheet.path}/evidence`);
  const todo = page.getByRole('region', { name: 'What to do' });
  await expect(page.getByRole('region', { name: 'Why' })).toContainText('Rested 12.70 V', {
    timeout: 30_000,
  });
  await press(page, 'Tester', page.getByRole('region', { name: 'Read something more' }));
  // A digit slipped: it was 560.
  await type(page, 'Cranking current on the tester (EN)', '1560');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: /^Keep 1560 A/ }).click();
  await page.getByLabel('Cranking current on the tester (EN)', { exact: true }).press('Enter');
  const alarm = page.getByRole('status').filter({ hasText: 'nothing known of this battery explains that' });
  await expect(alarm).toContainText('Tester shows 1560 A', { timeout: 60_000 });
  await expect(todo).toContainText('First read again what does not fit');
  await sent(page);
  // The run sheet holds its advice back as well.
  await page.goto(shop.url + sheet.path);
  const advised = page.getByRole('region', { name: 'Advised' });
  await expect(advised).toContainText('Tester shows 1560 A', { timeout: 60_000 });
  await expect(advised).toContainText('Were all of it so', { timeout: 60_000 });
});

test('evidence narrows down what is the matter, on the keyboard and at 768 px', async ({ page, shop }) => {
  test.setTimeout(120_000);
  await page.setViewportSize({ width: 768, height: 1024 });
  const sheet = await Sheet.open(shop, 'BK-A12/55', 'recover-agm');
  await sheet.findOut(10.6);
  await page.goto(shop.url + sheet.path);
  await press(page, /\d %\s*Judgement/);
  const drawer = page.getByRole('dialog', { name: /the judgement/ });
  await expect(drawer.getByRole('region', { name: 'What is probably the matter' })).toContainText(
    'A shorted cell',
  );
  await drawer.getByRole('link', { name: 'The whole argument' }).press('Enter');
  await expect(page.getByRole('heading', { level: 1, name: 'Evidence' })).toBeVisible();
  const causes = page.getByRole('region', { name: 'What is probably the matter' });
  await expect(causes).toContainText('A shorted cell', { timeout: 30_000 });
  await expect(page.getByRole('region', { name: 'Why' })).toContainText('Rested 10.60 V');
  await press(page, 'Tester', page.getByRole('region', { name: 'Read something more' }));
  await type(page, 'Cranking current on the tester (EN)', '430');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('region', { name: 'Why' })).toContainText('Tester shows 430 A', {
    timeout: 30_000,
  });
  await expect(causes.getByRole('listitem').first()).toContainText('A shorted cell');
  // Taken in, its form is put away.
  await expect(page.getByLabel('Cranking current on the tester (EN)', { exact: true })).toHaveCount(0);
  await press(page, 'Mass');
  await expect(page.getByText('a full one of its type has 18000 g')).toBeVisible();
  await type(page, 'Mass on the scale', '17950');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('region', { name: 'Why' })).toContainText('Lighter than it should be by 50 g', {
    timeout: 30_000,
  });
  await page.reload();
  await expect(page.getByRole('region', { name: 'Why' })).toContainText('Tester shows 430 A', {
    timeout: 30_000,
  });
  const advice = page.getByRole('region', { name: 'What to do' });
  await expect(advice).toContainText(/Retire it|as a core/, { timeout: 60_000 });
  const ways = page.getByRole('region', { name: 'Ways back, side by side' }).first();
  await expect(ways.getByRole('row', { name: /slow charge/i })).toBeVisible();
  await tabTo(page, ways.getByText('Not open to it, and why'));
  await page.keyboard.press('Enter');
  await expect(ways).toContainText('An AGM is never equalised');
  for (const width of [768, 390]) {
    await page.setViewportSize({ width, height: 1024 });
    const beyond = await page.locator('main').evaluate((main) => main.scrollWidth - main.clientWidth);
    expect(beyond, `wider than ${width} px`).toBe(0);
  }
});

test('the check it asks for first is one key away, every cell is entered on the drawing, and the advice follows', async ({
  page,
  shop,
}) => {
  test.setTimeout(150_000);
  const sheet = await Sheet.open(shop, 'BK-F12/70', 'recover-flooded');
  await sheet.checkIn();
  await sheet.put('measured', { step: 'history#1', values: { complaint: 'slow-crank' }, source: 'keypad' });
  await sheet.affirm('clean#1');
  const values = { ocvV: 10.5, tempC: 21, rested: 'yes' };
  await sheet.put('measured', { step: 'first-ocv#1', values, source: 'Bench meter' });
  await page.goto(`${shop.url}${sheet.path}/evidence`);
  const advice = page.getByRole('region', { name: 'What to do' });
  await expect(advice).toContainText(
    /of such batteries come back this way|is worth its hands|no charge would change it/,
    {
      timeout: 60_000,
    },
  );
  await press(page, 'Density');
  await expect(page.getByRole('note')).toContainText('Sulfuric acid burns');
  for (const cell of [1, 2, 3, 4, 5, 6])
    await type(page, `Density, cell ${cell}`, cell === 4 ? '1.07' : '1.25');
  await type(page, 'Temperature of the electrolyte (may stay empty)', '24');
  await page.keyboard.press('Enter');
  const why = page.getByRole('region', { name: 'Why' });
  await expect(why).toContainText(/1.250, 1.250, 1.250, 1.070, 1.250, 1.250 at 24\s°C/, { timeout: 60_000 });
  await press(page, 'The charger’s view');
  await page.getByRole('radio', { name: 'Stays in its first stage, or trips' }).press('Space');
  await press(page, 'Old garage charger, 6.0 V');
  await press(page, 'Take it in');
  await expect(why).toContainText('Charger that starts at 6.0 V', { timeout: 60_000 });
  await press(page, 'Load test');
  await expect(page.getByLabel('Load', { exact: true })).toHaveValue('356');
  await type(page, 'Lowest voltage under load', '7.9');
  // On to what may stay empty, and past it.
  await page.keyboard.press('Enter');
  await page.keyboard.press('Enter');
  await expect(why).toContainText('7.90 V', { timeout: 60_000 });
  await expect(advice).toContainText(/retire it/i, { timeout: 60_000 });
});
