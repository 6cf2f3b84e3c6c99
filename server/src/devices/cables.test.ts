import { expect } from 'chai';
import { SerialPortMock } from 'serialport';
import { driverOf } from '@cork-ember/core/devices/driver.ts';
import { GENERIC_SCALE } from '@cork-ember/core/devices/genericProfiles.ts';
import { DeviceError } from '@cork-ember/core/devices/wire.ts';
import { serial, wireOf } from './cables.ts';
import { StreamWire } from './streamWire.ts';

const PORT = { kind: 'serial', path: '/dev/ttyUSB7', baud: 9600 } as const;

const troubleOf = async (work: Promise<unknown>): Promise<string> =>
  work.then(
    () => 'none',
    (error: unknown) => (error instanceof DeviceError ? `${error.trouble}: ${error.message}` : String(error)),
  );

/** A serial port that is not there: what is written to it is kept, and it says what a test has it say. */
function standIn(): {
  wire: StreamWire;
  said: () => string;
  says: (text: string) => void;
  opened: () => number;
} {
  SerialPortMock.binding.createPort(PORT.path, { record: true });
  const ports: SerialPortMock[] = [];
  const wire = new StreamWire(
    serial(PORT, (path, baud) => {
      const stream = new SerialPortMock({ path, baudRate: baud });
      ports.push(stream);
      return { stream, close: () => stream.close(() => undefined) };
    }),
  );
  return {
    wire,
    opened: () => ports.length,
    said: () => ports.at(-1)?.port?.recording.toString() ?? '',
    says: (text) => ports.at(-1)?.port?.emitData(text),
  };
}

describe('a serial port', () => {
  afterEach(() => SerialPortMock.binding.reset());

  it('is asked, answers in pieces, and stays open', async () => {
    const { wire, said, says, opened } = standIn();
    const scale = driverOf(GENERIC_SCALE, wire);
    const asked = async (answer: readonly string[]): Promise<number> => {
      const before = said().length;
      const work = scale.ask('massG');
      while (said().length === before) await new Promise((resolve) => setTimeout(resolve, 5));
      for (const piece of answer) says(piece);
      return work;
    };
    expect(await asked(['ST,GS,+  12', '450 g\r\n'])).to.equal(12_450);
    expect(await asked(['ST,GS,+  12451 g\r\n'])).to.equal(12_451);
    expect(said()).to.equal('P\r\nP\r\n');
    expect(opened()).to.equal(1);
    wire.close();
  });

  it('what it says unasked is no answer to what is asked later', async () => {
    const { wire, said, says } = standIn();
    const scale = driverOf(GENERIC_SCALE, wire);
    const work = scale.ask('massG');
    while (said() === '') await new Promise((resolve) => setTimeout(resolve, 5));
    says('100 g\r\n');
    expect(await work).to.equal(100);
    says('999 g\r\n');
    await new Promise((resolve) => setTimeout(resolve, 20));
    const next = scale.ask('massG');
    while (said() === 'P\r\n') await new Promise((resolve) => setTimeout(resolve, 5));
    says('101 g\r\n');
    expect(await next).to.equal(101);
    wire.close();
  });

  it('one that is not there says so in a sentence', async () => {
    const wire = wireOf({ ...PORT, path: '/dev/ttyNOPE9' });
    expect(await troubleOf(driverOf(GENERIC_SCALE, wire).ask('massG'))).to.equal(
      'silent: there is no such port on this machine.',
    );
    wire.close();
  });
});
