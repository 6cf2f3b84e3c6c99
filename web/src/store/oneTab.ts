/**
 * Work that only one tab does at a time. The browser's own locks, where it has them; on plain http it has none, and the tabs
 * pass a lease round in the store they share, whose transactions take turns. A tab that dies leaves a lease that runs out.
 */
import { v4 as uuid } from 'uuid';
import { sharedNow } from '../api/realTime.ts';
import { shopDb, type ShopDb } from './shopDb.ts';

const LEASE_MS = 6000;
const RENEW_MS = 2000;
const LOOK_AGAIN_MS = 250;

const holder = uuid();

/** @returns whether this tab holds it now */
async function take(db: ShopDb, name: string): Promise<boolean> {
  const turn = db.transaction('leases', 'readwrite');
  const lease = await turn.store.get(name);
  const now = sharedNow();
  const isFree = lease === undefined || lease.until < now || lease.holder === holder;
  if (isFree) await turn.store.put({ holder, until: now + LEASE_MS }, name);
  await turn.done;
  return isFree;
}

const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

async function byLease<T>(db: ShopDb, name: string, work: () => Promise<T>): Promise<T> {
  while (!(await take(db, name))) await pause(LOOK_AGAIN_MS);
  const renewing = setInterval(() => void take(db, name), RENEW_MS);
  try {
    return await work();
  } finally {
    clearInterval(renewing);
    await db.delete('leases', name);
  }
}

/** Does it when no other tab does. */
export async function inOneTab<T>(name: string, work: () => Promise<T>): Promise<T> {
  if ('navigator' in globalThis && 'locks' in navigator)
    return navigator.locks.request(`cork-ember-${name}`, work) as Promise<T>;
  const db = await shopDb();
  return db ? byLease(db, name, work) : work();
}
