/** Whether the shop is well: its file, its disk, its copies, its clock. */
import { statfs } from 'node:fs/promises';
import { dirname } from 'node:path';
import { QueryTypes } from 'sequelize';
import type { Health, HealthPart } from '@cork-ember/core/contract/health.ts';
import type { ShopClock } from '../clock/shopClock.ts';
import type { Database } from '../store/database.ts';
import type { CopyKeeper } from './copyKeeper.ts';

const MB = 1_048_576;
const HOUR_MS = 3_600_000;
const DAY_MS = 24 * HOUR_MS;
/** One of the shop's own is renewed with thirty days left: what is below that was not. */
const WARN_DAYS = 28;
/** Room for a copy and a day's work besides; below the second the next entry may be refused. */
const LITTLE_MB = 500;
const NO_ROOM_MB = 50;
/** A copy is due each night: older than this one was missed, and then another. */
const OLD_COPY_H = 36;

interface HealthNeed {
  readonly database: Pick<Database, 'file' | 'sequelize'>;
  readonly copies: Pick<CopyKeeper, 'newest'>;
  readonly clock: Pick<ShopClock, 'apart'>;
  /** The certificate the shop answers https with, ms; none where it answers on http alone. */
  readonly certificate: () => { readonly endsAt: number; readonly isOwn: boolean } | undefined;
  /** Real time, ms. */
  readonly now: () => number;
}

const part = (state: HealthPart['state'], says: string): HealthPart => ({ state, says });

async function storePart({ sequelize }: HealthNeed['database']): Promise<HealthPart> {
  try {
    await sequelize.query('SELECT 1 FROM settings LIMIT 1', { type: QueryTypes.SELECT });
    return part('well', 'The shop’s file can be read.');
  } catch {
    return part('ill', 'The shop’s file cannot be read.');
  }
}

async function diskPart({ file }: HealthNeed['database']): Promise<HealthPart> {
  const { bavail, bsize } = await statfs(dirname(file));
  const free = Math.floor((bavail * bsize) / MB);
  if (free < NO_ROOM_MB) return part('ill', `The disk has ${free} MB left: entries will be refused.`);
  return free < LITTLE_MB
    ? part('watch', `The disk has ${free} MB left: make room.`)
    : part('well', `The disk has ${free} MB left.`);
}

async function copyPart(copies: HealthNeed['copies'], now: number): Promise<HealthPart> {
  const oldest = await copies.newest();
  if (oldest === 'none wanted') return part('well', 'No copies are made of a demo.');
  if (oldest === undefined) return part('watch', 'There is no nightly copy yet.');
  const hours = Math.round((now - oldest) / HOUR_MS);
  return part(hours > OLD_COPY_H ? 'watch' : 'well', `The last nightly copy is ${hours} h old.`);
}

function clockPart(clock: HealthNeed['clock']): HealthPart {
  const apart = clock.apart();
  return apart === undefined
    ? part('well', 'Machine and shop tell the same time.')
    : part(
        'watch',
        `The machine’s clock is ${Math.round(apart / 60_000)} min ahead of the shop’s: say which is right.`,
      );
}

/** One of the shop's own is renewed by itself; one that was given is not, and somebody has to see to it in time. */
function wirePart(certificate: ReturnType<HealthNeed['certificate']>, now: number): HealthPart {
  if (!certificate) return part('well', 'The shop answers on its own machine, without https.');
  const { endsAt, isOwn } = certificate;
  const days = Math.floor((endsAt - now) / DAY_MS);
  if (days < 0) return part('ill', 'The certificate has ended: browsers refuse the shop’s https.');
  if (days >= WARN_DAYS) return part('well', `The certificate runs for ${days} days.`);
  const does = isOwn
    ? 'it should have been renewed by itself, look into the log'
    : 'put the next one in its place';
  return part('watch', `The certificate ends in ${days} days: ${does}.`);
}

/** As ill as the worst of its parts. */
export async function healthOf({ database, copies, clock, certificate, now }: HealthNeed): Promise<Health> {
  const parts = {
    store: await storePart(database),
    disk: await diskPart(database),
    copy: await copyPart(copies, now()),
    clock: clockPart(clock),
    wire: wirePart(certificate(), now()),
  };
  const states = Object.values(parts).map(({ state }) => state);
  const state = states.includes('ill') ? 'ill' : states.includes('watch') ? 'watch' : 'well';
  return { state, parts };
}
