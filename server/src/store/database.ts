/** The shop's SQLite file: one writer, write-ahead log, every commit on disk before it is answered. */
import { mkdirSync } from 'node:fs';
import { dirname } from 'node:path';
import { Sequelize } from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';
import { migrations } from './migrations/migrations.ts';
import { defineModels, type Models } from './models.ts';

export interface Database {
  readonly sequelize: Sequelize;
  readonly models: Models;
  close(): Promise<void>;
}

/**
 * Opens the file, creating it when missing, and brings its tables up to date.
 * @param file path of the SQLite file
 */
export async function openDatabase(file: string): Promise<Database> {
  mkdirSync(dirname(file), { recursive: true });
  const sequelize = new Sequelize({ dialect: 'sqlite', storage: file, logging: false });
  await sequelize.query('PRAGMA journal_mode = WAL');
  await sequelize.query('PRAGMA synchronous = FULL');
  await sequelize.query('PRAGMA foreign_keys = ON');
  const umzug = new Umzug({
    migrations: [...migrations],
    context: sequelize.getQueryInterface(),
    storage: new SequelizeStorage({ sequelize }),
    logger: undefined,
  });
  await umzug.up();
  return { sequelize, models: defineModels(sequelize), close: () => sequelize.close() };
}
