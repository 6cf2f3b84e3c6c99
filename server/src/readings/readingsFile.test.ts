import { expect } from 'chai';
import { thinned } from '@cork-ember/core/devices/samples.ts';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { copyInto } from '../store/copies.ts';
import { connect } from '../store/database.ts';
import { ReadingsFile, type JobSample } from './readingsFile.ts';

const START = Date.parse('2026-03-10T08:00:00Z');
const [FIRST, SECOND] = ['5ce77e00-0000-4000-8000-000000000001', '5ce77e00-0000-4000-8000-000000000002'];

const second = (index: number, job = FIRST): JobSample => ({
  job,
  at: START + 1000 * index,
  volts: Number((13 + 0.001 * (index % 7)).toFixed(3)),
  amps: 5,
  ...(job === FIRST ? { tempC: 24 } : {}),
});

const withoutJob = ({ job: _job, ...sample }: JobSample): object => sample;

describe('the file of readings', () => {
  let folder: string;
  let readings: ReadingsFile;
  beforeEach(async () => {
    folder = mkdtempSync(join(tmpdir(), 'cork-ember-readings-'));
    readings = await ReadingsFile.open(join(folder, 'readings.sqlite'));
  });
  afterEach(async () => {
    await readings.close();
    rmSync(folder, { recursive: true });
  });

  const keep = async (from: number, to: number): Promise<void> => {
    // As many at once as a bay gives in a minute: a test has no hours.
    for (let index = from; index < to; index += 60)
      await readings.keep(
        Array.from({ length: Math.min(60, to - index) }, (_, more) => [
          second(index + more),
          second(index + more, SECOND),
        ]).flat(),
      );
  };

  it('gives back every second of an hour, packed and not yet packed, with no gap', async () => {
    await keep(0, 3600);
    for (const job of [FIRST, SECOND]) {
      const all = await readings.read(job, START, START + 3_600_000);
      expect(all).to.deep.equal(Array.from({ length: 3600 }, (_, index) => withoutJob(second(index, job))));
    }
    const part = await readings.read(FIRST, START + 599_000, START + 601_000);
    expect(part.map(({ at }) => (at - START) / 1000)).to.deep.equal([599, 600, 601]);
  });

  it('takes the same seconds twice as once', async () => {
    await keep(0, 120);
    await keep(60, 180);
    expect(await readings.read(FIRST, START, START + 1e9)).to.have.length(180);
  });

  it('is the same when it is opened again, and goes on', async () => {
    await keep(0, 1000);
    await readings.close();
    readings = await ReadingsFile.open(join(folder, 'readings.sqlite'));
    await keep(1000, 1500);
    const all = await readings.read(FIRST, START, START + 1e9);
    expect(all.map(({ at }) => (at - START) / 1000)).to.deep.equal(
      Array.from({ length: 1500 }, (_, index) => index),
    );
  });

  it('what was said to be kept is on disk, whoever is killed', async () => {
    await keep(0, 700);
    // A copy of the file as it lies there, log and all, is what a killed program leaves.
    await copyInto(join(folder, 'readings.sqlite'), folder, 'left');
    const { readdirSync } = await import('node:fs');
    const left = readdirSync(folder).find((name) => name.includes('left')) ?? '';
    const again = await ReadingsFile.open(join(folder, left));
    expect(await again.read(FIRST, START, START + 1e9)).to.have.length(700);
    await again.close();
  });

  it('takes what came late, or once more after ten minutes, for what it is', async () => {
    await keep(0, 660);
    await readings.keep([second(5), { job: FIRST, at: START + 5500, tempC: 25 }, second(900)]);
    await keep(901, 1400);
    await readings.close();
    readings = await ReadingsFile.open(join(folder, 'readings.sqlite'));
    const all = await readings.read(FIRST, START, START + 1e9);
    const times = all.map(({ at }) => at);
    expect(times).to.deep.equal([...new Set(times)].sort((a, b) => a - b));
    expect(all).to.have.length(660 + 1 + 500);
    expect(all[6]).to.deep.equal({ at: START + 5500, tempC: 25 });
  });

  it('takes over the seconds of before, when each had volts and amperes', async () => {
    await readings.close();
    const file = join(folder, 'readings.sqlite');
    const { sequelize, close } = await connect(file);
    await sequelize.query(
      'CREATE TABLE tail (job VARCHAR(36), at BIGINT, volts DOUBLE NOT NULL, amps DOUBLE NOT NULL, tempC DOUBLE, PRIMARY KEY (job, at))',
    );
    for (const { job, at, volts, amps, tempC } of [second(1), second(2, SECOND)])
      await sequelize.query('INSERT INTO tail VALUES (?, ?, ?, ?, ?)', {
        replacements: [job, at, volts, amps, tempC ?? null],
      });
    await close();
    readings = await ReadingsFile.open(file);
    await readings.keep([{ job: FIRST, at: START + 3000, tempC: 25 }]);
    expect(await readings.read(FIRST, START, START + 1e9)).to.deep.equal([
      withoutJob(second(1)),
      { at: START + 3000, tempC: 25 },
    ]);
    expect(await readings.read(SECOND, START, START + 1e9)).to.deep.equal([withoutJob(second(2, SECOND))]);
  });

  it('of what is older than the rule keeps its shape, once', async () => {
    await keep(0, 1800);
    const before = await readings.read(FIRST, START, START + 1e9);
    expect(await readings.age(START + 1_300_000)).to.be.above(0);
    expect(await readings.age(START + 1_300_000)).to.equal(0);
    const all = await readings.read(FIRST, START, START + 1e9);
    expect(all.length).to.be.below(before.length - 500);
    expect(all.at(-1)).to.deep.equal(before.at(-1));
    expect(all[0]).to.deep.equal(before[0]);
    expect(thinned(all, 1)).to.deep.equal(thinned(before, 1));
  });

  it('ages a file that was begun before there were shapes', async () => {
    await keep(0, 1800);
    await readings.close();
    const file = join(folder, 'readings.sqlite');
    const { sequelize, close } = await connect(file);
    await sequelize.query('ALTER TABLE blocks DROP COLUMN isShape');
    await close();
    readings = await ReadingsFile.open(file);
    expect(await readings.age(START + 1e9)).to.be.above(0);
  });
});
