/** Batteries off the bench in the shop's file: their entries, chained as a job's are, and where those leave each of them. */
import { randomUUID } from 'node:crypto';
import { QueryTypes, UniqueConstraintError, type Transaction } from 'sequelize';
import type { BatteryRecord } from '@cork-ember/core/contract/answers.ts';
import type { Finding } from '@cork-ember/core/ledger/finding.ts';
import { SHELF_VERSION, type ShelfEvent } from '@cork-ember/core/shelf/entries.ts';
import { keptOf, placeOf, sinceOf, type BenchEnd, type Kept } from '@cork-ember/core/shelf/keeping.ts';
import type { ShelfItem } from '@cork-ember/core/shelf/overview.ts';
import { PLACE_KINDS, PLACES } from '@cork-ember/core/shelf/places.ts';
import { DAY_MS } from '@cork-ember/core/shelf/warmth.ts';
import { inPieces } from '../gently.ts';
import { chainBreak, chained } from '../record/chain.ts';
import { commitmentsIn, withNames, withoutName } from '../record/names.ts';
import type { Database } from './database.ts';

interface EventRow {
  readonly tag: string;
  readonly seq: number;
  readonly at: number;
  readonly by: string;
  readonly kind: ShelfEvent['kind'];
  readonly payload: string;
  readonly key: string;
  readonly recordedAt: number;
  readonly version: number;
  readonly actor: string;
  readonly hash: string;
}

const COLUMNS = 'tag, seq, at, "by", kind, payload, requestKey AS "key", recordedAt, version, actor, hash';

/** As it was recorded; names stand in it as marks. */
function eventOf({ tag, seq, at, by, kind, payload, key, recordedAt }: EventRow): ShelfEvent {
  const late = recordedAt > at ? { recordedAt } : {};
  return { tag, seq, key, at, by, kind, payload: JSON.parse(payload) as never, ...late };
}

const rowsOf = (
  { sequelize }: Database,
  tag: string,
  transaction?: Transaction,
): Promise<readonly EventRow[]> =>
  sequelize.query<EventRow>(`SELECT ${COLUMNS} FROM shelf_events WHERE tag = $tag ORDER BY seq`, {
    type: QueryTypes.SELECT,
    bind: { tag },
    ...(transaction ? { transaction } : {}),
  });

/** What the end of a job makes of a battery off the bench; nothing, where it only goes back. */
function benchEnd({ outcome, endedAt: at }: Finding): BenchEnd[] {
  switch (outcome) {
    case 'certified':
    case 'recovered':
    case 'charged':
      return [{ at, isProven: true }];
    case 'retired':
      return [{ at, goesTo: 'recycled' }];
    case 'returned':
      return [{ at, goesTo: 'supplier' }];
    case 'rejected':
    case 'withdrawn':
      return [];
  }
}

async function endsOf(
  { sequelize }: Database,
  tag: string,
  transaction: Transaction,
): Promise<readonly BenchEnd[]> {
  const rows = await sequelize.query<{ finding: string }>(
    'SELECT finding FROM findings JOIN jobs ON jobs.id = findings.job WHERE jobs.tag = $tag ORDER BY findings.endedAt',
    { type: QueryTypes.SELECT, bind: { tag }, transaction },
  );
  return rows.flatMap(({ finding }) => benchEnd(JSON.parse(finding) as Finding));
}

/** Writes down where a battery's entries and jobs leave it. */
export async function projectShelf(database: Database, tag: string, transaction: Transaction): Promise<void> {
  const events = (await rowsOf(database, tag, transaction)).map(eventOf);
  const kept = keptOf(tag, events, await endsOf(database, tag, transaction));
  const since = sinceOf(kept) ?? kept.spells.at(-1)?.from;
  const { shelf } = database.models;
  if (since === undefined) await shelf.destroy({ where: { tag }, transaction });
  else {
    const place = placeOf(kept);
    await shelf.upsert(
      { tag, place: place?.kind ?? '', since, machine: place?.machine ?? '', kept },
      { transaction },
    );
  }
}

/** A battery as the shelf's list has it, in JSON. */
interface ShelfRow extends BatteryRecord {
  readonly grade: string | null;
  readonly kept: string;
}

/** A battery off the bench as lists have it, with the grade of its last recovery. */
const ITEM = `SELECT batteries.tag, batteries.typeId, batteries.serial, batteries.dateCode, batteries.owner, shelf.kept,
              (SELECT json_extract(finding, '$.grade') FROM findings JOIN jobs ON jobs.id = findings.job
                WHERE jobs.tag = shelf.tag AND json_extract(finding, '$.grade') IS NOT NULL
                ORDER BY findings.endedAt DESC LIMIT 1) AS grade
         FROM shelf JOIN batteries ON batteries.tag = shelf.tag`;

/** One that left the bench and was put nowhere is asked about for so long. */
const ASKED_ABOUT_MS = 90 * DAY_MS;
const KEPT_KINDS = PLACE_KINDS.filter((kind) => PLACES[kind].isKept || PLACES[kind].isCalled);

export interface ToShelve {
  readonly tag: string;
  /** Its place in the log is given to it here. */
  readonly event: ShelfEvent;
  /** New to the shop. */
  readonly battery?: BatteryRecord;
}

export class ShelfStore {
  private readonly database: Database;

  constructor(database: Database) {
    this.database = database;
  }

  /** One the shop looks after off the bench, or looked after last. */
  async item(tag: string): Promise<ShelfItem | undefined> {
    const [row] = await this.database.sequelize.query<ShelfRow>(`${ITEM} WHERE shelf.tag = $tag`, {
      type: QueryTypes.SELECT,
      bind: { tag },
    });
    if (!row) return undefined;
    const { kept, ...battery } = row;
    return JSON.parse(
      await this.named(JSON.stringify({ ...battery, kept: JSON.parse(kept) as Kept })),
    ) as ShelfItem;
  }

  /** Every battery the shop looks after off the bench, as JSON, those included that were put nowhere yet. */
  async list(now: number): Promise<string> {
    const rows = await this.database.sequelize.query<ShelfRow>(
      `${ITEM}
        WHERE (place IN (:kinds) OR (place = '' AND since >= :since))
          AND NOT EXISTS (SELECT 1 FROM jobs WHERE jobs.tag = shelf.tag AND jobs.outcome IS NULL)
        ORDER BY shelf.tag`,
      { type: QueryTypes.SELECT, replacements: { kinds: KEPT_KINDS, since: now - ASKED_ABOUT_MS } },
    );
    const parts: string[] = [];
    for await (const some of inPieces(rows))
      parts.push(...some.map(({ kept, ...row }) => `${JSON.stringify(row).slice(0, -1)},"kept":${kept}}`));
    return this.named(`[${parts.join(',')}]`);
  }

  /** JSON with the names of who has what. */
  private async named(text: string): Promise<string> {
    const commitments = commitmentsIn(text);
    if (commitments.length === 0) return text;
    const names = await this.database.models.owners.findAll({
      where: { commitment: [...new Set(commitments)] },
      raw: true,
    });
    return withNames(text, new Map(names.map(({ commitment, name }) => [commitment, name])));
  }

  /** What was recorded of one battery, the first first. */
  async events(tag: string): Promise<readonly ShelfEvent[]> {
    const events = (await rowsOf(this.database, tag)).map(eventOf);
    return JSON.parse(await this.named(JSON.stringify(events))) as readonly ShelfEvent[];
  }

  /** Whether what stands of a battery off the bench is what was recorded. @returns undefined where it is; else which entry is not */
  async brokenAt(tag: string): Promise<string | undefined> {
    const rows = await rowsOf(this.database, tag);
    return chainBreak(
      rows.map(({ at, payload, tag: job, ...row }) => ({
        ...row,
        job,
        occurredAt: at,
        payload: JSON.parse(payload) as unknown,
      })),
    );
  }

  /** What an entry's key was recorded as; undefined where it is new. */
  async recorded(key: string): Promise<ShelfEvent | undefined> {
    const [row] = await this.database.sequelize.query<EventRow>(
      `SELECT ${COLUMNS} FROM shelf_events WHERE requestKey = $key`,
      { type: QueryTypes.SELECT, bind: { key } },
    );
    return row && eventOf(row);
  }

  private async actorOf(name: string, transaction: Transaction): Promise<string> {
    const [row] = await this.database.models.actors.findOrCreate({
      where: { name },
      defaults: { id: randomUUID(), name },
      transaction,
    });
    return row.id;
  }

  /** Writes one entry, within a transaction. @returns its place */
  private async write({ tag, event, battery }: ToShelve, transaction: Transaction): Promise<number> {
    const { models } = this.database;
    if (battery) await models.batteries.findOrCreate({ where: { tag }, defaults: battery, transaction });
    const before = (await rowsOf(this.database, tag, transaction)).at(-1);
    const seq = (before?.seq ?? 0) + 1;
    const { key, at, by, kind, recordedAt = at } = event;
    const { payload, kept } = withoutName(kind, event.payload);
    const [entry] = chained(
      [
        {
          job: tag,
          seq,
          key,
          version: SHELF_VERSION,
          kind,
          occurredAt: at,
          recordedAt,
          actor: await this.actorOf(by, transaction),
          by,
          payload: JSON.parse(JSON.stringify(payload)) as unknown,
        },
      ],
      before?.hash,
    );
    if (!entry) throw new Error('an event has its entry');
    if (kept) await models.owners.create({ ...kept }, { transaction });
    const { actor, version, hash } = entry;
    await models.shelfEvents.create(
      { tag, seq, at, by, kind, payload, requestKey: key, version, recordedAt, actor, hash },
      { transaction },
    );
    return seq;
  }

  /**
   * Records one entry, and what follows from it.
   * @returns the event in its place; undefined where its key was recorded before
   */
  async append(entry: ToShelve): Promise<ShelfEvent | undefined> {
    try {
      return await this.database.sequelize.transaction(async (transaction) => {
        const seq = await this.write(entry, transaction);
        await projectShelf(this.database, entry.tag, transaction);
        return Object.assign({}, entry.event, { seq });
      });
    } catch (error) {
      if (error instanceof UniqueConstraintError && error.parent.message.includes('requestKey'))
        return undefined;
      throw error;
    }
  }

  /** Writes down anew where every battery's entries and jobs leave it. */
  async rebuild(): Promise<void> {
    const { sequelize } = this.database;
    const rows = await sequelize.query<{ tag: string }>(
      'SELECT tag FROM shelf_events UNION SELECT tag FROM shelf UNION SELECT tag FROM jobs',
      { type: QueryTypes.SELECT },
    );
    await sequelize.transaction(async (transaction) => {
      for (const { tag } of rows) await projectShelf(this.database, tag, transaction);
    });
  }

  /** Several of one battery or of many, all or nothing. */
  async appendAll(entries: readonly ToShelve[]): Promise<void> {
    await this.database.sequelize.transaction(async (transaction) => {
      for (const entry of entries) await this.write(entry, transaction);
      for (const tag of new Set(entries.map((entry) => entry.tag)))
        await projectShelf(this.database, tag, transaction);
    });
  }
}
