/** Readings of each second: their file is opened by the first that is kept or asked for, and a shop without devices has none. */
import { existsSync } from 'node:fs';
import type { Sample } from '@cork-ember/core/devices/samples.ts';
import { ReadingsFile, type JobSample } from '../readings/readingsFile.ts';

/** Beside the shop's own file, by its name. */
const readingsBeside = (shopFile: string): string => shopFile.replace(/(\.sqlite)?$/, '.readings.sqlite');

export class Readings {
  private readonly path: string;
  private file: Promise<ReadingsFile> | undefined;

  /** @param shopFile path of the shop's own file */
  constructor(shopFile: string) {
    this.path = readingsBeside(shopFile);
  }

  private opened(): Promise<ReadingsFile> {
    if (this.file) return this.file;
    const opening = ReadingsFile.open(this.path);
    this.file = opening;
    // Whoever asks next tries anew: the disk may have room again.
    opening.catch(() => (this.file = undefined));
    return opening;
  }

  async keep(samples: readonly JobSample[]): Promise<void> {
    if (samples.length > 0) await (await this.opened()).keep(samples);
  }

  /** All seconds of a job between two moments, in order; none where none were kept. */
  async read(job: string, from: number, to: number): Promise<readonly Sample[]> {
    if (!this.file && !existsSync(this.path)) return [];
    return (await this.opened()).read(job, from, to);
  }

  async close(): Promise<void> {
    const { file } = this;
    this.file = undefined;
    await file?.then((opened) => opened.close()).catch(() => undefined);
  }
}
