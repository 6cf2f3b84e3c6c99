/** The outbox, with a browser’s store and a server that comes and goes. */
import { expect } from 'chai';
import type { Parcel } from './outbox.ts';

interface Sent {
  readonly requestKey: string;
  readonly enteredAt?: number;
}

type Answer = 'recorded' | 'stale' | 'away';

const store = new Map<string, string>();
const sent: Sent[] = [];
let answers: Answer[] = [];

function answer(init: RequestInit): Response {
  const body = JSON.parse(String(init.body)) as Sent & { expectedSeq: number };
  const next = answers.shift() ?? 'recorded';
  if (next === 'away') throw new TypeError('fetch failed');
  sent.push(body);
  const json = { headers: { 'content-type': 'application/json' } };
  if (next === 'stale')
    return new Response(JSON.stringify({ status: 409, detail: 'Tarek recorded something.' }), {
      ...json,
      status: 409,
    });
  return new Response(JSON.stringify({ seq: body.expectedSeq + 1 }), { ...json, status: 201 });
}

const browser = {
  localStorage: {
    getItem: (key: string) => store.get(key) ?? null,
    setItem: (key: string, value: string) => store.set(key, value),
  },
  fetch: (_path: string, init: RequestInit) => Promise.resolve().then(() => answer(init)),
};

const kept = (): Parcel[] => JSON.parse(store.get('cork-ember-outbox') ?? '[]') as Parcel[];

function parcel(requestKey: string, expectedSeq: number): Parcel {
  return {
    requestKey,
    job: 'j1',
    by: 'Ines',
    entry: { kind: 'noted', payload: { text: requestKey } },
    expectedSeq,
    enteredAt: 1000 + expectedSeq,
  };
}

describe('outbox', () => {
  let outbox: typeof import('./outbox.ts');
  const machine = { fetch: globalThis.fetch };
  const send = (one: Parcel) => outbox.send(one);
  const flush = () => outbox.flush();

  // The module reads the browser's store as it is loaded; other tests get their own fetch back.
  before(async () => {
    Object.assign(globalThis, browser);
    outbox = await import('./outbox.ts');
  });
  after(() => {
    Object.assign(globalThis, machine);
  });

  beforeEach(() => {
    sent.length = 0;
    answers = [];
  });

  it('keeps an entry until the server has it', async () => {
    const sending = send(parcel('a', 1));
    expect(kept().map((one) => one.requestKey)).to.deep.equal(['a']);
    expect(await sending).to.deep.include({ kind: 'recorded' });
    expect(kept()).to.deep.equal([]);
    expect(sent[0]).not.to.have.property('enteredAt');
  });

  it('sends a quick hand’s entries one after the other, each once', async () => {
    const results = await Promise.all([send(parcel('a', 1)), send(parcel('b', 2)), send(parcel('c', 3))]);
    expect(results.map((result) => result.kind)).to.deep.equal(['recorded', 'recorded', 'recorded']);
    expect(sent.map((one) => one.requestKey)).to.deep.equal(['a', 'b', 'c']);
    expect(kept()).to.deep.equal([]);
  });

  it('keeps entries while the server is away, and sends them later with their own time and key', async () => {
    answers = ['away'];
    const results = await Promise.all([send(parcel('a', 1)), send(parcel('b', 2))]);
    expect(results.map((result) => result.kind)).to.deep.equal(['kept', 'kept']);
    expect(kept().map((one) => one.requestKey)).to.deep.equal(['a', 'b']);
    await flush();
    expect(sent).to.deep.include.members([
      { requestKey: 'a', expectedSeq: 1, by: 'Ines', entry: parcel('a', 1).entry, enteredAt: 1001 },
      { requestKey: 'b', expectedSeq: 2, by: 'Ines', entry: parcel('b', 2).entry, enteredAt: 1002 },
    ]);
    expect(kept()).to.deep.equal([]);
  });

  it('gives a refused entry back to the form that waits for it', async () => {
    answers = ['stale'];
    const problem = await send(parcel('a', 1)).catch((error: Error) => error.message);
    expect(problem).to.equal('Tarek recorded something.');
    expect(kept()).to.deep.equal([]);
  });

  it('keeps a refused entry with the reason when its form has gone, and goes on with the next', async () => {
    answers = ['away'];
    await Promise.all([send(parcel('a', 1)), send(parcel('b', 2))]);
    answers = ['stale', 'recorded'];
    await flush();
    expect(kept()).to.have.length(1);
    expect(kept()[0]).to.include({ requestKey: 'a', refused: 'Tarek recorded something.' });
    await flush();
    expect(sent.map((one) => one.requestKey)).to.deep.equal(['a', 'b']);
  });
});
