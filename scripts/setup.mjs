// @ts-check
// Installs what is missing, with Node alone: the packages of the lockfile and, for browser work, Chromium.
// Plain JavaScript because nothing that could run TypeScript is installed yet.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';

const STAMP = 'node_modules/.cork-ember-lock';
const CHROMIUMS = [process.env.CHROMIUM_PATH, '/usr/bin/chromium', '/usr/bin/chromium-browser'];

/** @param {string} sentence */
function giveUp(sentence) {
  console.error(`Cork Ember: ${sentence}`);
  process.exit(2);
}

/**
 * @param {string} command
 * @param {string[]} args
 */
function run(command, args) {
  return (
    spawnSync(command, args, { stdio: 'inherit', env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' } })
      .status === 0
  );
}

const [major = 0, minor = 0] = process.versions.node.split('.').map(Number);
if (major < 20 || (major === 20 && minor < 19))
  giveUp(`Node ${process.versions.node} is too old; install Node 20.19 or newer.`);

const lock = createHash('sha256').update(readFileSync('package-lock.json')).digest('hex');
const installed = existsSync(STAMP) ? readFileSync(STAMP, 'utf8') : '';
if (installed !== lock) {
  console.log('Installing packages; the database is compiled once, which takes about two minutes.');
  // Not `npm ci`: it refuses a lockfile from which a registry left out packages for other platforms.
  if (!run('npm', ['install', '--no-audit', '--no-fund']))
    giveUp('the packages could not be installed; see the lines above.');
  writeFileSync(STAMP, createHash('sha256').update(readFileSync('package-lock.json')).digest('hex'));
}

if (process.argv.includes('--browser') && !CHROMIUMS.some((path) => path && existsSync(path))) {
  if (process.getuid?.() !== 0)
    giveUp(
      'the browser tests need Chromium; install it with “sudo apt-get install chromium” and run this again.',
    );
  console.log('Installing Chromium for the browser tests.');
  if (
    !run('apt-get', ['update']) ||
    !run('apt-get', ['install', '-y', '--no-install-recommends', 'chromium'])
  )
    giveUp('Chromium could not be installed; install the package “chromium” by hand and run this again.');
}
