import { createServer, type Server } from 'node:net';
import type { AddressInfo } from 'node:net';
import { expect } from 'chai';
import type { Addressed } from '@cork-ember/core/devices/bay/messages.ts';
import { GENERIC_SCANNER } from '@cork-ember/core/devices/genericProfiles.ts';
import { DeviceError } from '@cork-ember/core/devices/wire.ts';
import { SharedCables } from './sharedCables.ts';

/** A scanner that lets one in at a time, as many do: whoever comes meanwhile is shown out. It answers with the channel it is asked for, or not at all. */
async function scannerForOne(): Promise<{
  server: Server;
  port: number;
  came: () => number;
  heard: () => number;
  hush: () => void;
}> {
  let [inside, came, heard, isQuiet] = [0, 0, 0, false];
  const server = createServer((socket) => {
    came += 1;
    if (inside > 0) return socket.destroy();
    inside += 1;
    socket.on('close', () => (inside -= 1));
    socket.on('error', () => undefined);
    socket.on('data', (chunk: Buffer) => {
      heard += 1;
      if (isQuiet) return;
      const channel = /@(\d+)/.exec(chunk.toString())?.[1] ?? '0';
      socket.write(`${Number(channel) / 100}\n`);
    });
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as AddressInfo;
  return { server, port, came: () => came, hush: () => (isQuiet = true), heard: () => heard };
}

describe('a cable several devices hang on', () => {
  let scanner: Awaited<ReturnType<typeof scannerForOne>>;
  beforeEach(async () => (scanner = await scannerForOne()));
  afterEach(() => scanner.server.close());

  const channel = (number: number): Addressed => ({
    profile: {
      ...GENERIC_SCANNER,
      speech: { ...GENERIC_SCANNER.speech, protocol: 'scpi', asks: { volts: 'MEAS:VOLT? (@{})' } },
      answersWithinMs: 150,
    } as Addressed['profile'],
    channel: number,
    cable: { kind: 'tcp', host: '127.0.0.1', port: scanner.port },
  });

  it('is opened once, asked by turns, and closed by whoever lets go last', async () => {
    const cables = new SharedCables();
    const taken = [1201, 1202, 1203].map((number) => cables.take(channel(number)));
    const drivers = taken.map(({ driver }) => driver);
    for (let round = 0; round < 3; round++)
      expect(await Promise.all(drivers.map((driver) => driver.ask('volts')))).to.deep.equal([
        12.01, 12.02, 12.03,
      ]);
    expect(scanner.came()).to.equal(1);
    taken[0]?.letGo();
    taken[0]?.letGo();
    taken[1]?.letGo();
    expect(await drivers[2]?.ask('volts')).to.equal(12.03);
    expect(scanner.came(), 'still the same').to.equal(1);
    taken[2]?.letGo();
    const again = cables.take(channel(1204));
    await new Promise((resolve) => setTimeout(resolve, 50));
    expect(await again.driver.ask('volts')).to.equal(12.04);
    expect(scanner.came()).to.equal(2);
    again.letGo();
  });

  it('that is silent is silent for all that wait at once, and is asked again by whoever comes later', async () => {
    const cables = new SharedCables();
    const taken = Array.from({ length: 20 }, (_, index) => cables.take(channel(1201 + index)));
    scanner.hush();
    const waits = taken.map(({ driver }) => driver.ask('volts'));
    const troubles = await Promise.all(
      waits.map((wait) =>
        wait.then(
          () => 'none',
          (error: unknown) => (error as DeviceError).trouble,
        ),
      ),
    );
    expect(new Set(troubles)).to.deep.equal(new Set(['silent']));
    expect(scanner.heard(), 'not one after the other').to.equal(1);
    for (const { letGo } of taken) letGo();
  });

  it('is asked once by sixty that want the same at the same time, and anew a moment later', async () => {
    const cables = new SharedCables();
    const taken = Array.from({ length: 60 }, () => cables.take(channel(1201)));
    for (const round of [1, 2]) {
      const seen = await Promise.all(taken.map(({ driver }) => driver.ask('volts')));
      expect(new Set(seen)).to.deep.equal(new Set([12.01]));
      expect(scanner.heard()).to.equal(round);
    }
    for (const { letGo } of taken) letGo();
  });
});
