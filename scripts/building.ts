/** Builds server and interface when their sources are newer than what was built. */
import { existsSync, readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { build } from 'vite';

const SOURCES = [
  'core',
  'server/src',
  'server/vite.config.ts',
  'web/src',
  'web/public',
  'web/index.html',
  'web/vite.config.ts',
  'package-lock.json',
];
const BUILT = ['server/dist/main.js', 'web/dist/index.html'];

function newest(path: string): number {
  const stat = statSync(path);
  if (!stat.isDirectory()) return path.endsWith('.test.ts') ? 0 : stat.mtimeMs;
  return Math.max(
    0,
    ...readdirSync(path)
      .filter((name) => name !== 'node_modules')
      .map((name) => newest(join(path, name))),
  );
}

export function isBuilt(): boolean {
  if (!BUILT.every((file) => existsSync(file))) return false;
  const oldestBuilt = Math.min(...BUILT.map((file) => statSync(file).mtimeMs));
  return SOURCES.every((source) => newest(source) <= oldestBuilt);
}

export async function buildAll(): Promise<void> {
  for (const config of ['server/vite.config.ts', 'web/vite.config.ts'])
    await build({ configFile: config, logLevel: 'warn' });
}
