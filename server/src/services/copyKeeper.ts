/** Copies of the shop's file: one each night into every folder it was told, and one whenever somebody asks. */
import { existsSync } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Logger } from 'pino';
import { realNow } from '../clock/realTime.ts';
import { copyInto, copyTo, newestAt } from '../store/copies.ts';
import type { Database } from '../store/database.ts';
import { readingsBeside } from './readings.ts';

const HOUR_MS = 3_600_000;
const NIGHTLY = 'nightly';
/** Nobody is at the bench, by the machine's own clock. */
const NIGHT_HOURS = [1, 2, 3, 4];
/** A machine that is off at night is copied by day all the same. */
const OLDEST_H = 30;
const NEWEST_H = 12;

/**
 * Whether a nightly copy is due.
 * @param newest when the last one was made, ms
 * @param hour of the machine's day, 0–23
 */
export function isCopyDue(newest: number | undefined, now: number, hour: number): boolean {
  if (newest === undefined) return true;
  const hours = (now - newest) / HOUR_MS;
  return hours >= OLDEST_H || (hours >= NEWEST_H && NIGHT_HOURS.includes(hour));
}

/** Copies of the readings of each second, where a shop has any. */
const READINGS = 'readings';

export class CopyKeeper {
  private readonly file: string;
  private readonly folders: readonly string[];
  private readonly log: Logger;
  private timer: NodeJS.Timeout | undefined;

  /** @param folders none where nothing is kept by night */
  constructor({ file }: Pick<Database, 'file'>, folders: readonly string[], log: Logger) {
    this.file = file;
    this.folders = folders;
    this.log = log;
  }

  /** Looks each hour from now on. */
  begin(): void {
    this.timer = setInterval(() => void this.look(), HOUR_MS);
    this.timer.unref();
    void this.look();
  }

  end(): void {
    clearInterval(this.timer);
  }

  /** Makes the copies that are due; a folder that cannot be written, a disk that is away, does not keep the others from theirs. */
  async look(now = realNow()): Promise<void> {
    const hour = new Date(now).getHours();
    for (const folder of this.folders)
      try {
        if (!isCopyDue(await newestAt(folder, NIGHTLY), now, hour)) continue;
        const readings = readingsBeside(this.file);
        if (existsSync(readings)) await copyInto(readings, folder, READINGS);
        await copyInto(this.file, folder, NIGHTLY);
      } catch (error) {
        this.log.error({ err: error, folder }, 'the nightly copy could not be made');
      }
  }

  /** When the last nightly copy was made, of the folder that has waited longest, ms. */
  async newest(): Promise<number | 'none wanted' | undefined> {
    if (this.folders.length === 0) return 'none wanted';
    const all = await Promise.all(
      this.folders.map((folder) => newestAt(folder, NIGHTLY).catch(() => undefined)),
    );
    return all.includes(undefined) ? undefined : Math.min(...all.filter((at) => at !== undefined));
  }

  /**
   * A copy of this moment, for somebody who takes it away.
   * @param take is given its path, and gets it for as long as it runs
   */
  async lend(take: (path: string) => Promise<void>): Promise<void> {
    const folder = await mkdtemp(join(tmpdir(), 'cork-ember-copy-'));
    try {
      const path = join(folder, 'shop.sqlite');
      await copyTo(this.file, path);
      await take(path);
    } finally {
      await rm(folder, { recursive: true });
    }
  }
}
