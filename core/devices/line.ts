/** Figures in plain lines, as scales and meters with a serial port say them. */
import type { LineFigure } from './profile.ts';
import { DeviceError } from './wire.ts';

const FIRST_NUMBER = /[+-]? *\d+(?:[.,]\d+)?/;

/**
 * The figure of a line: the first number after its words. Some write a sign apart from its number, and some a comma.
 * @throws DeviceError where the words or the number are missing
 */
export function figureIn(line: string, { after, unitIs }: LineFigure): number {
  const from = line.indexOf(after);
  const [number] = (from < 0 ? undefined : FIRST_NUMBER.exec(line.slice(from + after.length))) ?? [];
  if (number === undefined)
    throw new DeviceError(
      'garbage',
      `It said “${line.slice(0, 40)}”, and no figure${after === '' ? '' : ` after “${after}”`}.`,
    );
  return Number(number.replace(/ +/, '').replace(',', '.')) * unitIs;
}
