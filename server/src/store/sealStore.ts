/** Seals of ended jobs in the shop's file, and the customers' names their papers speak of. */
import { QueryTypes } from 'sequelize';
import type { Finding } from '@cork-ember/core/ledger/finding.ts';
import type { Seal } from '../record/seal.ts';
import type { Database } from './database.ts';
import { writeFinding } from './lists.ts';

export class SealStore {
  private readonly database: Database;

  constructor(database: Database) {
    this.database = database;
  }

  /** Every issue of a job's papers, the first first. */
  async seals(job: string): Promise<Seal[]> {
    const rows = await this.database.models.seals.findAll({ where: { job }, order: [['issue', 'ASC']] });
    return rows.map((row) => row.get({ plain: true }));
  }

  async sealOf(code: string): Promise<Seal | undefined> {
    const row = await this.database.models.seals.findOne({ where: { code } });
    return row?.get({ plain: true });
  }

  /** Names by these commitments, as far as they are still kept. */
  async names(commitments: readonly string[]): Promise<Map<string, string>> {
    const rows = await this.database.models.owners.findAll({ where: { commitment: [...commitments] } });
    return new Map(rows.map(({ commitment, name }) => [commitment, name]));
  }

  /** Ended jobs without a seal: those of before there were any. */
  async unsealed(): Promise<string[]> {
    const rows = await this.database.sequelize.query<{ id: string }>(
      `SELECT id FROM jobs WHERE outcome IS NOT NULL AND id NOT IN (SELECT job FROM seals)`,
      { type: QueryTypes.SELECT },
    );
    return rows.map(({ id }) => id);
  }

  /** Seals what ended before there were seals. */
  async seal(seal: Seal, finding: Finding | undefined): Promise<void> {
    const { sequelize, models } = this.database;
    await sequelize.transaction(async (transaction) => {
      await models.seals.create(seal, { transaction });
      if (finding) await writeFinding(this.database, seal.job, finding, transaction);
    });
  }
}
