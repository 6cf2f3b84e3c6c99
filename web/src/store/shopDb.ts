/**
 * What this browser keeps of the shop, in IndexedDB: entries on their way and their pictures. Tabs share it. Where a browser
 * keeps nothing for this page, the page works until it is closed, and that is said once.
 */
import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import { toast } from 'sonner';
import type { Parcel } from './outbox.ts';

interface ShopSchema extends DBSchema {
  parcels: { key: string; value: Parcel };
  /** By the request they go with. */
  pictures: { key: string; value: Blob };
  /** Which tab does what only one may, and until when. */
  leases: { key: string; value: { readonly holder: string; readonly until: number } };
}

export type ShopDb = IDBPDatabase<ShopSchema>;

const NAME = 'cork-ember';
const VERSION = 1;

let opening: Promise<ShopDb | undefined> | undefined;

async function open(): Promise<ShopDb | undefined> {
  try {
    return await openDB<ShopSchema>(NAME, VERSION, {
      upgrade: (db) => {
        db.createObjectStore('parcels');
        db.createObjectStore('pictures');
        db.createObjectStore('leases');
      },
      // Closed by the browser itself: the next who asks opens it again.
      terminated: () => (opening = undefined),
    });
  } catch {
    toast.error(
      'This browser keeps nothing for this page: what is entered while the server is away is lost when the page is closed.',
    );
    return undefined;
  }
}

/** @returns undefined where the browser keeps nothing */
export function shopDb(): Promise<ShopDb | undefined> {
  opening ??= open();
  return opening;
}
