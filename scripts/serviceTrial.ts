/**
 * The shop as a service on a clean Debian, for real: installed, killed, started anew with the machine, upgraded and rolled back, under a
 * systemd of its own in a namespace that leaves this machine alone. `npm run service:trial` as root, with `DEBIAN=folder` of a root such as
 * `mmdebstrap --variant=minbase --include=systemd,systemd-sysv,dbus bookworm folder` makes; without one over this machine's own. Writes
 * docs/soak/service.md.
 */
import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { cpSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as pass } from 'node:timers/promises';
import { realNow } from '../server/src/clock/realTime.ts';
import { buildAll, isBuilt } from './building.ts';
import { programIn } from './systemd.ts';

const RESULTS = 'docs/soak/service.md';
const REPO = process.cwd();
const DEBIAN = process.env['DEBIAN'] ?? '/';
const FOLDER = mkdtempSync('/var/tmp/cork-ember-service-');
const LONGEST_S = 600;

/** Makes a root of its own out of a Debian and the programs, and begins systemd in it. */
const ROOM = `
set -e
mount --make-rprivate /
root=${FOLDER}/root
mkdir -p ${FOLDER}/up ${FOLDER}/work $root
mount -t overlay overlay -o lowerdir=${DEBIAN},upperdir=${FOLDER}/up,workdir=${FOLDER}/work $root
mount -t proc proc $root/proc
mount --rbind /sys $root/sys
mount --rbind /dev $root/dev
mount -t tmpfs tmpfs $root/run
mount -t tmpfs tmpfs $root/tmp
touch $root/usr/bin/node
mount --bind ${process.execPath} $root/usr/bin/node
mkdir -p $root/usr/lib/node_modules
mount --bind ${join(process.execPath, '../../lib/node_modules')} $root/usr/lib/node_modules
ln -sf ../lib/node_modules/npm/bin/npm-cli.js $root/usr/bin/npm
for program in ${FOLDER}/programs/*; do
  at=$root/opt/$(basename $program)
  mkdir -p $at
  mount --bind $program $at
  for own in . core server web e2e; do
    if [ -d ${REPO}/$own/node_modules ]; then
      mkdir -p $at/$own/node_modules
      mount --bind ${REPO}/$own/node_modules $at/$own/node_modules
    fi
  done
done
exec chroot $root /usr/bin/env container=trial /lib/systemd/systemd --system --unit=multi-user.target
`;

let room: ChildProcess | undefined;

/** Its systemd, by this machine's number. */
function init(): string {
  const found = spawnSync('pgrep', ['-P', String(room?.pid)], { encoding: 'utf8' }).stdout.trim();
  if (found === '') throw new Error('there is no systemd to ask');
  return found;
}

/** @throws Error with what it said, where it fails and was not meant to */
function inside(command: string, isMeantToFail = false): string {
  const args = ['-t', init(), '-a', '-r', '-w', 'sh', '-c', command];
  const { status, stdout, stderr } = spawnSync('nsenter', args, {
    encoding: 'utf8',
    env: { HOME: '/root', PATH: '/usr/sbin:/usr/bin:/sbin:/bin' },
  });
  if ((status !== 0) !== isMeantToFail) throw new Error(`${command}: ${stdout}${stderr}`);
  return `${stdout}${stderr}`;
}

async function within(what: string, is: () => boolean): Promise<number> {
  const since = realNow();
  for (;;) {
    try {
      if (is()) return (realNow() - since) / 1000;
    } catch {
      // Not there yet.
    }
    if (realNow() - since > LONGEST_S * 1000) throw new Error(`${what} took more than ${LONGEST_S} s`);
    await pass(100);
  }
}

const asked = (path: string, body?: object): string => {
  const init =
    body === undefined
      ? '{}'
      : `{ method: 'POST', headers: { 'content-type': 'application/json' }, body: '${JSON.stringify(body)}' }`;
  return inside(
    `node -e "fetch('http://127.0.0.1:4180${path}', ${init.replaceAll('"', '\\"')}).then(async (a) => { if (!a.ok) process.exitCode = 1; console.log(await a.text()); })"`,
  );
};

const isWell = (): boolean => asked('/healthz').includes('"store":{"state":"well"');
const version = (): string => (JSON.parse(asked('/api/session')) as { version: string }).version;
const moves = (): number => (JSON.parse(asked('/api/stock')) as { moves: readonly unknown[] }).moves.length;

function record(key: number): void {
  asked('/api/stock', {
    by: 'Maeve',
    item: 'soda',
    amount: 1,
    why: 'counted',
    requestKey: `00000000-0000-4000-8000-${String(key).padStart(12, '0')}`,
  });
}

const mainPid = (): string => inside('systemctl show -p MainPID --value cork-ember').trim();

async function begin(): Promise<void> {
  room = spawn(
    'unshare',
    ['--fork', '--kill-child', '--pid', '--mount', '--ipc', '--uts', '--net', '--cgroup', 'sh', '-c', ROOM],
    {
      stdio: 'ignore',
    },
  );
  await within('systemd', () => /running|degraded/.test(inside('systemctl is-system-running || true')));
}

async function end(): Promise<void> {
  const gone = new Promise<void>((resolve) => room?.once('exit', () => resolve()));
  spawnSync('kill', ['-9', init()]);
  await gone;
}

/** A version of the program, as somebody unpacks it. */
function unpack(name: string, number: string): string {
  const folder = join(FOLDER, 'programs', name);
  mkdirSync(folder, { recursive: true });
  spawnSync('sh', ['-c', `git archive HEAD | tar -x -C ${folder}`]);
  const own = join(folder, 'package.json');
  writeFileSync(own, readFileSync(own, 'utf8').replace(/"version": "[^"]+"/, `"version": "${number}"`));
  if (number === programIn(REPO).version)
    for (const dist of ['server/dist', 'web/dist']) cpSync(dist, join(folder, dist), { recursive: true });
  return folder;
}

/** The next one writes its file in a form the one before cannot read. */
function withMigration(folder: string): void {
  const list = join(folder, 'server/src/store/migrations/migrations.ts');
  writeFileSync(
    list,
    readFileSync(list, 'utf8').replace(
      /\n\];\n$/,
      `\n  { name: '9999-trial', up: () => Promise.resolve() },\n];\n`,
    ),
  );
}

const rows: (readonly [did: string, came: string])[] = [];
const found = (did: string, came: string): void => {
  rows.push([did, came]);
  process.stdout.write(`${did}: ${came}\n`);
};
const seconds = (time: number): string => `${time.toFixed(1)} s`;

/** @throws Error with both */
function expect(what: string, is: unknown, should: unknown): void {
  if (is !== should) throw new Error(`${what} is ${String(is)}, not ${String(should)}`);
}

async function trial(first: string): Promise<void> {
  inside('cd /opt/first && npm run service:install');
  const opened = await within('the first start', isWell);
  record(1);
  found('installed', `answers ${seconds(opened)} after the command; ${moves()} entry of stock`);

  const before = mainPid();
  inside(`kill -9 ${before}`);
  const again = await within('the start after a kill', () => mainPid() !== before && isWell());
  expect('entries after the kill', moves(), 1);
  found('killed (SIGKILL)', `answers again after ${seconds(again)}, nothing lost`);

  await end();
  await begin();
  const booted = await within('the start with the machine', isWell);
  expect('entries after the start', moves(), 1);
  found('machine switched off and on', `answers ${seconds(booted)} after systemd is up, nothing lost`);

  inside('cd /opt/next && npm run service:upgrade');
  expect('version', version(), '90.0.0');
  record(2);
  found('upgraded to 90.0.0', `answers; ${moves()} entries`);
  inside('cd /opt/next && npm run service:rollback');
  expect('version', version(), first);
  expect('entries after going back', moves(), 2);
  found(`back to ${first}`, 'what was recorded meanwhile is still there: the file’s form is the same');

  inside('cd /opt/newer && npm run service:upgrade');
  expect('version', version(), '91.0.0');
  record(3);
  const back = inside('cd /opt/newer && npm run service:rollback');
  expect('version', version(), first);
  expect('entries after going back', moves(), 2);
  expect('says where the newer file is', /is kept, with what was recorded since/.test(back), true);
  found(
    'upgraded to 91.0.0, of another form, and back',
    'the copy of before; the newer file is kept and named',
  );

  const refusal = inside('cd /opt/broken && npm run service:upgrade', true);
  expect('says why', /nothing was changed: Cork Ember cannot start: it is broken/.test(refusal), true);
  expect('version', version(), first);
  found('upgraded to one that is broken', 'refused on a copy; the shop was never closed');
}

if (process.getuid?.() !== 0) throw new Error('Only root makes a namespace: run it with sudo.');
if (!isBuilt()) await buildAll();
const { version: first } = programIn(REPO);
unpack('first', first);
unpack('next', '90.0.0');
withMigration(unpack('newer', '91.0.0'));
const broken = unpack('broken', '92.0.0');
for (const dist of ['server/dist', 'web/dist']) cpSync(dist, join(broken, dist), { recursive: true });
writeFileSync(
  join(broken, 'server/dist/main.js'),
  `process.stderr.write('Cork Ember cannot start: it is broken.\\n');\nprocess.exit(2);\n`,
);
try {
  await begin();
  await trial(first);
  mkdirSync('docs/soak', { recursive: true });
  writeFileSync(
    RESULTS,
    [
      '# The shop as a service',
      '',
      `Under systemd ${inside('systemctl --version').split(' ')[1] ?? ''} on Debian ${inside('cat /etc/debian_version').trim()}${DEBIAN === '/' ? '' : ', a clean root'}, in a namespace of its own. \`npm run service:trial\` writes this anew.`,
      '',
      '| what was done | what came of it |',
      '| --- | --- |',
      ...rows.map((row) => `| ${row.join(' | ')} |`),
      '',
    ].join('\n'),
  );
} finally {
  await end().catch(() => undefined);
  rmSync(FOLDER, { recursive: true, force: true });
}
