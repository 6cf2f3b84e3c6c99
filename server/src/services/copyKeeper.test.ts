import { mkdirSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import { pino } from 'pino';
import { realNow } from '../clock/realTime.ts';
import { openDatabase } from '../store/database.ts';
import { restore } from '../store/copies.ts';
import { openTestShop, type TestShop } from '../../test/testShop.ts';
import { ReadingsFile } from '../readings/readingsFile.ts';
import { CopyKeeper, isCopyDue } from './copyKeeper.ts';
import { Readings } from './readings.ts';

const HOUR = 3_600_000;

describe('copies of the shop by night', () => {
  for (const [what, agoH, hour, isDue] of [
    ['there is none', undefined, 15, true],
    ['it is night and the last is of yesterday', 24, 2, true],
    ['it is night and it was made an hour ago', 1, 3, false],
    ['it is day and the last is of this night', 10, 12, false],
    ['the machine is off at night', 31, 12, true],
  ] as const)
    it(`${isDue ? 'one is due' : 'none is due'} where ${what}`, () => {
      expect(isCopyDue(agoH === undefined ? undefined : -agoH * HOUR, 0, hour)).to.equal(isDue);
    });

  it('go into every folder, and one that is away keeps none of the others from theirs', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'cork-ember-keeper-'));
    const database = await openDatabase(join(folder, 'shop.sqlite'));
    const [near, far] = [join(folder, 'copies'), join(folder, 'far')];
    writeFileSync(join(folder, 'away'), '');
    mkdirSync(far);
    const keeper = new CopyKeeper(
      database,
      [join(folder, 'away', 'disk'), near, far],
      pino({ level: 'silent' }),
    );
    await keeper.look();
    await keeper.look(realNow() + HOUR);
    for (const made of [near, far]) expect(readdirSync(made)).to.have.length(1);
    await database.close();
    rmSync(folder, { recursive: true });
  });

  it('hold the readings of each second too, where a shop has any', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'cork-ember-keeper-'));
    const database = await openDatabase(join(folder, 'shop.sqlite'));
    const readings = new Readings(database.file);
    await readings.keep([{ job: 'a', at: 5000, volts: 12.61 }]);
    const copies = join(folder, 'copies');
    await new CopyKeeper(database, [copies], pino({ level: 'silent' })).look();
    const made = readdirSync(copies).sort();
    expect(made.map((name) => name.split('-')[0])).to.deep.equal(['nightly', 'readings']);
    const copied = await ReadingsFile.open(join(copies, made[1] ?? ''));
    expect(await copied.read('a', 0, 1e9)).to.deep.equal([{ at: 5000, volts: 12.61 }]);
    await Promise.all([copied.close(), readings.close(), database.close()]);
    rmSync(folder, { recursive: true });
  });
});

describe('a copy somebody takes away', () => {
  let shop: TestShop;
  let folder: string;

  before(async () => {
    shop = await openTestShop();
    folder = mkdtempSync(join(tmpdir(), 'cork-ember-taken-'));
  });

  after(async () => {
    await shop.cleanUp();
    rmSync(folder, { recursive: true });
  });

  it('is a shop’s file with everything in it, and opens in another place', async () => {
    const jobs = (await shop.api.get('/api/jobs')).body as readonly unknown[];
    const answer = await shop.api
      .get('/api/copy')
      .expect(200)
      .expect('content-disposition', /attachment; filename=cork-ember-\d{4}-\d{2}-\d{2}\.sqlite$/)
      .responseType('blob');
    const taken = join(folder, 'taken.sqlite');
    writeFileSync(taken, answer.body as Buffer);
    const file = join(folder, 'shop.sqlite');
    expect(await restore(file, taken)).to.equal(undefined);
    const again = await openTestShop(file);
    const there = (await again.api.get('/api/jobs')).body as readonly unknown[];
    expect(there).to.deep.equal(jobs);
    await again.cleanUp();
  });
});
