/**
 * Names the shop answers to. A page of a foreign name that points at this machine could write here as if it were the
 * shop's own (DNS rebinding); so what comes under another name, or from a page of another, is turned away.
 */
import type { RequestHandler } from 'express';
import { isIP } from 'node:net';
import { ProblemError } from './problems.ts';

/** What routers of a home or a shop call a machine by. */
const LOCAL_SUFFIXES = ['', '.local', '.lan', '.home', '.internal', '.home.arpa'] as const;

/** "shop.local" of "shop.local:4180"; an address of IPv6 without its brackets. */
export function nameOf(host: string): string {
  const bracketed = /^\[([^\]]+)\]/.exec(host)?.[1];
  return (bracketed ?? host.replace(/:\d+$/, '')).toLowerCase();
}

/**
 * Names the shop is called by: this machine's own, as routers make them, and those it was given.
 * @param machine this machine's own name
 * @param names more that the shop is called by
 */
export function knownNames(machine: string, names: readonly string[]): readonly string[] {
  const own = machine.toLowerCase().split('.')[0] ?? '';
  return [
    ...new Set([
      'localhost',
      machine.toLowerCase(),
      ...LOCAL_SUFFIXES.map((suffix) => `${own}${suffix}`),
      ...names.map((name) => name.toLowerCase()).filter((name) => name !== ''),
    ]),
  ];
}

/** @param names as {@link knownNames} gives them */
export function onlyKnownNames(names: readonly string[]): RequestHandler {
  const known = new Set(names);
  const isKnown = (host: string): boolean => {
    const name = nameOf(host);
    // An address is this machine's own: nobody can point it elsewhere.
    return isIP(name) !== 0 || known.has(name);
  };
  return (request, _response, next) => {
    const { host = '', origin } = request.headers;
    if (!isKnown(host))
      throw new ProblemError(
        'wrong-name',
        `This shop does not answer to “${nameOf(host)}”: open it by its address, or start it with CORK_EMBER_NAMES=${nameOf(host)}.`,
      );
    const isOurs =
      origin === undefined || (URL.canParse(origin) && new URL(origin).host === host.toLowerCase());
    if (!isOurs)
      throw new ProblemError('wrong-name', 'A page of another name may not ask this shop for anything.');
    next();
  };
}
