import { DataTypes, type QueryInterface } from 'sequelize';

/** Entries under a name nobody proved yet; badges, and what somebody came to the bench by. */
export const claims = {
  name: '0010-claims',
  async up({ context }: { context: QueryInterface }): Promise<void> {
    const text = { type: DataTypes.STRING, allowNull: false };
    await context.createTable('claims', {
      key: { ...text, primaryKey: true },
      by: text,
      sentBy: text,
      tablet: text,
    });
    // By hand: SQLite adds a column without copying the table, which others refer to.
    await context.sequelize.query(`ALTER TABLE people ADD COLUMN badge VARCHAR(255) NOT NULL DEFAULT ''`);
    await context.sequelize.query(
      `ALTER TABLE sessions ADD COLUMN proof VARCHAR(255) NOT NULL DEFAULT 'pin'`,
    );
  },
};
