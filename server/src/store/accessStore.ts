/** People, browsers, sessions and who did what, in the shop's file. */
import { Op, QueryTypes } from 'sequelize';
import type { AuditEntry, Claim, Person, Tablet } from '@cork-ember/core/access/people.ts';
import type { Proof, Way } from './accessModels.ts';
import type { Database } from './database.ts';

/** With what is only ever compared: hashes, and wrong tries in a row. */
export interface PersonSecrets extends Person {
  readonly pin: string;
  readonly passphrase: string;
  readonly badge: string;
  readonly wrong: number;
  /** When the last wrong one was, real ms. */
  readonly wrongAt: number;
  /** Since when, shop ms. */
  readonly since: number;
  readonly isGone: boolean;
}

/** A claim with the kind of its entry, which says little to whoever reads it. */
export interface ClaimKept extends Omit<Claim, 'says'> {
  readonly kind: string;
}

export interface Session {
  readonly hash: string;
  readonly tablet: string;
  readonly person: string;
  readonly way: Way;
  readonly proof: Proof;
  readonly madeAt: number;
  readonly seenAt: number;
}

/** Changes that stand in the tables of the shop and of the jobs, told as what they are. */
const AUDITED = `
  SELECT id, at, by, tablet, kind, what FROM audit
  UNION ALL SELECT id, at, by, '', 'shop', what || ': ' || why FROM shop_changes
  UNION ALL SELECT seq, at, by, '', CASE kind WHEN 'amended' THEN 'amended' WHEN 'reopened' THEN 'amended' ELSE 'override' END,
    (SELECT tag FROM jobs WHERE jobs.id = job_events.job) || ': ' ||
      coalesce(json_extract(payload, '$.reason'), json_extract(payload, '$.why'), '')
    FROM job_events WHERE kind IN ('amended', 'reopened', 'overridden')
      OR (kind = 'routed' AND json_extract(payload, '$.reason') IS NOT NULL)`;

/** Each with the entry it is of; an entry that was refused in the end has none. */
const CLAIMED = `
  SELECT claims."key", claims."by", sentBy, tablet, entries.at, entries.kind, entries.tag, entries.job FROM claims JOIN (
    SELECT requestKey, at, kind, (SELECT tag FROM jobs WHERE jobs.id = job_events.job) AS tag, job FROM job_events
    UNION ALL SELECT requestKey, at, kind, tag, '' FROM shelf_events
  ) AS entries ON entries.requestKey = claims."key" ORDER BY entries.at`;

export class AccessStore {
  private readonly database: Database;

  constructor(database: Database) {
    this.database = database;
  }

  async people(): Promise<PersonSecrets[]> {
    const rows = await this.database.models.people.findAll({ order: ['since', 'name'], raw: true });
    return rows.map((row) => ({ ...row, isGone: Boolean(row.isGone) }));
  }

  async writePerson(person: PersonSecrets): Promise<void> {
    await this.database.models.people.upsert({ ...person });
  }

  tablets(): Promise<Tablet[]> {
    return this.database.models.tablets.findAll({ order: ['at', 'name'], raw: true });
  }

  /** A browser with its first session, or neither. */
  async enrol(tablet: Tablet, session: Session): Promise<void> {
    const { sequelize, models } = this.database;
    await sequelize.transaction(async (transaction) => {
      await models.tablets.create({ ...tablet }, { transaction });
      await models.sessions.create({ ...session }, { transaction });
    });
  }

  /** A browser is the shop's no more, and nobody is at it. */
  async forget(tablet: string): Promise<void> {
    const { sequelize, models } = this.database;
    await sequelize.transaction(async (transaction) => {
      await models.sessions.destroy({ where: { tablet }, transaction });
      await models.tablets.destroy({ where: { id: tablet }, transaction });
    });
  }

  sessions(): Promise<Session[]> {
    return this.database.models.sessions.findAll({ raw: true });
  }

  /** One takes the place of another, or is the first. */
  async writeSession(session: Session, instead?: string): Promise<void> {
    const { sequelize, models } = this.database;
    await sequelize.transaction(async (transaction) => {
      if (instead !== undefined && instead !== session.hash)
        await models.sessions.destroy({ where: { hash: instead }, transaction });
      await models.sessions.upsert({ ...session }, { transaction });
    });
  }

  async endSessions(hashes: readonly string[]): Promise<void> {
    await this.database.models.sessions.destroy({ where: { hash: { [Op.in]: [...hashes] } } });
  }

  /** That an entry comes under a name nobody proved yet; one that is recorded already is sent again, and stays what it is. */
  async claim(claim: Pick<Claim, 'key' | 'by' | 'sentBy' | 'tablet'>): Promise<void> {
    const { sequelize, models } = this.database;
    const recorded = await sequelize.query(
      `SELECT 1 FROM job_events WHERE requestKey = $key UNION ALL SELECT 1 FROM shelf_events WHERE requestKey = $key`,
      { type: QueryTypes.SELECT, bind: { key: claim.key } },
    );
    if (recorded.length === 0) await models.claims.upsert({ ...claim });
  }

  claims(): Promise<ClaimKept[]> {
    return this.database.sequelize.query<ClaimKept>(CLAIMED, { type: QueryTypes.SELECT });
  }

  async settleClaims(keys: readonly string[]): Promise<void> {
    await this.database.models.claims.destroy({ where: { key: { [Op.in]: [...keys] } } });
  }

  async note(entry: Omit<AuditEntry, 'id'>): Promise<void> {
    await this.database.models.audit.create({ ...entry });
  }

  /** The latest first: what was noted, and what stands in the record of the shop and its jobs. */
  audit(most: number): Promise<AuditEntry[]> {
    return this.database.sequelize.query<AuditEntry>(
      `SELECT * FROM (${AUDITED}) ORDER BY at DESC, id DESC LIMIT :most`,
      { type: QueryTypes.SELECT, replacements: { most } },
    );
  }
}
