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
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type ModelStatic,
  type Transaction,
  type WhereOptions,
} from 'sequelize';
import { inPieces, packed, shapeOf, unpacked, type Sample } from '@cork-ember/core/devices/samples.ts';
import { key, number } from '../store/columns.ts';
import { connect, type Connection } from '../store/database.ts';

const isShape = () => ({ type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false });

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
  /** Old: of its seconds the shape is left. */
  declare isShape: CreationOptional<boolean>;
}

const ofRow = ({ at, volts, amps, tempC }: TailRow): Sample => ({
  at: Number(at),
  ...(volts === null ? {} : { volts }),
  ...(amps === null ? {} : { amps }),
  ...(tempC === null ? {} : { tempC }),
});

/** By time, each moment once. */
function inOrder(samples: readonly Sample[]): Sample[] {
  const sorted = [...samples].sort((a, b) => a.at - b.at);
  return sorted.filter(({ at }, index) => at !== sorted[index - 1]?.at);
}

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
        isShape: isShape(),
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
    await readings.addShapes();
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

  /** Blocks of before had no shape to be drawn together to. */
  private async addShapes(): Promise<void> {
    const tables = this.connection.sequelize.getQueryInterface();
    if (!('isShape' in (await tables.describeTable('blocks'))))
      await tables.addColumn('blocks', 'isShape', isShape());
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
      for (const part of inPieces(rows, BLOCK_MS)) await this.put(of, part, transaction);
      await this.tail.destroy({ where, transaction });
    });
  }

  /** What came late, or twice, lies within a block that is there already: the two become one. */
  private async put(of: string, rows: readonly Sample[], transaction: Transaction): Promise<void> {
    const [first, last] = [rows[0], rows.at(-1)];
    if (!first || !last) return;
    const within = { job: of, from: { [Op.lte]: last.at }, to: { [Op.gte]: first.at } };
    const all = inOrder([...(await this.samplesIn(within, transaction)), ...rows]);
    const data = await squeeze(packed(all));
    await this.blocks.destroy({ where: within, transaction });
    const [from, to] = [all[0]?.at ?? first.at, all.at(-1)?.at ?? last.at];
    await this.blocks.create({ job: of, from, to, data }, { transaction });
  }

  /**
   * All seconds of a job between two moments, in order.
   * @throws RangeError where a block is damaged
   */
  async read(of: string, from: number, to: number): Promise<Sample[]> {
    const rows = await this.tail.findAll({
      where: { job: of, at: { [Op.between]: [from, to] } },
      order: [['at', 'ASC']],
    });
    // After the rows: what is packed meanwhile is met twice, and not missed.
    const samples = await this.samplesIn({ job: of, from: { [Op.lte]: to }, to: { [Op.gte]: from } });
    return inOrder([...samples, ...rows.map(ofRow)]).filter(({ at }) => at >= from && at <= to);
  }

  /** @throws RangeError where a block is damaged */
  private async samplesIn(where: WhereOptions<BlockRow>, transaction?: Transaction): Promise<Sample[]> {
    const blocks = await this.blocks.findAll({
      where,
      order: [['from', 'ASC']],
      ...(transaction ? { transaction } : {}),
    });
    const samples: Sample[] = [];
    for (const { data } of blocks) samples.push(...unpacked(await unsqueeze(data)));
    return samples;
  }

  /**
   * Of what is older its shape is left, block by block, so that whoever records meanwhile is let in.
   * @param before shop time, ms
   * @returns blocks that were drawn together
   */
  async age(before: number): Promise<number> {
    const old = await this.blocks.findAll({
      where: { to: { [Op.lt]: before }, isShape: false },
      attributes: ['job', 'from'],
    });
    for (const { job: of, from } of old) {
      await this.connection.sequelize.transaction(async (transaction) => {
        const where = { job: of, from };
        const data = await squeeze(packed(shapeOf(await this.samplesIn(where, transaction))));
        await this.blocks.update({ data, isShape: true }, { where, transaction });
      });
      await pass(BETWEEN_BLOCKS_MS);
    }
    return old.length;
  }

  async close(): Promise<void> {
    await this.packing;
    await this.connection.close();
  }
}
