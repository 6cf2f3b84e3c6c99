/** A sheet of tags, made beside the server: whoever reads a battery meanwhile is not kept waiting. */
import { fork } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import type { Region } from '@cork-ember/core/units/region.ts';
import { Queue } from '../services/queue.ts';
import type { Label } from './labels.ts';

/** What a sheet is made of. */
export interface Sheet {
  readonly labels: readonly Label[];
  readonly region: Region;
}

/** As it lies beside this file: built, or as it was written. */
const DRAWER = fileURLToPath(
  new URL(import.meta.url.endsWith('.ts') ? './drawLabels.ts' : './drawLabels.js', import.meta.url),
);

/** Sheets are made one after the other: many at once would take the machine from the bench. */
const queue = new Queue();

/** @throws Error where the sheet cannot be drawn */
export const labelSheet = (sheet: Sheet): Promise<Buffer> => queue.run('sheet', () => drawn(sheet));

function drawn(sheet: Sheet): Promise<Buffer> {
  const drawer = fork(DRAWER, { serialization: 'advanced' });
  return new Promise((resolve, reject) => {
    drawer.once('message', (pdf: Uint8Array) => resolve(Buffer.from(pdf)));
    drawer.once('error', reject);
    drawer.once('exit', () => reject(new Error('the sheet of tags was not drawn')));
    drawer.send(sheet);
  });
}
