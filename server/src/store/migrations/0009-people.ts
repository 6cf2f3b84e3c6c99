import { DataTypes, type QueryInterface } from 'sequelize';

/** People with their PINs, browsers the shop knows, who is at which, and who did what beside the record. */
export const people = {
  name: '0009-people',
  async up({ context }: { context: QueryInterface }): Promise<void> {
    const text = { type: DataTypes.STRING, allowNull: false };
    const key = { ...text, primaryKey: true };
    const number = { type: DataTypes.BIGINT, allowNull: false };
    await context.createTable('people', {
      id: key,
      name: text,
      role: text,
      pin: text,
      passphrase: text,
      wrong: { ...number, defaultValue: 0 },
      wrongAt: { ...number, defaultValue: 0 },
      since: number,
      isGone: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false },
    });
    await context.createTable('tablets', { id: key, name: text, at: number, by: text });
    await context.createTable('sessions', {
      hash: key,
      tablet: text,
      person: text,
      way: text,
      madeAt: number,
      seenAt: number,
    });
    await context.addIndex('sessions', ['tablet']);
    await context.createTable('audit', {
      id: { type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true },
      at: number,
      by: text,
      tablet: text,
      kind: text,
      what: text,
    });
  },
};
