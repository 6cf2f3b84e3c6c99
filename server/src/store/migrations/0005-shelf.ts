import { DataTypes, type QueryInterface } from 'sequelize';

/** Batteries that left the bench charged before anybody said where to: each begins with its last charge. */
const ALREADY_OFF = `
  INSERT INTO shelf (tag, place, since, kept)
  SELECT jobs.tag, '', MAX(findings.endedAt),
         json_object('tag', jobs.tag, 'seq', 0, 'stays', json('[]'), 'spells',
           json_array(json_object('from', MAX(findings.endedAt), 'isProven', json('true'), 'readings', json('[]'))))
    FROM findings JOIN jobs ON jobs.id = findings.job
   WHERE jobs.outcome IN ('certified', 'recovered')
   GROUP BY jobs.tag`;

/** Batteries off the bench: what is recorded of each, and where that leaves it. */
export const shelf = {
  name: '0005-shelf',
  async up({ context }: { context: QueryInterface }): Promise<void> {
    const text = { type: DataTypes.STRING, allowNull: false };
    const count = { type: DataTypes.INTEGER, allowNull: false };
    const moment = { type: DataTypes.BIGINT, allowNull: false };
    const tag = { ...text, primaryKey: true, references: { model: 'batteries', key: 'tag' } };
    await context.createTable('shelf_events', {
      tag,
      seq: { ...count, primaryKey: true },
      at: moment,
      by: text,
      kind: text,
      payload: { type: DataTypes.JSON, allowNull: false },
      requestKey: { ...text, unique: true },
      version: count,
      recordedAt: moment,
      actor: text,
      hash: text,
    });
    await context.createTable('shelf', {
      tag,
      // Where it is; empty where it left the bench and nobody has said.
      place: text,
      // Since when, or since it left the bench.
      since: moment,
      kept: { type: DataTypes.JSON, allowNull: false },
    });
    await context.addIndex('shelf', ['place', 'since']);
    await context.sequelize.query(ALREADY_OFF);
  },
};
