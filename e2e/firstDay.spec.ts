/** A shop's first real day, from an empty file: batteries no list knows, read off their labels. */
import type { OpenJob } from '@cork-ember/core/contract/answers.ts';
import type { Page } from '@playwright/test';
import { sent } from './keys.ts';
import { expect, Sheet, test } from './shop.ts';

test.use({ isEmpty: true });

/** Presses besides the digits and letters of the label. */
class Hands {
  presses = 0;
  private readonly page: Page;

  constructor(page: Page) {
    this.page = page;
  }

  async press(name: string | RegExp, within: 'button' | 'option' = 'button'): Promise<void> {
    this.presses += 1;
    await this.page
      .getByRole(within, { name, exact: typeof name === 'string' })
      .first()
      .click();
  }

  async take(group: string, answer: string): Promise<void> {
    this.presses += 1;
    await this.page
      .getByRole('group', { name: group, exact: true })
      .getByText(answer, { exact: true })
      .click();
  }

  async figure(label: string, digits: string): Promise<void> {
    this.presses += 1;
    await this.page.getByLabel(label, { exact: true }).fill(digits);
  }
}

/** The smallest picture. */
const PIXEL =
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mP8z8BQDwAEhQGAhKmMIQAAAABJRU5ErkJggg==';

/** Answers that are pressed; all else is typed. */
const PRESSED = ['Built as', 'Volts', 'It comes', 'Made for'];

/** Reads a label into Intake: figures and answers in the order given. */
async function readOff(
  page: Page,
  url: string,
  label: readonly (readonly [what: string, answer: string])[],
): Promise<Hands> {
  await page.goto(`${url}/intake`);
  const hands = new Hands(page);
  await hands.press('Not in the list: read it off the label');
  for (const [what, answer] of label)
    if (what === 'More') await hands.press(/^More of the label/);
    else if (PRESSED.includes(what)) await hands.take(what, answer);
    else await hands.figure(what, answer);
  return hands;
}

test('an empty shop opens on its first day, is set up step by step, and goes on where it was left', async ({
  page,
  shop,
}) => {
  await page.goto(shop.url);
  await expect(page.getByRole('heading', { level: 1, name: 'First day' })).toBeVisible();
  await page.getByLabel(/^First names/).fill('Maeve, Odd');
  await page.getByRole('button', { name: 'Maeve, Odd: that is us' }).click();
  await expect(page.getByText('Maeve', { exact: true })).toBeVisible();
  await page.getByLabel('Name of the shop').fill('Tide Mill batteries');
  await page.getByLabel('Tags begin with').fill('TM');
  await page.getByRole('combobox', { name: 'Time zone' }).click();
  await page.getByPlaceholder('Type to find').fill('dublin');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'That is right' }).click();
  // Figures are right as they are.
  await expect(page.getByText('So it will read')).toBeVisible();
  await page.getByRole('button', { name: 'That is right' }).click();
  await page.getByLabel('Lunch', { exact: true }).check();
  await page.getByLabel('Another holiday').fill('2026-12-25');
  await page.getByRole('button', { name: 'Closed that day' }).click();
  await page.getByRole('button', { name: 'That is right' }).click();
  // Left in the middle, and taken up on another tablet.
  await expect(page.getByText('Charger with a current knob')).toBeVisible();
  await page.goto(shop.url);
  await page.getByRole('link', { name: 'First day: set the shop up' }).click();
  await page.getByText('Charger with a current knob').click();
  await page.getByLabel(/^What does its knob say/).fill('2 6 10');
  await page.getByLabel('Outputs, each a bay').fill('2');
  await page.getByRole('button', { name: 'Add it' }).click();
  await page.getByRole('button', { name: '2 bays: that is the bench' }).click();
  for (const [instrument, kind] of [
    ['Load tester', 'green, yellow, red only'],
    ['Hydrometer', 'coloured bands, or balls'],
    ['Conductance tester', 'none'],
  ] as const)
    await page.getByRole('group', { name: instrument, exact: true }).getByText(kind, { exact: true }).click();
  await page.getByRole('button', { name: 'That is right' }).click();
  await page.getByLabel('Distilled water').fill('5');
  await page.getByRole('button', { name: 'That is right' }).click();
  await expect(page.getByRole('button', { name: 'Done: look again' })).toHaveCount(7);
  const set = await shop.ask<Record<string, unknown>>('/api/shop');
  expect(set).toMatchObject({
    name: 'Tide Mill batteries',
    tagLetters: 'TM',
    people: ['Maeve', 'Odd'],
    hours: { timeZone: 'Europe/Dublin', lunch: [720, 780], holidays: ['2026-12-25'] },
    bays: [{ number: 1 }, { number: 2 }],
    chargers: [{ kind: 'bench', detentsA: [2, 6, 10] }],
    handInstruments: { loadTester: 'colours', hydrometer: 'bands', tester: 'none' },
  });
  await page.getByRole('link', { name: 'Take your first battery in' }).click();
  await expect(page.getByLabel('Tag', { exact: true })).toHaveValue('TM-0001');
  await expect(page.getByText(/Running low/)).toHaveCount(0);
});

test('an unlisted AGM with its pack is taken in within 25 presses, finished and certified', async ({
  page,
  shop,
}) => {
  test.setTimeout(120_000);
  // From a tablet: plain http, under a name of the shop's network.
  const url = `http://skerry.test:${shop.port}`;
  const hands = await readOff(page, url, [
    ['Built as', 'AGM'],
    ['Volts', '12 V'],
    ['Capacity', '8'],
    ['Cranking', '120'],
    ['It comes', 'Dry, with its own pack'],
    ['Pack holds', '400'],
    ['Its density', '1.31'],
    ['For', 'stock'],
  ]);
  await expect(page.getByRole('region', { name: 'Plan' })).toContainText('ready');
  const photo = { mimeType: 'image/png', buffer: Buffer.from(PIXEL, 'base64') };
  await page.getByLabel('Photos of the label').setInputFiles([
    { name: 'front.png', ...photo },
    { name: 'side.png', ...photo },
  ]);
  await hands.press('Accept and open the run sheet');
  expect(hands.presses).toBeLessThan(25);
  await expect(page.getByRole('heading', { level: 2, name: 'Identify the battery' })).toBeVisible();
  const [job] = await shop.ask<readonly OpenJob[]>('/api/jobs');
  expect(job?.state.opened.type).toMatchObject({
    construction: 'agm',
    duty: 'starter',
    delivery: 'own-pack',
    cells: 6,
    capacityAh: 8,
    hourRate: 10,
    pack: { volumeMl: 400, densityKgPerL: 1.31 },
  });
  expect([job?.seq, job?.state.photos.length]).toEqual([3, 2]);
  const sheet = await Sheet.at(shop, job?.id ?? '');
  await sheet.toTest(true, 'as it came', 0.8);
  await sheet.put('measured', { step: 'test-ocv#1', values: { ocvV: 12.84, tempC: 23 }, source: 'keypad' });
  await sheet.put('measured', {
    step: 'test-load#1',
    values: { method: 'load', loadV: 10.9 },
    source: 'keypad',
  });
  await sheet.put('decided', { step: 'verdict#1', verdict: 'pass' });
  await sheet.affirm('hand-over#1');
  await page.reload();
  await page.getByRole('button', { name: 'Sign and certify' }).click();
  await expect(page.getByText('Certified, ready to hand over')).toBeVisible();
  await sent(page);
  const paper = await fetch(`${shop.url}/api/jobs/${job?.id ?? ''}/certificate.pdf`);
  expect(paper.status).toBe(200);
  // It is a type of the shop now: found by typing.
  await page.goto(`${url}/intake`);
  await page.getByRole('combobox', { name: 'Type on the label' }).click();
  await page.getByPlaceholder('Type to find').fill('agm-12/8 b-0001');
  await expect(page.getByRole('option')).toHaveCount(1);
});

for (const [name, label, expected, volts] of [
  [
    'a used flooded 12 V 60 Ah of unknown age at 9.8 V',
    [
      ['Built as', 'Flooded'],
      ['Volts', '12 V'],
      ['Capacity', '60'],
      ['For', 'Odd'],
    ],
    { construction: 'flooded', duty: 'starter', delivery: 'in-service', cells: 6 },
    9.8,
  ],
  [
    'a gel 12 V 40 Ah',
    [
      ['Built as', 'Gel'],
      ['Volts', '12 V'],
      ['Capacity', '40'],
      ['For', 'Odd'],
    ],
    { construction: 'gel', duty: 'standby', cells: 6 },
    12.3,
  ],
  [
    'a flooded 6 V 225 Ah deep-cycle',
    [
      ['Built as', 'Flooded'],
      ['Volts', '6 V'],
      ['Capacity', '225'],
      ['At a rate of', '20'],
      ['More', ''],
      ['Made for', 'Deep cycles'],
      ['For', 'Odd'],
    ],
    { construction: 'flooded', duty: 'deep-cycle', cells: 3 },
    6.1,
  ],
  [
    'a standby cell of 2 V 500 Ah',
    [
      ['Built as', 'AGM'],
      ['Volts', '2 V'],
      ['Capacity', '500'],
      ['At a rate of', '10'],
      ['For', 'Odd'],
    ],
    { construction: 'agm', duty: 'standby', cells: 1, hourRate: 10 },
    2.05,
  ],
] as const)
  test(`${name} gets a plan, its own limits and an Evidence view`, async ({ page, shop }) => {
    const hands = await readOff(page, shop.url, label);
    await expect(page.getByRole('region', { name: 'Plan' })).not.toContainText('Choose a type');
    await hands.press('Accept and open the run sheet');
    expect(hands.presses).toBeLessThan(25);
    await expect(page.getByRole('heading', { level: 2, name: 'Identify the battery' })).toBeVisible();
    const [job] = await shop.ask<readonly OpenJob[]>('/api/jobs');
    expect(job?.state.opened.type).toMatchObject(expected);
    const sheet = await Sheet.at(shop, job?.id ?? '');
    await sheet.asItCame(volts);
    await page.goto(`${shop.url}${sheet.path}/evidence`);
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    await expect(page.getByRole('region', { name: /Ways back/ }).first()).toBeVisible({ timeout: 40_000 });
  });

test('instruments without figures are told once: steps begin with them, and Evidence takes the intervals', async ({
  page,
  shop,
}) => {
  test.setTimeout(90_000);
  await shop.ask('/api/shop/changes', {
    handInstruments: { loadTester: 'colours', hydrometer: 'bands', tester: 'none' },
    by: 'Odd',
    why: 'what there is',
  });
  const hands = await readOff(page, shop.url, [
    ['Built as', 'Flooded'],
    ['Volts', '12 V'],
    ['Capacity', '60'],
    ['Cranking', '540'],
    ['For', 'Odd'],
  ]);
  await hands.press('Accept and open the run sheet');
  await expect(page.getByRole('heading', { level: 2, name: 'Identify the battery' })).toBeVisible();
  const [job] = await shop.ask<readonly { id: string }[]>('/api/jobs');
  const sheet = await Sheet.at(shop, job?.id ?? '');
  await sheet.asItCame(12.4);
  await sheet.put('measured', { step: 'open-cells#1', values: { caps: 'caps' }, source: 'keypad' });
  const cells = (id: string, value: string): Record<string, string> =>
    Object.fromEntries(Array.from({ length: 6 }, (_, cell) => [`${id}${cell + 1}`, value]));
  await sheet.put('measured', {
    step: 'levels-cells#1',
    values: cells('level', 'at-line'),
    source: 'keypad',
  });
  // The step begins with bands: nobody is asked for figures.
  await expect(page.getByRole('heading', { level: 2, name: 'Density, cell by cell' })).toBeVisible();
  await expect(page.getByRole('radio', { name: /^Bands/ })).toBeChecked();
  await page.getByRole('button', { name: 'All cells: red' }).click();
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  await expect(page.getByRole('heading', { level: 2, name: 'Density, cell by cell' })).toHaveCount(0);
  await sent(page);
  await page.goto(`${shop.url}${sheet.path}/evidence`);
  await page.getByRole('button', { name: 'Load test', exact: true }).click();
  await page.getByRole('group', { name: 'Colour at the end' }).getByText('Yellow').click();
  await page.getByRole('button', { name: 'Take it in' }).click();
  await expect(page.getByText(/by its colour \d/).first()).toBeVisible();
  await page.getByRole('button', { name: 'Density', exact: true }).click();
  await page.getByRole('group', { name: 'Band, cell 3' }).getByText('White').click();
  await page.getByRole('button', { name: 'Take it in' }).click();
  await sent(page);
  const { events } = await shop.ask<{ events: readonly { kind: string; payload: { reading?: object } }[] }>(
    `/api/jobs/${job?.id ?? ''}`,
  );
  const read = events.flatMap(({ payload }) => payload.reading ?? []);
  expect(read).toMatchObject([
    { kind: 'load', within: 0.5 },
    { kind: 'density', cell: 3, density: 1.2375 },
  ]);
});

test('a delivery of a type no list knows is read off one label for all its boxes', async ({ page, shop }) => {
  await page.goto(`${shop.url}/delivery`);
  const hands = new Hands(page);
  await hands.press('First type');
  await hands.press('Not in the list: read it off the label');
  await hands.take('Built as', 'AGM');
  await hands.take('Volts', '12 V');
  await hands.figure('Capacity', '8');
  await hands.take('It comes', 'Dry, with its own pack');
  await hands.figure('Pack holds', '400');
  await hands.figure('Its density', '1.31');
  await page.getByLabel('How many').fill('2');
  const photo = { name: 'front.png', mimeType: 'image/png', buffer: Buffer.from(PIXEL, 'base64') };
  await page.getByLabel('Photos of the label').setInputFiles([photo]);
  await expect(page.getByRole('region', { name: 'Plan' })).toContainText('All can be ready');
  await page.getByRole('button', { name: /^Accept 2/ }).click();
  await expect(page).toHaveURL(/\/batch|\/$/);
  const jobs = await shop.ask<readonly OpenJob[]>('/api/jobs');
  const [one, other] = jobs;
  expect(jobs.map(({ seq, state }) => [seq, state.photos.length]).sort()).toEqual([
    [1, 0],
    [2, 1],
  ]);
  expect(one?.state.opened.type).toMatchObject({ capacityAh: 8, pack: { volumeMl: 400 } });
  expect(other?.state.opened.type).toEqual(one?.state.opened.type);
  const types = await shop.ask<readonly { id: string }[]>('/api/types');
  expect(types.filter(({ id }) => id === one?.state.opened.type.id)).toHaveLength(1);
});

test('What if is asked of a battery by its label', async ({ page, shop }) => {
  test.setTimeout(90_000);
  await page.goto(`${shop.url}/what-if?battery=label`);
  const hands = new Hands(page);
  await hands.take('Built as', 'Gel');
  await hands.take('Volts', '12 V');
  await expect(page.getByText('Its Ah; or what it can be estimated from').first()).toBeVisible();
  await hands.figure('Capacity', '40');
  await hands.press('Try charges on it');
  // Never above what a gel takes.
  await expect(page.getByText(/No cranking rating/)).toBeVisible();
  await expect(page.getByText(/^Done after/).first()).toBeVisible({ timeout: 30_000 });
});
