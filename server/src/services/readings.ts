/** Readings of each second: their file is opened by the first that is kept or asked for, and a shop without devices has none. */
import { existsSync } from 'node:fs';
import type { Sample } from '@cork-ember/core/devices/samples.ts';
import { ReadingsFile, type JobSample } from '../readings/readingsFile.ts';

const HOUR_MS = 3_600_000;
/** Beside the shop's own file, by its name. */
export const readingsBeside = (shopFile: string): string =>
  shopFile.replace(/(\.sqlite)?$/, '.readings.sqlite');

export class Readings {
  private readonly path: string;
  private file: Promise<ReadingsFile> | undefined;
  private timer: NodeJS.Timeout | undefined;

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

  /** Looks each hour whether any are older than the shop's rule. @param before until when, shop time in ms */
  beginAging(before: () => number): void {
    const look = async (): Promise<void> => {
      if (this.file || existsSync(this.path)) await (await this.opened()).age(before());
    };
    // One that cannot be written now is tried again in an hour.
    this.timer = setInterval(() => void look().catch(() => undefined), HOUR_MS);
    this.timer.unref();
    void look().catch(() => undefined);
  }

  async close(): Promise<void> {
    clearInterval(this.timer);
    const { file } = this;
    this.file = undefined;
    await file?.then((opened) => opened.close()).catch(() => undefined);
  }
}
