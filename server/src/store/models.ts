import {
  DataTypes,
  Model,
  type CreationAttributes,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type ModelStatic,
  type Sequelize,
} from 'sequelize';
import type { Outcome } from '@cork-ember/core/runsheet/step.ts';

class SettingRow extends Model<InferAttributes<SettingRow>, InferCreationAttributes<SettingRow>> {
  declare key: string;
  declare value: unknown;
}

class BatteryRow extends Model<InferAttributes<BatteryRow>, InferCreationAttributes<BatteryRow>> {
  declare tag: string;
  declare typeId: string;
  declare serial: string;
  declare dateCode: string;
  declare owner: string;
}

export class JobRow extends Model<InferAttributes<JobRow>, InferCreationAttributes<JobRow>> {
  declare id: string;
  declare tag: string;
  declare bay: number;
  declare openedAt: number;
  declare outcome: Outcome | null;
  declare endedAt: number | null;
}

export class EventRow extends Model<InferAttributes<EventRow>, InferCreationAttributes<EventRow>> {
  declare job: string;
  declare seq: number;
  declare at: number;
  declare by: string;
  declare kind: string;
  declare payload: unknown;
  declare requestKey: string | null;
}

class ShopChangeRow extends Model<InferAttributes<ShopChangeRow>, InferCreationAttributes<ShopChangeRow>> {
  declare id: CreationOptional<number>;
  declare at: number;
  declare by: string;
  declare why: string;
  declare what: string;
}

class PhotoRow extends Model<InferAttributes<PhotoRow>, InferCreationAttributes<PhotoRow>> {
  declare id: string;
  declare job: string;
  declare bytes: Buffer;
}

class StockMoveRow extends Model<InferAttributes<StockMoveRow>, InferCreationAttributes<StockMoveRow>> {
  declare id: CreationOptional<number>;
  declare at: number;
  declare by: string;
  declare item: string;
  declare amount: number;
  declare why: string;
  declare job: string | null;
}

export type NewEventRow = CreationAttributes<EventRow>;

export interface Models {
  readonly settings: ModelStatic<SettingRow>;
  readonly batteries: ModelStatic<BatteryRow>;
  readonly jobs: ModelStatic<JobRow>;
  readonly events: ModelStatic<EventRow>;
  readonly changes: ModelStatic<ShopChangeRow>;
  readonly photos: ModelStatic<PhotoRow>;
  readonly moves: ModelStatic<StockMoveRow>;
}

/** Binds the classes to one open file; each call gives its own, so tests can open several. */
export function defineModels(sequelize: Sequelize): Models {
  // Sequelize writes into what it is given: every column gets an object of its own.
  const text = () => ({ type: DataTypes.STRING, allowNull: false });
  const number = () => ({ type: DataTypes.BIGINT, allowNull: false });
  const key = () => ({ type: DataTypes.STRING, primaryKey: true });
  const options = { sequelize, timestamps: false };
  const settings = class extends SettingRow {};
  const batteries = class extends BatteryRow {};
  const jobs = class extends JobRow {};
  const events = class extends EventRow {};
  settings.init(
    { key: key(), value: DataTypes.JSON },
    { ...options, modelName: 'setting', tableName: 'settings' },
  );
  batteries.init(
    { tag: key(), typeId: text(), serial: text(), dateCode: text(), owner: text() },
    { ...options, modelName: 'battery', tableName: 'batteries' },
  );
  jobs.init(
    {
      id: key(),
      tag: text(),
      bay: number(),
      openedAt: number(),
      outcome: { type: DataTypes.STRING, allowNull: true },
      endedAt: { type: DataTypes.BIGINT, allowNull: true },
    },
    { ...options, modelName: 'job', tableName: 'jobs' },
  );
  events.init(
    {
      job: key(),
      seq: { type: DataTypes.INTEGER, primaryKey: true },
      at: number(),
      by: text(),
      kind: text(),
      payload: { type: DataTypes.JSON, allowNull: false },
      requestKey: { type: DataTypes.STRING, allowNull: true },
    },
    { ...options, modelName: 'event', tableName: 'job_events' },
  );
  const changes = class extends ShopChangeRow {};
  const photos = class extends PhotoRow {};
  const moves = class extends StockMoveRow {};
  const serial = () => ({ type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true });
  changes.init(
    { id: serial(), at: number(), by: text(), why: text(), what: text() },
    { ...options, modelName: 'change', tableName: 'shop_changes' },
  );
  photos.init(
    { id: key(), job: text(), bytes: { type: DataTypes.BLOB, allowNull: false } },
    { ...options, modelName: 'photo', tableName: 'photos' },
  );
  moves.init(
    {
      id: serial(),
      at: number(),
      by: text(),
      item: text(),
      amount: { type: DataTypes.DOUBLE, allowNull: false },
      why: text(),
      job: { type: DataTypes.STRING, allowNull: true },
    },
    { ...options, modelName: 'move', tableName: 'stock_moves' },
  );
  return { settings, batteries, jobs, events, changes, photos, moves };
}
