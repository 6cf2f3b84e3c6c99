import { expect } from 'chai';
import { createServer, type AddressInfo, type Server, type Socket } from 'node:net';
import type { DeviceSaid, Shop } from '@cork-ember/core/contract/answers.ts';
import { GENERIC_SUPPLY } from '@cork-ember/core/devices/genericProfiles.ts';
import type { Device } from '@cork-ember/core/devices/device.ts';
import { bytesOf, lineFraming, textOf } from '@cork-ember/core/devices/scpi.ts';
import { DeviceError } from '@cork-ember/core/devices/wire.ts';
import { openTestShop, type TestShop } from '../../test/testShop.ts';
import { wireOf } from './cables.ts';
import type { StreamWire } from './streamWire.ts';

/** A device that does with each line what a test says. */
class Puppet {
  readonly heard: string[] = [];
  private readonly sockets: Socket[] = [];
  private readonly server: Server;
  port = 0;

  private constructor(answer: (line: string, socket: Socket) => void) {
    this.server = createServer((socket) => {
      this.sockets.push(socket);
      socket.on('error', () => undefined);
      socket.on('data', (chunk) => {
        this.heard.push(chunk.toString().trim());
        answer(chunk.toString().trim(), socket);
      });
    });
  }

  static async open(answer: (line: string, socket: Socket) => void): Promise<Puppet> {
    const puppet = new Puppet(answer);
    await new Promise<void>((resolve) => puppet.server.listen(0, '127.0.0.1', resolve));
    puppet.port = (puppet.server.address() as AddressInfo).port;
    return puppet;
  }

  get connections(): number {
    return this.sockets.length;
  }

  async close(): Promise<void> {
    for (const socket of this.sockets) socket.destroy();
    await new Promise((resolve) => this.server.close(resolve));
  }
}

const troubleOf = async (work: Promise<unknown>): Promise<string> =>
  work.then(
    () => 'none',
    (error: unknown) => (error instanceof DeviceError ? `${error.trouble}: ${error.message}` : String(error)),
  );

describe('a cable of TCP', () => {
  let puppet: Puppet | undefined;
  let wire: StreamWire | undefined;
  const to = async (answer: (line: string, socket: Socket) => void): Promise<StreamWire> => {
    puppet = await Puppet.open(answer);
    wire = wireOf({ kind: 'tcp', host: '127.0.0.1', port: puppet.port });
    return wire;
  };
  const ask = async (line: string, withinMs = 2000): Promise<string> =>
    textOf((await wire?.exchange(bytesOf(`${line}\n`), lineFraming, withinMs)) ?? new Uint8Array());

  afterEach(async () => {
    wire?.close();
    await puppet?.close();
    [wire, puppet] = [undefined, undefined];
  });

  it('asks one thing after the other over one connection, an answer in pieces too', async () => {
    await to((line, socket) => {
      socket.write(`${line} `);
      setTimeout(() => socket.write('yes\n'), 20);
    });
    expect(await ask('a')).to.equal('a yes');
    expect(await ask('b')).to.equal('b yes');
    expect(puppet?.connections).to.equal(1);
  });

  it('never takes a late answer for that of the next question', async () => {
    await to((line, socket) => {
      if (line === 'late') setTimeout(() => socket.write('late\n'), 150);
      else setTimeout(() => socket.write(`${line}\n`), 100);
    });
    expect(await troubleOf(ask('late', 60))).to.include('silent: it does not answer within 60 ms');
    expect(await ask('now')).to.equal('now');
    expect(puppet?.connections).to.equal(2);
  });

  it('nor what nobody asked for', async () => {
    await to((line, socket) => {
      socket.write(`${line}\n`);
      setTimeout(() => socket.write('and another thing\n'), 30);
    });
    expect(await ask('a')).to.equal('a');
    await new Promise((resolve) => setTimeout(resolve, 500));
    expect(await ask('b')).to.equal('b');
  });

  it('says that nothing listens, or that it was closed', async () => {
    await to((_line, socket) => socket.destroy());
    expect(await troubleOf(ask('a'))).to.include('closed the connection');
    await puppet?.close();
    expect(await troubleOf(ask('a'))).to.include('nothing listens there');
    puppet = undefined;
  });

  it('does not wait for a line that never ends', async () => {
    await to((_line, socket) => socket.write('1'.repeat(4000)));
    expect(await troubleOf(ask('a'))).to.include('garbage');
  });
});

describe('devices of a shop', () => {
  let shop: TestShop;
  before(async () => {
    shop = await openTestShop();
  });
  after(() => shop.cleanUp());

  const said = async (path: string): Promise<DeviceSaid> =>
    (await shop.api.post(path).expect(200)).body as DeviceSaid;
  const change = (parts: object) =>
    shop.api.post('/api/shop/changes').send({ by: 'Ines', why: 'a supply came', ...parts });

  it('are spoken to over a real socket: who it is, what it shows, and that it switches off', async () => {
    const supply = await said('/api/devices/supply-1/talk');
    expect(supply.trouble).to.equal(undefined);
    expect(supply.says).to.include('SUPPLY');
    expect(supply.figures).to.include({ isOn: 0, amps: 0 });
    const meter = await said('/api/devices/meter-1/talk');
    expect(meter.figures.volts).to.be.within(11.8, 13);
    expect(meter.figures.tempC).to.be.within(15, 30);
    const off = await said('/api/devices/supply-1/off');
    expect(off).to.deep.include({ figures: { isOn: 0, amps: 0 } });
  });

  it('one that is not there says so in a sentence, and one nobody has is not found', async () => {
    const nobody = await Puppet.open(() => undefined);
    await nobody.close();
    const { body } = await shop.api.get('/api/shop').expect(200);
    const added: Device = {
      id: 'spare',
      name: 'Spare supply',
      profile: 'scpi-supply',
      place: { kind: 'tcp', host: '127.0.0.1', port: nobody.port },
    };
    await change({ devices: [...((body as Shop).devices ?? []), added] }).expect(201);
    const spare = await said('/api/devices/spare/talk');
    expect(spare).to.deep.equal({ figures: {}, trouble: 'Spare supply: nothing listens there.' });
    await shop.api.post('/api/devices/none/talk').expect(404);
    const { body: changes } = await shop.api.get('/api/shop/changes').expect(200);
    expect((changes as { what: string }[])[0]?.what).to.equal('Device Spare supply added');
  });

  it('are spoken to on the shop’s own network alone, by a profile there is', async () => {
    const device = (part: Partial<Device>): Device => ({
      id: 'x',
      name: 'Supply',
      profile: 'scpi-supply',
      place: { kind: 'tcp', host: '192.168.1.50', port: 5025 },
      ...part,
    });
    for (const [part, words] of [
      [{ place: { kind: 'tcp', host: '8.8.8.8', port: 5025 } }, 'no address of a network of the shop’s own'],
      [{ place: { kind: 'tcp', host: 'supply.example', port: 5025 } }, 'Address: the number of a device'],
      [{ place: { kind: 'tcp', host: '192.168.1.50', port: 99_999 } }, 'Port: a number from 1 to 65535'],
      [{ profile: 'nobodys' }, 'there is no profile “nobodys”'],
    ] as const) {
      const { body } = await change({ devices: [device(part as Partial<Device>)] }).expect(400);
      expect((body as { detail: string }).detail).to.include(words);
    }
  });

  it('a profile of one’s own is a file; the schema of it is published', async () => {
    const { body: schema } = await shop.api.get('/api/devices/profile.schema.json').expect(200);
    expect(schema).to.have.nested.property('properties.speech');
    const own = { ...GENERIC_SUPPLY, id: 'own-supply', name: 'The old supply' };
    await change({ profiles: [own] }).expect(201);
    const { body: profiles } = await shop.api.get('/api/devices/profiles').expect(200);
    expect((profiles as { id: string }[])[0]?.id).to.equal('own-supply');
    const { speech: _none, ...bad } = own;
    await change({ profiles: [bad] }).expect(400);
  });

  it('one that will not switch off is told of in plain words', async () => {
    const stuck = await Puppet.open((line, socket) => {
      if (line === '*IDN?') socket.write('X,SUPPLY,1,1\n');
      else if (line.startsWith('OUTP OFF')) socket.write('0,"No error"\n');
      else socket.write(line === 'OUTP?' ? '1\n' : '8.0\n');
    });
    const place = { kind: 'tcp', host: '127.0.0.1', port: stuck.port };
    await change({ devices: [{ id: 'stuck', name: 'Stuck supply', profile: 'scpi-supply', place }] }).expect(
      201,
    );
    const { trouble } = await said('/api/devices/stuck/off');
    expect(trouble).to.equal('Stuck supply: it was told to be off and is not: pull its mains plug.');
    await stuck.close();
  });
});

describe('what a bay’s own devices show, in a shop of one’s own', () => {
  let shop: TestShop;
  before(async () => {
    shop = await openTestShop(undefined, true);
  });
  after(() => shop.cleanUp());

  it('can be read by any form; a bay without says so', async () => {
    expect((await shop.api.get('/api/instruments').expect(200)).body).to.deep.equal([]);
    const meter = await Puppet.open((line, socket) =>
      socket.write(line === 'MEAS:VOLT?' ? '12.43\n' : '23.5\n'),
    );
    const device = (bay: number): Device => ({
      id: `meter-${bay}`,
      name: `Meter ${bay}`,
      profile: 'scpi-scanner',
      place: { kind: 'tcp', host: '127.0.0.1', port: meter.port },
      bay,
    });
    const change = (devices: Device[]) =>
      shop.api.post('/api/shop/changes').send({ by: 'Ines', why: 'a meter came', devices });
    const twice = await change([device(2), { ...device(2), id: 'other', name: 'Other' }]).expect(400);
    expect((twice.body as { detail: string }).detail).to.include(
      'bay 2 has a meter or scanner already, Meter 2',
    );
    await change([device(2)]).expect(201);
    const { body } = await shop.api.get('/api/instruments').expect(200);
    expect(body).to.deep.equal([
      { id: 'bay', name: 'Bay’s own devices', quantities: ['voltage', 'temperature'], isSimulated: false },
    ]);
    const [type] = (await shop.api.get('/api/types').expect(200)).body as { id: string }[];
    const open = async (bay: number): Promise<string> =>
      (
        (await shop.intake({ tag: `B-000${bay}`, typeId: type?.id }, { bay }).expect(201)).body as {
          id: string;
        }
      ).id;
    const read = (job: string, quantity: string) =>
      shop.api.post('/api/instruments/bay/read').send({ job, quantity });
    const [first, second] = [await open(1), await open(2)];
    expect((await read(second, 'voltage').expect(200)).body).to.include({
      value: 12.43,
      instrument: 'Bay’s own devices',
    });
    expect((await read(second, 'temperature').expect(200)).body).to.include({ value: 23.5 });
    const { body: none } = await read(first, 'voltage');
    expect((none as { detail: string }).detail).to.include(
      'bay 1 has no device of its own that reads voltage',
    );
    await meter.close();
    const { body: gone } = await read(second, 'voltage');
    expect((gone as { detail: string }).detail).to.include('nothing listens there');
  });

  it('a scale that stands beside all bays weighs what is carried to it, in grams', async () => {
    const scale = await Puppet.open((_line, socket) => socket.write('ST,GS,+  12450 g\r\n'));
    const place = { kind: 'tcp', host: '127.0.0.1', port: scale.port } as const;
    const devices: Device[] = [{ id: 'scale', name: 'Scale', profile: 'line-scale', place }];
    await shop.api.post('/api/shop/changes').send({ by: 'Ines', why: 'a scale came', devices }).expect(201);
    const { body } = await shop.api.get('/api/instruments').expect(200);
    expect(body).to.have.nested.property('[0].quantities').that.deep.equals(['mass']);
    const { body: open } = await shop.api.get('/api/jobs').expect(200);
    const job = (open as { id: string }[])[0]?.id;
    const read = await shop.api.post('/api/instruments/bay/read').send({ job, quantity: 'mass' }).expect(200);
    expect(read.body).to.include({ quantity: 'mass', value: 12_450 });
    await scale.close();
  });
});
