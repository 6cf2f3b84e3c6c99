/** Builds server and interface when their sources are newer than what was built. */
import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { brotliCompress, gzip as gzipCallback } from 'node:zlib';
import { build } from 'vite';

const brotli = promisify(brotliCompress);
const gzip = promisify(gzipCallback);

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

const ASSETS = 'web/dist/assets';
/** Smaller than this a file is not worth unpacking, bytes. */
const LEAST_BYTES = 1024;

/** Beside each script and style what a browser is sent of it: a tablet on the shop's network loads a quarter. */
async function compressAssets(): Promise<void> {
  const names = readdirSync(ASSETS).filter((name) => /\.(js|css)$/.test(name));
  await Promise.all(
    names.map(async (name) => {
      const file = join(ASSETS, name);
      const bytes = readFileSync(file);
      if (bytes.length < LEAST_BYTES) return;
      writeFileSync(`${file}.br`, await brotli(bytes));
      writeFileSync(`${file}.gz`, await gzip(bytes));
    }),
  );
}

export async function buildAll(): Promise<void> {
  for (const config of ['server/vite.config.ts', 'web/vite.config.ts'])
    await build({ configFile: config, logLevel: 'warn' });
  await compressAssets();
}
