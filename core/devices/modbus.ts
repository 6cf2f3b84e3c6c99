/** Registers and inputs over TCP. @see Modbus Application Protocol 1.1b3, 6.2 to 6.4; Modbus Messaging on TCP/IP 1.0b, 3.1.3 (MBAP header) */
import type { ModbusRegister } from './profile.ts';
import { DeviceError, type Framing } from './wire.ts';

const HEADER = 6;
const FUNCTION = { input: 4, holding: 3, discrete: 2 } as const;
/** Bytes of its value. */
const BYTES = { input: 2, holding: 2, discrete: 1 } as const;
/** A function that failed answers with this bit set. */
const FAILED = 0x80;
/** Longest message after the header. */
const MOST = 254;
const EXCEPTIONS: Readonly<Record<number, string>> = {
  1: 'does not know the question',
  2: 'has no such register',
  3: 'does not take the figure',
  4: 'has a fault of its own',
  6: 'is busy',
};

/** A question for one register. @param transaction 0–65535, given back by the answer */
export function registerRequest(
  transaction: number,
  unit: number,
  { table, address }: ModbusRegister,
): Uint8Array {
  const message = new Uint8Array(12);
  const view = new DataView(message.buffer);
  view.setUint16(0, transaction);
  view.setUint16(4, 6);
  message[6] = unit;
  message[7] = FUNCTION[table];
  view.setUint16(8, address);
  view.setUint16(10, 1);
  return message;
}

export const mbapFraming: Framing = (sofar) => {
  if (sofar.length < HEADER) return undefined;
  const view = new DataView(sofar.buffer, sofar.byteOffset, sofar.length);
  const length = view.getUint16(4);
  if (view.getUint16(2) !== 0 || length < 3 || length > MOST)
    throw new DeviceError('garbage', 'It sent what is no Modbus message.');
  return sofar.length >= HEADER + length ? HEADER + length : undefined;
};

/**
 * The figure of an answer.
 * @throws DeviceError where it answers another question, or with an exception
 */
export function registerValue(
  answer: Uint8Array,
  transaction: number,
  unit: number,
  { table, isSigned, unitIs }: ModbusRegister,
): number {
  const view = new DataView(answer.buffer, answer.byteOffset, answer.length);
  if (answer.length < HEADER + 3 || view.getUint16(0) !== transaction || view.getUint8(6) !== unit)
    throw new DeviceError('garbage', 'It answered another question.');
  const code = view.getUint8(7);
  if (code === (FUNCTION[table] | FAILED)) {
    const why = EXCEPTIONS[view.getUint8(8)] ?? `gives exception ${view.getUint8(8)}`;
    throw new DeviceError('refused', `It ${why}.`);
  }
  const bytes = BYTES[table];
  if (code !== FUNCTION[table] || view.getUint8(8) !== bytes || answer.length !== HEADER + 3 + bytes)
    throw new DeviceError('garbage', 'It answered another question.');
  if (table === 'discrete') return view.getUint8(9) & 1;
  return (isSigned ? view.getInt16(9) : view.getUint16(9)) * unitIs;
}
