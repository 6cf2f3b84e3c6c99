/** What every bench needs: a folder of its own, a built server that runs in it, and a line for its figure. */
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startServer, type StartedServer } from './startedServer.ts';

export const stopwatch = globalThis.performance;
export const folder = mkdtempSync(join(tmpdir(), 'cork-ember-bench-'));

export function show(name: string, value: string, target: string): void {
  console.log(`${name.padEnd(44)} ${value.padStart(16)}   target ${target}`);
}

export function median(values: readonly number[]): number {
  return [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)] ?? Number.NaN;
}

export interface Started extends StartedServer {
  readonly ms: number;
}

export async function start(
  name: string,
  file = join(folder, `${name}.sqlite`),
  options: readonly string[] = [],
  settings: Readonly<Record<string, string>> = {},
): Promise<Started> {
  const begun = stopwatch.now();
  const { server, url } = await startServer(
    { CORK_EMBER_DEMO: 'true', CORK_EMBER_FILE: file, ...settings },
    { options },
  );
  await fetch(`${url}/api/clock`);
  return { server, url, ms: stopwatch.now() - begun };
}

export async function stop({ server }: Started): Promise<void> {
  const ended = new Promise((resolve) => server.once('exit', resolve));
  server.kill('SIGTERM');
  await ended;
}
