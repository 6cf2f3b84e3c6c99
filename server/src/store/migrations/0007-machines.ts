import { DataTypes, type QueryInterface } from 'sequelize';

/** Machines that batteries work in, and which of them each battery off the bench belongs to. */
export const machines = {
  name: '0007-machines',
  async up({ context }: { context: QueryInterface }): Promise<void> {
    const text = { type: DataTypes.STRING, allowNull: false };
    await context.createTable('machines', {
      tag: { ...text, primaryKey: true },
      name: text,
      owner: text,
      carries: { type: DataTypes.INTEGER, allowNull: false },
      typeId: text,
      at: { type: DataTypes.BIGINT, allowNull: false },
      by: text,
    });
    // Empty where it works in none.
    await context.addColumn('shelf', 'machine', { ...text, defaultValue: '' });
    await context.addIndex('shelf', ['machine']);
  },
};
