/** Cables devices hang on: the shop's network, and serial ports of the machine the shop runs on. */
import { connect } from 'node:net';
import { SerialPort } from 'serialport';
import type { Cable } from '@cork-ember/core/devices/device.ts';
import { StreamWire, type Opened, type StreamCable } from './streamWire.ts';

/** What the system says of an address nobody answers at. */
const NOT_REACHED: Readonly<Record<string, string>> = {
  ECONNREFUSED: 'nothing listens there.',
  EHOSTUNREACH: 'there is no way to this address.',
  ENETUNREACH: 'there is no way to this address.',
  ECONNRESET: 'it closed the connection.',
  EPIPE: 'it closed the connection.',
};

const tcp = ({ host, port }: Extract<Cable, { kind: 'tcp' }>): StreamCable => ({
  open: () => {
    const stream = connect({ host, port, noDelay: true });
    return { stream, close: () => void stream.destroy() };
  },
  reasonOf: ({ code = '' }) => NOT_REACHED[code] ?? 'it cannot be reached.',
});

/** What the system says of a port, by the words of its message. */
const PORT_TROUBLE: readonly (readonly [words: string, reason: string])[] = [
  ['no such file', 'there is no such port on this machine.'],
  ['permission denied', 'this program may not use the port: add its user to the group that may.'],
  ['cannot lock port', 'another program has the port.'],
];

const openPort = (path: string, baud: number): Opened => {
  const stream = new SerialPort({ path, baudRate: baud });
  return {
    stream,
    close: () => {
      if (stream.isOpen) stream.close(() => undefined);
    },
  };
};

/** @param open in the place of a port that is there */
export const serial = (
  { path, baud }: Extract<Cable, { kind: 'serial' }>,
  open: (path: string, baud: number) => Opened = openPort,
): StreamCable => ({
  open: () => open(path, baud),
  reasonOf: ({ message }) =>
    PORT_TROUBLE.find(([words]) => message.toLowerCase().includes(words))?.[1] ??
    'the port cannot be opened.',
  isTalkative: true,
});

export const wireOf = (cable: Cable): StreamWire =>
  new StreamWire(cable.kind === 'tcp' ? tcp(cable) : serial(cable));
