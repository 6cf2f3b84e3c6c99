/** Puts a copy in the place of the shop's file: `npm run restore -- FILE`. The shop must be closed; what was there is kept. */
import { restore } from '../server/src/store/copies.ts';
import { ShopFileError } from '../server/src/store/shopFile.ts';

const file = process.env['CORK_EMBER_FILE'] ?? 'data/shop.sqlite';
const [copy] = process.argv.slice(2);
try {
  if (copy === undefined) throw new ShopFileError('name the copy: npm run restore -- FILE');
  const kept = await restore(file, copy);
  process.stdout.write(
    `${file} is ${copy} now.${kept === undefined ? '' : ` What was there is kept in ${kept}.`}\n`,
  );
} catch (error) {
  if (!(error instanceof ShopFileError)) throw error;
  process.stderr.write(`Nothing was restored: ${error.message}.\n`);
  process.exitCode = 2;
}
