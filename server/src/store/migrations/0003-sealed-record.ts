import { randomUUID } from 'node:crypto';
import { DataTypes, QueryTypes, type QueryInterface } from 'sequelize';
import { chained, type RecordEntry } from '../../record/chain.ts';
import { withoutName, type KeptName } from '../../record/names.ts';

interface OldRow {
  readonly seq: number;
  readonly at: number;
  readonly by: string;
  readonly kind: string;
  readonly payload: string;
  readonly requestKey: string | null;
}

/** Form entries were written in before they said so themselves. */
const UNSAID_VERSION = 1;

async function addTables(context: QueryInterface): Promise<void> {
  const text = { type: DataTypes.STRING, allowNull: false };
  const moment = { type: DataTypes.BIGINT, allowNull: false };
  const count = { type: DataTypes.INTEGER, allowNull: false };
  const job = { ...text, references: { model: 'jobs', key: 'id' } };
  await context.createTable('owners', {
    commitment: { type: DataTypes.STRING, primaryKey: true },
    salt: text,
    name: text,
  });
  await context.createTable('actors', {
    id: { type: DataTypes.STRING, primaryKey: true },
    name: { ...text, unique: true },
  });
  await context.createTable('requests', { key: { type: DataTypes.STRING, primaryKey: true } });
  await context.createTable('seals', {
    job: { ...job, primaryKey: true },
    issue: { ...count, primaryKey: true },
    upTo: count,
    at: moment,
    code: { ...text, unique: true },
    hash: text,
    content: { type: DataTypes.BLOB, allowNull: false },
  });
  await context.createTable('findings', {
    job: { ...job, primaryKey: true },
    endedAt: moment,
    finding: { type: DataTypes.JSON, allowNull: false },
  });
  await context.addIndex('findings', ['endedAt']);
  const column = (name: string, type: DataTypes.DataType, defaultValue: string | number): Promise<void> =>
    context.addColumn('job_events', name, { type, allowNull: false, defaultValue });
  await column('version', DataTypes.INTEGER, UNSAID_VERSION);
  await column('recordedAt', DataTypes.BIGINT, 0);
  await column('actor', DataTypes.STRING, '');
  await column('hash', DataTypes.STRING, '');
}

async function actorIds(context: QueryInterface): Promise<Map<string, string>> {
  const people = await context.sequelize.query<{ by: string }>('SELECT DISTINCT "by" FROM job_events', {
    type: QueryTypes.SELECT,
  });
  const rows = people.map(({ by }) => ({ id: randomUUID(), name: by }));
  if (rows.length > 0) await context.bulkInsert('actors', rows);
  return new Map(rows.map(({ id, name }) => [name, id]));
}

/** One job's entries get their hashes, and its customers' names are taken out of what is hashed. */
async function chainJob(context: QueryInterface, job: string, actors: Map<string, string>): Promise<void> {
  const { sequelize } = context;
  const rows = await sequelize.query<OldRow>(
    'SELECT seq, at, "by", kind, payload, requestKey FROM job_events WHERE job = $job ORDER BY seq',
    { type: QueryTypes.SELECT, bind: { job } },
  );
  const names: KeptName[] = [];
  const entries = rows.map(({ seq, at, by, kind, payload: text, requestKey }): RecordEntry => {
    const { payload, kept } = withoutName(kind, JSON.parse(text) as object);
    if (kept) names.push(kept);
    const [occurredAt, recordedAt] = [Number(at), Number(at)];
    const key = requestKey ?? `#${seq}`;
    const actor = actors.get(by) ?? '';
    return { job, seq, key, version: UNSAID_VERSION, kind, occurredAt, recordedAt, actor, by, payload };
  });
  for (const { seq, key, recordedAt, actor, payload, hash } of chained(entries))
    await sequelize.query(
      'UPDATE job_events SET payload = $1, requestKey = $2, recordedAt = $3, actor = $4, hash = $5 WHERE job = $6 AND seq = $7',
      { bind: [JSON.stringify(payload), key, recordedAt, actor, hash, job, seq] },
    );
  if (names.length > 0) await context.bulkInsert('owners', [...names]);
}

/**
 * Entries in a chain, names of customers beside it, seals and findings. Jobs that have ended are sealed when the shop is
 * opened (`services/sealing.ts`): that needs the run sheet, which a migration must not know.
 */
export const sealedRecord = {
  name: '0003-sealed-record',
  async up({ context }: { context: QueryInterface }): Promise<void> {
    await addTables(context);
    const actors = await actorIds(context);
    const jobs = await context.sequelize.query<{ id: string }>('SELECT id FROM jobs', {
      type: QueryTypes.SELECT,
    });
    for (const { id } of jobs) await chainJob(context, id, actors);
  },
};
