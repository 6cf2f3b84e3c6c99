/** A new PIN for a lead who forgot it: `npm run lead -- NAME`. The shop must be closed; the PIN is shown once. */
import { realNow } from '../server/src/clock/realTime.ts';
import { ProblemError } from '../server/src/problems.ts';
import { Audit } from '../server/src/services/audit.ts';
import { People } from '../server/src/services/people.ts';
import { AccessStore } from '../server/src/store/accessStore.ts';
import { openDatabase } from '../server/src/store/database.ts';
import { ShopFileError } from '../server/src/store/shopFile.ts';

const file = process.env['CORK_EMBER_FILE'] ?? 'data/shop.sqlite';
const name = process.argv.slice(2).join(' ');
try {
  const database = await openDatabase(file);
  const store = new AccessStore(database);
  const people = new People({ store, audit: new Audit(store, realNow), shopNow: realNow, now: realNow });
  await people.load();
  try {
    const pin = await people.renewPin(name);
    process.stdout.write(
      `The PIN of ${name} is ${pin} from now on. Set another under Setup, People, then forget this one.\n`,
    );
  } finally {
    await database.close();
  }
} catch (error) {
  if (!(error instanceof ShopFileError || error instanceof ProblemError)) throw error;
  process.stderr.write(`No PIN was changed: ${error.message.replace(/[.]$/, '')}.\n`);
  process.exitCode = 2;
}
