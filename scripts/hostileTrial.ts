/**
 * Calls no page would make, a hundred thousand of them: no failure of the server, no memory that grows. `npm run fuzz` goes on where it
 * was stopped and writes docs/soak/fuzz.md; a number after it says how many calls there are to be in all.
 */
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { hostileCalls } from '../server/test/hostileCalls.ts';
import { buildAll, isBuilt } from './building.ts';
import { memoryOf } from './processes.ts';
import { startServer, type StartedServer } from './startedServer.ts';

const FOLDER = 'data/fuzz';
const STATE = join(FOLDER, 'state.json');
const RESULTS = 'docs/soak/fuzz.md';
const USUAL_CALLS = 100_000;
/** Calls of one seed, after which what was found is written down. */
const BATCH = 1000;
/** As many at once. */
const SIDE_BY_SIDE = 8;

interface State {
  readonly calls: number;
  readonly byStatus: Readonly<Record<string, number>>;
  /** What the server failed at: method, path and status. */
  readonly failed: readonly string[];
  /** Memory of the server after each batch, MB; begun anew with each server. */
  readonly memoryMb: readonly number[];
}

const NOTHING: State = { calls: 0, byStatus: {}, failed: [], memoryMb: [] };

function start(): Promise<StartedServer> {
  rmSync(join(FOLDER, 'shop'), { recursive: true, force: true });
  mkdirSync(join(FOLDER, 'shop'), { recursive: true });
  return startServer({
    CORK_EMBER_DEMO: 'true',
    CORK_EMBER_FILE: join(FOLDER, 'shop', 'shop.sqlite'),
    CORK_EMBER_LOG: 'silent',
  });
}

/** @returns statuses, each with what was asked */
async function batch(url: string, seed: string): Promise<(readonly [status: number, asked: string])[]> {
  const calls = hostileCalls(seed);
  const answers: (readonly [number, string])[] = [];
  let left = BATCH;
  const client = async (): Promise<void> => {
    while (left > 0) {
      left -= 1;
      const { method, url: path, headers, body } = calls.next().value;
      const response = await fetch(`${url}${path}`, { method, headers, ...(body ? { body } : {}) });
      await response.arrayBuffer();
      answers.push([response.status, `${method} ${path.slice(0, 200)}`]);
    }
  };
  await Promise.all(Array.from({ length: SIDE_BY_SIDE }, client));
  return answers;
}

function write({ calls, byStatus, failed, memoryMb }: State): void {
  mkdirSync('docs/soak', { recursive: true });
  const rows = Object.entries(byStatus).map(([status, count]) => `| ${status} | ${count} |`);
  const tenth = Math.max(1, Math.floor(memoryMb.length / 10));
  const mean = (list: readonly number[]): number =>
    Math.round(list.reduce((sum, one) => sum + one, 0) / Math.max(1, list.length));
  writeFileSync(
    RESULTS,
    [
      '# Calls no page would make',
      '',
      `Written by \`npm run fuzz\`: ${calls} calls over all routes, anything in path, query and body, ${SIDE_BY_SIDE} side by side.`,
      '',
      '| answered | calls |',
      '| --- | --- |',
      ...rows,
      '',
      failed.length === 0 ? 'The server failed at none.' : `The server failed at ${failed.length}:`,
      ...failed.map((one) => `- \`${one}\``),
      '',
      `Memory of the server: ${mean(memoryMb.slice(tenth, 2 * tenth))} MB in the second tenth of the run, ${mean(memoryMb.slice(-tenth))} MB in the last.`,
      '',
    ].join('\n'),
  );
}

const most = Number(process.argv[2] ?? USUAL_CALLS);
if (!isBuilt()) await buildAll();
mkdirSync(FOLDER, { recursive: true });
let state: State = existsSync(STATE) ? (JSON.parse(readFileSync(STATE, 'utf8')) as State) : NOTHING;
// Memory is followed within one server.
state = { ...state, memoryMb: [] };
const { server, url } = await start();
try {
  while (state.calls < most) {
    const answers = await batch(url, `fuzz ${state.calls}`);
    const byStatus: Record<string, number> = { ...state.byStatus };
    for (const [status] of answers) byStatus[status] = (byStatus[status] ?? 0) + 1;
    state = {
      calls: state.calls + answers.length,
      byStatus,
      failed: [
        ...state.failed,
        ...answers.filter(([status]) => status >= 500).map(([s, asked]) => `${s} ${asked}`),
      ],
      memoryMb: [...state.memoryMb, Math.round(memoryOf(server.pid ?? 0))],
    };
    writeFileSync(STATE, JSON.stringify(state));
    write(state);
  }
} finally {
  server.kill('SIGKILL');
}
