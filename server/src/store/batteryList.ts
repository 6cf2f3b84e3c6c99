/** Batteries by page and by the words they are found by: the file searches, and no list is read whole. */
import { QueryTypes } from 'sequelize';
import type {
  BatteryPage,
  BatteryQuery,
  BatteryRow,
  JobSummary,
  LastMeasured,
} from '@cork-ember/core/contract/answers.ts';
import type { Finding } from '@cork-ember/core/ledger/finding.ts';
import type { Database } from './database.ts';

const PAGE_SIZE = 50;

/** A phrase for the full-text index, its last word as it begins. */
const phrase = (words: string): string => `"${words.replaceAll('"', '""')}"`;

/**
 * What was typed as a question to the full-text index: every word must stand somewhere, as it begins.
 * @param typesOf ids of the types one word names by their maker
 * @returns undefined where nothing was typed that could be found
 */
export function matchOf(words: string, typesOf: (word: string) => readonly string[]): string | undefined {
  const terms = words
    .split(/\s+/)
    .filter((word) => /[\p{L}\p{N}]/u.test(word))
    .map((word) =>
      [`${phrase(word)} *`, ...typesOf(word).map((id) => `typeId : ${phrase(id)}`)].join(' OR '),
    );
  return terms.length === 0 ? undefined : terms.map((term) => `(${term})`).join(' AND ');
}

interface Row extends Omit<JobSummary, 'tag' | 'id'> {
  readonly tag: string;
  readonly typeId: string;
  readonly serial: string;
  readonly dateCode: string;
  readonly owner: string;
  /** Of its last job; none of one that never was on the bench. */
  readonly id: string | null;
  readonly finding: string | null;
}

const ORDER: Readonly<Record<BatteryQuery['sort'], string>> = {
  last: '(SELECT MAX(openedAt) FROM jobs WHERE jobs.tag = batteries.tag) DESC, tag',
  tag: 'tag',
};

const NONE: LastMeasured = {};

function measuredIn(finding: string | null): LastMeasured {
  if (finding === null) return NONE;
  const { grade, capacityShare, crankingA, ocvV } = JSON.parse(finding) as Finding;
  return {
    ...(grade === undefined ? {} : { grade }),
    ...(capacityShare === undefined ? {} : { capacityShare }),
    ...(crankingA === undefined ? {} : { crankingA }),
    ...(ocvV === undefined ? {} : { ocvV }),
  };
}

function toRow({ finding, id, bay, openedAt, outcome, endedAt, ...battery }: Row): BatteryRow {
  const last = id === null ? null : { id, tag: battery.tag, bay, openedAt, outcome, endedAt };
  return { ...battery, last, measured: measuredIn(finding) };
}

export class BatteryList {
  private readonly database: Database;

  constructor(database: Database) {
    this.database = database;
  }

  /**
   * One page of those a question finds, with the last job of each and what was last measured of it.
   * @param typesOf ids of the types a word names by their maker
   */
  async page(query: BatteryQuery, typesOf: (word: string) => readonly string[]): Promise<BatteryPage> {
    const match = matchOf(query.words, typesOf);
    const isAsked = query.words.trim() !== '';
    if (isAsked && match === undefined) return { rows: [], total: 0, size: PAGE_SIZE };
    const where = [
      ...(match === undefined
        ? []
        : ['tag IN (SELECT tag FROM battery_words WHERE battery_words MATCH $match)']),
      ...(query.where === 'bench' ? ['tag IN (SELECT tag FROM jobs WHERE outcome IS NULL)'] : []),
    ];
    const from = `FROM batteries ${where.length === 0 ? '' : `WHERE ${where.join(' AND ')}`}`;
    const { sequelize } = this.database;
    const bind = match === undefined ? {} : { match };
    const [count] = await sequelize.query<{ total: number }>(`SELECT COUNT(*) AS total ${from}`, {
      type: QueryTypes.SELECT,
      bind,
    });
    const rows = await sequelize.query<Row>(
      `WITH page AS (SELECT * ${from} ORDER BY ${ORDER[query.sort]} LIMIT ${PAGE_SIZE} OFFSET $offset)
       SELECT page.*, jobs.id, jobs.bay, jobs.openedAt, jobs.outcome, jobs.endedAt,
              (SELECT finding FROM findings JOIN jobs AS its ON its.id = findings.job
                WHERE its.tag = page.tag ORDER BY findings.endedAt DESC LIMIT 1) AS finding
         FROM page LEFT JOIN jobs
           ON jobs.id = (SELECT id FROM jobs WHERE jobs.tag = page.tag ORDER BY openedAt DESC LIMIT 1)`,
      { type: QueryTypes.SELECT, bind: { ...bind, offset: query.page * PAGE_SIZE } },
    );
    return { rows: rows.map(toRow), total: count?.total ?? 0, size: PAGE_SIZE };
  }

  /** The highest number of the shop's own row of tags; 0 where it has none. */
  async lastOfRow(letters: string): Promise<number> {
    const [row] = await this.database.sequelize.query<{ last: number | null }>(
      `SELECT MAX(CAST(substr(tag, $from) AS INTEGER)) AS last FROM batteries
        WHERE substr(tag, 1, $from - 1) = $letters AND length(tag) >= $from + 3
          AND substr(tag, $from) NOT GLOB '*[^0-9]*'`,
      { type: QueryTypes.SELECT, bind: { letters: `${letters}-`, from: letters.length + 2 } },
    );
    return row?.last ?? 0;
  }

  /** Writes the words anew that batteries are found by. */
  async rebuild(): Promise<void> {
    await this.database.sequelize.transaction(async (transaction) => {
      await this.database.sequelize.query('DELETE FROM battery_words', { transaction });
      await this.database.sequelize.query('UPDATE batteries SET tag = tag', { transaction });
    });
  }
}
