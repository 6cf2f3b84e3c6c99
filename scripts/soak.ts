/**
 * What is too long for `npm test`: the server is killed again and again while several clients record, end jobs and take
 * endings back. `npm run soak:kills` goes on where it was stopped and writes its figures to docs/soak/results.md; a number after
 * it says how many kills there are to be in all.
 */
import { randomUUID } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { chanceFrom } from '@cork-ember/core/chance/chance.ts';
import type { JobAnswer, OpenJob } from '@cork-ember/core/contract/answers.ts';
import type { Entry } from '@cork-ember/core/runsheet/entries/events.ts';
import { chainBreak } from '../server/src/record/chain.ts';
import { rebuild } from '../server/src/services/projections.ts';
import { openDatabase } from '../server/src/store/database.ts';
import { JobStore } from '../server/src/store/jobStore.ts';
import { Lists } from '../server/src/store/lists.ts';
import { buildAll, isBuilt } from './building.ts';
import { startServer, type StartedServer } from './startedServer.ts';

const FOLDER = 'data/soak';
const STATE = join(FOLDER, 'state.json');
const RESULTS = 'docs/soak/results.md';
const SEED = 15;
/** Spreads small seeds over the range of the generator. */
const SPREAD = 40_503;
const USUAL_KILLS = 300;
/** As many as work at once. */
const CLIENTS = 8;
/** A new file so often: logs of thousands of notes are nobody's. */
const KILLS_PER_FILE = 25;
/** When it is killed, after it has begun to answer, ms. */
const LEAST_MS = 150;
const MOST_MS = 1600;

interface State {
  readonly kills: number;
  readonly acknowledged: number;
  readonly lost: number;
  readonly doubled: number;
  readonly broken: number;
  readonly listedOtherwise: number;
}

const NOTHING: State = { kills: 0, acknowledged: 0, lost: 0, doubled: 0, broken: 0, listedOtherwise: 0 };

const start = (file: string): Promise<StartedServer> =>
  startServer({ CORK_EMBER_DEMO: 'true', CORK_EMBER_FILE: file });

/** What a client does next with its job: mostly notes, now and then the end, and the end taken back. */
function nextEntry(job: JobAnswer, isOpen: boolean, count: number): Entry {
  if (!isOpen)
    return {
      kind: 'reopened',
      payload: {
        ending: job.events.findLast(({ kind }) => kind === 'withdrawn')?.key ?? '',
        bay: 0,
        why: 'it goes on after all',
      },
    };
  return count % 9 === 8
    ? { kind: 'withdrawn', payload: { reason: 'the owner came for it' } }
    : { kind: 'noted', payload: { text: `note ${count}` } };
}

/** Records until the server is gone; keys that were acknowledged go into the list. */
async function client(url: string, first: JobAnswer, acknowledged: string[]): Promise<void> {
  let events = first.events;
  let isOpen = true;
  for (let count = 0; ; count++) {
    const requestKey = randomUUID();
    const entry = nextEntry({ ...first, events }, isOpen, count);
    const body = JSON.stringify({ expectedSeq: events.length, requestKey, by: 'Ines', entry });
    try {
      const headers = { 'content-type': 'application/json' };
      const answer = await fetch(`${url}/api/jobs/${first.id}/events`, { method: 'POST', headers, body });
      const said: unknown = await answer.json();
      // A charger that is on, or a shelf it stands on already: something else is tried.
      if (answer.status !== 201) continue;
      events = [...events, said as JobAnswer['events'][number]];
      if (entry.kind === 'withdrawn') isOpen = false;
      if (entry.kind === 'reopened') isOpen = true;
      acknowledged.push(requestKey);
    } catch (error) {
      if (error instanceof TypeError || error instanceof SyntaxError) return;
      throw error;
    }
  }
}

/** What the file says after it was killed. */
async function looked(
  file: string,
  acknowledged: readonly string[],
): Promise<Omit<State, 'kills' | 'acknowledged'>> {
  const database = await openDatabase(file);
  const store = new JobStore(database);
  const times = new Map<string, number>();
  let broken = 0;
  for (const { id } of await store.jobs()) {
    const { entries } = await store.kept(id);
    if (chainBreak(entries) !== undefined) broken += 1;
    for (const { key } of entries) if (!key.startsWith('#')) times.set(key, (times.get(key) ?? 0) + 1);
  }
  const { mended } = await rebuild(store, new Lists(database));
  await database.close();
  return {
    lost: acknowledged.filter((key) => !times.has(key)).length,
    doubled: [...times.values()].filter((count) => count > 1).length,
    broken,
    listedOtherwise: mended.length,
  };
}

function write(state: State, asked: number): void {
  mkdirSync('docs/soak', { recursive: true });
  writeFileSync(STATE, JSON.stringify(state));
  writeFileSync(
    RESULTS,
    `# Killed again and again

Written by \`npm run soak:kills\` (seed ${SEED}; ${state.kills} of ${asked} kills). Eight clients record notes, end jobs and take endings back as
fast as they are answered; the server is sent SIGKILL at a random moment of its first ${(MOST_MS / 1000).toFixed(1)} s of work, and its file is looked
into before it is started again.

| what                                              | count |
| ------------------------------------------------- | ----- |
| kills                                             | ${state.kills} |
| entries acknowledged                              | ${state.acknowledged} |
| of them lost                                      | ${state.lost} |
| recorded twice                                    | ${state.doubled} |
| chains broken                                     | ${state.broken} |
| jobs listed otherwise than their record says      | ${state.listedOtherwise} |
`,
  );
}

const asked = Number(process.argv[2] ?? USUAL_KILLS);
if (!isBuilt()) await buildAll();
mkdirSync(FOLDER, { recursive: true });
let state: State = existsSync(STATE) ? (JSON.parse(readFileSync(STATE, 'utf8')) as State) : NOTHING;
const file = join(FOLDER, 'shop.sqlite');
while (state.kills < asked) {
  // Each kill has its own randomness, so that it is the same wherever one goes on from.
  const chance = chanceFrom((SEED + state.kills) * SPREAD);
  if (state.kills % KILLS_PER_FILE === 0)
    for (const suffix of ['', '-wal', '-shm', '.lock']) rmSync(`${file}${suffix}`, { force: true });
  const { server, url } = await start(file);
  const open = (await (await fetch(`${url}/api/jobs`)).json()) as OpenJob[];
  const jobs = await Promise.all(
    open
      .slice(0, CLIENTS)
      .map(async ({ id }) => (await (await fetch(`${url}/api/jobs/${id}`)).json()) as JobAnswer),
  );
  const acknowledged: string[] = [];
  const clients = jobs.map((job) => client(url, job, acknowledged));
  const after = LEAST_MS + chance() * (MOST_MS - LEAST_MS);
  await new Promise((resolve) => setTimeout(resolve, after));
  server.kill('SIGKILL');
  await Promise.all(clients);
  const found = await looked(file, acknowledged);
  state = {
    kills: state.kills + 1,
    acknowledged: state.acknowledged + acknowledged.length,
    lost: state.lost + found.lost,
    doubled: state.doubled + found.doubled,
    broken: state.broken + found.broken,
    listedOtherwise: state.listedOtherwise + found.listedOtherwise,
  };
  write(state, asked);
  process.stdout.write(`${JSON.stringify(state)}\n`);
}
if (state.lost + state.doubled + state.broken + state.listedOtherwise > 0) process.exitCode = 1;
