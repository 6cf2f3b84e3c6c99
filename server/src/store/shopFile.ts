/**
 * What stands before a shop's file is opened: that it is one, that it can be written, that nobody else has it open. What
 * is wrong is one sentence for whoever starts the shop, with what to do about it.
 */
import { mkdir, open, stat } from 'node:fs/promises';
import { dirname } from 'node:path';
import { Sequelize } from 'sequelize';

/** A sentence for whoever starts the shop, or restores it. */
export class ShopFileError extends Error {}

/** How every SQLite 3 file begins. @see https://www.sqlite.org/fileformat.html, 1.3.1 */
const MAGIC = 'SQLite format 3\0';

async function beginsWithMagic(file: string): Promise<boolean> {
  const handle = await open(file, 'r');
  try {
    const { buffer, bytesRead } = await handle.read(Buffer.alloc(MAGIC.length), 0, MAGIC.length, 0);
    return bytesRead === MAGIC.length && buffer.toString('latin1') === MAGIC;
  } finally {
    await handle.close();
  }
}

/** Whether it opens to be written, tried and not only asked: a read-only disk lets its owner do anything but that. */
async function isWritable(path: string, flags: 'r+' | 'a'): Promise<boolean> {
  try {
    await (await open(path, flags)).close();
    return true;
  } catch {
    return false;
  }
}

const lockOf = (file: string): string => `${file}.lock`;

/**
 * Looks at the file as it lies there; one that is missing, or empty, is a shop that begins.
 * @throws ShopFileError
 */
export async function checkFile(file: string): Promise<void> {
  const folder = dirname(file);
  const isThere = await mkdir(folder, { recursive: true }).then(
    () => true,
    () => false,
  );
  if (!isThere)
    throw new ShopFileError(`${folder} cannot be made, or is no folder: give the shop’s file another place`);
  const found = await stat(file).catch(() => undefined);
  if (found?.isDirectory()) throw new ShopFileError(`${file} is a folder; name the shop’s file in it`);
  // SQLite writes its log beside the file; so does the lock.
  if (!(await isWritable(lockOf(file), 'a')) || (found && !(await isWritable(file, 'r+'))))
    throw new ShopFileError(
      `${file} cannot be written: give this user the right to, the file and its folder`,
    );
  if (found && found.size > 0 && !(await beginsWithMagic(file)))
    throw new ShopFileError(`${file} is no shop’s file: it was left as it is; name another`);
}

export interface Lock {
  release(): Promise<void>;
}

/** SQLite's own codes, as its driver gives them. */
export function codeOfSqlite(error: unknown): string {
  const parent: unknown = error instanceof Error && 'parent' in error ? error.parent : error;
  return parent instanceof Error && 'code' in parent ? String(parent.code) : '';
}

/**
 * Keeps everybody else off a shop's file while it is open. The lock is the system's, on a file beside it, and goes with the
 * process however that ends.
 * @throws ShopFileError where another has it
 */
export async function lockFile(file: string): Promise<Lock> {
  const sequelize = new Sequelize({
    dialect: 'sqlite',
    storage: lockOf(file),
    logging: false,
    retry: { max: 1 },
  });
  try {
    await sequelize.query('PRAGMA busy_timeout = 0');
    await sequelize.query('BEGIN EXCLUSIVE');
  } catch (error) {
    await sequelize.close();
    if (codeOfSqlite(error) !== 'SQLITE_BUSY') throw error;
    throw new ShopFileError(`${file} is open in another Cork Ember: close that one first`);
  }
  return { release: () => sequelize.close() };
}

/** What SQLite says of a file, in a sentence; undefined where it is nothing a person could act on. */
export function sentenceOfFile(error: unknown, file: string): string | undefined {
  switch (codeOfSqlite(error)) {
    case 'SQLITE_CORRUPT':
    case 'SQLITE_NOTADB':
      return `${file} is damaged: bring a copy back with “npm run restore FILE”; the damaged one is kept`;
    case 'SQLITE_FULL':
      return `The disk of ${file} is full: nothing was changed; make room and start again`;
    case 'SQLITE_IOERR':
      return `The disk of ${file} does not take or give what it should: look whether it is full, at a limit, or failing`;
    case 'SQLITE_READONLY':
    case 'SQLITE_CANTOPEN':
      return `${file} cannot be written: give this user the right to, the file and its folder`;
    case 'SQLITE_BUSY':
      return `${file} is held by another program: close it there first`;
    default:
      return undefined;
  }
}
