/** Named settings, each a JSON value. */
import type { Database } from './database.ts';

export class SettingStore {
  private readonly database: Database;

  constructor(database: Database) {
    this.database = database;
  }

  async read<T>(key: string): Promise<T | undefined> {
    const row = await this.database.models.settings.findByPk(key);
    return row ? (row.value as T) : undefined;
  }

  async write(key: string, value: unknown): Promise<void> {
    await this.database.models.settings.upsert({ key, value });
  }
}
