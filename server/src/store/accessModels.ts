/** Tables of people, browsers, sessions and who did what. */
import {
  DataTypes,
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type ModelStatic,
  type Sequelize,
} from 'sequelize';
import type { AuditKind } from '@cork-ember/core/access/people.ts';
import { key, number, serial, text } from './columns.ts';
import type { Role } from '@cork-ember/core/access/rights.ts';

class PersonRow extends Model<InferAttributes<PersonRow>, InferCreationAttributes<PersonRow>> {
  declare id: string;
  declare name: string;
  declare role: Role;
  /** Argon2id, as a PHC string; empty where there is none. */
  declare pin: string;
  declare passphrase: string;
  /** Of what stands on it, SHA-256; empty where there is none. */
  declare badge: string;
  /** Wrong tries in a row, and when the last was, real ms. */
  declare wrong: CreationOptional<number>;
  declare wrongAt: CreationOptional<number>;
  declare since: number;
  declare isGone: CreationOptional<boolean>;
}

class TabletRow extends Model<InferAttributes<TabletRow>, InferCreationAttributes<TabletRow>> {
  declare id: string;
  declare name: string;
  declare at: number;
  declare by: string;
}

/** How a browser came in: enrolled by a lead, or by a passphrase. */
export type Way = 'enrolled' | 'passphrase';
/** What whoever is at it showed. */
export type Proof = 'pin' | 'badge';

class SessionRow extends Model<InferAttributes<SessionRow>, InferCreationAttributes<SessionRow>> {
  /** Of its token, SHA-256: who reads the file cannot come in by it. */
  declare hash: string;
  /** Empty where it came in by a passphrase. */
  declare tablet: string;
  /** Empty while nobody is at it. */
  declare person: string;
  declare way: Way;
  declare proof: Proof;
  /** Real ms. */
  declare madeAt: number;
  declare seenAt: number;
}

class AuditRow extends Model<InferAttributes<AuditRow>, InferCreationAttributes<AuditRow>> {
  declare id: CreationOptional<number>;
  declare at: number;
  declare by: string;
  declare tablet: string;
  declare kind: AuditKind;
  declare what: string;
}

class ClaimRow extends Model<InferAttributes<ClaimRow>, InferCreationAttributes<ClaimRow>> {
  /** Of the entry. */
  declare key: string;
  declare by: string;
  declare sentBy: string;
  declare tablet: string;
}

export interface AccessModels {
  readonly people: ModelStatic<PersonRow>;
  readonly tablets: ModelStatic<TabletRow>;
  readonly sessions: ModelStatic<SessionRow>;
  readonly audit: ModelStatic<AuditRow>;
  readonly claims: ModelStatic<ClaimRow>;
}

export function defineAccessModels(sequelize: Sequelize): AccessModels {
  const counted = () => ({ ...number(), defaultValue: 0 });
  const options = { sequelize, timestamps: false };
  const people = class extends PersonRow {};
  const tablets = class extends TabletRow {};
  const sessions = class extends SessionRow {};
  const audit = class extends AuditRow {};
  const claims = class extends ClaimRow {};
  people.init(
    {
      id: key(),
      name: text(),
      role: text(),
      pin: text(),
      passphrase: text(),
      badge: text(),
      wrong: counted(),
      wrongAt: counted(),
      since: number(),
      isGone: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false },
    },
    { ...options, modelName: 'person', tableName: 'people' },
  );
  tablets.init(
    { id: key(), name: text(), at: number(), by: text() },
    { ...options, modelName: 'tablet', tableName: 'tablets' },
  );
  sessions.init(
    {
      hash: key(),
      tablet: text(),
      person: text(),
      way: text(),
      proof: text(),
      madeAt: number(),
      seenAt: number(),
    },
    { ...options, modelName: 'session', tableName: 'sessions' },
  );
  audit.init(
    {
      id: serial(),
      at: number(),
      by: text(),
      tablet: text(),
      kind: text(),
      what: text(),
    },
    { ...options, modelName: 'audited', tableName: 'audit' },
  );
  claims.init(
    { key: key(), by: text(), sentBy: text(), tablet: text() },
    { ...options, modelName: 'claim', tableName: 'claims' },
  );
  return { people, tablets, sessions, audit, claims };
}
