/** Lines of text as instruments speak them. @see SCPI-99 vol. 1, ch. 7 (numbers that are none); IEEE 488.2, 7.7 and 8.7 */
import { DeviceError, type Framing } from './wire.ts';

/** No answer of a figure or a name is longer. */
const MOST_LINE = 256;
const NEW_LINE = 10;

/** SCPI writes infinity as 9.9E37 and what is not a number as 9.91E37. */
const BEYOND = 9.9e37;

const NUMBER = /^[+-]?(\d+\.?\d*|\.\d+)([eE][+-]?\d{1,3})?$/;

export const lineFraming: Framing = (sofar) => {
  const end = sofar.indexOf(NEW_LINE);
  if (end >= 0) return end + 1;
  if (sofar.length > MOST_LINE)
    throw new DeviceError('garbage', `It sent ${sofar.length} bytes without an end of line.`);
  return undefined;
};

/** Of one that says lines by itself: what was begun before anybody listened is no line. */
export const nextLineFraming: Framing = (sofar) => {
  const first = lineFraming(sofar);
  const second = first === undefined ? undefined : lineFraming(sofar.subarray(first));
  return first === undefined || second === undefined ? undefined : first + second;
};

/** @throws DeviceError where a byte is no printable character */
export function textOf(line: Uint8Array): string {
  for (const byte of line)
    if (byte > 126 || (byte < 32 && byte !== 9 && byte !== 10 && byte !== 13))
      throw new DeviceError('garbage', 'It sent what is no text.');
  return String.fromCharCode(...line).trim();
}

export const bytesOf = (text: string): Uint8Array =>
  Uint8Array.from(text, (letter) => letter.codePointAt(0) ?? 0);

/**
 * A figure an instrument answered; ON and OFF are 1 and 0.
 * @throws DeviceError where it is none, or the instrument says that it is beyond what it can show
 */
export function numberOf(text: string): number {
  if (text === 'ON') return 1;
  if (text === 'OFF') return 0;
  if (!NUMBER.test(text))
    throw new DeviceError('garbage', `It answered “${text.slice(0, 40)}”, which is no figure.`);
  const value = Number(text);
  if (Math.abs(value) >= BEYOND)
    throw new DeviceError('garbage', 'It answered that the figure is beyond its range.');
  return value;
}

/** A command with its figure in place, as many digits as an instrument takes. */
export const commandOf = (template: string, value: number | undefined): string =>
  template.replace('{}', value === undefined ? '' : String(Number(value.toFixed(4))));

/** What SYST:ERR? answers: its number, and words; 0 is nothing. @throws DeviceError where it is no such answer */
export function complaintOf(text: string): string | undefined {
  const [, code, words] = /^([+-]?\d+)\s*,\s*"?([^"]*)"?$/.exec(text) ?? [];
  if (code === undefined)
    throw new DeviceError('garbage', `It answered “${text.slice(0, 40)}”, which is no word of an error.`);
  return Number(code) === 0 ? undefined : (words ?? '');
}
