/** The keyboard alone: what tests press, type and wait for without a mouse. */
import { expect, type Locator, type Page } from '@playwright/test';
import type { Shop } from './shop.ts';

/** A picture of one point. */
export const PICTURE = {
  name: 'bay.png',
  mimeType: 'image/png',
  buffer: Buffer.from(
    'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
    'base64',
  ),
};

/** The pages on which every Tab stop between is really pressed. */
const walked = new WeakSet<Page>();

/** From here on this page is walked Tab by Tab, however far the next thing is. */
export function walk(page: Page): void {
  walked.add(page);
}

/** Goes on with the Tab key until the element has the keyboard. */
export async function tabTo(page: Page, target: Locator): Promise<void> {
  await target.waitFor();
  for (let presses = 0; presses < 150; presses++) {
    if (await target.evaluate((element) => element === document.activeElement)) return;
    await page.keyboard.press('Tab');
  }
  throw new Error('the Tab key does not lead there');
}

/**
 * Gives the element the keyboard, where the Tab key stops at it. That the Tab key leads to every stop
 * of a view is a test of its own, so the stops between are pressed only on a page that is walked.
 */
async function reach(page: Page, target: Locator): Promise<void> {
  if (walked.has(page)) return tabTo(page, target);
  await expect(target).toBeEnabled({ timeout: 20_000 });
  const isStop = await target.evaluate(
    (element) =>
      element instanceof HTMLElement && element.tabIndex >= 0 && element.closest('[inert]') === null,
  );
  if (!isStop) throw new Error('the Tab key does not stop there');
  await target.focus();
}

/**
 * Counts what is pressed on a page from its next load on: every answer, whether by Enter, space or finger. Digits, Tab and
 * the demo's clock are none.
 * @returns how many so far
 */
export async function countPresses(page: Page): Promise<() => Promise<number>> {
  await page.addInitScript(() => {
    const count = (): number => Number(sessionStorage.getItem('presses') ?? 0);
    window.addEventListener('click', () => sessionStorage.setItem('presses', String(count() + 1)), true);
  });
  return () => page.evaluate(() => Number(sessionStorage.getItem('presses') ?? 0));
}

/** Presses the button of this name with the keyboard. */
export async function press(page: Page, name: string | RegExp, within: Page | Locator = page): Promise<void> {
  const button = within.getByRole('button', { name }).first();
  await reach(page, button);
  // Focused and pressed in one go: a step that came up meanwhile has the keyboard otherwise.
  await button.press('Enter');
}

/** Fills the field with the keyboard, from wherever it is. */
export async function type(page: Page, label: string, text: string): Promise<void> {
  await reach(page, page.getByLabel(label, { exact: true }).last());
  await page.keyboard.press('Control+a');
  await page.keyboard.type(text);
}

/** Opens the list of this name and takes the row that begins so. */
export async function pick(within: Page | Locator, list: string, row: string): Promise<void> {
  const page = 'keyboard' in within ? within : within.page();
  await within.getByRole('combobox', { name: list, exact: true }).press('Enter');
  await page.getByRole('listbox').waitFor();
  await page.keyboard.type(row);
  await expect(page.getByRole('option', { selected: true })).toContainText(row.split(' · ')[0] ?? row);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('listbox')).toBeHidden();
}

/** Lets the shop clock run to the next moment that needs hands. */
export async function jump(page: Page): Promise<void> {
  const answered = page.waitForResponse('**/api/clock');
  await page.keyboard.press('Alt+j');
  await answered;
}

/** Until the server has what was entered. */
export async function sent(page: Page): Promise<void> {
  await page.waitForFunction(() => document.documentElement.dataset['onTheWay'] === '0');
}

/** Minutes that pass once the server has what was entered: passing before, they would not count after it. */
export async function passes(page: Page, shop: Shop, minutes: number): Promise<void> {
  await sent(page);
  await shop.wait(minutes);
}

/** Sets how fast the shop clock of the demo runs. */
export async function pace(page: Page, times: 1 | 60 | 600): Promise<void> {
  await reach(page, page.getByRole('button', { name: /Shop clock/ }));
  await page.keyboard.press('Enter');
  await press(page, `${times}×`);
  await page.keyboard.press('Escape');
}

/** The run sheet has come to this step. */
export const atStep = (page: Page, title: string | RegExp) =>
  expect(page.getByRole('heading', { level: 2, name: title })).toBeVisible();

/** Keeps every answer to this address back until it is let go. */
export async function holdBack(page: Page, path: string | RegExp): Promise<() => void> {
  let release = (): void => undefined;
  const held = new Promise<void>((resolve) => (release = resolve));
  await page.route(path, async (route) => {
    await held;
    await route.fallback();
  });
  return release;
}
