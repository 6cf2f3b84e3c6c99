/** What lists show of jobs without folding them: it follows from the record, and is written with it. */
import { isDeepStrictEqual } from 'node:util';
import { QueryTypes, type Transaction } from 'sequelize';
import type { BatteryRecord } from '@cork-ember/core/contract/answers.ts';
import type { Finding } from '@cork-ember/core/ledger/finding.ts';
import { inPieces } from '../gently.ts';
import type { Database } from './database.ts';
import type { JobChange } from './jobStore.ts';
import { projectShelf } from './shelfStore.ts';

/** What lists say of a job, as its record has it. */
export interface Projected {
  readonly change: JobChange;
  /** Of the newest job of a battery: whose it is. */
  readonly owned?: Pick<BatteryRecord, 'tag' | 'owner'>;
  readonly finding: Finding | null;
}

/** Graded findings of a file as they were read last, with and without those of other shops: a few megabytes that change a few times a day. */
const gradedOf = new WeakMap<Database, Map<boolean, Promise<readonly Finding[]>>>();

/** Puts down what a job found; nothing where it has not ended. */
export async function writeFinding(
  database: Database,
  job: string,
  finding: Finding | null,
  transaction: Transaction,
): Promise<void> {
  const { findings, jobs, lessons } = database.models;
  transaction.afterCommit(() => void gradedOf.delete(database));
  // What it taught was drawn from another end.
  await lessons.destroy({ where: { job }, transaction });
  if (finding === null) await findings.destroy({ where: { job }, transaction });
  else await findings.upsert({ job, endedAt: finding.endedAt, finding }, { transaction });
  const its = await jobs.findByPk(job, { attributes: ['tag'], transaction });
  if (its) await projectShelf(database, its.tag, transaction);
}

export class Lists {
  private readonly database: Database;

  constructor(database: Database) {
    this.database = database;
  }

  /**
   * Lists a job as its record says.
   * @returns whether it was listed otherwise
   */
  async project(id: string, { change, owned, finding }: Projected): Promise<boolean> {
    const { models, sequelize } = this.database;
    const [job, kept, battery] = await Promise.all([
      models.jobs.findByPk(id),
      models.findings.findByPk(id),
      owned ? models.batteries.findByPk(owned.tag) : null,
    ]);
    const { bay, outcome, endedAt } = job ?? {};
    const isSame =
      isDeepStrictEqual({ bay, outcome, endedAt }, change) &&
      isDeepStrictEqual(kept?.finding ?? null, JSON.parse(JSON.stringify(finding))) &&
      (!owned || battery?.owner === owned.owner);
    if (isSame) return false;
    await sequelize.transaction(async (transaction) => {
      await models.jobs.update({ ...change }, { where: { id }, transaction });
      if (owned)
        await models.batteries.update({ owner: owned.owner }, { where: { tag: owned.tag }, transaction });
      await writeFinding(this.database, id, finding, transaction);
    });
    return true;
  }

  /** Whether every sealed job that has ended has its finding: told by counting alone. */
  async isListedWhole(): Promise<boolean> {
    const [row] = await this.database.sequelize.query<{ ended: number; found: number }>(
      `SELECT (SELECT COUNT(*) FROM jobs WHERE outcome IS NOT NULL AND id IN (SELECT job FROM seals)) AS ended,
              (SELECT COUNT(*) FROM findings) AS found`,
      { type: QueryTypes.SELECT },
    );
    return row !== undefined && row.ended === row.found;
  }

  /** What every job of this shop's own found, the oldest first; a job that came from another is told by that one. */
  async all(): Promise<Finding[]> {
    return this.found('JOIN jobs ON jobs.id = findings.job WHERE jobs.isImported = 0');
  }

  /** What a battery's jobs found, the oldest first. */
  async findingsOf(tag: string): Promise<Finding[]> {
    return this.found('JOIN jobs ON jobs.id = findings.job WHERE jobs.tag = $tag', { tag });
  }

  /**
   * What recoveries found that came to a grade: what is said of the ways rests on them.
   * @param countsImported whether jobs of other shops are among them
   */
  graded(countsImported = false): Promise<readonly Finding[]> {
    const all = gradedOf.get(this.database) ?? new Map<boolean, Promise<readonly Finding[]>>();
    gradedOf.set(this.database, all);
    const known = all.get(countsImported);
    if (known) return known;
    const reading = this.found(
      `JOIN jobs ON jobs.id = findings.job
        WHERE json_extract(finding, '$.grade') IS NOT NULL AND json_array_length(finding, '$.routes') > 0
          ${countsImported ? '' : 'AND jobs.isImported = 0'}`,
    );
    all.set(countsImported, reading);
    reading.catch(() => gradedOf.delete(this.database));
    return reading;
  }

  /** The last finding of each battery that is not on the bench, where it was recovered and since this moment. */
  async onShelf(since: number): Promise<Finding[]> {
    return this.found(
      `JOIN jobs ON jobs.id = findings.job
        WHERE findings.endedAt >= $since AND jobs.outcome = 'recovered'
          AND NOT EXISTS (SELECT 1 FROM jobs AS later
                           WHERE later.tag = jobs.tag
                              AND (later.outcome IS NULL OR (later.endedAt > jobs.endedAt AND later.outcome <> 'charged')))`,
      { since },
    );
  }

  private async found(where: string, bind: Readonly<Record<string, unknown>> = {}): Promise<Finding[]> {
    const rows = await this.database.sequelize.query<{ finding: string }>(
      `SELECT findings.finding AS finding FROM findings ${where} ORDER BY findings.endedAt`,
      { type: QueryTypes.SELECT, bind },
    );
    const findings: Finding[] = [];
    for await (const some of inPieces(rows))
      findings.push(...some.map(({ finding }) => JSON.parse(finding) as Finding));
    return findings;
  }
}
