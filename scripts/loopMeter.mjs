// @ts-check
// Loaded before a server that is measured: how long its event loop was held up at most. On SIGUSR2 it writes that to the file
// named by LOOP_METER, in ms, and begins anew. Plain JavaScript, so that the server starts as it ships.
import { renameSync, writeFileSync } from 'node:fs';

const EVERY_MS = 1;
const file = process.env.LOOP_METER ?? '';
const stopwatch = globalThis.performance;
let last = stopwatch.now();
let worst = 0;

globalThis
  .setInterval(() => {
    const now = stopwatch.now();
    worst = Math.max(worst, now - last - EVERY_MS);
    last = now;
  }, EVERY_MS)
  .unref();

process.on('SIGUSR2', () => {
  writeFileSync(`${file}.writing`, String(worst));
  renameSync(`${file}.writing`, file);
  worst = 0;
});
