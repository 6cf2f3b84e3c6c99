import type { Page } from '@playwright/test';
import { passes, pick } from './keys.ts';
import { expect, NEXT_MORNING, Sheet, test } from './shop.ts';

test.use({ viewport: { width: 768, height: 1024 }, hasTouch: true });

const step = (page: Page, title: string) =>
  expect(page.getByRole('heading', { level: 2, name: title, exact: true })).toBeVisible();

/** Every target on the page that is smaller than a gloved finger. */
async function smallTargets(page: Page): Promise<string[]> {
  return page.evaluate(() => {
    const targets = document.querySelectorAll<HTMLElement>(
      'main article button, main article summary, main article label:has(input[type=radio])',
    );
    return [...targets].flatMap((target) => {
      const { width, height } = target.getBoundingClientRect();
      return width > 0 && (height < 47.5 || width < 47.5) ? [`${target.innerText} ${width}×${height}`] : [];
    });
  });
}

async function tap(page: Page, name: string | RegExp): Promise<void> {
  await page.getByRole('button', { name }).first().tap();
}

test('one flooded battery by touch at 768 px to its certificate, with targets for gloves', async ({
  page,
  shop,
}) => {
  test.setTimeout(180_000);
  await shop.moveTo(NEXT_MORNING);
  await page.goto(`${shop.url}/intake`);
  await pick(page, 'Type on the label', 'TQ-F12/14');
  await page.getByLabel('Date code').fill('2026-01');
  await page.getByLabel('For', { exact: true }).fill('slip crane');
  await tap(page, 'Accept and open the run sheet');
  const small: string[] = [];
  const seen = async (title: string): Promise<void> => {
    await step(page, title);
    small.push(...(await smallTargets(page)));
  };
  await seen('Identify the battery');
  await tap(page, 'That is the battery');
  await seen('Read the label and the sheet');
  await tap(page, 'As in the catalogue');
  await seen('Make the place safe');
  await tap(page, 'All in place');
  await seen('Inspect case, posts and plug');
  await tap(page, 'All sound');
  await seen('Take every cap off');
  await tap(page, 'All caps are off');
  await seen('Bin the vent plug');
  await expect(page.getByRole('note').first()).toContainText('can burst the case');
  await tap(page, 'Plug is in the bin');
  await seen('Check the electrolyte');
  for (const key of ['1', 'Point', '2', '6', '5'])
    await page.getByRole('button', { name: key, exact: true }).tap();
  await page.getByLabel('Temperature of the electrolyte').tap();
  for (const key of ['2', '2']) await page.getByRole('button', { name: key, exact: true }).tap();
  await tap(page, 'Record');
  await seen('Fill every cell to the upper line');
  await page.getByRole('button', { name: 'Cell 3: at the line' }).tap();
  await page.getByRole('button', { name: 'Cell 3: off the line' }).last().tap();
  await expect(page.getByRole('alert').first()).toContainText(
    'Cell 3: off the line. Fill it to the UPPER line',
  );
  await page.getByRole('button', { name: 'Cell 3: off the line' }).first().tap();
  await tap(page, 'All at the line');
  await step(page, 'Let it soak');
  await passes(page, shop, 31);
  await seen('Top up with acid, the last time');
  await expect(page.getByRole('note').first()).toContainText('The last time acid goes in');
  await tap(page, 'All at the line again');
  await seen('Lay the caps on, loose');
  await tap(page, 'Caps lie loose');
  await seen('Read voltage and warmth');
  await tap(page, 'Read all two');
  await expect(page.getByLabel('Case temperature', { exact: true })).not.toHaveValue('');
  await tap(page, 'Record');
  await seen('First charge');
  await page.getByText(/Why not another/).tap();
  await expect(
    page.getByText('Old garage charger: gives 10 A at its lowest; this charge takes 1.4 A at most.'),
  ).toBeVisible();
  await tap(page, 'Charger is on');
  await expect(page.getByText(/^On at/)).toBeVisible();
  // A lamp that lights at once proves nothing; hourly looks do.
  await tap(page, 'Charger shows full, it is off');
  await expect(
    page.getByText(/It shows full after \d+ min; nothing tells full from surface charge within 30 min/),
  ).toBeVisible();
  const isProven = page.getByText(/^(The time is up|It is full: take it off)/);
  for (let looks = 0; looks < 12 && !(await isProven.isVisible()); looks++) {
    await passes(page, shop, 62);
    await tap(page, 'Read all three');
    await expect(page.getByLabel('Case temperature', { exact: true })).not.toHaveValue('');
    await tap(page, 'Record the look');
    await expect(page.getByText(/· last look/)).toBeVisible();
    if (looks === 0) small.push(...(await smallTargets(page)));
  }
  await expect(page.getByText(/^Proof of full: .* of capacity, flat at/)).toBeVisible();
  await tap(page, 'Charger is off at the mains');
  await step(page, 'Let the gas clear');
  await passes(page, shop, 6);
  await seen('Take the clips off');
  await tap(page, 'Clips are off');
  await seen('Levels after the charge');
  await tap(page, /^Record$/);
  await seen('Every cell at the line?');
  await tap(page, 'All at the line');
  await seen('Caps on, wipe it down');
  await tap(page, 'Caps on, wiped');
  await step(page, 'Let it rest');
  await passes(page, shop, 31);
  await seen('Read the rested voltage');
  await tap(page, 'Read all two');
  await expect(page.getByLabel('Case temperature', { exact: true })).not.toHaveValue('');
  await tap(page, /^Record$/);
  await seen('Load it, or use the tester');
  await tap(page, /^Read /);
  await expect(page.getByLabel('Lowest voltage under load', { exact: true })).not.toHaveValue('');
  await tap(page, /^Record$/);
  await seen('Pass, charge again, or reject');
  await tap(page, 'It passes');
  await seen('Ready it for hand-over');
  await tap(page, 'All with it');
  await seen('Sign the certificate');
  await tap(page, 'Sign and certify');
  await expect(page.getByRole('link', { name: /Certificate/ })).toBeVisible();
  expect(small).toEqual([]);
});

test('acid after the first charge is caught, and lithium is refused', async ({ page, shop }) => {
  const sheet = await Sheet.open(shop, 'TQ-F12/14');
  await sheet.checkIn();
  await sheet.affirm('caps-off#1', 'vent-plug#1');
  await sheet.put('measured', {
    step: 'electrolyte#1',
    values: { density: 1.265, acidC: 22 },
    source: 'keypad',
  });
  const cells = [true, true, true, true, true, true];
  await sheet.put('observed', { step: 'fill#1', chambers: cells });
  await shop.wait(31);
  await sheet.put('observed', { step: 'top-up#1', chambers: cells });
  await sheet.affirm('caps-loose#1');
  await sheet.put('measured', { step: 'ocv-soak#1', values: { ocvV: 12.4, tempC: 24 }, source: 'keypad' });
  await sheet.put('chargeStarted', { step: 'charge#1', currentA: 1.4, dueMin: 260 });
  await shop.wait(261);
  await sheet.put('chargeEnded', { step: 'charge#1', fullSignal: false });
  await shop.wait(6);
  await sheet.affirm('disconnect#1');
  await page.goto(shop.url + sheet.path);
  await step(page, 'Levels after the charge');
  await page.getByRole('radio', { name: 'Acid' }).check();
  await page.getByRole('button', { name: 'Record' }).click();
  await expect(page.getByRole('alert').first()).toContainText(
    'Acid no longer goes in after the first charge',
  );
  await page.goto(`${shop.url}/intake`);
  await pick(page, 'Type on the label', 'VX-L12/7');
  await expect(page.getByText('A lithium battery is not taken')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Accept and open the run sheet' })).toBeDisabled();
});
