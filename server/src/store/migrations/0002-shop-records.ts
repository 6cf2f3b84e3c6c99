import { DataTypes, type QueryInterface } from 'sequelize';

export const shopRecords = {
  name: '0002-shop-records',
  async up({ context }: { context: QueryInterface }): Promise<void> {
    const id = { type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true };
    const text = { type: DataTypes.STRING, allowNull: false };
    await context.createTable('shop_changes', {
      id,
      at: { type: DataTypes.BIGINT, allowNull: false },
      by: text,
      why: text,
      what: { type: DataTypes.TEXT, allowNull: false },
    });
    await context.createTable('photos', {
      id: { type: DataTypes.STRING, primaryKey: true },
      job: { type: DataTypes.STRING, allowNull: false, references: { model: 'jobs', key: 'id' } },
      bytes: { type: DataTypes.BLOB, allowNull: false },
    });
    await context.addIndex('photos', ['job']);
    await context.createTable('stock_moves', {
      id,
      at: { type: DataTypes.BIGINT, allowNull: false },
      by: text,
      item: text,
      amount: { type: DataTypes.DOUBLE, allowNull: false },
      why: text,
      job: { type: DataTypes.STRING, allowNull: true },
    });
    await context.addIndex('stock_moves', ['item']);
    await context.addIndex('stock_moves', ['job']);
  },
};
