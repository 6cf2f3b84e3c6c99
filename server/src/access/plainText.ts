/** Lets nothing through that no keyboard types: control characters, and addresses that do not decode. */
import type { RequestHandler } from 'express';
import { ProblemError } from '../problems.ts';

/** All of them but tab and the ends of a line. */
const CONTROL = /[^\P{Cc}\t\n\r\u0080-\u009f]/u;

/** Deeper than anything the shop takes. */
const DEEPEST = 40;

function isPlain(value: unknown, depth = 0): boolean {
  if (typeof value === 'string') return !CONTROL.test(value);
  if (typeof value !== 'object' || value === null) return true;
  if (depth > DEEPEST) return false;
  return Object.entries(value).every(([key, one]) => isPlain(key) && isPlain(one, depth + 1));
}

/** Of an address, before anything looks at it. */
export const plainAddress: RequestHandler = (request, _response, next) => {
  if (!isPlain(decodeURIComponent(request.originalUrl.replaceAll('+', ' '))))
    throw new ProblemError('bad-input', 'The address: no control characters, please.');
  next();
};

/** Of a body, once it was read. */
export const plainBody: RequestHandler = (request, _response, next) => {
  if (!Buffer.isBuffer(request.body) && !isPlain(request.body))
    throw new ProblemError('bad-input', 'What was typed: no control characters, please.');
  next();
};
