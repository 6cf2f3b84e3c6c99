/** Copies the shop's file, open or not: `npm run backup`, or `npm run backup -- FOLDER` for another disk. */
import { dirname, join } from 'node:path';
import { copyOf } from '../server/src/store/copies.ts';
import { ShopFileError } from '../server/src/store/shopFile.ts';

const file = process.env['CORK_EMBER_FILE'] ?? 'data/shop.sqlite';
const folder = process.argv[2] ?? join(dirname(file), 'copies');
try {
  process.stdout.write(`Copied to ${await copyOf(file, folder)}\n`);
} catch (error) {
  if (!(error instanceof ShopFileError)) throw error;
  process.stderr.write(`Nothing was copied: ${error.message}.\n`);
  process.exitCode = 2;
}
