/**
 * The shop as a service of this machine, as root on Debian. `npm run service:install` writes the unit and, where there are none yet, its
 * settings, and begins it (`-- --root FOLDER` writes them under a folder instead, to look at first). `npm run service:upgrade`, in the folder
 * of a new version, puts that in the place of the one that runs; `npm run service:rollback` goes back.
 */
import { existsSync, mkdirSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { parseArgs } from 'node:util';
import { settingsOf } from '../server/src/serviceUnit.ts';
import { rollBack, upgrade } from '../server/src/upgrade.ts';
import { buildAll, isBuilt } from './building.ts';
import {
  DATA,
  fileNow,
  giveData,
  programIn,
  programNow,
  SETTINGS,
  systemctl,
  systemdMachine,
  UNIT,
  userNow,
  writeUnit,
} from './systemd.ts';

const { values, positionals } = parseArgs({
  allowPositionals: true,
  options: { root: { type: 'string', default: '/' }, user: { type: 'string', default: 'nobody' } },
});
const { root, user } = values;
const isHere = root === '/';
const say = (sentence: string): void => void process.stdout.write(`${sentence}\n`);

async function install(): Promise<void> {
  const known = isHere ? programNow() : undefined;
  if (known && known.folder !== process.cwd())
    throw new Error(
      `The service runs ${known.version} in ${known.folder}: put this one in its place with “npm run service:upgrade”.`,
    );
  if (!isBuilt()) await buildAll();
  giveData(user, root);
  writeUnit(programIn(process.cwd()), user, root);
  say(`Written: ${join(root, UNIT)}`);
  const settings = join(root, SETTINGS);
  // What somebody has set stays.
  if (!existsSync(settings)) {
    mkdirSync(dirname(settings), { recursive: true });
    writeFileSync(settings, settingsOf(DATA));
    say(`Written: ${settings}`);
  }
  if (!isHere) return say('Nothing was begun: it was only written to be looked at.');
  systemctl('daemon-reload');
  systemctl('enable', '--now', 'cork-ember');
  say('The shop is open, and will be after every start of this machine.');
}

async function upgradeService(): Promise<void> {
  const from = programNow();
  if (!from) throw new Error('There is no service here yet: make it one with “npm run service:install”.');
  if (!isBuilt()) await buildAll();
  const { to, copy } = await upgrade(systemdMachine(userNow()), fileNow(), from, programIn(process.cwd()));
  say(`${to.version} runs now. The file as it was: ${copy}`);
  say('Back to the one before: npm run service:rollback. Its folder stays until nobody needs it.');
}

async function rollServiceBack(): Promise<void> {
  const { from, kept } = await rollBack(systemdMachine(userNow()), fileNow());
  say(`${from.version} runs again.`);
  if (kept !== undefined)
    say(`It could not read the newer file: that is kept, with what was recorded since, in ${kept}`);
}

const DOES: Readonly<Record<string, () => Promise<void>>> = {
  install,
  upgrade: upgradeService,
  rollback: rollServiceBack,
};

try {
  if (isHere && process.getuid?.() !== 0) throw new Error('Only root changes a service: run it with sudo.');
  await (DOES[positionals[0] ?? ''] ?? install)();
} catch (error) {
  process.stderr.write(`${error instanceof Error ? error.message : String(error)}\n`);
  process.exitCode = 2;
}
