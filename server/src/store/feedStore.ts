/** Secret addresses of the shop's calendar. What is kept of one is the hash of its secret: a copy of the file opens none. */
import { createHash, randomBytes } from 'node:crypto';
import type { FeedAnswer } from '@cork-ember/core/contract/answers.ts';
import type { Database } from './database.ts';

const SECRET_BYTES = 24;
const hashOf = (secret: string): string => createHash('sha256').update(secret).digest('hex');

export class FeedStore {
  private readonly database: Database;

  constructor(database: Database) {
    this.database = database;
  }

  /** Since when there is an address, and by whom; undefined where there is none. */
  async standing(): Promise<FeedAnswer | undefined> {
    const row = await this.database.models.feeds.findOne({ raw: true });
    return row ? { at: row.at, by: row.by } : undefined;
  }

  /** Makes a new address; one of before opens nothing any more. @returns its secret, which nobody can be told again */
  async renew(by: string, at: number): Promise<string> {
    const secret = randomBytes(SECRET_BYTES).toString('base64url');
    const { sequelize, models } = this.database;
    await sequelize.transaction(async (transaction) => {
      await models.feeds.destroy({ where: {}, transaction });
      await models.feeds.create({ hash: hashOf(secret), at, by }, { transaction });
    });
    return secret;
  }

  async revoke(): Promise<void> {
    await this.database.models.feeds.destroy({ where: {} });
  }

  async isOpen(secret: string): Promise<boolean> {
    return (await this.database.models.feeds.count({ where: { hash: hashOf(secret) } })) > 0;
  }
}
