import { DataTypes, type QueryInterface } from 'sequelize';

export const createTables = {
  name: '0001-create-tables',
  async up({ context }: { context: QueryInterface }): Promise<void> {
    await context.createTable('settings', {
      key: { type: DataTypes.STRING, primaryKey: true },
      value: { type: DataTypes.JSON, allowNull: false },
    });
    await context.createTable('batteries', {
      tag: { type: DataTypes.STRING, primaryKey: true },
      typeId: { type: DataTypes.STRING, allowNull: false },
      serial: { type: DataTypes.STRING, allowNull: false },
      dateCode: { type: DataTypes.STRING, allowNull: false },
      owner: { type: DataTypes.STRING, allowNull: false },
    });
    await context.createTable('jobs', {
      id: { type: DataTypes.STRING, primaryKey: true },
      tag: { type: DataTypes.STRING, allowNull: false, references: { model: 'batteries', key: 'tag' } },
      bay: { type: DataTypes.INTEGER, allowNull: false },
      openedAt: { type: DataTypes.BIGINT, allowNull: false },
      outcome: { type: DataTypes.STRING, allowNull: true },
      endedAt: { type: DataTypes.BIGINT, allowNull: true },
    });
    await context.addIndex('jobs', ['tag']);
    await context.addIndex('jobs', ['outcome']);
    await context.createTable('job_events', {
      job: { type: DataTypes.STRING, primaryKey: true, references: { model: 'jobs', key: 'id' } },
      seq: { type: DataTypes.INTEGER, primaryKey: true },
      at: { type: DataTypes.BIGINT, allowNull: false },
      by: { type: DataTypes.STRING, allowNull: false },
      kind: { type: DataTypes.STRING, allowNull: false },
      payload: { type: DataTypes.JSON, allowNull: false },
      requestKey: { type: DataTypes.STRING, allowNull: true },
    });
    await context.addIndex('job_events', ['job', 'requestKey'], { unique: true });
  },
};
