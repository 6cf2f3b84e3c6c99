import {
  DataTypes,
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type ModelStatic,
  type Sequelize,
} from 'sequelize';
import { json, key, number, serial, text } from './columns.ts';
import { defineAccessModels, type AccessModels } from './accessModels.ts';
import type { Lesson } from '@cork-ember/core/learning/lesson.ts';
import type { Finding } from '@cork-ember/core/ledger/finding.ts';
import type { Kept } from '@cork-ember/core/shelf/keeping.ts';
import type { Outcome } from '@cork-ember/core/runsheet/definition/step.ts';

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

class JobRow extends Model<InferAttributes<JobRow>, InferCreationAttributes<JobRow>> {
  declare id: string;
  declare tag: string;
  declare bay: number;
  declare openedAt: number;
  declare outcome: Outcome | null;
  declare endedAt: number | null;
  /** Kept by another shop first. */
  declare isImported: CreationOptional<boolean>;
}

/** An entry of a record, whatever it is the record of. */
class EntryRow<Row extends Model> extends Model<InferAttributes<Row>, InferCreationAttributes<Row>> {
  declare seq: number;
  declare at: number;
  declare by: string;
  declare kind: string;
  declare payload: object;
  /** Its own key. */
  declare requestKey: string;
  declare version: number;
  declare recordedAt: number;
  declare actor: string;
  declare hash: string;
}

class EventRow extends EntryRow<EventRow> {
  declare job: string;
}

class OwnerRow extends Model<InferAttributes<OwnerRow>, InferCreationAttributes<OwnerRow>> {
  declare commitment: string;
  declare salt: string;
  declare name: string;
}

class ActorRow extends Model<InferAttributes<ActorRow>, InferCreationAttributes<ActorRow>> {
  declare id: string;
  declare name: string;
}

class SealRow extends Model<InferAttributes<SealRow>, InferCreationAttributes<SealRow>> {
  declare job: string;
  declare issue: number;
  declare upTo: number;
  declare at: number;
  declare code: string;
  declare hash: string;
  declare content: Buffer;
}

class FindingRow extends Model<InferAttributes<FindingRow>, InferCreationAttributes<FindingRow>> {
  declare job: string;
  declare endedAt: number;
  declare finding: Finding;
}

class LessonRow extends Model<InferAttributes<LessonRow>, InferCreationAttributes<LessonRow>> {
  declare job: string;
  declare version: number;
  declare lesson: Lesson | null;
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

class ShelfEventRow extends EntryRow<ShelfEventRow> {
  declare tag: string;
}

class ShelfRow extends Model<InferAttributes<ShelfRow>, InferCreationAttributes<ShelfRow>> {
  declare tag: string;
  declare place: string;
  declare since: number;
  declare machine: string;
  declare kept: Kept;
}

class MachineRow extends Model<InferAttributes<MachineRow>, InferCreationAttributes<MachineRow>> {
  declare tag: string;
  declare name: string;
  declare owner: string;
  declare carries: number;
  declare typeId: string;
  declare at: number;
  declare by: string;
}

class FeedRow extends Model<InferAttributes<FeedRow>, InferCreationAttributes<FeedRow>> {
  declare hash: string;
  declare at: number;
  declare by: string;
}

class RequestRow extends Model<InferAttributes<RequestRow>, InferCreationAttributes<RequestRow>> {
  declare key: string;
}

export interface Models extends AccessModels {
  readonly settings: ModelStatic<SettingRow>;
  readonly batteries: ModelStatic<BatteryRow>;
  readonly jobs: ModelStatic<JobRow>;
  readonly events: ModelStatic<EventRow>;
  readonly changes: ModelStatic<ShopChangeRow>;
  readonly photos: ModelStatic<PhotoRow>;
  readonly moves: ModelStatic<StockMoveRow>;
  readonly owners: ModelStatic<OwnerRow>;
  readonly actors: ModelStatic<ActorRow>;
  readonly seals: ModelStatic<SealRow>;
  readonly findings: ModelStatic<FindingRow>;
  readonly lessons: ModelStatic<LessonRow>;
  readonly requests: ModelStatic<RequestRow>;
  readonly shelfEvents: ModelStatic<ShelfEventRow>;
  readonly shelf: ModelStatic<ShelfRow>;
  readonly feeds: ModelStatic<FeedRow>;
  readonly machines: ModelStatic<MachineRow>;
}

/** Binds the classes to one open file; each call gives its own, so tests can open several. */
export function defineModels(sequelize: Sequelize): Models {
  const options = { sequelize, timestamps: false };
  const entry = () => ({
    seq: { type: DataTypes.INTEGER, primaryKey: true },
    at: number(),
    by: text(),
    kind: text(),
    payload: json(),
    requestKey: text(),
    version: { type: DataTypes.INTEGER, allowNull: false },
    recordedAt: number(),
    actor: text(),
    hash: text(),
  });
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
      isImported: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false },
    },
    { ...options, modelName: 'job', tableName: 'jobs' },
  );
  events.init({ job: key(), ...entry() }, { ...options, modelName: 'event', tableName: 'job_events' });
  const changes = class extends ShopChangeRow {};
  const photos = class extends PhotoRow {};
  const moves = class extends StockMoveRow {};
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
  const owners = class extends OwnerRow {};
  const actors = class extends ActorRow {};
  const seals = class extends SealRow {};
  const findings = class extends FindingRow {};
  const lessons = class extends LessonRow {};
  lessons.init(
    {
      job: key(),
      version: { type: DataTypes.INTEGER, allowNull: false },
      lesson: { type: DataTypes.JSON, allowNull: true },
    },
    { ...options, modelName: 'lesson', tableName: 'lessons' },
  );
  const requests = class extends RequestRow {};
  requests.init({ key: key() }, { ...options, modelName: 'request', tableName: 'requests' });
  owners.init(
    { commitment: key(), salt: text(), name: text() },
    { ...options, modelName: 'owner', tableName: 'owners' },
  );
  actors.init({ id: key(), name: text() }, { ...options, modelName: 'actor', tableName: 'actors' });
  seals.init(
    {
      job: key(),
      issue: { type: DataTypes.INTEGER, primaryKey: true },
      upTo: { type: DataTypes.INTEGER, allowNull: false },
      at: number(),
      code: text(),
      hash: text(),
      content: { type: DataTypes.BLOB, allowNull: false },
    },
    { ...options, modelName: 'seal', tableName: 'seals' },
  );
  findings.init(
    { job: key(), endedAt: number(), finding: { type: DataTypes.JSON, allowNull: false } },
    { ...options, modelName: 'finding', tableName: 'findings' },
  );
  const shelfEvents = class extends ShelfEventRow {};
  const shelf = class extends ShelfRow {};
  const feeds = class extends FeedRow {};
  feeds.init(
    { hash: key(), at: number(), by: text() },
    { ...options, modelName: 'feed', tableName: 'feeds' },
  );
  const machines = class extends MachineRow {};
  machines.init(
    {
      tag: key(),
      name: text(),
      owner: text(),
      carries: { type: DataTypes.INTEGER, allowNull: false },
      typeId: text(),
      at: number(),
      by: text(),
    },
    { ...options, modelName: 'machine', tableName: 'machines' },
  );
  shelfEvents.init(
    { tag: key(), ...entry() },
    { ...options, modelName: 'shelfEvent', tableName: 'shelf_events' },
  );
  shelf.init(
    { tag: key(), place: text(), since: number(), machine: text(), kept: json() },
    { ...options, modelName: 'shelf', tableName: 'shelf' },
  );
  return {
    settings,
    batteries,
    jobs,
    events,
    changes,
    photos,
    moves,
    owners,
    actors,
    seals,
    findings,
    lessons,
    requests,
    shelfEvents,
    shelf,
    feeds,
    machines,
    ...defineAccessModels(sequelize),
  };
}
