/** The outbox, with a browser’s database and a server that comes and goes. */
import 'fake-indexeddb/auto';
import { expect } from 'chai';
import type { EventKind } from '@cork-ember/core/runsheet/entries/events.ts';
import { shopDb } from './shopDb.ts';
import { shelfOf, type HandedJob as Handed, type Parcel } from './parcel.ts';

interface Sent {
  readonly requestKey: string;
  readonly expectedSeq: number;
  readonly enteredAt?: number;
}

type Answer = 'recorded' | 'stale' | 'away' | 'nobody here';

const store = new Map<string, string>();
const sent: Sent[] = [];
/** Addresses in the order they were asked. */
const asked: string[] = [];
let answers: Answer[] = [];
/** What the server holds of a job that is asked for. */
let recorded: { readonly seq: number; readonly kind: EventKind }[] = [];

const json = (body: unknown, status: number): Response =>
  new Response(JSON.stringify(body), { status, headers: { 'content-type': 'application/json' } });

function answer(path: string, init: RequestInit): Response {
  asked.push(path.replace(/\?.*/, ''));
  if (path.includes('/photos')) return json({ photo: 'p' }, 201);
  if (init.method !== 'POST') return json({ id: 'j1', events: recorded, seals: [] }, 200);
  const next = answers.shift() ?? 'recorded';
  if (next === 'away') throw new TypeError('fetch failed');
  const body = JSON.parse(String(init.body)) as Sent;
  sent.push(body);
  if (next === 'nobody here') return json({ status: 401, detail: 'Nobody is at the bench.' }, 401);
  return next === 'stale'
    ? json({ status: 409, detail: 'Tarek recorded something.' }, 409)
    : json({ seq: body.expectedSeq + 1 }, 201);
}

const browser = {
  localStorage: {
    getItem: (key: string) => store.get(key) ?? null,
    setItem: (key: string, value: string) => store.set(key, value),
    removeItem: (key: string) => store.delete(key),
  },
  fetch: (path: string, init: RequestInit = {}) => Promise.resolve().then(() => answer(path, init)),
};

async function kept(): Promise<Parcel[]> {
  const all = (await (await shopDb())?.getAll('parcels')) ?? [];
  return all.toSorted((a, b) => a.place - b.place);
}

function handed(requestKey: string, expectedSeq: number, job = 'j1'): Handed {
  return {
    requestKey,
    job,
    by: 'Ines',
    entry: { kind: 'affirmed', payload: { step: 'safety#1' } },
    expectedSeq,
    enteredAt: 1000 + expectedSeq,
  };
}

const note = (requestKey: string, expectedSeq: number): Handed => ({
  ...handed(requestKey, expectedSeq),
  entry: { kind: 'noted', payload: { text: requestKey } },
});

describe('outbox', () => {
  let outbox: typeof import('./outbox.ts');
  const machine = { fetch: globalThis.fetch };
  const send = (one: Handed, picture?: Blob) => outbox.send(one, picture);
  const keys = () => sent.map(({ requestKey }) => requestKey);

  // Other tests get their own fetch back.
  before(async () => {
    Object.assign(globalThis, browser);
    outbox = await import('./outbox.ts');
  });
  after(() => {
    Object.assign(globalThis, machine);
  });

  beforeEach(() => {
    sent.length = 0;
    asked.length = 0;
    answers = [];
    recorded = [];
  });
  afterEach(async () => {
    for (const { requestKey } of await kept()) await outbox.drop(requestKey);
    await outbox.flush();
  });

  /** Two or more, entered while the server was away. */
  async function leftWaiting(...list: Handed[]): Promise<void> {
    answers = ['away'];
    const results = await Promise.all(list.map((one) => send(one)));
    expect(new Set(results)).to.deep.equal(new Set(['kept']));
    answers = [];
  }

  it('keeps an entry until the server has it', async () => {
    expect(await send(handed('a', 1))).to.equal('recorded');
    expect(await kept()).to.deep.equal([]);
    expect(sent[0]).not.to.have.property('enteredAt');
  });

  it('sends a quick hand’s entries one after the other, each once', async () => {
    const results = await Promise.all([send(handed('a', 1)), send(handed('b', 2)), send(handed('c', 3))]);
    expect(results).to.deep.equal(['recorded', 'recorded', 'recorded']);
    expect(keys()).to.deep.equal(['a', 'b', 'c']);
    expect(await kept()).to.deep.equal([]);
  });

  it('keeps entries while the server is away, and sends them later with their own time and key', async () => {
    await leftWaiting(handed('a', 1), handed('b', 2));
    expect((await kept()).map(({ requestKey }) => requestKey)).to.deep.equal(['a', 'b']);
    await outbox.flush();
    const { entry } = handed('a', 1);
    expect(sent).to.deep.equal([
      { requestKey: 'a', expectedSeq: 1, by: 'Ines', entry, enteredAt: 1001 },
      { requestKey: 'b', expectedSeq: 2, by: 'Ines', entry, enteredAt: 1002 },
    ]);
    expect(await kept()).to.deep.equal([]);
  });

  it('sends what was entered of a battery off the bench to that battery, each in its order', async () => {
    const read = (requestKey: string, tag: string) => ({
      requestKey,
      job: shelfOf(tag),
      tag,
      by: 'Ines',
      shelfEntry: { kind: 'read', payload: { volts: 12.8, source: 'keypad' } } as const,
      enteredAt: 1500,
    });
    answers = ['away'];
    await Promise.all(
      [read('a', 'SK-1'), read('b', 'SK-2'), read('c', 'SK-1')].map((one) => outbox.send(one)),
    );
    answers = [];
    await outbox.flush();
    const { shelfEntry: entry } = read('a', 'SK-1');
    expect(sent).to.deep.equal(
      ['a', 'b', 'c'].map((requestKey) => ({ requestKey, by: 'Ines', entry, enteredAt: 1500 })),
    );
    expect(asked.slice(-3)).to.deep.equal(['SK-1', 'SK-2', 'SK-1'].map((tag) => `/api/shelf/${tag}/entries`));
    expect(await kept()).to.deep.equal([]);
  });

  it('keeps what comes while nobody is at the bench, and sends it once somebody is', async () => {
    answers = ['nobody here'];
    expect(await send(handed('k1', 1))).to.equal('kept');
    expect((await kept()).map(({ requestKey, refused }) => [requestKey, refused])).to.deep.equal([
      ['k1', undefined],
    ]);
    await outbox.flush();
    expect(keys()).to.deep.equal(['k1', 'k1']);
    expect(sent[1]?.enteredAt).to.equal(1001);
    expect(await kept()).to.deep.equal([]);
  });

  it('gives a refused entry back to the form that waits for it', async () => {
    answers = ['stale'];
    const problem = await send(handed('a', 1)).catch((error: Error) => error.message);
    expect(problem).to.equal('Tarek recorded something.');
    expect(await kept()).to.deep.equal([]);
  });

  it('holds what leans on a refused entry, and lets other batteries’ pass', async () => {
    await leftWaiting(handed('a', 1), handed('b', 2), handed('x', 7, 'j2'));
    answers = ['stale'];
    await outbox.flush();
    expect(keys()).to.deep.equal(['a', 'x']);
    expect((await kept())[0]).to.include({ requestKey: 'a', refused: 'Tarek recorded something.' });
    // Let go of it, and the one behind takes its place.
    await outbox.drop('a');
    await outbox.flush();
    expect(sent.at(-1)).to.include({ requestKey: 'b', expectedSeq: 1 });
    expect(await kept()).to.deep.equal([]);
  });

  it('enters a refused one again where the battery stands now, those behind it after it', async () => {
    await leftWaiting(handed('a', 1), handed('b', 2));
    answers = ['stale'];
    await outbox.flush();
    await outbox.again('a', 4);
    await outbox.flush();
    expect(sent.slice(1).map(({ requestKey, expectedSeq }) => [requestKey, expectedSeq])).to.deep.equal([
      ['a', 4],
      ['b', 5],
    ]);
  });

  it('makes room for a colleague’s note, and never for another answer to the same step', async () => {
    await leftWaiting(handed('a', 1), handed('b', 2));
    recorded = [
      { seq: 1, kind: 'opened' },
      { seq: 2, kind: 'noted' },
    ];
    answers = ['stale'];
    await outbox.flush();
    expect(sent.slice(1).map(({ requestKey, expectedSeq }) => [requestKey, expectedSeq])).to.deep.equal([
      ['a', 2],
      ['b', 3],
    ]);
    recorded = [
      { seq: 1, kind: 'opened' },
      { seq: 2, kind: 'affirmed' },
    ];
    answers = ['stale', 'stale'];
    expect(await send(handed('c', 1)).catch(() => 'refused')).to.equal('refused');
    // A note of one's own stands after anything.
    answers = ['stale'];
    expect(await send(note('d', 1))).to.equal('recorded');
    expect(sent.at(-1)).to.include({ requestKey: 'd', expectedSeq: 2 });
  });

  it('sends a picture before the entry that names it', async () => {
    expect(await send(note('a', 1), new Blob(['picture']))).to.equal('recorded');
    expect(asked).to.deep.equal(['/api/jobs/j1/photos', '/api/jobs/j1/events']);
    expect(await (await shopDb())?.count('pictures')).to.equal(0);
  });

  it('takes over what an earlier version had kept, and sets aside what cannot be read', async () => {
    store.set('cork-ember-outbox', JSON.stringify([note('old', 3)]));
    const db = await shopDb();
    await db?.put('parcels', { nothing: true } as unknown as Parcel, 'broken');
    await outbox.beginOutbox();
    await outbox.flush();
    expect(keys()).to.deep.equal(['old']);
    expect(await kept()).to.deep.equal([]);
    store.set('cork-ember-outbox', '[{"half');
    await outbox.beginOutbox();
    expect(store.get('cork-ember-outbox-aside')).to.equal('[{"half');
  });
});

describe('work for one tab at a time', () => {
  it('takes turns by lease where the browser has no locks, and goes on when a tab died', async () => {
    const tab = async (name: string): Promise<typeof import('./oneTab.ts')> =>
      (await import(`./oneTab.ts?${name}`)) as typeof import('./oneTab.ts');
    const [one, other] = [await tab('one'), await tab('other')];
    const done: string[] = [];
    const work = (name: string) => async (): Promise<void> => {
      done.push(`${name} begins`);
      await new Promise((resolve) => setTimeout(resolve, 20));
      done.push(`${name} ends`);
    };
    await Promise.all([one.inOneTab('t', work('one')), other.inOneTab('t', work('other'))]);
    expect(done).to.deep.equal(['one begins', 'one ends', 'other begins', 'other ends']);
    await (await shopDb())?.put('leases', { holder: 'a tab that died', until: 1 }, 't');
    await one.inOneTab('t', work('one'));
    expect(done.at(-1)).to.equal('one ends');
  });
});
