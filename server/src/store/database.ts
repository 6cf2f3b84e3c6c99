/** The shop's SQLite file: one writer, write-ahead log, every commit on disk before it is answered. */
import { dirname, join } from 'node:path';
import pLimit from 'p-limit';
import { QueryTypes, Sequelize, Transaction, type QueryOptions } from 'sequelize';
import sqlite3 from 'sqlite3';
import { copyInto } from './copies.ts';
import { migrations } from './migrations/migrations.ts';
import { defineModels, type Models } from './models.ts';
import { checkFile, lockFile, sentenceOfFile, ShopFileError } from './shopFile.ts';

export interface Database {
  /** Where it lies. */
  readonly file: string;
  readonly sequelize: Sequelize;
  readonly models: Models;
  close(): Promise<void>;
}

/** A disk that is busy for so long is waited for, ms: an entry that takes seconds is better than one that is refused. */
const BUSY_MS = 15_000;

/** A connection that waits for another one to end its writing. */
function patientDatabase(...given: ConstructorParameters<typeof sqlite3.Database>): sqlite3.Database {
  const connection = new sqlite3.Database(...given);
  connection.configure('busyTimeout', BUSY_MS);
  return connection;
}

const WRITES = /^\s*(insert|update|delete|replace)\b/i;

/** Whether a transaction is asked for inside another. */
const isWithin = (asked: unknown): boolean =>
  typeof asked === 'object' && asked !== null && 'transaction' in asked && Boolean(asked.transaction);

/**
 * Lets one write begin when the one before it has ended. Waiting in SQLite instead holds a thread of the four that Node has
 * for files: four that wait for a transaction leave none to end it.
 */
function writeInTurn(sequelize: Sequelize): void {
  const inTurn = pLimit(1);
  const query = sequelize.query.bind(sequelize) as (
    sql: string | { readonly query: string },
    options?: QueryOptions,
  ) => Promise<unknown>;
  const asked = (sql: string | { readonly query: string }, options?: QueryOptions): Promise<unknown> => {
    const isWrite = WRITES.test(typeof sql === 'string' ? sql : sql.query);
    // Within a transaction it is its turn already.
    return isWrite && !options?.transaction ? inTurn(() => query(sql, options)) : query(sql, options);
  };
  const transaction = sequelize.transaction.bind(sequelize) as (work: unknown) => Promise<unknown>;
  Object.assign(sequelize, {
    query: asked,
    // What “find or create” does within one goes on in its turn: waiting for the next it would wait for itself.
    transaction: (work: unknown) => (isWithin(work) ? transaction(work) : inTurn(() => transaction(work))),
  });
}

/** Names of the migrations that a file has had. */
async function migrated(sequelize: Sequelize): Promise<string[]> {
  const select = <T extends object>(sql: string): Promise<T[]> =>
    sequelize.query<T>(sql, { type: QueryTypes.SELECT });
  const isNew = (await select("SELECT 1 FROM sqlite_master WHERE name = 'SequelizeMeta'")).length === 0;
  return isNew
    ? []
    : (await select<{ name: string }>('SELECT name FROM SequelizeMeta')).map(({ name }) => name);
}

/**
 * Brings the tables up to date, all of it or nothing: killed in the middle, the file is as it was before.
 * @throws ShopFileError where a newer program made the file
 */
async function migrate(sequelize: Sequelize, file: string): Promise<void> {
  const known = new Set(migrations.map(({ name }) => name));
  const done = new Set(await migrated(sequelize));
  if ([...done].some((name) => !known.has(name)))
    throw new ShopFileError(`${file} was made by a newer Cork Ember: start it with that one`);
  if ([...known].every((name) => done.has(name))) return;
  if (done.size > 0) await copyInto(file, join(dirname(file), 'copies'), 'before-migration');
  // Loaded by the few starts that need it.
  const { SequelizeStorage, Umzug } = await import('umzug');
  const umzug = new Umzug({
    migrations: [...migrations],
    context: sequelize.getQueryInterface(),
    storage: new SequelizeStorage({ sequelize }),
    logger: undefined,
  });
  await sequelize.query('BEGIN IMMEDIATE');
  try {
    await umzug.up();
    await sequelize.query('COMMIT');
  } catch (error) {
    // A full disk has rolled it back already, and what is wrong is the first thing that was.
    await sequelize.query('ROLLBACK').catch(() => undefined);
    throw error;
  }
}

/** A file that is open, and nobody else's until it is closed. */
export type Connection = Pick<Database, 'sequelize' | 'close'>;

/**
 * Opens a file of the shop, creating it when missing.
 * @param file path of the SQLite file
 * @param prepare what it needs before anybody asks it anything
 * @throws ShopFileError, a sentence, where it cannot be opened
 */
export async function connect(
  file: string,
  prepare: (sequelize: Sequelize) => Promise<void> = () => Promise.resolve(),
): Promise<Connection> {
  await checkFile(file);
  const lock = await lockFile(file);
  const sequelize = new Sequelize({
    dialect: 'sqlite',
    storage: file,
    logging: false,
    // A transaction that begins as a reader may not write any more once another has, however long it waits.
    transactionType: Transaction.TYPES.IMMEDIATE,
    dialectModule: { ...sqlite3, Database: patientDatabase },
  });
  writeInTurn(sequelize);
  const close = async (): Promise<void> => {
    await sequelize.close();
    await lock.release();
  };
  try {
    await sequelize.query('PRAGMA journal_mode = WAL');
    await sequelize.query('PRAGMA synchronous = FULL');
    await sequelize.query('PRAGMA foreign_keys = ON');
    await prepare(sequelize);
  } catch (error) {
    await close();
    const sentence = sentenceOfFile(error, file);
    throw sentence === undefined ? error : new ShopFileError(sentence, { cause: error });
  }
  return { sequelize, close };
}

/**
 * Opens the shop's own file and brings its tables up to date.
 * @param file path of the SQLite file
 * @throws ShopFileError, a sentence, where it cannot be opened as a shop's
 */
export async function openDatabase(file: string): Promise<Database> {
  const connection = await connect(file, (sequelize) => migrate(sequelize, file));
  return { file, models: defineModels(connection.sequelize), ...connection };
}

/** Within a transaction whose deletions are overwritten in the file, not only let go of. @see https://www.sqlite.org/pragma.html#pragma_secure_delete */
export function overwriting<T>(
  { sequelize }: Pick<Database, 'sequelize'>,
  work: (transaction: Transaction) => Promise<T>,
): Promise<T> {
  return sequelize.transaction(async (transaction) => {
    await sequelize.query('PRAGMA secure_delete = ON', { transaction });
    return work(transaction);
  });
}
