/** Customers' names wherever the shop's file holds them: beside the record, on batteries, on machines. */
import { Op, QueryTypes } from 'sequelize';
import { isStock } from '@cork-ember/core/battery/owner.ts';
import type { Machine } from '@cork-ember/core/battery/machines.ts';
import type { BatteryRecord } from '@cork-ember/core/contract/answers.ts';
import type { Customer } from '@cork-ember/core/contract/customers.ts';
import { commitmentsIn, NAME_DELETED } from '../record/names.ts';
import { overwriting, type Database } from './database.ts';
import { machineOf } from './machineStore.ts';

/** Every way a name is written here: by exact letters, since SQLite folds no more than those of ASCII. */
const NAMES = `
  SELECT owner AS name, 1 AS batteries, 0 AS machines FROM batteries
  UNION ALL SELECT owner, 0, 1 FROM machines
  UNION ALL SELECT name, 0, 0 FROM owners`;

/** Entries that may hold a name, and what they are of. */
const NAMED = `
  SELECT job AS id, payload FROM job_events WHERE kind IN ('opened', 'arranged')`;

/** What people write by hand, and what it is of. */
const WRITTEN = `
  SELECT (SELECT tag FROM jobs WHERE jobs.id = job_events.job) AS tag, payload FROM job_events
    WHERE payload LIKE $like AND kind <> 'opened'
  UNION SELECT tag, payload FROM shelf_events WHERE payload LIKE $like`;

/** Where a name stands. */
interface Standing {
  readonly batteries: readonly BatteryRecord[];
  readonly machines: readonly Machine[];
  readonly jobs: readonly string[];
  readonly shelfTags: readonly string[];
  readonly commitments: readonly string[];
}

const isSame = (one: string, other: string): boolean =>
  one.trim().toLowerCase() === other.trim().toLowerCase();

export class CustomerStore {
  private readonly database: Database;

  constructor(database: Database) {
    this.database = database;
  }

  private select<T extends object>(sql: string, bind: Readonly<Record<string, string>> = {}): Promise<T[]> {
    return this.database.sequelize.query<T>(sql, { type: QueryTypes.SELECT, bind });
  }

  /** By name; the shop itself is none. */
  async list(): Promise<Customer[]> {
    const rows = await this.select<Customer>(
      `SELECT name, SUM(batteries) AS batteries, SUM(machines) AS machines FROM (${NAMES}) GROUP BY name ORDER BY name`,
    );
    return rows.filter(({ name }) => !isStock(name) && name !== NAME_DELETED);
  }

  /** Everything under a name, whatever its capitals. */
  async standing(name: string): Promise<Standing> {
    const { models } = this.database;
    const spellings = (await this.list()).map((one) => one.name).filter((one) => isSame(one, name));
    const of = { [Op.in]: spellings };
    const owners = await models.owners.findAll({
      where: { name: of },
      attributes: ['commitment'],
      raw: true,
    });
    const commitments = new Set(owners.map(({ commitment }) => commitment));
    const isNamed = ({ payload }: { payload: string }): boolean =>
      commitmentsIn(payload).some((commitment) => commitments.has(commitment));
    const jobs = (await this.select<{ id: string; payload: string }>(NAMED)).filter(isNamed);
    const shelf = await this.select<{ id: string; payload: string }>(
      `SELECT tag AS id, payload FROM shelf_events WHERE kind = 'placed'`,
    );
    const machines = await models.machines.findAll({ where: { owner: of }, raw: true });
    return {
      batteries: (await models.batteries.findAll({ where: { owner: of }, raw: true })).map(
        ({ tag, typeId, serial, dateCode, owner }) => ({ tag, typeId, serial, dateCode, owner }),
      ),
      machines: machines.map(machineOf),
      jobs: [...new Set(jobs.map(({ id }) => id))],
      shelfTags: [...new Set(shelf.filter(isNamed).map(({ id }) => id))],
      commitments: [...commitments],
    };
  }

  /**
   * Takes a name out of the file, and what SQLite left of it in free pages too. The record keeps its hashes: a name was never in them.
   */
  async forget({ batteries, machines, commitments }: Standing): Promise<void> {
    const { sequelize, models } = this.database;
    await overwriting(this.database, async (transaction) => {
      const nobody = { owner: NAME_DELETED };
      await models.owners.destroy({ where: { commitment: { [Op.in]: [...commitments] } }, transaction });
      const tagsOf = (rows: readonly { readonly tag: string }[]) => ({
        tag: { [Op.in]: rows.map(({ tag }) => tag) },
      });
      await models.batteries.update(nobody, { where: tagsOf(batteries), transaction });
      await models.machines.update(nobody, { where: tagsOf(machines), transaction });
    });
    // The index of words forgets what was taken out of it when its parts are joined.
    await sequelize.query(`INSERT INTO battery_words (battery_words) VALUES ('optimize')`);
    await sequelize.query('PRAGMA wal_checkpoint(TRUNCATE)');
  }

  /** Tags whose entries say a name in somebody's own words. */
  async writtenOf(name: string): Promise<string[]> {
    const like = `%${JSON.stringify(name).slice(1, -1).replaceAll(/[%_]/g, '_')}%`;
    const rows = await this.select<{ tag: string }>(WRITTEN, { like });
    return [...new Set(rows.map(({ tag }) => tag))].sort();
  }
}
