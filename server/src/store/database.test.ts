import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout } from 'node:timers/promises';
import { expect } from 'chai';
import { openDatabase } from './database.ts';

describe('writers side by side', () => {
  it('wait for each other: a transaction is never refused because another wrote meanwhile', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'cork-ember-writers-'));
    const { sequelize, models, close } = await openDatabase(join(folder, 'shop.sqlite'));
    const battery = { typeId: 'LW-A12/9', serial: '', dateCode: '2025-06', owner: 'stock' };
    const writing = async (writer: number): Promise<void> => {
      for (let round = 0; round < 20; round++) {
        const tag = `WR-${writer}-${round}`;
        await models.settings.upsert({ key: `writer ${writer}`, value: round });
        await sequelize.transaction(async (transaction) => {
          await models.batteries.upsert({ tag, ...battery }, { transaction });
        });
      }
    };
    await Promise.all([1, 2, 3].map(writing));
    expect(await models.batteries.count()).to.equal(60);
    await close();
    rmSync(folder, { recursive: true });
  });

  it('leave a transaction that is open the means to end, however many wait for it', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'cork-ember-writers-'));
    const { sequelize, models, close } = await openDatabase(join(folder, 'shop.sqlite'));
    const waiting: Promise<unknown>[] = [];
    await sequelize.transaction(async (transaction) => {
      await models.settings.upsert({ key: 'held', value: 0 }, { transaction });
      for (let one = 0; one < 8; one++) {
        const key = `waits ${one}`;
        waiting.push(
          sequelize.transaction((own) => models.settings.upsert({ key, value: one }, { transaction: own })),
        );
      }
      await setTimeout(100);
      await models.settings.upsert({ key: 'held', value: 1 }, { transaction });
    });
    await Promise.all(waiting);
    expect(await models.settings.count()).to.equal(9);
    await close();
    rmSync(folder, { recursive: true });
  }).timeout(10_000);

  it('find or create within a transaction, which waits for nobody', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'cork-ember-writers-'));
    const { sequelize, models, close } = await openDatabase(join(folder, 'shop.sqlite'));
    const battery = { tag: 'WR-1', typeId: 'LW-A12/9', serial: '', dateCode: '2025-06', owner: 'stock' };
    for (let round = 0; round < 2; round++)
      await sequelize.transaction(async (transaction) => {
        await models.batteries.findOrCreate({ where: { tag: 'WR-1' }, defaults: battery, transaction });
      });
    const failed = await sequelize
      .transaction(async (transaction) => {
        await models.batteries.findOrCreate({
          where: { tag: 'WR-2' },
          defaults: { ...battery, tag: 'WR-2' },
          transaction,
        });
        throw new Error('and then it fails');
      })
      .catch((error: unknown) => (error as Error).message);
    expect(failed).to.equal('and then it fails');
    expect(await models.batteries.count(), 'the one that failed left nothing').to.equal(1);
    await close();
    rmSync(folder, { recursive: true });
  });
});
