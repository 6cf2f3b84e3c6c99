import { DataTypes, type QueryInterface } from 'sequelize';

/** Addresses at which a calendar may be subscribed to: of each only the hash of its secret. */
export const feeds = {
  name: '0006-feeds',
  async up({ context }: { context: QueryInterface }): Promise<void> {
    await context.createTable('feeds', {
      hash: { type: DataTypes.STRING, primaryKey: true },
      at: { type: DataTypes.BIGINT, allowNull: false },
      by: { type: DataTypes.STRING, allowNull: false },
    });
  },
};
