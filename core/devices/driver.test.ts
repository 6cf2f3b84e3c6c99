import { expect } from 'chai';
import fc from 'fast-check';
import { driverOf, type Driver } from './driver.ts';
import {
  GENERIC_CHANNELS,
  GENERIC_SCALE,
  GENERIC_SCANNER,
  GENERIC_STOP,
  GENERIC_SUPPLY,
} from './genericProfiles.ts';
import type { Asked, DeviceProfile, Told } from './profile.ts';
import { bytesOf } from './scpi.ts';
import { DeviceError, oneAtATime, type Wire } from './wire.ts';

const PROBES: DeviceProfile = {
  id: 'probes',
  name: 'Probe inputs',
  kind: 'meter',
  speech: {
    protocol: 'modbus',
    unit: 1,
    asks: {
      tempC: { table: 'input', address: 3, isSigned: true, unitIs: 0.1 },
      volts: { table: 'holding', address: 258, isSigned: false, unitIs: 0.001 },
    },
  },
  ranges: { tempC: { least: -40, most: 120, resolution: 0.1 } },
  answersWithinMs: 400,
  frozenAfterS: 60,
};

/** One that says a line whenever it has one. */
const METER: DeviceProfile = {
  id: 'meter',
  name: 'Serial meter',
  kind: 'meter',
  speech: {
    protocol: 'line',
    ends: '\r\n',
    asks: { volts: { ask: '', after: 'DC', unitIs: 0.001 } },
  },
  ranges: { volts: { least: -60, most: 60, resolution: 0.001 } },
  answersWithinMs: 800,
  frozenAfterS: 60,
};

/** Answers each message with the next of these bytes, and keeps what it was sent. */
function saying(...answers: readonly (readonly number[] | string)[]): Wire & { readonly sent: string[] } {
  const sent: string[] = [];
  return {
    sent,
    exchange: (message, framing) => {
      sent.push(message.includes(0) ? [...message].join(' ') : String.fromCharCode(...message));
      if (!framing) return Promise.resolve(new Uint8Array());
      const next = answers[sent.length - 1];
      const bytes = typeof next === 'string' ? bytesOf(next) : Uint8Array.from(next ?? []);
      try {
        const end = framing(bytes);
        return end === undefined
          ? Promise.reject(new DeviceError('silent', 'it does not answer.'))
          : Promise.resolve(bytes.slice(0, end));
      } catch (error) {
        return Promise.reject(error as Error);
      }
    },
  };
}

const troubleOf = async (work: Promise<unknown>): Promise<string> =>
  work.then(
    (value) => `answered ${String(value)}`,
    (error: unknown) => (error instanceof DeviceError ? error.trouble : `threw ${String(error)}`),
  );

/** What is said, and what comes of it. */
const CORPUS: readonly (readonly [
  string,
  DeviceProfile,
  Asked,
  readonly number[] | string,
  number | string,
])[] = [
  ['a plain figure', GENERIC_SUPPLY, 'volts', '14.40\n', 14.4],
  ['with an exponent', GENERIC_SUPPLY, 'amps', '+8.00000E+00\r\n', 8],
  ['without a nought', GENERIC_SUPPLY, 'amps', '.05\n', 0.05],
  ['on, as a word', GENERIC_SUPPLY, 'isOn', 'ON\n', 1],
  ['infinity, as SCPI has it', GENERIC_SUPPLY, 'volts', '9.9E37\n', 'garbage'],
  ['no number, as SCPI has it', GENERIC_SUPPLY, 'volts', '9.91E+37\n', 'garbage'],
  ['two figures for one', GENERIC_SUPPLY, 'volts', '14.4,8.0\n', 'garbage'],
  ['a unit behind it', GENERIC_SUPPLY, 'volts', '14.4V\n', 'garbage'],
  ['words', GENERIC_SUPPLY, 'volts', 'READY\n', 'garbage'],
  ['an empty line', GENERIC_SUPPLY, 'volts', '\n', 'garbage'],
  ['bytes of another speed', GENERIC_SUPPLY, 'volts', [0xf8, 0x80, 10], 'garbage'],
  ['half a line', GENERIC_SUPPLY, 'volts', '14.', 'silent'],
  ['a line without an end', GENERIC_SUPPLY, 'volts', '1'.repeat(300), 'garbage'],
  ['more than it can show', GENERIC_SUPPLY, 'volts', '240.0\n', 'garbage'],
  ['warmth below nought', PROBES, 'tempC', [0, 1, 0, 0, 0, 5, 1, 4, 2, 0xff, 0xec], -2],
  ['another register’s table', PROBES, 'volts', [0, 1, 0, 0, 0, 5, 1, 3, 2, 0x31, 0x9c], 12.7],
  ['an answer to another question', PROBES, 'tempC', [0, 9, 0, 0, 0, 5, 1, 4, 2, 0, 250], 'garbage'],
  ['another unit’s', PROBES, 'tempC', [0, 1, 0, 0, 0, 5, 2, 4, 2, 0, 250], 'garbage'],
  ['an exception', PROBES, 'tempC', [0, 1, 0, 0, 0, 3, 1, 0x84, 2], 'refused'],
  ['no Modbus at all', PROBES, 'tempC', [72, 84, 84, 80, 47, 49], 'garbage'],
  ['a loop that is closed', GENERIC_STOP, 'isFree', [0, 1, 0, 0, 0, 4, 1, 2, 1, 1], 1],
  ['and one that is open', GENERIC_STOP, 'isFree', [0, 1, 0, 0, 0, 4, 1, 2, 1, 0], 0],
  [
    'a register where an input was asked',
    GENERIC_STOP,
    'isFree',
    [0, 1, 0, 0, 0, 5, 1, 2, 2, 0, 1],
    'garbage',
  ],
  ['a scale, its sign apart', GENERIC_SCALE, 'massG', 'ST,GS,+  12450 g\r\n', 12_450],
  ['a scale below nought', GENERIC_SCALE, 'massG', '-  12 g\r\n', -12],
  ['a comma for a point', GENERIC_SCALE, 'massG', '12,5\r\n', 12.5],
  ['a scale that is not at rest', GENERIC_SCALE, 'massG', 'ERR\r\n', 'garbage'],
  ['a line whose beginning nobody heard', METER, 'volts', '34 DC 99\r\nAUTO DC 12650 mV\r\n', 12.65],
  ['and no whole one yet', METER, 'volts', '34 DC 99\r\nAUTO DC 126', 'silent'],
  ['another range of the meter', METER, 'volts', 'x\r\nAUTO AC 230\r\n', 'garbage'],
  ['half a message', PROBES, 'tempC', [0, 1, 0, 0, 0, 5, 1, 4], 'silent'],
];

describe('what a device says', () => {
  for (const [name, profile, asked, answer, comes] of CORPUS)
    it(`${name}: ${typeof comes === 'number' ? 'is read' : `is ${comes}`}`, async () => {
      const work = driverOf(profile, saying(answer)).ask(asked);
      if (typeof comes === 'number') expect(await work).to.be.closeTo(comes, 1e-9);
      else expect(await troubleOf(work)).to.equal(comes);
    });

  it('is asked as the standards have it', async () => {
    const wire = saying('0,"No error"\n', [0, 1, 0, 0, 0, 5, 1, 4, 2, 0, 250]);
    await driverOf(GENERIC_SUPPLY, wire).tell('setVolts', 14.4);
    expect(wire.sent[0]).to.equal('VOLT 14.4;:SYST:ERR?\n');
    const probes = saying([0, 1, 0, 0, 0, 5, 1, 4, 2, 0, 250]);
    expect(await driverOf(PROBES, probes).ask('tempC')).to.be.closeTo(25, 1e-9);
    expect(probes.sent[0]).to.equal('0 1 0 0 0 6 1 4 0 3 0 1');
  });

  it('is asked for the channel of its bay', async () => {
    const scanner = saying('12.650\n');
    await driverOf(GENERIC_CHANNELS, scanner, 103).ask('volts');
    expect(scanner.sent[0]).to.equal('MEAS:VOLT? (@103)\n');
    const stop = saying([0, 1, 0, 0, 0, 4, 1, 2, 1, 1]);
    await driverOf(GENERIC_STOP, stop, 4).ask('isFree');
    expect(stop.sent[0]).to.equal('0 1 0 0 0 6 1 2 0 3 0 1');
    const scale = saying('1250 g\r\n');
    await driverOf(GENERIC_SCALE, scale).ask('massG');
    expect(scale.sent[0]).to.equal('P\r\n');
    expect(await driverOf(GENERIC_SCALE, saying('1250 g\r\n')).identify()).to.equal('Scale, serial');
    expect(await troubleOf(driverOf(GENERIC_SCALE, saying()).tell('on'))).to.equal('refused');
  });

  it('a command it does not take is not taken for done', async () => {
    const wire = saying('-222,"Data out of range"\n');
    const said = await driverOf(GENERIC_SUPPLY, wire)
      .tell('setAmps', 99)
      .catch((error: unknown) => (error as Error).message);
    expect(said).to.include('Data out of range');
  });

  it('another device than the profile is for is not driven by it', async () => {
    expect(await troubleOf(driverOf(GENERIC_SUPPLY, saying('SOMEBODY,SCANNER,1,2\n')).identify())).to.equal(
      'other',
    );
  });

  it('whatever bytes come, an answer is a figure in range or a trouble with a name', async () => {
    const asks = async (driver: Driver, what: Asked): Promise<void> => {
      const come = await troubleOf(driver.ask(what));
      expect(come).to.match(/^(answered -?\d|silent|garbage|refused)/);
    };
    await fc.assert(
      fc.asyncProperty(fc.uint8Array({ maxLength: 300 }), async (bytes) => {
        await asks(driverOf(GENERIC_SUPPLY, saying([...bytes])), 'volts');
        await asks(driverOf(PROBES, saying([...bytes])), 'tempC');
        await asks(driverOf(GENERIC_STOP, saying([...bytes])), 'isFree');
        await asks(driverOf(GENERIC_SCALE, saying([...bytes])), 'massG');
        await asks(driverOf(METER, saying([...bytes])), 'volts');
        const told = await troubleOf(driverOf(GENERIC_SUPPLY, saying([...bytes])).tell('on' satisfies Told));
        expect(told).to.match(/^(answered undefined|silent|garbage|refused)$/);
      }),
      { seed: 20, numRuns: 400 },
    );
  });

  it('what a profile has no word for is refused', async () => {
    expect(await troubleOf(driverOf(GENERIC_SCANNER, saying()).tell('on'))).to.equal('refused');
    expect(await troubleOf(driverOf(PROBES, saying()).tell('off'))).to.equal('refused');
    expect(await troubleOf(driverOf(PROBES, saying()).ask('amps'))).to.equal('refused');
  });

  it('one question waits for the answer of the one before', async () => {
    const order: string[] = [];
    const ends: (() => void)[] = [];
    const wire = oneAtATime({
      exchange: (message) => {
        order.push(String.fromCharCode(...message));
        return new Promise((resolve) => ends.push(() => resolve(new Uint8Array())));
      },
    });
    const both = [wire.exchange(bytesOf('a'), undefined, 1), wire.exchange(bytesOf('b'), undefined, 1)];
    await Promise.resolve();
    expect(order).to.deep.equal(['a']);
    ends[0]?.();
    await both[0];
    await new Promise((resolve) => void setTimeout(resolve, 0));
    expect(order).to.deep.equal(['a', 'b']);
    ends[1]?.();
    await both[1];
  });
});
