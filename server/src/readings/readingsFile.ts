/**
 * Readings of each second, in a file of their own beside the shop's: what was said to be kept is on disk, and ten minutes of a job become one small block. A
 * file of readings that is lost takes nothing of the record with it.
 */
import { setTimeout as pass } from 'node:timers/promises';
import { promisify } from 'node:util';
import { deflateRaw, inflateRaw } from 'node:zlib';
import {
  DataTypes,
  Model,
  Op,
  type InferAttributes,
  type InferCreationAttributes,
  type ModelStatic,
} from 'sequelize';
import { packed, unpacked, type Sample } from '@cork-ember/core/devices/samples.ts';
import { key, number } from '../store/columns.ts';
import { connect, type Connection } from '../store/database.ts';

const squeeze = promisify(deflateRaw);
const unsqueeze = promisify(inflateRaw);

/** So long a block is, ms. */
const BLOCK_MS = 10 * 60_000;
/** Whoever records meanwhile is let in, ms. */
const BETWEEN_BLOCKS_MS = 20;

/** The first block of a job is shorter by so much, by its id: a bench that begins at once does not pack at once. */
const headStartMs = (job: string): number => (Number.parseInt(job.slice(0, 8), 16) || 0) % BLOCK_MS;

/** A second of one job. */
export interface JobSample extends Sample {
  readonly job: string;
}

class TailRow extends Model<InferAttributes<TailRow>, InferCreationAttributes<TailRow>> {
  declare job: string;
  declare at: number;
  declare volts: number | null;
  declare amps: number | null;
  declare tempC: number | null;
}

class BlockRow extends Model<InferAttributes<BlockRow>, InferCreationAttributes<BlockRow>> {
  declare job: string;
  declare from: number;
  declare to: number;
  declare data: Buffer;
}

const ofRow = ({ at, volts, amps, tempC }: TailRow): Sample => ({
  at: Number(at),
  ...(volts === null ? {} : { volts }),
  ...(amps === null ? {} : { amps }),
  ...(tempC === null ? {} : { tempC }),
});

export class ReadingsFile {
  private readonly connection: Connection;
  private readonly tail: ModelStatic<TailRow>;
  private readonly blocks: ModelStatic<BlockRow>;
  /** When the seconds of each job begin that are in no block yet, or somewhat before. */
  private readonly since = new Map<string, number>();
  private packing: Promise<unknown> = Promise.resolve();

  private constructor(connection: Connection) {
    this.connection = connection;
    const { sequelize } = connection;
    this.tail = sequelize.define<TailRow>(
      'newest',
      {
        job: key(),
        at: { ...number(), primaryKey: true },
        volts: DataTypes.DOUBLE,
        amps: DataTypes.DOUBLE,
        tempC: DataTypes.DOUBLE,
      },
      { timestamps: false, freezeTableName: true },
    );
    this.blocks = sequelize.define<BlockRow>(
      'blocks',
      {
        job: key(),
        from: { ...number(), primaryKey: true },
        to: number(),
        data: { type: DataTypes.BLOB, allowNull: false },
      },
      { timestamps: false, freezeTableName: true },
    );
  }

  /**
   * Opens the file, creating it when missing.
   * @throws ShopFileError where it cannot be opened
   */
  static async open(file: string): Promise<ReadingsFile> {
    const readings = new ReadingsFile(await connect(file));
    await readings.tail.sync();
    await readings.blocks.sync();
    await readings.takeOverOld();
    for (const { job: of, at } of await readings.tail.findAll({ order: [['at', 'DESC']] }))
      readings.since.set(of, Number(at));
    return readings;
  }

  /** Seconds of before, when each had volts and amperes, stood in a table that takes no other. */
  private takeOverOld(): Promise<void> {
    const { sequelize } = this.connection;
    return sequelize.transaction(async (transaction) => {
      if (!(await sequelize.getQueryInterface().tableExists('tail', { transaction }))) return;
      await sequelize.query(
        'INSERT OR IGNORE INTO newest (job, at, volts, amps, tempC) SELECT job, at, volts, amps, tempC FROM tail',
        { transaction },
      );
      await sequelize.getQueryInterface().dropTable('tail', { transaction });
    });
  }

  /**
   * Puts seconds of any jobs on disk, all of them or none; those that were kept already stay as they are.
   * @returns once they are there
   */
  async keep(samples: readonly JobSample[]): Promise<void> {
    await this.tail.bulkCreate(
      samples.map(({ job: of, at, volts = null, amps = null, tempC = null }) => ({
        job: of,
        at,
        volts,
        amps,
        tempC,
      })),
      { ignoreDuplicates: true },
    );
    for (const { job: of, at } of samples) if (!this.since.has(of)) this.since.set(of, at - headStartMs(of));
    for (const [of, at] of new Map(samples.map((sample) => [sample.job, sample.at])))
      if (at - (this.since.get(of) ?? at) >= BLOCK_MS) this.packLater(of, at);
  }

  /** One job after the other, and nobody waits for it: what is in no block yet is read from where it is. */
  private packLater(of: string, at: number): void {
    this.since.set(of, at);
    this.packing = this.packing
      .then(() => this.pack(of, at))
      // It is tried again with the next ten minutes.
      .catch(() => undefined)
      .then(() => pass(BETWEEN_BLOCKS_MS));
  }

  /** Makes a block of the seconds of a job before a moment. */
  private async pack(of: string, before: number): Promise<void> {
    await this.connection.sequelize.transaction(async (transaction) => {
      const where = { job: of, at: { [Op.lt]: before } };
      const rows = (await this.tail.findAll({ where, order: [['at', 'ASC']], raw: true, transaction })).map(
        ofRow,
      );
      const [first, last] = [rows[0], rows.at(-1)];
      if (first && last) {
        const data = await squeeze(packed(rows));
        await this.blocks.create({ job: of, from: first.at, to: last.at, data }, { transaction });
        await this.tail.destroy({ where, transaction });
      }
    });
  }

  /**
   * All seconds of a job between two moments, in order.
   * @throws RangeError where a block is damaged
   */
  async read(of: string, from: number, to: number): Promise<Sample[]> {
    const blocks = await this.blocks.findAll({
      where: { job: of, from: { [Op.lte]: to }, to: { [Op.gte]: from } },
      order: [['from', 'ASC']],
    });
    const samples: Sample[] = [];
    for (const { data } of blocks) samples.push(...unpacked(await unsqueeze(data)));
    const rows = await this.tail.findAll({
      where: { job: of, at: { [Op.between]: [from, to] } },
      order: [['at', 'ASC']],
    });
    samples.push(...rows.map(ofRow));
    return samples.filter(({ at }) => at >= from && at <= to);
  }

  /** Lets go of what is older. @param before shop time, ms */
  async forgetBefore(before: number): Promise<void> {
    await this.blocks.destroy({ where: { to: { [Op.lt]: before } } });
    await this.tail.destroy({ where: { at: { [Op.lt]: before } } });
  }

  async close(): Promise<void> {
    await this.packing;
    await this.connection.close();
  }
}
