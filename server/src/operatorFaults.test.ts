/** What whoever starts the shop sees when something is wrong around it: one sentence, an exit code, nothing half-done. */
import { spawn, spawnSync } from 'node:child_process';
import { copyFileSync, mkdirSync, mkdtempSync, rmSync, truncateSync, writeFileSync } from 'node:fs';
import { createServer, type AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import { openTestShop } from '../test/testShop.ts';
import { lockFile } from './store/shopFile.ts';

interface Ended {
  readonly code: number | null;
  readonly said: string;
}

const SERVER = [process.execPath, '--import', 'tsx', 'server/src/main.ts'];

/** @param within what it is started by, where not by itself */
function start(env: Readonly<Record<string, string>>, within: readonly string[] = []): Promise<Ended> {
  const [program = '', ...words] = [...within, ...SERVER];
  const child = spawn(program, words, {
    env: { ...process.env, CORK_EMBER_PORT: '0', CORK_EMBER_LOG: 'silent', ...env },
    stdio: ['ignore', 'ignore', 'pipe'],
  });
  let said = '';
  child.stderr.on('data', (chunk: Buffer) => {
    said += chunk.toString();
  });
  return new Promise((resolve) => child.once('exit', (code) => resolve({ code, said })));
}

/** A disk of so many kilobytes at a folder, where this user may make one; otherwise no file may be larger than that. */
function smallDisk(folder: string, kilobytes: number): readonly string[] {
  const mayMount = spawnSync('unshare', ['-rm', 'mount', '-t', 'tmpfs', 'tmpfs', folder]).status === 0;
  return mayMount
    ? [
        'unshare',
        '-rm',
        'sh',
        '-c',
        `mount -t tmpfs -o size=${kilobytes}k tmpfs "${folder}" && exec "$@"`,
        'sh',
      ]
    : limited(kilobytes);
}

/** No file may be larger than that: as with a quota. */
const limited = (kilobytes: number): readonly string[] => [
  'bash',
  '-c',
  `trap '' XFSZ; ulimit -f ${kilobytes}; exec "$@"`,
  'bash',
];

function expectSentence({ code, said }: Ended, sentence: RegExp, what: string): void {
  expect(code, `${what}: ${said}`).to.equal(2);
  expect(said, what).to.match(sentence);
  expect(said.trim().split('\n'), what).to.have.length(1);
  expect(said, what).to.match(/^Cork Ember cannot start: .+\.\n$/);
}

describe('what is wrong when the shop is started', () => {
  it('a disk that is full, or at its limit, or may not be written, is one sentence, and what was there stays', async function () {
    this.timeout(120_000);
    const folder = mkdtempSync(join(tmpdir(), 'cork-ember-disk-'));
    const file = join(folder, 'shop.sqlite');
    try {
      for (const kilobytes of [4, 20, 60, 100])
        expectSentence(
          await start({ CORK_EMBER_FILE: file }, smallDisk(folder, kilobytes)),
          /disk of .* is full|disk of .* does not take/,
          `${kilobytes} kB`,
        );
      expectSentence(await start({ CORK_EMBER_FILE: file }, limited(60)), /does not take/, 'a quota');
      // No user may make a file here, the highest neither.
      expectSentence(await start({ CORK_EMBER_FILE: '/proc/shop.sqlite' }), /cannot be written/, 'read-only');
      // What broke off half-way is begun anew.
      const shop = await openTestShop(file, true);
      expect((await shop.api.get('/api/jobs').expect(200)).body).to.deep.equal([]);
      await shop.close();
    } finally {
      rmSync(folder, { recursive: true, force: true });
    }
  });

  it('is one sentence each, exit code 2, and leaves things as they are', async function () {
    this.timeout(120_000);
    const folder = mkdtempSync(join(tmpdir(), 'cork-ember-faults-'));
    const at = (name: string): string => join(folder, name);
    const whole = at('whole.sqlite');
    const shop = await openTestShop(whole);
    const cut = at('cut.sqlite');
    await shop.services.copies.lend((path) => Promise.resolve(copyFileSync(path, cut)));
    truncateSync(cut, 60_000);
    writeFileSync(at('text.sqlite'), 'a shopping list\n');
    mkdirSync(at('folder.sqlite'));
    writeFileSync(at('a-file'), '');
    await shop.close();
    const lock = await lockFile(whole);
    const busy = createServer().listen(0, '127.0.0.1');
    await new Promise((resolve) => busy.once('listening', resolve));
    const port = String((busy.address() as AddressInfo).port);
    const faults: readonly (readonly [env: Readonly<Record<string, string>>, sentence: RegExp])[] = [
      [{ CORK_EMBER_FILE: at('text.sqlite') }, /is no shop’s file/],
      [{ CORK_EMBER_FILE: at('folder.sqlite') }, /folder/],
      [{ CORK_EMBER_FILE: cut }, /damaged/],
      [{ CORK_EMBER_FILE: join(at('a-file'), 'shop.sqlite') }, /cannot/],
      [{ CORK_EMBER_FILE: whole }, /open in another Cork Ember/],
      [
        { CORK_EMBER_FILE: at('port.sqlite'), CORK_EMBER_PORT: port },
        /port \d+ is in use; set CORK_EMBER_PORT/,
      ],
      [{ CORK_EMBER_FILE: at('zone.sqlite'), CORK_EMBER_TIME_ZONE: 'Moon/Tycho' }, /names no zone/],
      [
        { CORK_EMBER_FILE: at('host.sqlite'), CORK_EMBER_HOST: '203.0.113.9' },
        /has no address 203\.0\.113\.9/,
      ],
      [{ CORK_EMBER_FILE: at('log.sqlite'), CORK_EMBER_LOG: 'loud' }, /CORK_EMBER_LOG/],
    ];
    try {
      for (let index = 0; index < faults.length; index += 3)
        await Promise.all(
          faults.slice(index, index + 3).map(async ([env, sentence]) => {
            expectSentence(await start(env), sentence, JSON.stringify(env));
          }),
        );
    } finally {
      await lock.release();
      busy.close();
      rmSync(folder, { recursive: true, force: true });
    }
  });
});
