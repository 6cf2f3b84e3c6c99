/** What a second browser is told, over a real connection. */
import { once } from 'node:events';
import { connect, type AddressInfo } from 'node:net';
import { expect } from 'chai';
import type { JobAnswer, Missed, StreamMessage } from '@cork-ember/core/contract/answers.ts';
import { MOST_UNREAD } from './routes/stream.ts';
import { affirm, note, openTestShop, type TestShop } from '../test/testShop.ts';

/** Reads the stream until `count` messages have come, and says how many are read as they are. */
async function listen(
  url: string,
  count: number,
  whenOpen: () => Promise<void>,
  whenRead: (read: number) => void = () => undefined,
): Promise<StreamMessage[]> {
  const answer = await fetch(url);
  const messages: StreamMessage[] = [];
  const reader = answer.body?.pipeThrough(new TextDecoderStream()).getReader();
  if (!reader) throw new Error('no stream');
  await reader.read();
  await whenOpen();
  let unread = '';
  while (messages.length < count) {
    const { value = '' } = await reader.read();
    const lines = (unread + value).split('\n');
    unread = lines.pop() ?? '';
    for (const line of lines)
      if (line.startsWith('data: ')) {
        messages.push(JSON.parse(line.slice(6)) as StreamMessage);
        whenRead(messages.length);
      }
  }
  await reader.cancel();
  return messages;
}

describe('the stream of changes', () => {
  let shop: TestShop;
  let url: string;
  beforeEach(async () => {
    shop = await openTestShop();
    await shop.listen(0, '127.0.0.1');
    url = `http://127.0.0.1:${(shop.server.address() as AddressInfo).port}/api/stream`;
  });
  afterEach(() => shop.cleanUp());

  it('tells of every entry as it is recorded, in order', async () => {
    const messages = await listen(url, 3, async () => {
      const { body } = await shop.intake().expect(201);
      const { id } = body as JobAnswer;
      await shop.append(id, 1, affirm('identify#1')).expect(201);
      await shop.append(id, 2, note('scratch')).expect(201);
    });
    const events = messages.map((message) => (message.kind === 'event' ? message.event : undefined));
    expect(events.map((event) => event?.kind)).to.deep.equal(['opened', 'affirmed', 'noted']);
    expect(events.map((event) => event?.seq)).to.deep.equal([1, 2, 3]);
  });

  it('what was missed is asked for by the last numbers known, and comes without a gap', async () => {
    const { body } = await shop.intake().expect(201);
    const { id } = body as JobAnswer;
    await shop.append(id, 1, affirm('identify#1')).expect(201);
    await shop.append(id, 2, note('scratch')).expect(201);
    const open = (await shop.api.get('/api/jobs').expect(200)).body as readonly { id: string; seq: number }[];
    const known = Object.fromEntries(open.map((one) => [one.id, one.id === id ? 1 : one.seq]));
    const since = async (jobs: object): Promise<Missed> =>
      (await shop.api.post('/api/jobs/since').send({ known: jobs }).expect(200)).body as Missed;
    const missed = await since(known);
    expect(missed.events.map(({ job, seq }) => [job, seq])).to.deep.equal([
      [id, 2],
      [id, 3],
    ]);
    expect(missed.isWhole).to.equal(true);
    // One it never heard of, and one that is gone: the first is asked for anew, the second passed over.
    const { [id]: _its, ...others } = known;
    expect(await since({ ...others, '00000000-0000-4000-8000-000000000000': 4 })).to.deep.equal({
      events: [],
      isWhole: false,
    });
    await shop.api
      .post('/api/jobs/since')
      .send({ known: { nobody: -1 } })
      .expect(400);
  });

  it('lets go of who reads too slowly, so that nobody’s memory fills; the others hear on', async () => {
    const slow = connect((shop.server.address() as AddressInfo).port, '127.0.0.1');
    slow.write('GET /api/stream HTTP/1.1\r\nhost: 127.0.0.1\r\n\r\n');
    await once(slow, 'data');
    slow.pause();
    const { body } = await shop.intake().expect(201);
    const event = (body as JobAnswer).events[0];
    if (!event) throw new Error('it was opened');
    const long = { ...event, kind: 'noted', payload: { text: 'x'.repeat(MOST_UNREAD / 4) } } as const;
    const MANY = 24;
    const tell = (): void => {
      shop.services.stream.tell({ kind: 'event', event: long });
    };
    // Each is told once the one before is read: whoever keeps up is never behind, however slow the machine.
    const messages = await listen(
      url,
      MANY,
      () => Promise.resolve(tell()),
      (read) => {
        if (read < MANY) tell();
      },
    );
    expect(messages).to.have.length(MANY);
    slow.resume();
    await once(slow, 'close');
  });

  it('tells of the clock when it is paced, and of nothing that was refused', async () => {
    const messages = await listen(url, 1, async () => {
      const { body } = await shop.intake({}, { bay: 99 });
      expect(body).to.include({ status: 400 });
      await shop.api.post('/api/clock').send({ pace: 60 }).expect(200);
    });
    expect(messages[0]).to.deep.include({ kind: 'clock' });
    expect(messages[0]).to.have.nested.property('clock.pace', 60);
  });
});
