/**
 * What the server answered last, kept in this browser by its address: with the server away every view that was open, or that
 * was fetched ahead, opens as it was known. What is kept in another form than today's is let go of.
 */
import { sayTrouble } from '../ui/say.ts';
import { sharedNow } from '../api/realTime.ts';
import { shopDb } from './shopDb.ts';

/** Of the form of what the server answers: raised when a page of today could not read what one of before kept. */
const FORM = 1;
/** So many are kept, the newest. */
const MOST_KEPT = 600;

let isSaid = false;

/** Said once: something that was kept could not be read, and nothing but itself is lost. */
function sayUnreadable(): void {
  if (isSaid) return;
  isSaid = true;
  sayTrouble('Something this browser kept of the shop could not be read; it was set aside.');
}

async function thin(): Promise<void> {
  const db = await shopDb();
  if (!db) return;
  const excess = (await db.count('answers')) - MOST_KEPT;
  if (excess <= 0) return;
  const oldest = await db.getAllKeysFromIndex('answers', 'keptAt', undefined, excess);
  await Promise.all(oldest.map((path) => db.delete('answers', path)));
}

let untilThinned = 0;
const THIN_EVERY = 50;

/** Keeps an answer; a browser that keeps nothing loses nothing by it. */
export async function keepAnswer(path: string, body: unknown): Promise<void> {
  try {
    const db = await shopDb();
    await db?.put('answers', { form: FORM, keptAt: sharedNow(), body }, path);
    if (untilThinned-- > 0) return;
    untilThinned = THIN_EVERY;
    await thin();
  } catch {
    // No room, or a browser that forbids it: the server still has it.
  }
}

/**
 * @param read makes of it what the page uses; throws where it cannot
 * @returns undefined where nothing was kept, or nothing that can be read
 */
export async function keptAnswer<T>(path: string, read: (body: unknown) => T): Promise<T | undefined> {
  const db = await shopDb();
  if (!db) return undefined;
  try {
    const kept = await db.get('answers', path);
    if (kept === undefined) return undefined;
    if (kept.form === FORM) return read(kept.body);
  } catch {
    sayUnreadable();
  }
  await db.delete('answers', path).catch(() => undefined);
  return undefined;
}

/** Lets go of all that was kept: this browser is not one of the shop's any more. What it has still to send stays. */
export async function forgetAnswers(): Promise<void> {
  await (await shopDb())?.clear('answers');
}
