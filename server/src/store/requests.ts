/** Writes that a client may send twice, because it never heard the answer: each is done once, by its key. */
import { UniqueConstraintError, type Transaction } from 'sequelize';
import type { Database } from './database.ts';

/**
 * Does what is asked in one transaction with the key it came under.
 * @param key of the client; what comes without is done each time
 * @returns whether it was done now; false where it was done before
 */
export async function once(
  { sequelize, models }: Database,
  key: string | undefined,
  write: (transaction: Transaction) => Promise<void>,
): Promise<boolean> {
  try {
    await sequelize.transaction(async (transaction) => {
      if (key !== undefined) await models.requests.create({ key }, { transaction });
      await write(transaction);
    });
    return true;
  } catch (error) {
    if (error instanceof UniqueConstraintError && error.parent.message.includes('requests.')) return false;
    throw error;
  }
}
