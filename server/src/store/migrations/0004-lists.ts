import type { QueryInterface } from 'sequelize';

/** Written over with each change of a battery, by the file itself: no way in forgets it. */
const WORDS = `
  CREATE VIRTUAL TABLE battery_words USING fts5(
    tag, marks, owner, typeId, tokenize = "unicode61 remove_diacritics 2", prefix = '1 2 3'
  )`;

/** A tag and a serial as they are said and typed: P-09, P09 and 09 are one. */
const marksOf = (row: string): string =>
  `${row}.serial || ' ' || replace(replace(${row}.tag, '-', ''), ' ', '') || ' ' || replace(replace(${row}.serial, '-', ''), ' ', '')`;

const insert = (row: string): string =>
  `INSERT INTO battery_words (tag, marks, owner, typeId) VALUES (${row}.tag, ${marksOf(row)}, ${row}.owner, ${row}.typeId);`;
/** By its words, so that thousands are not read to find one; a tag always has a letter or a digit. */
const remove = `
  DELETE FROM battery_words WHERE rowid IN (
    SELECT rowid FROM battery_words
     WHERE battery_words MATCH 'tag : "' || replace(old.tag, '"', '""') || '"' AND tag = old.tag);`;

/** Lists are paged and searched by the file: an index for each order, and the words a battery is found by. */
export const lists = {
  name: '0004-lists',
  async up({ context }: { context: QueryInterface }): Promise<void> {
    const { sequelize } = context;
    await context.addIndex('jobs', ['tag', 'openedAt']);
    await sequelize.query(WORDS);
    await sequelize.query(
      `CREATE TRIGGER battery_words_insert AFTER INSERT ON batteries BEGIN ${insert('new')} END`,
    );
    await sequelize.query(
      `CREATE TRIGGER battery_words_delete AFTER DELETE ON batteries BEGIN ${remove} END`,
    );
    await sequelize.query(
      `CREATE TRIGGER battery_words_update AFTER UPDATE OF tag, serial, owner, typeId ON batteries BEGIN ${remove} ${insert('new')} END`,
    );
    await sequelize.query(
      `INSERT INTO battery_words (tag, marks, owner, typeId) SELECT tag, ${marksOf('batteries')}, owner, typeId FROM batteries`,
    );
  },
};
