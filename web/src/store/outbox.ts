/**
 * Entries on their way to the server. Each is kept in the browser until the server has it, survives a reload, and is sent with
 * the same key however often it is tried, so it is recorded once. Those of one battery go in order: one that is refused holds
 * those after it. All tabs see the same list, and one of them sends.
 */
import { useSyncExternalStore } from 'react';
import { sayTrouble } from '../ui/say.ts';
import type { JobAnswer } from '@cork-ember/core/contract/answers.ts';
import { mayFollow } from '@cork-ember/core/runsheet/entries/commuting.ts';
import type { JobEvent } from '@cork-ember/core/runsheet/entries/events.ts';
import type { ShelfEvent } from '@cork-ember/core/shelf/entries.ts';
import { ask, askWithFile, Refusal, ServerAway, sentenceOf } from '../api/client.ts';
import type { News } from '../api/news.ts';
import { sharedNow } from '../api/realTime.ts';
import { inOneTab } from './oneTab.ts';
import { isOfBatch, isOfJob, isParcel, movedTo, type Handed, type JobParcel, type Parcel } from './parcel.ts';
import { sayNotKept, shopDb, type ShopDb } from './shopDb.ts';

export type Sent = 'recorded' | 'kept';

interface Waiter {
  readonly resolve: (sent: Sent) => void;
  readonly reject: (error: unknown) => void;
}

const RETRY_MS = 2000;
/** What was recorded meanwhile is made room for so often, and no more. */
const MOST_REBASED = 5;

let parcels: readonly Parcel[] = [];
let isAway = false;
/** Written, but perhaps not on disk yet: what is read back meanwhile may be without them. */
const writing = new Set<string>();
/** Pictures of this page's own entries, for a browser that keeps none. */
const pictures = new Map<string, Blob>();
/** Forms that wait to hear of their entry. */
const waiters = new Map<string, Waiter>();
const watchers = new Set<() => void>();
let channel: BroadcastChannel | undefined;
let tellRecorded: (recorded: News) => void = () => undefined;

/** Entries that were pressed and are not among the parcels yet. */
let coming = 0;

let whoIsHere: () => string | undefined = () => undefined;

/** Who says whom this browser knows to be at the bench. */
export function askWhoIsHere(ask: () => string): void {
  whoIsHere = ask;
}

/** How much is on its way stands on the page, for whoever waits for it. */
function count(): void {
  if ('document' in globalThis)
    document.documentElement.dataset['onTheWay'] = String(parcels.length + coming);
}

/** Counts an entry from the press on. @returns ends that, once it is recorded, kept or refused */
export function entering(): () => void {
  coming += 1;
  count();
  return () => {
    coming -= 1;
    count();
  };
}

function show(next: readonly Parcel[]): void {
  parcels = next.toSorted((a, b) => a.place - b.place);
  count();
  for (const watcher of watchers) watcher();
}

export function watchParcels(watcher: () => void): () => void {
  watchers.add(watcher);
  return () => watchers.delete(watcher);
}

export const parcelsNow = (): readonly Parcel[] => parcels;

/** Entries on their way, of every job. */
export function useParcels(): readonly Parcel[] {
  return useSyncExternalStore(watchParcels, parcelsNow);
}

/** Whether the server was away when something was last sent. */
export function useAway(): boolean {
  return useSyncExternalStore(watchParcels, () => isAway);
}

function setAway(next: boolean): void {
  isAway = next;
  for (const watcher of watchers) watcher();
}

/** Who takes what the server has recorded into what the page knows. */
export function whenRecorded(take: (recorded: News) => void): void {
  tellRecorded = take;
}

/**
 * Done on disk when it returns, and other tabs hear of it. Where the browser fails at it the page goes on by what it holds: an
 * entry that could not be taken out is sent once more under its key, and recorded once all the same.
 */
async function inStore(work: (db: ShopDb) => Promise<void>): Promise<void> {
  const db = await shopDb();
  if (!db) return;
  try {
    await work(db);
    channel?.postMessage('changed');
  } catch {
    sayNotKept();
  }
}

async function put(db: ShopDb, changed: readonly Parcel[], picture: Blob | undefined): Promise<void> {
  const stores = picture ? (['parcels', 'pictures'] as const) : (['parcels'] as const);
  const turn = db.transaction(stores, 'readwrite', { durability: 'strict' });
  for (const parcel of changed) await turn.objectStore('parcels').put(parcel, parcel.requestKey);
  const [first] = changed;
  if (picture && first) await turn.objectStore('pictures').put(picture, first.requestKey);
  await turn.done;
}

const write = (changed: readonly Parcel[], picture?: Blob): Promise<void> =>
  inStore((db) => put(db, changed, picture));

async function change(changed: readonly Parcel[]): Promise<void> {
  const byKey = new Map(changed.map((parcel) => [parcel.requestKey, parcel]));
  show(parcels.map((parcel) => byKey.get(parcel.requestKey) ?? parcel));
  await write(changed);
}

async function remove(requestKey: string): Promise<void> {
  pictures.delete(requestKey);
  show(parcels.filter((parcel) => parcel.requestKey !== requestKey));
  await inStore(async (db) => {
    const turn = db.transaction(['parcels', 'pictures'], 'readwrite', { durability: 'strict' });
    await turn.objectStore('parcels').delete(requestKey);
    await turn.objectStore('pictures').delete(requestKey);
    await turn.done;
  });
}

/** What all tabs have put there; what is no entry is left out, and said. */
async function allKept(db: ShopDb): Promise<Parcel[]> {
  const kept: readonly unknown[] = await db.getAll('parcels');
  const sound = kept.filter(isParcel);
  if (sound.length === kept.length) return sound;
  sayTrouble('Something that waited to be sent could not be read in this browser, and was left out.');
  for (const key of await db.getAllKeys('parcels'))
    if (!isParcel(await db.get('parcels', key))) await db.delete('parcels', key);
  return sound;
}

async function readBack(): Promise<void> {
  const db = await shopDb();
  const sound = await (db && allKept(db).catch(() => undefined));
  if (!sound) return;
  const known = new Set(sound.map(({ requestKey }) => requestKey));
  const onTheirWay = parcels.filter(({ requestKey }) => writing.has(requestKey) && !known.has(requestKey));
  show([...sound, ...onTheirWay]);
  hearOfOthers();
}

/** What another tab has sent, or had refused, this one's forms hear of too. */
function hearOfOthers(): void {
  for (const [requestKey, waiter] of waiters) {
    const parcel = parcels.find((one) => one.requestKey === requestKey);
    if (parcel && parcel.refused === undefined) continue;
    waiters.delete(requestKey);
    if (!parcel) waiter.resolve('recorded');
    else {
      void remove(requestKey);
      waiter.reject(new Error(parcel.refused));
    }
  }
}

/**
 * Sends one entry after those before it; when the server is away it is kept and sent later.
 * @param picture goes before it, and is kept with it
 * @throws Refusal when the server would not take it; nothing is kept then, the form still holds what was typed
 */
export function send(handed: Handed, picture?: Blob): Promise<Sent> {
  const place = Math.max(sharedNow(), (parcels.at(-1)?.place ?? 0) + 1);
  const parcel: Parcel = { ...handed, place, ...(picture ? { hasPicture: true } : {}) };
  const { requestKey } = parcel;
  return new Promise((resolve, reject) => {
    waiters.set(requestKey, { resolve, reject });
    writing.add(requestKey);
    if (picture) pictures.set(requestKey, picture);
    show([...parcels, parcel]);
    void write([parcel], picture).then(() => {
      writing.delete(requestKey);
      return flush();
    });
  });
}

/** Lets go of an entry that was refused; those after it take its place. */
export async function drop(requestKey: string): Promise<void> {
  const gone = parcels.find((one) => one.requestKey === requestKey);
  if (!gone) return;
  const after = parcels.filter(({ job, place }) => job === gone.job && place > gone.place);
  await remove(requestKey);
  await change(after.map((parcel) => (isOfJob(parcel) ? movedTo(parcel, parcel.expectedSeq - 1) : parcel)));
  void flush();
}

/** Entries of a job, in their order, after the last that is recorded. */
const rebased = (job: string, lastSeq: number): Parcel[] =>
  parcels.filter((parcel) => parcel.job === job).map((parcel, index) => movedTo(parcel, lastSeq + index));

/**
 * Enters what was refused again, where the battery stands now.
 * @param lastSeq of what is recorded of it
 */
export async function again(requestKey: string, lastSeq: number): Promise<void> {
  const parcel = parcels.find((one) => one.requestKey === requestKey);
  if (!parcel) return;
  await change(
    rebased(parcel.job, lastSeq).map((one) => {
      const { refused: _refused, ...rest } = one;
      return one.requestKey === requestKey ? rest : one;
    }),
  );
  void flush();
}

let timer: ReturnType<typeof setTimeout> | undefined;

function retryLater(): void {
  setAway(true);
  for (const waiter of waiters.values()) waiter.resolve('kept');
  waiters.clear();
  timer ??= setTimeout(() => {
    timer = undefined;
    void flush();
  }, RETRY_MS);
}

async function postToJob(parcel: JobParcel, late: { readonly enteredAt?: number }): Promise<News> {
  const { requestKey, expectedSeq, by, entry, job, hasPicture } = parcel;
  if (hasPicture) {
    const picture = pictures.get(requestKey) ?? (await (await shopDb())?.get('pictures', requestKey));
    if (picture) await askWithFile(`/api/jobs/${job}/photos?key=${requestKey}`, picture);
  }
  const body = { requestKey, expectedSeq, by, entry, ...late };
  return { kind: 'event', event: await ask<JobEvent>(`/api/jobs/${job}/events`, body) };
}

/** @returns what is to be told of it at once; nothing where the shop's own news tell it */
async function post(parcel: Parcel): Promise<News | undefined> {
  const { requestKey, by, enteredAt } = parcel;
  // What somebody else entered keeps their name, however soon it goes.
  const isTheirs = (whoIsHere() ?? by) === by;
  const late = waiters.has(requestKey) && isTheirs ? {} : { enteredAt };
  if (isOfJob(parcel)) return postToJob(parcel, late);
  if (isOfBatch(parcel)) {
    await ask('/api/deliveries', { by, batteries: parcel.orders, ...late });
    return undefined;
  }
  const { tag, shelfEntry: entry, battery } = parcel;
  const body = { requestKey, by, entry, ...(battery ? { battery } : {}), ...late };
  return { kind: 'shelf', event: await ask<ShelfEvent>(`/api/shelf/${tag}/entries`, body) };
}

const rebasedOften = new Map<string, number>();

/** Makes room for what was recorded meanwhile, where both can stand. @returns whether it may be sent again */
async function madeRoom(parcel: Parcel): Promise<boolean> {
  if (!isOfJob(parcel)) return false;
  const { requestKey, job, entry, expectedSeq } = parcel;
  const often = rebasedOften.get(requestKey) ?? 0;
  if (often >= MOST_REBASED) return false;
  rebasedOften.set(requestKey, often + 1);
  const { events } = await ask<JobAnswer>(`/api/jobs/${job}`);
  const meanwhile = events.filter(({ seq }) => seq > expectedSeq).map(({ kind }) => kind);
  if (meanwhile.length === 0 || !mayFollow(entry.kind, meanwhile)) return false;
  await change(rebased(job, events.at(-1)?.seq ?? 0));
  return true;
}

/** What the server would not take goes back to its form, or, if that has gone, stays with the reason. */
async function refuse(parcel: Parcel, error: unknown): Promise<void> {
  const waiter = waiters.get(parcel.requestKey);
  waiters.delete(parcel.requestKey);
  if (!waiter) return change([{ ...parcel, refused: sentenceOf(error) }]);
  await drop(parcel.requestKey);
  waiter.reject(error);
}

/** @returns whether the next may be sent */
async function sendOne(parcel: Parcel): Promise<boolean> {
  try {
    const recorded = await post(parcel);
    if (isAway) setAway(false);
    // First known as recorded, then no longer on its way: the page never steps back in between.
    if (recorded) tellRecorded(recorded);
    await remove(parcel.requestKey);
    waiters.get(parcel.requestKey)?.resolve('recorded');
    waiters.delete(parcel.requestKey);
    return true;
  } catch (error) {
    if (error instanceof ServerAway) {
      retryLater();
      return false;
    }
    // Nobody is at the bench: what waited goes on waiting, until somebody is.
    if (error instanceof Refusal && error.status === 401) {
      waiters.get(parcel.requestKey)?.resolve('kept');
      waiters.delete(parcel.requestKey);
      return false;
    }
    const hasRoom =
      error instanceof Refusal && error.status === 409 && (await madeRoom(parcel).catch(() => false));
    if (!hasRoom) await refuse(parcel, error);
    return true;
  }
}

/** The first that is neither refused nor held by one before it that was. */
function nextToSend(): Parcel | undefined {
  const held = new Set<string>();
  for (const parcel of parcels) {
    if (parcel.refused !== undefined) held.add(parcel.job);
    else if (!held.has(parcel.job)) return parcel;
  }
  return undefined;
}

let flushing: Promise<void> | undefined;

async function sendAll(): Promise<void> {
  await readBack();
  for (let parcel = nextToSend(); parcel; parcel = nextToSend()) if (!(await sendOne(parcel))) return;
}

let askedAgain: Promise<void> | undefined;

/** Sends what waits, one after the other, until nothing is left or the server is away. */
export function flush(): Promise<void> {
  if (flushing) {
    // What was entered since it began is seen to by the one after it.
    askedAgain ??= flushing.then(() => {
      askedAgain = undefined;
      return flush();
    });
    return askedAgain;
  }
  flushing = inOneTab('outbox', sendAll)
    // Whatever kept it from its turn, it takes the next.
    .catch(retryLater)
    .finally(() => (flushing = undefined));
  return flushing;
}

const OLD_SHELF = 'cork-ember-outbox';

/** Entries an earlier version of this page kept elsewhere. */
async function takeOver(): Promise<void> {
  const text = localStorage.getItem(OLD_SHELF);
  if (text === null) return;
  try {
    const old = JSON.parse(text) as readonly Omit<JobParcel, 'place'>[];
    await write(old.map((parcel, place) => ({ ...parcel, place })));
  } catch {
    sayTrouble('What an earlier version of this page had kept could not be read, and was set aside.');
    localStorage.setItem(`${OLD_SHELF}-aside`, text);
  }
  localStorage.removeItem(OLD_SHELF);
}

/** Begins with what was left by the page before, and listens to the other tabs. */
export async function beginOutbox(): Promise<void> {
  await takeOver();
  await readBack();
  channel = new BroadcastChannel(OLD_SHELF);
  channel.onmessage = () => void readBack();
  void flush();
}
