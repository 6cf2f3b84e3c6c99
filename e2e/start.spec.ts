/** What starts the server passes its end on, and leaves none behind. */
import { spawn, type ChildProcess } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';

const ROOT = join(import.meta.dirname, '..');

function starter(file: string): ChildProcess {
  return spawn(process.execPath, ['--import', 'tsx', 'scripts/start.ts'], {
    cwd: ROOT,
    env: { ...process.env, CORK_EMBER_FILE: file, CORK_EMBER_PORT: '0', CORK_EMBER_LOG: 'silent' },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
}

const firstUrl = (child: ChildProcess): Promise<string> =>
  new Promise((resolve) =>
    child.stdout?.on('data', (chunk: Buffer) => {
      const url = /http:\S+/.exec(chunk.toString())?.[0];
      if (url !== undefined) resolve(url);
    }),
  );

const answers = (url: string): Promise<boolean> =>
  fetch(`${url}/api/clock`).then(
    () => true,
    () => false,
  );

let folder = '';
test.beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'cork-ember-start-'));
});
test.afterEach(() => rmSync(folder, { recursive: true, force: true }));

test('npm start ends as its server does, with its sentence', async () => {
  const file = join(folder, 'shop.sqlite');
  mkdirSync(file);
  const child = starter(file);
  let said = '';
  child.stderr?.on('data', (chunk: Buffer) => (said += chunk.toString()));
  const code = await new Promise((resolve) => child.once('exit', resolve));
  expect(code).toBe(2);
  expect(said).toContain('is a folder; name the shop’s file in it.');
  expect(said.trim().split('\n')).toHaveLength(1);
});

for (const signal of ['SIGTERM', 'SIGKILL'] as const)
  test(`npm start ended by ${signal} leaves no server behind`, async () => {
    const child = starter(join(folder, 'shop.sqlite'));
    const url = await firstUrl(child);
    expect(await answers(url)).toBe(true);
    child.kill(signal);
    await expect.poll(() => answers(url)).toBe(false);
  });
