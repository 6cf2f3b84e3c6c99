/** Machines in the shop's file, and the batteries that belong to each. */
import { QueryTypes } from 'sequelize';
import { machineTagOf, type Machine } from '@cork-ember/core/battery/machines.ts';
import type { BatteryRecord } from '@cork-ember/core/contract/answers.ts';
import { placeOf, type Kept } from '@cork-ember/core/shelf/keeping.ts';
import type { Place } from '@cork-ember/core/shelf/places.ts';
import type { Database } from './database.ts';

export interface Belonging extends BatteryRecord {
  readonly place: Place | undefined;
  /** Its run sheet since it works there, and how that ended; what was measured before says nothing of the set. */
  readonly job: string | null;
  readonly outcome: string | null;
}

interface BelongingRow extends BatteryRecord {
  readonly kept: string;
  readonly job: string | null;
  readonly outcome: string | null;
  readonly endedAt: number | null;
}

export const machineOf = ({ tag, name, owner, carries, typeId }: Machine): Machine => ({
  tag,
  name,
  owner,
  carries,
  typeId,
});

/** Where it is; whoever has it stands with the machine. */
function nameless(kept: Kept): Place | undefined {
  const place = placeOf(kept);
  if (!place) return undefined;
  const { to: _to, ...where } = place;
  return where;
}

/** Since when it belongs to a machine, ms. */
function sinceIn({ stays }: Kept, machine: string): number {
  const before = stays.findLastIndex(({ place }) => place.machine !== machine);
  return stays[before + 1]?.from ?? Number.NEGATIVE_INFINITY;
}

export class MachineStore {
  private readonly database: Database;

  constructor(database: Database) {
    this.database = database;
  }

  /** All of them, by name. */
  async list(): Promise<readonly Machine[]> {
    const rows = await this.database.models.machines.findAll({ order: ['name', 'tag'], raw: true });
    return rows.map(machineOf);
  }

  async machine(tag: string): Promise<Machine | undefined> {
    const row = await this.database.models.machines.findByPk(tag, { raw: true });
    return row ? machineOf(row) : undefined;
  }

  /** Puts a new one down under the next tag of the machines' row. */
  add(machine: Omit<Machine, 'tag'>, shopLetters: string, by: string, at: number): Promise<Machine> {
    const { sequelize, models } = this.database;
    return sequelize.transaction(async (transaction) => {
      const rows = await models.machines.findAll({ attributes: ['tag'], raw: true, transaction });
      const last = Math.max(0, ...rows.map(({ tag }) => Number(tag.split('-')[1])));
      const tag = machineTagOf(shopLetters, last + 1);
      await models.machines.create({ tag, ...machine, by, at }, { transaction });
      return { tag, ...machine };
    });
  }

  /** @returns whether there was one to change */
  async change(tag: string, machine: Omit<Machine, 'tag'>, by: string, at: number): Promise<boolean> {
    const [changed] = await this.database.models.machines.update({ ...machine, by, at }, { where: { tag } });
    return changed > 0;
  }

  /** Batteries that work in it, or did when they failed, by tag. */
  async batteries(tag: string): Promise<readonly Belonging[]> {
    const rows = await this.database.sequelize.query<BelongingRow>(
      `SELECT batteries.*, shelf.kept, jobs.id AS job, jobs.outcome, jobs.endedAt
         FROM shelf JOIN batteries ON batteries.tag = shelf.tag
         LEFT JOIN jobs ON jobs.id = (SELECT id FROM jobs AS its WHERE its.tag = shelf.tag
                                       ORDER BY its.openedAt DESC LIMIT 1)
        WHERE shelf.machine = $tag ORDER BY shelf.tag`,
      { type: QueryTypes.SELECT, bind: { tag } },
    );
    return rows.map(({ kept: text, endedAt, job, outcome, ...battery }) => {
      const kept = JSON.parse(text) as Kept;
      const isOfNow = endedAt === null || endedAt >= sinceIn(kept, tag);
      return {
        ...battery,
        place: nameless(kept),
        ...(isOfNow ? { job, outcome } : { job: null, outcome: null }),
      };
    });
  }
}
