/**
 * Makes the shop a service of this machine: `npm run service:install`, as root on Debian. Writes the unit and, where there are none yet,
 * its settings; then begins it. `-- --root FOLDER` writes them under a folder instead and begins nothing, to look at first.
 */
import { chownSync, existsSync, mkdirSync, statSync, writeFileSync } from 'node:fs';
import { spawnSync } from 'node:child_process';
import { dirname, join } from 'node:path';
import { parseArgs } from 'node:util';
import { settingsOf, unitOf } from '../server/src/serviceUnit.ts';
import { buildAll, isBuilt } from './building.ts';

const SETTINGS = '/etc/cork-ember.env';
const UNIT = '/etc/systemd/system/cork-ember.service';
const DATA = '/var/lib/cork-ember';

const { values } = parseArgs({
  options: { root: { type: 'string', default: '/' }, user: { type: 'string', default: 'nobody' } },
});
const { root, user } = values;
const isHere = root === '/';
const at = (path: string): string => join(root, path);

function put(path: string, text: string): void {
  mkdirSync(dirname(at(path)), { recursive: true });
  writeFileSync(at(path), text);
  process.stdout.write(`Written: ${at(path)}\n`);
}

/** @throws Error where systemd says no */
function systemctl(...asked: string[]): void {
  const { status } = spawnSync('systemctl', asked, { stdio: 'inherit' });
  if (status !== 0) throw new Error(`systemctl ${asked.join(' ')} did not work; the unit stands at ${UNIT}.`);
}

/** The folder of the shop's file is its user's. */
function giveData(): void {
  mkdirSync(at(DATA), { recursive: true });
  const id = spawnSync('id', ['-u', user], { encoding: 'utf8' });
  if (id.status !== 0)
    throw new Error(`This machine knows no user “${user}”: make one, or name another with --user.`);
  if (isHere) chownSync(DATA, Number(id.stdout), statSync(DATA).gid);
}

try {
  if (isHere && process.getuid?.() !== 0) throw new Error('Only root makes a service: run it with sudo.');
  if (!isBuilt()) await buildAll();
  giveData();
  const program = process.cwd();
  put(UNIT, unitOf({ program, data: DATA, node: process.execPath, user, settings: SETTINGS }));
  // What somebody has set stays.
  if (!existsSync(at(SETTINGS))) put(SETTINGS, settingsOf(DATA));
  if (isHere) {
    systemctl('daemon-reload');
    systemctl('enable', '--now', 'cork-ember');
    process.stdout.write('The shop is open, and will be after every start of this machine.\n');
  } else process.stdout.write('Nothing was begun: it was only written to be looked at.\n');
} catch (error) {
  process.stderr.write(`${error instanceof Error ? error.message : String(error)}\n`);
  process.exitCode = 2;
}
