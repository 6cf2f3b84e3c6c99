import { DataTypes, type QueryInterface } from 'sequelize';

/** What each ended recovery teaches, and which jobs another shop kept. */
export const lessons = {
  name: '0008-lessons',
  async up({ context }: { context: QueryInterface }): Promise<void> {
    await context.createTable('lessons', {
      job: { type: DataTypes.STRING, primaryKey: true },
      version: { type: DataTypes.INTEGER, allowNull: false },
      // Nothing where it teaches nothing.
      lesson: { type: DataTypes.JSON, allowNull: true },
    });
    await context.addColumn('jobs', 'isImported', {
      type: DataTypes.BOOLEAN,
      allowNull: false,
      defaultValue: false,
    });
  },
};
