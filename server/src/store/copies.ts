/**
 * Copies of the shop's file. A copy is made by SQLite itself, of everything that was acknowledged before it began, while
 * entries go on arriving; a plain copy of the live file misses what still stands in its log.
 */
import { existsSync } from 'node:fs';
import { mkdir, readdir, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { Sequelize } from 'sequelize';
import { realNow } from '../clock/realTime.ts';
import { checkFile, lockFile, sentenceOfFile, ShopFileError } from './shopFile.ts';

/** Kept of each kind, the newest. */
const KEPT = 14;

const quoted = (path: string): string => `'${path.replaceAll("'", "''")}'`;

/** "2026-03-10T11-06-00": sorts by time, and stands in any file system. */
const stamp = (): string => new Date(realNow()).toISOString().slice(0, 19).replaceAll(':', '-');

/**
 * Copies a shop's file, open or not, over a connection of its own: entries do not wait for it. The copy appears whole or not
 * at all.
 * @param target a file that is not there yet
 */
export async function copyTo(file: string, target: string): Promise<void> {
  const unfinished = `${target}.unfinished`;
  await rm(unfinished, { force: true });
  const sequelize = new Sequelize({ dialect: 'sqlite', storage: file, logging: false });
  try {
    await sequelize.query(`VACUUM INTO ${quoted(unfinished)}`);
  } finally {
    await sequelize.close();
  }
  await rename(unfinished, target);
}

/** Copies of a kind in a folder, the oldest first; none where there is no folder. */
async function copiesIn(folder: string, kind: string): Promise<string[]> {
  const names = await readdir(folder).catch(() => []);
  return names.filter((name) => name.startsWith(`${kind}-`) && name.endsWith('.sqlite')).sort();
}

/**
 * Copies into a folder and lets the oldest of its kind go.
 * @param kind "nightly", "before-migration" …: what the file is called
 * @returns the copy's path
 */
export async function copyInto(file: string, folder: string, kind: string): Promise<string> {
  await mkdir(folder, { recursive: true });
  const target = join(folder, `${kind}-${stamp()}.sqlite`);
  if (!existsSync(target)) await copyTo(file, target);
  for (const name of (await copiesIn(folder, kind)).slice(0, -KEPT)) await rm(join(folder, name));
  return target;
}

/**
 * Copies a shop's file that may be open in another program.
 * @returns the copy's path
 * @throws ShopFileError where there is none
 */
export async function copyOf(file: string, folder: string): Promise<string> {
  if (!existsSync(file)) throw new ShopFileError(`${file}: there is no shop to copy`);
  try {
    return await copyInto(file, folder, 'by-hand');
  } catch (error) {
    const sentence = sentenceOfFile(error, folder);
    throw sentence === undefined ? error : new ShopFileError(sentence, { cause: error });
  }
}

/** When the newest copy of a kind was made, ms; undefined where there is none. */
export async function newestAt(folder: string, kind: string): Promise<number | undefined> {
  const newest = (await copiesIn(folder, kind)).at(-1);
  return newest === undefined ? undefined : (await stat(join(folder, newest))).mtimeMs;
}

/** @throws ShopFileError where it is no shop's file, or a damaged one */
async function checkCopy(copy: string): Promise<void> {
  const found = await stat(copy).catch(() => undefined);
  if (!found?.isFile() || found.size === 0) throw new ShopFileError(`${copy}: there is no such copy`);
  await checkFile(copy);
  const sequelize = new Sequelize({ dialect: 'sqlite', storage: copy, logging: false });
  try {
    const [rows] = await sequelize.query('PRAGMA integrity_check');
    const [first] = rows as readonly { integrity_check: string }[];
    if (first?.integrity_check !== 'ok') throw new ShopFileError(`${copy} is damaged; take another copy`);
    const [tables] = await sequelize.query(
      "SELECT name FROM sqlite_master WHERE type = 'table' AND name = 'job_events'",
    );
    if (tables.length === 0) throw new ShopFileError(`${copy} holds no shop`);
  } catch (error) {
    if (error instanceof ShopFileError || sentenceOfFile(error, copy) === undefined) throw error;
    throw new ShopFileError(`${copy} is damaged; take another copy`, { cause: error });
  } finally {
    await sequelize.close();
  }
}

/**
 * Puts a copy in the place of the shop's file; what was there is kept beside it, log and all.
 * @returns where what was there lies now; undefined where nothing was
 * @throws ShopFileError where the copy is none, or the shop is open
 */
export async function restore(file: string, copy: string): Promise<string | undefined> {
  await checkCopy(copy);
  const lock = await lockFile(file);
  try {
    const kept = existsSync(file) ? `${file}.before-${stamp()}` : undefined;
    if (kept !== undefined)
      for (const part of ['', '-wal', '-shm'])
        if (existsSync(`${file}${part}`)) await rename(`${file}${part}`, `${kept}${part}`);
    await copyTo(copy, file);
    return kept;
  } finally {
    await lock.release();
  }
}
