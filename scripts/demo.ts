/**
 * The demo shop. Its file is kept over restarts and begun anew the next day, or with --fresh, so that the
 * batteries on the bench are always today's.
 */
import { existsSync, rmSync, statSync } from 'node:fs';
import { realNow } from '../server/src/clock/realTime.ts';
import { serve } from './serving.ts';

const FILE = 'data/demo.sqlite';
const MAX_AGE_MS = 12 * 3_600_000;

const age = existsSync(FILE) ? realNow() - statSync(FILE).birthtimeMs : 0;
if (process.argv.includes('--fresh') || age > MAX_AGE_MS)
  for (const suffix of ['', '-wal', '-shm']) rmSync(`${FILE}${suffix}`, { force: true });

await serve({ CORK_EMBER_DEMO: 'true', CORK_EMBER_FILE: FILE });
