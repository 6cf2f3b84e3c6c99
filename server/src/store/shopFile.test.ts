import {
  closeSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  openSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  truncateSync,
  writeFileSync,
  writeSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import { copyInto, copyTo, newestAt, restore } from './copies.ts';
import { openDatabase, type Database } from './database.ts';
import { ShopFileError } from './shopFile.ts';

describe('the shop’s file', () => {
  let folder: string;
  let file: string;

  beforeEach(() => {
    folder = mkdtempSync(join(tmpdir(), 'cork-ember-file-'));
    file = join(folder, 'shop.sqlite');
  });

  afterEach(() => rmSync(folder, { recursive: true, force: true }));

  /** A shop with so many settings, closed again. */
  async function made(settings = 400): Promise<void> {
    const database = await openDatabase(file);
    await database.models.settings.bulkCreate(
      Array.from({ length: settings }, (_, index) => ({ key: `key ${index}`, value: 'x'.repeat(200) })),
    );
    await database.close();
  }

  async function refusal(doing: Promise<unknown>): Promise<string> {
    const error = await doing.then(
      () => undefined,
      (failure: unknown) => failure,
    );
    if (!(error instanceof ShopFileError)) throw new Error(`no sentence: ${String(error)}`);
    return error.message;
  }

  const whatIsWrong: readonly (readonly [what: string, sentence: RegExp, spoil: () => void])[] = [
    ['a folder', /is a folder; name the shop’s file in it$/, () => mkdirSync(file)],
    ['a text file', /is no shop’s file: it was left as it is/, () => writeFileSync(file, 'Dear diary')],
    [
      'a folder that is a file',
      /cannot be made, or is no folder/,
      () => {
        writeFileSync(join(folder, 'there'), '');
        file = join(folder, 'there', 'shop.sqlite');
      },
    ],
  ];
  for (const [what, sentence, spoil] of whatIsWrong)
    it(`${what} in its place is refused in one sentence, and left as it is`, async () => {
      spoil();
      expect(await refusal(openDatabase(file))).to.match(sentence);
      expect(readdirSync(folder).filter((name) => /wal|shm/.test(name))).to.deep.equal([]);
    });

  it('damaged in the middle, or cut short, it says how to bring a copy back', async () => {
    await made();
    const whole = readFileSync(file);
    const handle = openSync(file, 'r+');
    // Every page but the first few: wherever the tables lie, they are hit.
    for (let at = 4096 * 2; at < whole.length; at += 4096)
      writeSync(handle, Buffer.alloc(2000, 0xa5), 0, 2000, at);
    closeSync(handle);
    expect(await refusal(openDatabase(file))).to.match(
      /is damaged: bring a copy back with “npm run restore FILE”/,
    );
    writeFileSync(file, whole);
    truncateSync(file, 5000);
    expect(await refusal(openDatabase(file))).to.match(/is damaged/);
  });

  it('made by a newer program it is not touched', async () => {
    await made(1);
    const database = await openDatabase(file);
    await database.sequelize.query("INSERT INTO SequelizeMeta (name) VALUES ('9999-from-the-future')");
    await database.close();
    expect(await refusal(openDatabase(file))).to.match(/was made by a newer Cork Ember/);
  });

  it('is open in one program at a time, and free again once that has closed it', async () => {
    const first = await openDatabase(file);
    expect(await refusal(openDatabase(file))).to.match(/is open in another Cork Ember/);
    await first.close();
    await (await openDatabase(file)).close();
  });

  it('a migration that breaks off leaves the file as it was, and it opens whole afterwards', async () => {
    const database = await openDatabase(file);
    // As it stood before the last migration, but for a table in its way: the migration fails in its middle.
    await database.sequelize.query('DROP TABLE stock_moves');
    await database.sequelize.query('DROP TABLE shop_changes');
    await database.sequelize.query("DELETE FROM SequelizeMeta WHERE name = '0002-shop-records'");
    await database.sequelize.query('CREATE TABLE photos_kept AS SELECT * FROM photos');
    await database.sequelize.query('DROP INDEX photos_job');
    await database.sequelize.query('CREATE INDEX photos_job ON photos_kept (job)');
    await database.close();
    const broken = await openDatabase(file).catch((error: unknown) => error);
    expect(broken).to.be.instanceOf(Error);
    const { Sequelize } = await import('sequelize');
    const looked = new Sequelize({ dialect: 'sqlite', storage: file, logging: false });
    const [tables] = await looked.query(
      "SELECT name FROM sqlite_master WHERE name IN ('shop_changes', 'stock_moves')",
    );
    expect(tables).to.deep.equal([]);
    await looked.query('DROP TABLE photos_kept');
    await looked.close();
    // It was copied before anything was touched, each time.
    expect(readdirSync(join(folder, 'copies'))[0]).to.match(/^before-migration-.*\.sqlite$/);
    await (await openDatabase(file)).close();
  });
});

describe('copies of the shop’s file', () => {
  let folder: string;
  let file: string;
  let database: Database;

  beforeEach(async () => {
    folder = mkdtempSync(join(tmpdir(), 'cork-ember-copies-'));
    file = join(folder, 'shop.sqlite');
    database = await openDatabase(file);
  });

  afterEach(async () => {
    await database.close().catch(() => undefined);
    rmSync(folder, { recursive: true, force: true });
  });

  const write = (key: string): Promise<unknown> => database.models.settings.upsert({ key, value: key });
  async function keysIn(path: string): Promise<string[]> {
    const { Sequelize } = await import('sequelize');
    const opened = new Sequelize({ dialect: 'sqlite', storage: path, logging: false });
    const [rows] = await opened.query('SELECT key FROM settings ORDER BY rowid');
    await opened.close();
    return (rows as readonly { key: string }[]).map(({ key }) => key);
  }

  it('hold every entry that was acknowledged before they began, while more arrive', async () => {
    const acknowledged: string[] = [];
    let isOver = false;
    const writing = (async () => {
      for (let index = 0; !isOver; index += 1) {
        await write(`entry ${index}`);
        acknowledged.push(`entry ${index}`);
      }
    })();
    for (let copy = 0; copy < 5; copy += 1) {
      while (acknowledged.length < 20 * (copy + 1)) await new Promise((resolve) => setTimeout(resolve, 1));
      const before = [...acknowledged];
      const target = join(folder, `copy-${copy}.sqlite`);
      await copyTo(file, target);
      expect(await keysIn(target)).to.include.members(before);
    }
    isOver = true;
    await writing;
  });

  it('come back as they were, and what was there is kept', async () => {
    await write('before');
    const copy = await copyInto(file, join(folder, 'copies'), 'by-hand');
    await write('after');
    const whileOpen = await restore(file, copy).catch((error: unknown) => error);
    expect(whileOpen)
      .to.be.instanceOf(ShopFileError)
      .with.property('message')
      .that.includes('is open in another');
    await database.close();
    const kept = await restore(file, copy);
    expect(await keysIn(file)).to.deep.equal(['before']);
    expect(await keysIn(kept ?? '')).to.deep.equal(['before', 'after']);
    database = await openDatabase(file);
    expect(await database.models.settings.count()).to.equal(1);
  });

  it('that are damaged, or none, change nothing', async () => {
    await write('here');
    const copy = await copyInto(file, join(folder, 'copies'), 'by-hand');
    await database.close();
    for (const [spoil, sentence] of [
      [() => truncateSync(copy, 6000), /is damaged; take another copy/],
      [() => writeFileSync(copy, 'no copy'), /is no shop’s file/],
      [() => rmSync(copy), /there is no such copy/],
    ] as const) {
      spoil();
      const refused = await restore(file, copy).catch((error: unknown) => error);
      expect(refused).to.be.instanceOf(ShopFileError);
      expect((refused as Error).message).to.match(sentence);
      expect(await keysIn(file)).to.deep.equal(['here']);
    }
  });

  it('are fourteen of a kind at most, the newest, and never half of one', async () => {
    const copies = join(folder, 'copies');
    mkdirSync(copies);
    for (let day = 1; day <= 20; day += 1)
      writeFileSync(join(copies, `nightly-2026-03-${String(day).padStart(2, '0')}T02-00-00.sqlite`), '');
    writeFileSync(join(copies, 'by-hand-2020-01-01T00-00-00.sqlite'), '');
    const made = await copyInto(file, copies, 'nightly');
    const names = readdirSync(copies);
    expect(names.filter((name) => name.startsWith('nightly'))).to.have.length(14);
    expect(names).to.include('by-hand-2020-01-01T00-00-00.sqlite');
    expect(names).not.to.include('nightly-2026-03-07T02-00-00.sqlite');
    expect(existsSync(`${made}.unfinished`)).to.equal(false);
    expect(await newestAt(copies, 'nightly')).to.equal(statSync(made).mtimeMs);
  });
});
