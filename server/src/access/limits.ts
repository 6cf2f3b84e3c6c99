/** How much one address may ask for: tries to come in, and calls altogether. */
import type { Request, RequestHandler } from 'express';
import { rateLimit } from 'express-rate-limit';
import { ProblemError } from '../problems.ts';
import { isOwnMachine } from './callers.ts';

const MINUTE_MS = 60_000;
/** Tries that failed, of one address in a minute: no shop mistypes so often. */
export const MOST_TRIES = 30;
/** Calls of one address of the network in a minute: twenty busy pages, and more than a person can press. */
const MOST_CALLS = 3000;

/** Whatever a header claims, an address is the one that connected. */
const USUAL = {
  windowMs: MINUTE_MS,
  legacyHeaders: false,
  standardHeaders: 'draft-8',
  validate: { xForwardedForHeader: false },
} as const;

const refuse = (said: string) => (): void => {
  throw new ProblemError('slow-down', said);
};

/**
 * Stands before each way in.
 * @param isProven whether a call needs not be counted: what comes forty at once would be, until each is answered
 */
export const fewTries = (
  isProven: (request: Request) => Promise<boolean> | boolean = () => false,
): RequestHandler =>
  rateLimit({
    ...USUAL,
    skip: isProven,
    limit: MOST_TRIES,
    skipSuccessfulRequests: true,
    handler: refuse(`More than ${MOST_TRIES} tries from this address failed within a minute: wait one.`),
  });

/** Stands before everything; the shop's own machine is not counted. */
export const fewCalls = (): RequestHandler =>
  rateLimit({
    ...USUAL,
    limit: MOST_CALLS,
    skip: (request: Request) => isOwnMachine(request),
    handler: refuse(`More than ${MOST_CALLS} calls from this address within a minute: wait one.`),
  });
