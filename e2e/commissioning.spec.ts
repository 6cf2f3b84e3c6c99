import { readFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import { PDFParse } from 'pdf-parse';
import { countPresses, jump, pace, press, tabTo, walk } from './keys.ts';
import { expect, NEXT_MORNING, test } from './shop.ts';

/** Jumps until the step with this title is at hand. */
async function jumpTo(page: Page, title: string): Promise<void> {
  const heading = page.getByRole('heading', { level: 2, name: title, exact: true });
  for (let jumps = 0; jumps < 60 && !(await heading.isVisible()); jumps++) {
    await jump(page);
    await page.waitForTimeout(120);
  }
  await expect(heading).toBeVisible();
}

async function atStep(page: Page, title: string): Promise<void> {
  await expect(page.getByRole('heading', { level: 2, name: title, exact: true })).toBeVisible();
}

test('a boxed AGM goes from intake to a downloaded certificate on the keyboard alone', async ({
  page,
  shop,
}) => {
  test.setTimeout(300_000);
  walk(page);
  await shop.moveTo(NEXT_MORNING);
  const presses = await countPresses(page);
  await page.goto(shop.url);
  await pace(page, 60);
  const before = await presses();

  await tabTo(page, page.getByRole('link', { name: 'Intake' }));
  await page.keyboard.press('Enter');
  const type = page.getByLabel('Type on the label');
  await expect(type).toBeFocused();
  await page.keyboard.press('Enter');
  // At a hand's pace: faster is a scanner.
  await page.keyboard.type('LW-A12/9', { delay: 60 });
  await expect(page.getByRole('option', { name: /^LW-A12\/9/ })).toHaveAttribute('data-selected', 'true');
  await page.keyboard.press('Enter');
  await expect(type).toContainText('LW-A12/9');
  await page.keyboard.press('Tab');
  await page.keyboard.type('2026-01');
  await page.keyboard.press('Tab');
  await page.keyboard.type('tide-gauge hut');
  await expect(page.getByRole('region', { name: 'Plan' })).toContainText('ready');
  await press(page, 'Accept and open the run sheet');

  await atStep(page, 'Identify the battery');
  await page.keyboard.press('Enter');
  await atStep(page, 'Read the label and the sheet');
  await page.keyboard.press('Enter');
  await atStep(page, 'Make the place safe');
  await expect(page.getByRole('note').first()).toContainText('Sulfuric acid burns');
  await page.keyboard.press('Enter');
  await atStep(page, 'Inspect case, posts and foil');
  await page.keyboard.press('Enter');
  await atStep(page, 'Match the pack’s code');
  await page.keyboard.type('p-09');
  await page.keyboard.press('Enter');

  await atStep(page, 'Weigh it dry');
  await press(page, /^Read mass, dry/);
  await expect(page.getByLabel('Mass, dry', { exact: true })).not.toHaveValue('');
  await press(page, 'Record');
  await atStep(page, 'Peel the foil off');
  await page.keyboard.press('Enter');
  await atStep(page, 'Press the pack on');
  await page.keyboard.press('Enter');
  await atStep(page, 'Bubbles in every chamber?');
  await page.keyboard.press('4');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert')).toContainText('Chamber 4: silent. Knock lightly');
  await page.keyboard.press('4');
  await page.keyboard.press('Enter');
  await atStep(page, 'Every chamber empty?');
  await page.keyboard.press('Enter');
  await atStep(page, 'Leave the pack on');
  await jumpTo(page, 'Lift the acid pack off');
  await press(page, 'Pack is off');
  await atStep(page, 'Weigh it filled');
  await press(page, /^Read mass, filled/);
  await expect(page.getByLabel('Mass, filled', { exact: true })).not.toHaveValue('');
  await press(page, 'Record');

  await jumpTo(page, 'Lay the cap strip on, loose');
  await press(page, 'Strip lies loose');
  await atStep(page, 'Read voltage and warmth');
  await press(page, 'Read all two');
  await expect(page.getByLabel('Case temperature', { exact: true })).not.toHaveValue('');
  await press(page, 'Record');
  await atStep(page, 'First charge');
  await expect(page.getByText(/0\.90 A for about/)).toBeVisible();
  await press(page, 'Charger is on');

  // Said once the time is up and the looks have proven it full.
  const isOver = page.getByText(/^(The time is up|It is full: take it off)/);
  let looks = 0;
  for (; looks < 40 && !(await isOver.isVisible()); looks++) {
    await jump(page);
    await press(page, 'Read all three');
    await expect(page.getByLabel('Case temperature', { exact: true })).not.toHaveValue('');
    await press(page, 'Record the look');
    await expect(page.getByLabel('Case temperature', { exact: true })).toHaveValue('');
  }
  await expect(page.getByText(/^Proof of full:/)).toBeVisible();
  await press(page, 'Charger is off at the mains');
  await jumpTo(page, 'Take the clips off');
  await press(page, 'Clips are off');
  await atStep(page, 'Press the lid home');
  await press(page, 'Lid is flush');
  await jumpTo(page, 'Read the rested voltage');
  await press(page, 'Read all two');
  await expect(page.getByLabel('Case temperature', { exact: true })).not.toHaveValue('');
  await press(page, 'Record');
  await atStep(page, 'Load it, or use the tester');
  await press(page, /^Read lowest voltage/);
  await expect(page.getByLabel('Lowest voltage under load', { exact: true })).not.toHaveValue('');
  await press(page, 'Record');
  await atStep(page, 'Pass, charge again, or reject');
  await press(page, 'It passes');
  await atStep(page, 'Ready it for hand-over');
  await press(page, 'All with it');
  await atStep(page, 'Sign the certificate');
  await press(page, 'Sign and certify');

  await atStep(page, 'Certified, ready to hand over');
  await tabTo(page, page.getByRole('link', { name: 'Certificate (PDF)' }));
  const downloading = page.waitForEvent('download');
  await page.keyboard.press('Enter');
  const download = await downloading;
  // Two a look by instrument; all else, from the way to intake to the paper: an answer a step, two where something is read.
  expect((await presses()) - before - 2 * looks).toBeLessThanOrEqual(35);
  expect(download.suggestedFilename()).toBe('SK-0150-certificate.pdf');
  const { text } = await new PDFParse({ data: await readFile(await download.path()) }).getText();
  expect(text).toContain('Commissioning certificate');
  expect(text).toContain('SK-0150');
  expect(text).toMatch(/Charge, estimated\s+\d+ %\s+\d+ to \d+ %/);
  expect(text).toMatch(/Proof of full: .* flat at 14\.\d V over \d+ min/);
  expect(text).toContain('Certified by Ines, Skerry Battery Loft');
  expect(text).toContain('licensed practice');
});
