/** Batteries, jobs and their events in the shop's file. */
import { UniqueConstraintError, type Transaction } from 'sequelize';
import type { BatteryRecord, JobSummary } from '@cork-ember/core/contract/answers.ts';
import { upcastEvent } from '@cork-ember/core/battery/pastTypes.ts';
import type { JobEvent } from '@cork-ember/core/runsheet/events.ts';
import type { Outcome } from '@cork-ember/core/runsheet/step.ts';
import { Batch } from './batch.ts';
import type { Database } from './database.ts';
import type { EventRow, JobRow, NewEventRow } from './models.ts';

export interface StoredEvent {
  readonly event: JobEvent;
  readonly requestKey: string | null;
}

/** How an append changes what the list of jobs says. */
export interface JobChange {
  readonly bay: number;
  readonly outcome: Outcome | null;
  readonly endedAt: number | null;
}

/** Another writer has taken this place in the log, or this request was recorded before. */
export class SeqTakenError extends Error {}

/** Says which constraint a failed write ran into. */
async function seqChecked(write: Promise<unknown>): Promise<void> {
  try {
    await write;
  } catch (error) {
    if (error instanceof UniqueConstraintError) throw new SeqTakenError('This place in the log is taken.');
    throw error;
  }
}

/** One statement for all of them, without a model object each: this is what a busy bench waits for. */
async function insertEvents({ sequelize }: Database, list: readonly StoredEvent[]): Promise<void> {
  const bind = list.flatMap(({ event: { job, seq, at, by, kind, payload }, requestKey }) => [
    job,
    seq,
    at,
    by,
    kind,
    JSON.stringify(payload),
    requestKey,
  ]);
  const width = 7;
  const places = (index: number): string =>
    Array.from({ length: width }, (_, column) => `$${index * width + column + 1}`).join(', ');
  const rows = list.map((_, index) => `(${places(index)})`).join(', ');
  const columns = 'job, seq, at, "by", kind, payload, requestKey';
  await sequelize.query(`INSERT INTO job_events (${columns}) VALUES ${rows}`, { bind });
}

function toEvent(row: EventRow): StoredEvent {
  const { job, seq, at, by, kind, payload, requestKey } = row.get({ plain: true });
  return { event: upcastEvent({ job, seq, at, by, kind, payload }) as JobEvent, requestKey };
}

function toRow({ event, requestKey }: StoredEvent): NewEventRow {
  return { ...event, requestKey };
}

function toSummary(row: JobRow): JobSummary {
  return row.get({ plain: true });
}

export class JobStore {
  private readonly database: Database;
  private readonly batch: Batch<StoredEvent>;

  constructor(database: Database) {
    this.database = database;
    this.batch = new Batch((list) => seqChecked(insertEvents(database, list)));
  }

  async batteries(): Promise<BatteryRecord[]> {
    const rows = await this.database.models.batteries.findAll({ order: [['tag', 'ASC']] });
    return rows.map((row) => row.get({ plain: true }));
  }

  async battery(tag: string): Promise<BatteryRecord | undefined> {
    const row = await this.database.models.batteries.findByPk(tag);
    return row?.get({ plain: true });
  }

  async jobs(where: { tag?: string; isOpen?: boolean } = {}): Promise<JobSummary[]> {
    const { tag, isOpen } = where;
    const rows = await this.database.models.jobs.findAll({
      where: { ...(tag === undefined ? {} : { tag }), ...(isOpen ? { outcome: null } : {}) },
      order: [['openedAt', 'ASC']],
    });
    return rows.map(toSummary);
  }

  async events(job: string): Promise<StoredEvent[]> {
    const rows = await this.database.models.events.findAll({ where: { job }, order: [['seq', 'ASC']] });
    return rows.map(toEvent);
  }

  /** Records a battery, a job and its first events, all or nothing. */
  async createJob(
    battery: BatteryRecord,
    summary: JobSummary,
    events: readonly StoredEvent[],
  ): Promise<void> {
    const { sequelize, models } = this.database;
    await sequelize.transaction(async (transaction: Transaction) => {
      await models.batteries.upsert({ ...battery }, { transaction });
      await models.jobs.create({ ...summary }, { transaction });
      await models.events.bulkCreate(events.map(toRow), { transaction });
    });
  }

  /**
   * Records one event; it is on disk when this returns. Without a change of the job it shares one INSERT, and so one
   * commit, with whatever else arrived while the disk was busy; with one, event and job change together.
   * @param owned whose the battery is from now on
   * @throws SeqTakenError when the place in the log is taken
   */
  async append(
    stored: StoredEvent,
    change?: JobChange,
    owned?: Pick<BatteryRecord, 'tag' | 'owner'>,
  ): Promise<void> {
    if (!change && !owned) return this.batch.add(stored);
    const { sequelize, models } = this.database;
    await seqChecked(
      sequelize.transaction(async (transaction: Transaction) => {
        await models.events.create(toRow(stored), { transaction });
        if (change) await models.jobs.update({ ...change }, { where: { id: stored.event.job }, transaction });
        if (owned)
          await models.batteries.update({ owner: owned.owner }, { where: { tag: owned.tag }, transaction });
      }),
    );
  }

  /** Finds the job a repeated intake request has already opened. */
  async openedBy(requestKey: string): Promise<string | undefined> {
    const row = await this.database.models.events.findOne({ where: { requestKey, seq: 1 } });
    return row?.job;
  }
}
