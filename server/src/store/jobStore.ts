/** Batteries, jobs and their entries in the shop's file. */
import { randomUUID } from 'node:crypto';
import { Op, QueryTypes, UniqueConstraintError, type Transaction } from 'sequelize';
import type { BatteryRecord, JobSummary } from '@cork-ember/core/contract/answers.ts';
import type { Finding } from '@cork-ember/core/ledger/finding.ts';
import type { JobEvent } from '@cork-ember/core/runsheet/entries/events.ts';
import type { JobState } from '@cork-ember/core/runsheet/state/jobState.ts';
import type { Outcome } from '@cork-ember/core/runsheet/definition/step.ts';
import type { StockMove } from '@cork-ember/core/stock/stock.ts';
import type { ChainedEntry } from '../record/chain.ts';
import { commitmentsIn, type KeptName } from '../record/names.ts';
import type { Seal } from '../record/seal.ts';
import { Batch } from './batch.ts';
import type { Database } from './database.ts';
import { writeFinding } from './lists.ts';
import { toEntries, toEvent, type ToKeep } from './entries.ts';

/** How an append changes what the list of jobs says. */
export interface JobChange {
  readonly bay: number;
  readonly outcome: Outcome | null;
  readonly endedAt: number | null;
}

/** The same of a job's state. */
export function standingOf({ bay, outcome, endedAt }: JobState): JobChange {
  return { bay, outcome: outcome ?? null, endedAt: endedAt ?? null };
}

/** One event and all that goes with it: written together, or not at all. */
export interface Appending {
  readonly event: JobEvent;
  /** Hash of the entry before it. */
  readonly before: string;
  readonly change?: JobChange;
  /** Whose the battery is from now on. */
  readonly owned?: Pick<BatteryRecord, 'tag' | 'owner'>;
  /** What it took out of stock or gave back. */
  readonly moves?: readonly (StockMove & { readonly why: string })[];
  /** Made of the entry's own hash, where the job ends with it. */
  readonly seal?: (chain: string) => Seal;
  /** What the job found, or that it found nothing yet. */
  readonly finding?: Finding | null;
}

/** A whole job as another shop kept it. */
export interface ForeignJob extends ToKeep {
  readonly seals: readonly Seal[];
  readonly finding: Finding | undefined;
  readonly photos: readonly { readonly id: string; readonly bytes: Buffer }[];
}

/** A job's entries and its customers' names, as they stand in the file. */
export interface KeptJob {
  readonly entries: readonly ChainedEntry[];
  readonly names: readonly KeptName[];
}

/** Another writer has taken this place in the log, or this request was recorded before. */
export class SeqTakenError extends Error {}

/** Says which constraint a failed write ran into. */
async function seqChecked(write: Promise<unknown>): Promise<void> {
  try {
    await write;
  } catch (error) {
    if (error instanceof UniqueConstraintError && error.parent.message.includes('job_events.'))
      throw new SeqTakenError('This place in the log is taken.');
    throw error;
  }
}

const COLUMNS = 'job, seq, at, "by", kind, payload, requestKey, version, recordedAt, actor, hash';
const WIDTH = COLUMNS.split(',').length;

/** One statement for all of them, without a model object each: this is what a busy bench waits for. */
async function insertEntries(
  { sequelize }: Database,
  list: readonly ChainedEntry[],
  transaction?: Transaction,
): Promise<void> {
  const bind = list.flatMap((entry) => [
    entry.job,
    entry.seq,
    entry.occurredAt,
    entry.by,
    entry.kind,
    JSON.stringify(entry.payload),
    entry.key,
    entry.version,
    entry.recordedAt,
    entry.actor,
    entry.hash,
  ]);
  const places = (index: number): string =>
    Array.from({ length: WIDTH }, (_, column) => `$${index * WIDTH + column + 1}`).join(', ');
  const rows = list.map((_, index) => `(${places(index)})`).join(', ');
  await sequelize.query(`INSERT INTO job_events (${COLUMNS}) VALUES ${rows}`, {
    bind,
    ...(transaction ? { transaction } : {}),
  });
}

/** As many as one statement may bind. */
const MOST_AT_ONCE = 2000;

function inPieces<T>(list: readonly T[]): T[][] {
  return Array.from({ length: Math.ceil(list.length / MOST_AT_ONCE) }, (_, piece) =>
    list.slice(piece * MOST_AT_ONCE, (piece + 1) * MOST_AT_ONCE),
  );
}

/** What stands there; a damaged payload is kept as the text it is, for whoever mends it. */
function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return text;
  }
}

export class JobStore {
  private readonly database: Database;
  private readonly batch: Batch<ChainedEntry>;
  private readonly actors = new Map<string, string>();

  constructor(database: Database) {
    this.database = database;
    this.batch = new Batch((list) => seqChecked(insertEntries(database, list)));
  }

  async battery(tag: string): Promise<BatteryRecord | undefined> {
    const row = await this.database.models.batteries.findByPk(tag);
    return row?.get({ plain: true });
  }

  async jobs(where: { tag?: string; isOpen?: boolean; id?: string | string[] } = {}): Promise<JobSummary[]> {
    const { isOpen, ...named } = where;
    return this.database.models.jobs.findAll({
      where: { ...named, ...(isOpen ? { outcome: null } : {}) },
      attributes: ['id', 'tag', 'bay', 'openedAt', 'outcome', 'endedAt'],
      order: [['openedAt', 'ASC']],
      raw: true,
    });
  }

  /** @returns a job's entries as they stand in the file, the names they speak of beside them */
  async kept(job: string): Promise<KeptJob> {
    return (await this.keptOf([job])).get(job) ?? { entries: [], names: [] };
  }

  /** The same of several by their ids, with two questions for all of them. */
  async keptOf(jobs: readonly string[]): Promise<Map<string, KeptJob>> {
    const rows = await this.database.sequelize.query<Omit<ChainedEntry, 'payload'> & { payload: string }>(
      `SELECT job, seq, requestKey AS "key", version, kind, at AS occurredAt, recordedAt, actor, "by", payload, hash
         FROM job_events WHERE job IN (:jobs) ORDER BY job, seq`,
      { type: QueryTypes.SELECT, replacements: { jobs } },
    );
    const spokenOf = new Set(rows.flatMap(({ payload }) => commitmentsIn(payload)));
    const names = await this.database.models.owners.findAll({
      where: { commitment: [...spokenOf] },
      raw: true,
    });
    const byCommitment = new Map(names.map((name) => [name.commitment, name]));
    const kept = new Map<string, { entries: ChainedEntry[]; names: KeptName[] }>();
    for (const row of rows) {
      const of = kept.get(row.job) ?? { entries: [], names: [] };
      kept.set(row.job, of);
      of.entries.push({ ...row, payload: parsed(row.payload) });
      for (const commitment of commitmentsIn(row.payload)) {
        const name = byCommitment.get(commitment);
        if (name && !of.names.includes(name)) of.names.push(name);
      }
    }
    return kept;
  }

  /** Ids of these people; who is new here gets one. */
  private async idsOf(names: readonly string[]): Promise<(name: string) => string> {
    const { actors } = this.database.models;
    for (const name of new Set(names)) {
      if (this.actors.has(name)) continue;
      const [row] = await actors.findOrCreate({ where: { name }, defaults: { id: randomUUID(), name } });
      this.actors.set(name, row.id);
    }
    return (name) => this.actors.get(name) ?? '';
  }

  /** A whole job's events as entries, not yet written. */
  async keeping(events: readonly JobEvent[]): Promise<ToKeep> {
    return toEntries(events, undefined, await this.idsOf(events.map(({ by }) => by)));
  }

  /** Writes several things, or none of them. */
  async together(write: (transaction: Transaction) => Promise<void>): Promise<void> {
    await this.database.sequelize.transaction(write);
  }

  /**
   * Records a battery, a job and its first entries, all or nothing.
   * @param kept its entries, as {@link keeping} gives them
   * @param within a transaction this is part of
   */
  async createJob(
    battery: BatteryRecord,
    summary: JobSummary,
    kept: ToKeep,
    within?: Transaction,
  ): Promise<void> {
    const all: ForeignJob = { ...kept, seals: [], finding: undefined, photos: [] };
    await this.write(battery, { ...summary, isImported: false }, all, true, within);
  }

  /**
   * Takes a job as another shop kept it, hashes, names, seals and pictures with it, all or nothing.
   * @param isNewer whether what it says of the battery is newer than what is known here
   */
  async takeJob(
    battery: BatteryRecord,
    summary: JobSummary,
    foreign: ForeignJob,
    isNewer: boolean,
  ): Promise<void> {
    await this.write(battery, { ...summary, isImported: true }, foreign, isNewer);
  }

  private async write(
    battery: BatteryRecord,
    job: JobSummary & { readonly isImported: boolean },
    { entries, names, seals, finding, photos }: ForeignJob,
    isNewer: boolean,
    within?: Transaction,
  ): Promise<void> {
    const { sequelize, models } = this.database;
    const write = async (transaction: Transaction): Promise<void> => {
      if (isNewer) await models.batteries.upsert({ ...battery }, { transaction });
      else
        await models.batteries.findOrCreate({ where: { tag: battery.tag }, defaults: battery, transaction });
      await models.jobs.create({ ...job }, { transaction });
      for (const piece of inPieces(entries)) await insertEntries(this.database, piece, transaction);
      await this.writeNames(names, transaction);
      await models.seals.bulkCreate([...seals], { transaction });
      await models.photos.bulkCreate(
        photos.map((photo) => ({ ...photo, job: job.id })),
        { transaction },
      );
      if (finding) await writeFinding(this.database, job.id, finding, transaction);
    };
    await (within ? write(within) : sequelize.transaction(write));
  }

  private async writeNames(names: readonly KeptName[], transaction: Transaction): Promise<void> {
    await this.database.models.owners.bulkCreate([...names], { transaction, ignoreDuplicates: true });
  }

  /**
   * Records one event with all that goes with it; it is on disk when this returns. An event that brings nothing else
   * shares one INSERT, and so one commit, with whatever else arrived while the disk was busy.
   * @returns the entry's hash
   * @throws SeqTakenError when the place in the log is taken
   */
  async append(appending: Appending): Promise<string> {
    const { event, before, change, owned, moves = [], seal: sealOn, finding } = appending;
    const { entries, names } = toEntries([event], before, await this.idsOf([event.by]));
    const [entry] = entries;
    if (!entry) throw new Error('an event has its entry');
    const { hash } = entry;
    const isAlone = !change && !owned && !sealOn && moves.length === 0 && names.length === 0;
    if (isAlone && finding === undefined) {
      await this.batch.add(entry);
      return hash;
    }
    const { sequelize, models } = this.database;
    const { job, by, recordedAt: at = event.at } = event;
    const seal = sealOn?.(hash);
    const write = async (transaction: Transaction): Promise<void> => {
      await insertEntries(this.database, [entry], transaction);
      await this.writeNames(names, transaction);
      if (change) await models.jobs.update({ ...change }, { where: { id: job }, transaction });
      if (owned)
        await models.batteries.update({ owner: owned.owner }, { where: { tag: owned.tag }, transaction });
      await models.moves.bulkCreate(
        moves.map((move) => ({ ...move, at, by, job })),
        { transaction },
      );
      if (seal) await models.seals.create(seal, { transaction });
      if (finding !== undefined) await writeFinding(this.database, job, finding, transaction);
    };
    await seqChecked(sequelize.transaction(write));
    return hash;
  }

  /** The latest moment of what was recorded last, ms; old jobs out of a file may lie among it. */
  async lastMoment(): Promise<number> {
    const [row] = await this.database.sequelize.query<{ last: number | null }>(
      'SELECT MAX(recordedAt) AS last FROM (SELECT recordedAt FROM job_events ORDER BY rowid DESC LIMIT 1000)',
      { type: QueryTypes.SELECT },
    );
    return row?.last ?? 0;
  }

  /** Finds the job a repeated intake request has already opened. */
  async openedBy(requestKey: string): Promise<string | undefined> {
    const row = await this.database.models.events.findOne({ where: { requestKey, seq: 1 } });
    return row?.job;
  }

  /** Jobs of a battery opened after this moment. */
  async laterJobs(tag: string, openedAt: number): Promise<number> {
    return this.database.models.jobs.count({ where: { tag, openedAt: { [Op.gt]: openedAt } } });
  }

  async hasPhoto(job: string, id: string): Promise<boolean> {
    return (await this.database.models.photos.count({ where: { id, job } })) > 0;
  }
}

/** What a job's entries tell of, in today's form, unjudged. */
export function eventsOf({ entries, names }: KeptJob): JobEvent[] {
  const known = new Map(names.map(({ commitment, name }) => [commitment, name]));
  return entries.map((entry) => toEvent(entry, known) as JobEvent);
}
