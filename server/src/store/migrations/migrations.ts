/** Every change of the tables, in order; a migration is never edited once it has run somewhere. */
import type { QueryInterface } from 'sequelize';
import { createTables } from './0001-create-tables.ts';
import { shopRecords } from './0002-shop-records.ts';
import { sealedRecord } from './0003-sealed-record.ts';
import { lists } from './0004-lists.ts';
import { shelf } from './0005-shelf.ts';
import { feeds } from './0006-feeds.ts';
import { machines } from './0007-machines.ts';
import { lessons } from './0008-lessons.ts';
import { people } from './0009-people.ts';
import { claims } from './0010-claims.ts';

interface Migration {
  readonly name: string;
  up(params: { context: QueryInterface }): Promise<void>;
}

export const migrations: readonly Migration[] = [
  createTables,
  shopRecords,
  sealedRecord,
  lists,
  shelf,
  feeds,
  machines,
  lessons,
  people,
  claims,
];
