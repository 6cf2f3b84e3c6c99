/** A shop that writes °F, pounds, fluid ounces, a comma, am and pm: one whole job, on every screen and paper. */
import type { BatteryPage, OpenJob } from '@cork-ember/core/contract/answers.ts';
import type { Page } from '@playwright/test';
import { PDFParse } from 'pdf-parse';
import { expectNothingStrange, strangeIn } from './figures.ts';
import { pick, sent } from './keys.ts';
import { expect, Sheet, test, type Shop } from './shop.ts';

test.use({ isEmpty: true });

/** Types readings as this shop does and records them; nothing strange stands on the step before or after. */
async function record(page: Page, title: string, readings: Readonly<Record<string, string>>): Promise<void> {
  await expect(page.getByRole('heading', { level: 2, name: title, exact: true })).toBeVisible();
  await expectNothingStrange(page);
  for (const [label, text] of Object.entries(readings))
    await page.getByLabel(label, { exact: true }).fill(text);
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  await sent(page);
}

/** Goes on where somebody else has recorded in the meantime. */
async function at(page: Page, shop: Shop, id: string): Promise<Sheet> {
  await sent(page);
  return Sheet.at(shop, id);
}

async function choose(page: Page, group: string, answer: string): Promise<void> {
  await page.getByRole('group', { name: group, exact: true }).getByText(answer, { exact: true }).click();
}

test('one whole job in °F, pounds, comma and twelve hours: nothing stands in other units', async ({
  page,
  shop,
}) => {
  test.setTimeout(240_000);
  await page.goto(`${shop.url}/first-day`);
  await page.getByRole('listitem').filter({ hasText: 'How figures are written' }).getByRole('button').click();
  await choose(page, 'Temperatures', 'Fahrenheit');
  await choose(page, 'Volumes', 'Fluid ounces, quarts');
  await choose(page, 'Masses', 'Ounces, pounds');
  await choose(page, 'Decimal mark', 'Comma');
  await choose(page, 'Hours of a day', 'am and pm');
  await pick(page, 'Dates', 'Nov 28, 2026');
  await page.getByLabel('Sign of the money').fill('kr');
  await page.getByLabel('Its decimals').fill('0');
  await page.getByLabel('Behind the amount').check();
  const reloaded = page.waitForEvent('load');
  await page.getByRole('button', { name: 'That is right' }).click();
  await reloaded;
  await page.getByRole('listitem').filter({ hasText: 'When it is open' }).getByRole('button').click();
  await expect(page.getByLabel('Monday opens')).toHaveValue('8:00 am');
  await page.getByLabel('Monday opens').fill('7:30 am');
  await page.getByLabel('Another holiday').fill('Dec 25, 2026');
  await page.getByRole('button', { name: 'Closed that day' }).click();
  await expectNothingStrange(page);
  await page.getByRole('button', { name: 'That is right' }).click();
  await expect(page.getByRole('button', { name: 'Done: look again' })).toHaveCount(2);
  expect(await shop.ask('/api/shop')).toMatchObject({
    region: { temperature: '°F', money: { sign: 'kr', decimals: 0, isAfter: true } },
    hours: { week: [null, [450, 1080], {}, {}, {}, {}, {}], holidays: ['2026-12-25'] },
  });

  await page.goto(`${shop.url}/intake`);
  await page.getByRole('button', { name: 'Not in the list: read it off the label' }).click();
  await choose(page, 'Built as', 'AGM');
  await choose(page, 'Volts', '12 V');
  await choose(page, 'It comes', 'Dry, with its own pack');
  for (const [label, text] of [
    ['Capacity', '8,5'],
    ['Cranking', '120'],
    // 400 mL.
    ['Pack holds', '13,53'],
    ['Its density', '1,31'],
    ['For', 'stock'],
  ] as const)
    await page.getByLabel(label, { exact: true }).fill(text);
  await expect(page.getByRole('region', { name: 'Plan' })).toContainText('ready');
  await expectNothingStrange(page);
  await page.getByRole('button', { name: 'Accept and open the run sheet' }).click();
  await expect(page.getByRole('heading', { level: 2, name: 'Identify the battery' })).toBeVisible();
  const [opened] = await shop.ask<readonly OpenJob[]>('/api/jobs');
  const id = opened?.id ?? '';
  expect(opened?.state.opened.type).toMatchObject({
    capacityAh: 8.5,
    pack: { densityKgPerL: 1.31 },
  });
  expect(opened?.state.opened.type.pack?.volumeMl).toBeCloseTo(400, 0);

  let sheet = await at(page, shop, id);
  await sheet.checkIn();
  await sheet.put('observed', { step: 'pack-code#1', code: 'as it came' });
  // 2665 g.
  await record(page, 'Weigh it dry', { 'Mass, dry': '94,0' });
  sheet = await at(page, shop, id);
  await sheet.affirm('foil-off#1', 'pack-on#1');
  await shop.wait(2);
  await sheet.put('observed', { step: 'bubbles#1', chambers: Array<boolean>(6).fill(true) });
  await shop.wait(12);
  await sheet.put('observed', { step: 'empty#1', chambers: Array<boolean>(6).fill(true) });
  await expectNothingStrange(page);
  await shop.wait(30);
  await sheet.affirm('pack-off#1');
  // 400 mL of 1.310 are 524 g: 3189 g now.
  await record(page, 'Weigh it filled', { 'Mass, filled': '112,5' });
  await expectNothingStrange(page);
  sheet = await at(page, shop, id);
  await shop.wait(120);
  await sheet.affirm('strip#1');
  // A thermometer in Celsius is asked about.
  await record(page, 'Read voltage and warmth', {
    'Open-circuit voltage': '12,70',
    'Case temperature': '24',
  });
  await expect(page.getByRole('alert').filter({ hasText: 'looks like Celsius' })).toContainText('75,2 °F?');
  await page.getByRole('button', { name: 'Yes, 75,2 °F' }).click();
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  await expect(page.getByRole('heading', { level: 2, name: 'First charge' })).toBeVisible();
  await expectNothingStrange(page);
  await page.getByLabel('Current set on the charger').fill('0,80');
  await page.getByRole('button', { name: 'Charger is on' }).click();
  await expect(page.getByLabel('Charge voltage', { exact: true })).toBeVisible();
  await sent(page);
  await shop.wait(140);
  await page.getByLabel('Charge voltage', { exact: true }).fill('14,70');
  await page.getByLabel('Charge current', { exact: true }).fill('0,04');
  await page.getByLabel('Case temperature', { exact: true }).fill('80,6');
  await page.getByRole('button', { name: 'Record the look' }).click();
  await expect(page.getByText('80,6 °F').first()).toBeVisible();
  await expectNothingStrange(page);
  sheet = await at(page, shop, id);
  for (let look = 0; look < 2; look += 1) {
    await shop.wait(61);
    await sheet.put('chargeRead', {
      step: 'charge#1',
      values: { voltageV: 14.7, currentA: 0.04, tempC: 27 },
      source: 'keypad',
    });
  }
  await shop.wait(140);
  await sheet.put('chargeEnded', { step: 'charge#1', fullSignal: false });
  await shop.wait(6);
  await sheet.affirm('disconnect#1', 'lid#1');
  await shop.wait(61);
  await sheet.put('measured', { step: 'test-ocv#1', values: { ocvV: 12.84, tempC: 23 }, source: 'keypad' });
  await expectNothingStrange(page);
  await sheet.put('measured', {
    step: 'test-load#1',
    values: { method: 'load', loadV: 10.9 },
    source: 'keypad',
  });
  await expect(page.getByRole('button', { name: 'It passes' })).toBeVisible();
  await expectNothingStrange(page);
  await sheet.put('decided', { step: 'verdict#1', verdict: 'pass' });
  await sheet.affirm('hand-over#1');
  await page.getByRole('button', { name: 'Sign and certify' }).click();
  await expect(page.getByText('Certified, ready to hand over')).toBeVisible();
  await sent(page);
  await expectNothingStrange(page);

  const {
    rows: [battery],
  } = await shop.ask<BatteryPage>('/api/batteries');
  for (const view of [
    '',
    '/ledger',
    `/batteries/${battery?.tag ?? ''}`,
    '/setup?part=types',
    '/setup?part=stock',
    '/reckoner',
    '/what-if',
  ]) {
    await page.goto(`${shop.url}${view}`);
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    await expectNothingStrange(page);
  }
  for (const paper of ['certificate', 'owner-sheet', 'warranty-record']) {
    const answer = await fetch(`${shop.url}/api/jobs/${id}/${paper}.pdf`);
    const reader = new PDFParse({ data: new Uint8Array(await answer.arrayBuffer()) });
    const { text } = await reader.getText();
    await reader.destroy();
    expect(text, paper).toMatch(paper === 'owner-sheet' ? /12,\d\d V/ : /°F/);
    expect(strangeIn(text), paper).toEqual([]);
  }
});
