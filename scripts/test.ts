/** Everything that must hold before a change lands. Prints what failed, then one line of counts. */
import { execFile, spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdirSync, readFileSync } from 'node:fs';
import { buildAll } from './building.ts';

interface Count {
  readonly passed: number;
  readonly failed: number;
}

const bin = (name: string): string => `node_modules/.bin/${name}`;

const MOST_OUTPUT = 64 * 1024 * 1024;

/** One command that passes or fails as a whole. */
function check(name: string, command: string, args: readonly string[]): Promise<Count> {
  return new Promise((resolve) => {
    execFile(bin(command), args, { maxBuffer: MOST_OUTPUT }, (error, stdout, stderr) => {
      console.log(`${error ? 'FAIL' : 'ok  '} ${name}`);
      if (error) console.log(`${stdout}\n${stderr}`);
      resolve({ passed: error ? 0 : 1, failed: error ? 1 : 0 });
    });
  });
}

/** A runner that writes its counts as JSON; one that counts nothing has failed. */
async function suite(
  name: string,
  command: string,
  args: readonly string[],
  countOf: (report: unknown) => Count,
  file: string,
): Promise<Count> {
  const [status] = (await once(spawn(bin(command), args, { stdio: 'inherit' }), 'exit')) as [number | null];
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
const unitFile = `${OUT}/unit.json`;

/** Types, lint, format, boundaries and what nobody uses, one after the other. */
async function checks(): Promise<Count[]> {
  const counts: Count[] = [];
  for (const project of ['core', 'core/tsconfig.test.json', 'server', 'web', 'e2e', 'scripts'])
    counts.push(await check(`types ${project}`, 'tsc', ['--noEmit', '-p', project]));
  counts.push(await check('lint', 'eslint', ['.', '--max-warnings', '0']));
  counts.push(await check('format', 'prettier', ['--check', '.']));
  const folders = ['core', 'server/src', 'web/src', 'e2e', 'scripts'];
  counts.push(
    await check('boundaries', 'depcruise', ['--config', '.dependency-cruiser.mjs', ...folders]),
    await check('unused', 'knip', ['--no-progress']),
  );
  return counts;
}

// The checks have the second core while the unit tests run on the first.
const [checked, unit] = await Promise.all([
  checks(),
  suite(
    'unit and API',
    'mocha',
    ['--reporter', 'scripts/unitReporter.mjs', '--reporter-option', `output=${unitFile}`],
    (report) => report as Count,
    unitFile,
  ),
]);
const counts: Count[] = [...checked, unit];

await buildAll();
const browserFile = `${OUT}/browser.json`;
counts.push(
  await suite(
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
