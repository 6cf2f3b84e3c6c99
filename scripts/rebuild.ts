/** Lists every job anew from its record: `npm run rebuild`. The shop must be closed; the record itself is only read. */
import { BatteryList } from '../server/src/store/batteryList.ts';
import { openDatabase } from '../server/src/store/database.ts';
import { JobStore } from '../server/src/store/jobStore.ts';
import { Lists } from '../server/src/store/lists.ts';
import { rebuild } from '../server/src/services/projections.ts';
import { ShelfStore } from '../server/src/store/shelfStore.ts';
import { ShopFileError } from '../server/src/store/shopFile.ts';

const file = process.env['CORK_EMBER_FILE'] ?? 'data/shop.sqlite';
try {
  const database = await openDatabase(file);
  const { looked, mended, apart } = await rebuild(new JobStore(database), new Lists(database));
  await new BatteryList(database).rebuild();
  await new ShelfStore(database).rebuild();
  await database.close();
  process.stdout.write(`${looked} jobs were read, ${mended.length} were listed otherwise than they say.\n`);
  for (const tag of mended) process.stdout.write(`  listed anew: ${tag}\n`);
  for (const tag of apart) process.stdout.write(`  cannot be read and stays as it was listed: ${tag}\n`);
} catch (error) {
  if (!(error instanceof ShopFileError)) throw error;
  process.stderr.write(`Nothing was rebuilt: ${error.message}.\n`);
  process.exitCode = 2;
}
