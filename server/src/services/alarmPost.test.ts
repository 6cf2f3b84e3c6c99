import { expect } from 'chai';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { pino } from 'pino';
import type { Shop } from '@cork-ember/core/contract/answers.ts';
import { verbatim } from '@cork-ember/core/units/localise.ts';
import { openTestShop } from '../../test/testShop.ts';
import { AlarmPost, assertAlarmsTo, type AlarmSent } from './alarmPost.ts';

/** Stands in for what listens on a shop's network. */
class Receiver {
  readonly heard: AlarmSent[] = [];
  private readonly server: Server;

  /** @param answers status of each call, the last for all that follow */
  constructor(answers: readonly number[], location?: string) {
    this.server = createServer((request, response) => {
      let body = '';
      request.on('data', (chunk: Buffer) => (body += chunk.toString()));
      request.on('end', () => {
        this.heard.push(JSON.parse(body) as AlarmSent);
        const status = answers[Math.min(this.heard.length, answers.length) - 1] ?? 200;
        response.writeHead(status, location === undefined ? {} : { location }).end();
      });
    });
  }

  async open(): Promise<string> {
    await new Promise<void>((resolve) => this.server.listen(0, '127.0.0.1', resolve));
    return `http://127.0.0.1:${(this.server.address() as AddressInfo).port}/alarm`;
  }

  close(): Promise<unknown> {
    return new Promise((resolve) => this.server.close(resolve));
  }
}

describe('where alarms go', () => {
  const ALARM = {
    bay: 3,
    job: '5ce77e00-0000-4000-8000-000000000001',
    says: 'The supply: it does not answer.',
  };
  const AT = Date.parse('2026-03-10T02:10:00Z');
  const post = (alarmsTo?: string): AlarmPost =>
    new AlarmPost({
      settings: { shop: { name: 'Skerry', ...(alarmsTo === undefined ? {} : { alarmsTo }) } as Shop },
      now: () => AT,
      log: pino({ level: 'silent' }),
      againAfterMs: [10, 10],
    });
  let receiver: Receiver | undefined;
  afterEach(async () => {
    await receiver?.close();
    receiver = undefined;
  });

  it('hears each once it takes it', async () => {
    receiver = new Receiver([204]);
    await post(await receiver.open()).send(ALARM);
    expect(receiver.heard).to.deep.equal([{ shop: 'Skerry', ...ALARM, at: '2026-03-10T02:10:00.000Z' }]);
  });

  it('is asked again where it does not, and given up in the end', async () => {
    receiver = new Receiver([503, 200]);
    const address = await receiver.open();
    await post(address).send(ALARM);
    expect(receiver.heard).to.have.length(2);
    await receiver.close();
    receiver = new Receiver([500]);
    await post(await receiver.open()).send(ALARM);
    expect(receiver.heard).to.have.length(3);
    // Nobody is there at all: nothing is thrown.
    await post(address).send(ALARM);
  });

  it('is not led elsewhere, and nowhere where none is named', async () => {
    const elsewhere = new Receiver([200]);
    receiver = new Receiver([307], await elsewhere.open());
    await post(await receiver.open()).send(ALARM);
    expect(elsewhere.heard).to.deep.equal([]);
    await elsewhere.close();
    await post().send(ALARM);
  });

  it('is let go of when the shop closes', async () => {
    receiver = new Receiver([500]);
    const one = post(await receiver.open());
    one.end();
    await one.send(ALARM);
    expect(receiver.heard).to.have.length.below(2);
  });

  it('is an address by number on a network of the shop’s own', () => {
    for (const good of [undefined, '', 'http://192.168.1.60/alarm', 'https://[fd00::5]:8443/x'])
      expect(() => assertAlarmsTo(good)).to.not.throw();
    for (const bad of [
      'siren',
      'http://8.8.8.8/',
      'http://siren.example/',
      'ftp://192.168.1.60/',
      'http://192.168.1.60.example/',
    ])
      expect(() => assertAlarmsTo(bad), bad).to.throw('an address on the shop’s own network by number');
  });

  it('is set with a reason, stands in the record, and is taken away again', async () => {
    const shop = await openTestShop();
    try {
      const change = (alarmsTo: string) =>
        shop.api.post('/api/shop/changes').send({ by: 'Ines', why: 'a siren', alarmsTo });
      const { body } = await change('http://8.8.8.8/').expect(400);
      expect((body as { detail: string }).detail).to.include('Where alarms go');
      await change('http://192.168.1.60/alarm').expect(201);
      const changes = (await shop.api.get('/api/shop/changes')).body as { what: string }[];
      expect(changes[0]?.what).to.equal(
        `Alarms go to ${verbatim('http://192.168.1.60/alarm')} (was nowhere)`,
      );
      await change('').expect(201);
      expect(((await shop.api.get('/api/shop')).body as Shop).alarmsTo).to.equal('');
    } finally {
      await shop.cleanUp();
    }
  });
});
