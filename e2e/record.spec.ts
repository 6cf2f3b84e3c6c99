/** The record in the browser: a certificate amended, a paper held against it, a record that stands apart, a copy brought back. */
import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { PDFParse } from 'pdf-parse';
import sqlite from 'sqlite3';
import type { Page } from '@playwright/test';
import { press, sent } from './keys.ts';
import { expect, Shop, sitDown, test } from './shop.ts';

const CERTIFIED = '/jobs/5ce77e00-0000-4000-8000-000000000121';
const WHY = 'the meter stood on the wrong range';

async function paperText(page: Page, name: string): Promise<string> {
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name }).first().click(),
  ]);
  return (await new PDFParse({ data: await readFile(await download.path()) }).getText()).text;
}

/** Writes into a shop's file past the program, as a bad disk or an old version would. */
function harm(shop: Shop, sql: string): Promise<void> {
  return new Promise((resolve, reject) => {
    const database = new sqlite.Database(join(shop.folder, 'shop.sqlite'));
    database.exec(sql, (error) => database.close(() => (error ? reject(error) : resolve())));
  });
}

test('a certificate that is out is amended: the next issue shows both, and each paper can be held against the record', async ({
  page,
  shop,
}) => {
  await sitDown(page, 'Ines');
  await page.goto(shop.url + CERTIFIED);
  const issues = page.getByRole('region', { name: 'Issues' });
  await expect(issues).toContainText('Issue 1, sealed');
  const first = (await issues.getByRole('link').first().innerText()).trim();
  await press(page, /^Amend: Read voltage and warmth/);
  const pane = page.getByRole('dialog');
  await expect(pane).toContainText('Its papers are out');
  await pane.getByRole('textbox', { name: 'Open-circuit voltage' }).fill('12.71');
  await press(page, 'Save the amendment', pane);
  await expect(pane).toContainText('say it in a few words');
  await pane.getByLabel('Why', { exact: true }).fill(WHY);
  await press(page, 'Save the amendment', pane);
  await expect(pane).toBeHidden();
  await sent(page);
  await expect(issues).toContainText('Issue 2, sealed');
  await expect(issues).toContainText('no longer valid');
  const text = await paperText(page, 'Certificate (PDF)');
  expect(text).toContain('What was changed since issue 1');
  expect(text).toContain(WHY);
  expect(text).toContain('Open-circuit voltage 12.71 V');
  expect(text).toContain('issue 1 had: Read voltage and warmth: Open-circuit voltage 12.7');
  expect(text).toContain(first);
  const old = await paperText(page, 'Certificate as it was (PDF)');
  expect(old).toContain('No longer valid: issue 2 has taken its place');
  expect(old).not.toContain(WHY);

  await page.goto(`${shop.url}/check`);
  await page.getByLabel('Check code of the paper').fill(first.replace('-', '').toLowerCase());
  await press(page, 'Hold it against the record');
  await expect(page.getByRole('status')).toContainText('No longer valid: issue 2');
  await page.getByRole('link', { name: 'Issue 2, which is valid' }).click();
  await expect(page.getByRole('status')).toContainText('The record vouches for this paper');
  await expect(page.getByRole('article')).toContainText('SK-0121');
});

test('an ending is taken back with a reason, the job goes on where it stood, and ends again as issue 2', async ({
  page,
  shop,
}) => {
  await sitDown(page, 'Ines');
  await page.goto(shop.url + CERTIFIED);
  await press(page, 'Take the ending back');
  const pane = page.getByRole('dialog');
  await expect(pane.getByText('bay 8')).toBeVisible();
  await press(page, 'Open it again', pane);
  await expect(pane).toContainText('at least 8 letters');
  await pane.getByLabel('Why', { exact: true }).fill(WHY);
  await press(page, 'Open it again', pane);
  await expect(page.getByRole('heading', { level: 2, name: 'Sign the certificate' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'in bay 8' })).toBeVisible();
  await sent(page);
  await page.goto(shop.url);
  await expect(page.getByRole('link', { name: /SK-0121/ }).first()).toBeVisible();
  await page.goto(shop.url + CERTIFIED);
  await expect(page.getByRole('heading', { level: 2, name: 'Sign the certificate' })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('region', { name: 'Issues' })).toContainText('Issue 2, sealed');
});

test('a record nobody can read stands apart beside healthy ones, and is readable raw', async ({
  page,
  shop,
}) => {
  const { port } = shop;
  await shop.kill();
  await harm(
    shop,
    `UPDATE job_events SET payload = REPLACE(payload, '#1', '-gone#1')
      WHERE job = '5ce77e00-0000-4000-8000-000000000144' AND seq = 4`,
  );
  await shop.start(port);
  await sitDown(page, 'Ines');
  await page.goto(shop.url);
  await expect(page.getByRole('link', { name: /SK-0139/ }).first()).toBeVisible();
  await page.getByRole('link', { name: 'SK-0144: its record cannot be read' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('stands apart');
  await expect(page.getByText('has no step')).toBeVisible();
  await expect(page.getByText('safety-gone#1')).toHaveCount(2);
  await expect(page.getByText('mobility scooter')).toBeVisible();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Whole job (JSON)' }).click(),
  ]);
  const file = JSON.parse(await readFile(await download.path(), 'utf8')) as { entries: unknown[] };
  expect(file.entries.length).toBeGreaterThan(8);
  await page.goto(`${shop.url}/setup?part=changes`);
  await expect(page.getByRole('heading', { name: 'Records that stand apart' })).toBeVisible();
});

test('the copy Setup gives is brought back by one command, with all that was in it', async ({
  page,
  shop,
}) => {
  test.setTimeout(120_000);
  await sitDown(page, 'Ines');
  await page.goto(shop.url + CERTIFIED);
  await page.getByLabel('Note for the log').fill('before the disk died');
  await press(page, 'Add');
  await sent(page);
  await page.goto(`${shop.url}/setup?part=changes`);
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Take a copy away' }).click(),
  ]);
  const copy = await download.path();
  const other = new Shop();
  try {
    const file = join(other.folder, 'shop.sqlite');
    const restored = spawnSync('npx', ['tsx', 'scripts/restore.ts', copy], {
      cwd: join(import.meta.dirname, '..'),
      env: { ...process.env, CORK_EMBER_FILE: file },
      encoding: 'utf8',
    });
    expect(restored.status, restored.stderr).toBe(0);
    await other.start();
    await page.goto(other.url + CERTIFIED);
    await expect(page.getByText('before the disk died')).toBeVisible();
    // Nobody listens any more to the shop that closes.
    await page.goto(shop.url);
  } finally {
    await other.close();
  }
});

test('what starts the shop passes its exit on, and leaves no server behind when it is killed', async ({
  shop,
}) => {
  const start = (file: string): ChildProcess =>
    spawn(process.execPath, ['--import', 'tsx', 'scripts/start.ts'], {
      cwd: join(import.meta.dirname, '..'),
      env: { ...process.env, CORK_EMBER_FILE: file, CORK_EMBER_PORT: '0', CORK_EMBER_LOG: 'silent' },
      stdio: ['ignore', 'pipe', 'ignore'],
    });
  const ended = (child: ChildProcess): Promise<number | null> =>
    new Promise((resolve) => child.once('exit', resolve));
  // The shop of this test is open: its file is taken.
  expect(await ended(start(join(shop.folder, 'shop.sqlite')))).toBe(2);
  const other = start(join(shop.folder, 'other.sqlite'));
  const url = await new Promise<string>((resolve) => {
    other.stdout?.on('data', (chunk: Buffer) => {
      const found = /http:\S+/.exec(chunk.toString())?.[0];
      if (found !== undefined) resolve(found);
    });
  });
  expect((await fetch(`${url}/api/clock`)).status).toBe(200);
  other.kill('SIGKILL');
  const answers = (): Promise<boolean> =>
    fetch(`${url}/api/clock`).then(
      () => true,
      () => false,
    );
  await expect.poll(answers).toBe(false);
});
