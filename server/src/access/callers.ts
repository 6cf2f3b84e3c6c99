/** Who asks: by the token of their browser, and by where they ask from. */
import { parse } from 'cookie';
import type { CookieOptions, Request, Response } from 'express';
import type { Standing } from '@cork-ember/core/access/rights.ts';
import type { Access } from '../services/access.ts';
import { OWN_MACHINE } from '../services/people.ts';
import type { Seat } from '../services/sessions.ts';

/** Open: names are said, not proven. */
export interface Caller {
  readonly isOpen: boolean;
  readonly standing: Standing;
  readonly seat: Seat | undefined;
}

/** As long as browsers keep one at most. */
const KEPT_MS = 400 * 86_400_000;

/** A cookie is sent to every port of a name: two shops on one machine have two. */
function cookieName({ secure, socket }: Request): string {
  const name = `ember-${socket.localPort ?? 0}`;
  return secure ? `__Host-${name}` : name;
}

const optionsOf = ({ secure }: Request): CookieOptions => ({
  httpOnly: true,
  sameSite: 'strict',
  secure,
  path: '/',
});

function tokenOf(request: Request): string | undefined {
  return parse(request.headers.cookie ?? '')[cookieName(request)];
}

export function giveToken(request: Request, response: Response, token: string): void {
  response.cookie(cookieName(request), token, { ...optionsOf(request), maxAge: KEPT_MS });
}

export function takeToken(request: Request, response: Response): void {
  response.clearCookie(cookieName(request), optionsOf(request));
}

const OWN: readonly string[] = ['127.0.0.1', '::1', '::ffff:127.0.0.1'];

/** Whether it comes from the very machine the shop runs on, and through nobody. */
export function isOwnMachine({ socket, headers }: Request): boolean {
  const isPassedOn = headers.forwarded !== undefined || headers['x-forwarded-for'] !== undefined;
  return !isPassedOn && OWN.includes(socket.remoteAddress ?? '');
}

const CALLERS = new WeakMap<Request, Caller>();

export function callerOf(request: Request, { people, sessions, isDemo }: Access): Caller {
  const known = CALLERS.get(request);
  if (known) return known;
  const seat = sessions.seat(tokenOf(request));
  const caller: Caller = {
    // In a demo nothing is in the way of whoever has not come to its bench by a PIN.
    isOpen: !people.isHeld || (isDemo && !seat),
    standing: seat ? (seat.person?.role ?? 'tablet') : 'nobody',
    seat,
  };
  CALLERS.set(request, caller);
  return caller;
}

/** Under whose name something is done that asks for no name of its own. */
export const doneBy = (request: Request, access: Access): string =>
  callerOf(request, access).seat?.person?.name ?? OWN_MACHINE;

/** Whether who asked may go on listening: while names are only said, or the browser is one of the shop's. */
export function listensBy(access: Access): (request: Request) => () => boolean {
  return (request) => {
    const { isOpen, seat } = callerOf(request, access);
    return () => (seat ? access.sessions.stands(seat) : isOpen && (access.isDemo || !access.people.isHeld));
  };
}
