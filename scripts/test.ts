/** Everything that must hold before a change lands. Prints what failed, then one line of counts. */
import { spawnSync } from 'node:child_process';
import { mkdirSync, readFileSync } from 'node:fs';
import { buildAll } from './building.ts';

interface Count {
  readonly passed: number;
  readonly failed: number;
}

const bin = (name: string): string => `node_modules/.bin/${name}`;

/** One command that passes or fails as a whole. */
function check(name: string, command: string, args: readonly string[]): Count {
  const { status, stdout, stderr } = spawnSync(bin(command), args, { encoding: 'utf8' });
  const isPassed = status === 0;
  console.log(`${isPassed ? 'ok  ' : 'FAIL'} ${name}`);
  if (!isPassed) console.log(`${stdout}\n${stderr}`);
  return { passed: isPassed ? 1 : 0, failed: isPassed ? 0 : 1 };
}

/** A runner that writes its counts as JSON; one that counts nothing has failed. */
function suite(
  name: string,
  command: string,
  args: readonly string[],
  countOf: (report: unknown) => Count,
  file: string,
): Count {
  const { status } = spawnSync(bin(command), args, { stdio: 'inherit' });
  let count: Count = { passed: 0, failed: 1 };
  try {
    count = countOf(JSON.parse(readFileSync(file, 'utf8')));
  } catch {
    console.log(`FAIL ${name}: no report was written`);
  }
  const isEmpty = count.passed + count.failed === 0;
  const failed = count.failed === 0 && (status !== 0 || isEmpty) ? 1 : count.failed;
  console.log(`${failed === 0 ? 'ok  ' : 'FAIL'} ${name}: ${count.passed} passed, ${failed} failed`);
  return { passed: count.passed, failed };
}

const OUT = 'test-results';
mkdirSync(OUT, { recursive: true });
const counts: Count[] = [
  ...['core', 'core/tsconfig.test.json', 'server', 'web', 'e2e', 'scripts'].map((project) =>
    check(`types ${project}`, 'tsc', ['--noEmit', '-p', project]),
  ),
  check('lint', 'eslint', ['.', '--max-warnings', '0']),
  check('format', 'prettier', ['--check', '.']),
  check('boundaries', 'depcruise', [
    '--config',
    '.dependency-cruiser.mjs',
    'core',
    'server/src',
    'web/src',
    'e2e',
    'scripts',
  ]),
  check('unused', 'knip', ['--no-progress']),
];

const unitFile = `${OUT}/unit.json`;
counts.push(
  suite(
    'unit and API',
    'mocha',
    ['--reporter', 'scripts/unitReporter.mjs', '--reporter-option', `output=${unitFile}`],
    (report) => report as Count,
    unitFile,
  ),
);

await buildAll();
const browserFile = `${OUT}/browser.json`;
counts.push(
  suite(
    'browser',
    'playwright',
    ['test', '--config', 'e2e/playwright.config.ts'],
    (report) => {
      const { stats } = report as {
        stats: { expected: number; unexpected: number; flaky: number; skipped: number };
      };
      return { passed: stats.expected, failed: stats.unexpected + stats.flaky + stats.skipped };
    },
    browserFile,
  ),
);

const total = (key: keyof Count): number => counts.reduce((sum, count) => sum + count[key], 0);
console.log(`${total('passed')} passed, ${total('failed')} failed`);
process.exit(total('failed') === 0 ? 0 : 1);
