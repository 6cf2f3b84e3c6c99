/**
 * What this browser keeps of the shop, in IndexedDB: entries on their way and their pictures. Tabs share it. Where a browser
 * keeps nothing for this page, the page works until it is closed, and that is said once.
 */
import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import { sayTrouble } from '../ui/say.ts';
import type { Parcel } from './parcel.ts';

interface ShopSchema extends DBSchema {
  parcels: { key: string; value: Parcel };
  /** By the request they go with. */
  pictures: { key: string; value: Blob };
  /** Which tab does what only one may, and until when. */
  leases: { key: string; value: { readonly holder: string; readonly until: number } };
  /** What the server said last, by the address it was asked at. */
  answers: {
    key: string;
    value: { readonly form: number; readonly keptAt: number; readonly body: unknown };
    indexes: { keptAt: number };
  };
}

export type ShopDb = IDBPDatabase<ShopSchema>;

const NAME = 'cork-ember';
const VERSION = 2;

let opening: Promise<ShopDb | undefined> | undefined;

const openStore = (): Promise<ShopDb> =>
  openDB<ShopSchema>(NAME, VERSION, {
    upgrade: (db, before) => {
      if (before < 1) {
        db.createObjectStore('parcels');
        db.createObjectStore('pictures');
        db.createObjectStore('leases');
      }
      if (before < 2) db.createObjectStore('answers').createIndex('keptAt', 'keptAt');
    },
    // A page of a newer program wants its own form: this one opens it again, or works on without.
    blocking: (_before, _after, event) => {
      (event.target as IDBDatabase).close();
      opening = undefined;
    },
    // Closed by the browser itself: the next who asks opens it again.
    terminated: () => (opening = undefined),
  });

/** A browser that says nothing for so long keeps nothing either, ms: the page does not wait for it. */
const PATIENCE_MS = 4000;

let isSaid = false;

/** Said once: the page works on without. */
export function sayNotKept(): void {
  if (isSaid) return;
  isSaid = true;
  sayTrouble(
    'This browser keeps nothing for this page: what is entered while the server is away is lost when the page is closed.',
  );
}

function inTime<T>(work: Promise<T>): Promise<T> {
  return new Promise((resolve, reject) => {
    const late = setTimeout(() => reject(new Error('too late')), PATIENCE_MS);
    work.then(resolve, reject).finally(() => clearTimeout(late));
  });
}

async function open(): Promise<ShopDb | undefined> {
  try {
    return await inTime(openStore());
  } catch {
    sayNotKept();
    return undefined;
  }
}

/** @returns undefined where the browser keeps nothing */
export function shopDb(): Promise<ShopDb | undefined> {
  opening ??= open();
  return opening;
}
