/** The bench as a program of its own. Where its server goes, everything goes off. */
import type { ToBench } from '@cork-ember/core/devices/bay/messages.ts';
import { Bench } from './bench.ts';

const bench = new Bench((message) => {
  if (process.connected) process.send?.(message);
});

process.on('message', (message: ToBench) => void bench.hear(message));
process.once('disconnect', () => {
  void bench.end('The shop’s server ended: switched off.').finally(() => process.exit());
});
