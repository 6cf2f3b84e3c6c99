/** The shop as a service of this machine, as systemd has it: where it runs from, with what settings, and how it is stopped and begun. */
import { spawnSync } from 'node:child_process';
import { once } from 'node:events';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { setTimeout as pass } from 'node:timers/promises';
import { parseEnv } from 'node:util';
import { startServer } from './startedServer.ts';
import { unitOf, workingDirectoryIn } from '../server/src/serviceUnit.ts';
import type { Machine, Program } from '../server/src/upgrade.ts';

export const SETTINGS = '/etc/cork-ember.env';
export const UNIT = '/etc/systemd/system/cork-ember.service';
export const DATA = '/var/lib/cork-ember';
const SERVICE = 'cork-ember';
/** A file of years is opened and checked within it, s. */
const LONGEST_S = 180;
const USUAL_PORT = '4180';

/** @throws Error where systemd says no */
export function systemctl(...asked: string[]): void {
  const { status } = spawnSync('systemctl', asked, { stdio: 'inherit' });
  if (status !== 0) throw new Error(`systemctl ${asked.join(' ')} did not work; the unit stands at ${UNIT}.`);
}

/** The settings the service runs with. */
export function settingsNow(): Readonly<Record<string, string | undefined>> {
  return existsSync(SETTINGS) ? parseEnv(readFileSync(SETTINGS, 'utf8')) : {};
}

/** The program in a folder. @throws Error where there is none */
export function programIn(folder: string): Program {
  const { version } = JSON.parse(readFileSync(join(folder, 'package.json'), 'utf8')) as { version: string };
  return { folder, version };
}

/** The program the service runs; undefined where there is no service yet. */
export function programNow(): Program | undefined {
  const folder = existsSync(UNIT) ? workingDirectoryIn(readFileSync(UNIT, 'utf8')) : undefined;
  return folder === undefined ? undefined : programIn(folder);
}

/** @throws Error for a user this machine has not */
export function writeUnit(program: Program, user: string, root = '/'): void {
  const path = join(root, UNIT);
  mkdirSync(dirname(path), { recursive: true });
  writeFileSync(
    path,
    unitOf({ program: program.folder, data: DATA, node: process.execPath, user, settings: SETTINGS }),
  );
}

/** What was copied or put back as root is the service's own again. @throws Error for a user this machine has not */
export function giveData(user: string, root = '/'): void {
  const data = join(root, DATA);
  mkdirSync(data, { recursive: true });
  if (spawnSync('chown', ['-R', user, data]).status !== 0)
    throw new Error(`This machine knows no user “${user}”: make one, or name another with --user.`);
}

/** @returns what is wrong there; undefined where the shop is well enough to work */
async function troubleAt(url: string): Promise<string | undefined> {
  const answer = await fetch(`${url}/healthz`);
  const { state, parts = {} } = (await answer.json()) as {
    state: string;
    parts?: Readonly<Record<string, { readonly state: string; readonly says: string }>>;
  };
  if (state !== 'ill') return undefined;
  return Object.values(parts)
    .filter((part) => part.state === 'ill')
    .map(({ says }) => says)
    .join(' ');
}

/** Opens a file with a program, in a process of its own that answers to nobody else. */
async function troubleWith({ folder }: Program, file: string): Promise<string | undefined> {
  try {
    const { server, url } = await startServer(
      {
        ...settingsNow(),
        CORK_EMBER_FILE: file,
        CORK_EMBER_PORT: '0',
        CORK_EMBER_HOST: '127.0.0.1',
        CORK_EMBER_HTTPS: 'false',
        CORK_EMBER_LOG: 'silent',
      },
      { folder, longestS: LONGEST_S },
    );
    const ended = once(server, 'exit');
    const trouble = await troubleAt(url);
    server.kill('SIGTERM');
    await ended;
    return trouble;
  } catch (error) {
    return error instanceof Error ? error.message : String(error);
  }
}

/** @param user the service runs as */
export const systemdMachine = (user: string): Machine => ({
  stop: () => Promise.resolve(systemctl('stop', SERVICE)),
  begin: (program) => {
    writeUnit(program, user);
    giveData(user);
    systemctl('daemon-reload');
    systemctl('start', SERVICE);
    return Promise.resolve();
  },
  trouble: async () => {
    const url = `http://127.0.0.1:${settingsNow()['CORK_EMBER_PORT'] ?? USUAL_PORT}`;
    for (let second = 0; second < LONGEST_S; second++) {
      // Not there yet: it opens its file first.
      const found = await troubleAt(url).catch(() => 'away' as const);
      if (found !== 'away') return found;
      await pass(1000);
    }
    return `it did not answer within ${LONGEST_S} s.`;
  },
  troubleWith,
});

/** Who the service runs as. */
export function userNow(): string {
  return /^User=(.+)$/m.exec(readFileSync(UNIT, 'utf8'))?.[1] ?? 'nobody';
}

/** The shop's file, as the service is told. */
export const fileNow = (): string => settingsNow()['CORK_EMBER_FILE'] ?? join(DATA, 'shop.sqlite');
