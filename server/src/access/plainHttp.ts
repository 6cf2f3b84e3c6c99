/**
 * Over the network the shop is reached by https. Plain http answers what whoever has a paper in hand, or is only about to trust the shop,
 * asks for; everything else is led on to https. Where a network is trusted all of it may be left open, by choice.
 */
import type { Request, RequestHandler } from 'express';
import { nameOf } from '../hosts.ts';
import { ProblemError } from '../problems.ts';
import type { Trust } from '../routes/trust.ts';
import { isOwnMachine } from './callers.ts';
import { patternOf } from './routeRights.ts';

/** Phones of customers and calendar programs trust no authority of a shop. */
const OPEN_CALLS: readonly string[] = [
  'GET /api/check/{code}',
  'GET /api/feeds/{secret}.ics',
  'GET /api/openapi.json',
  'GET /api/session',
  'GET /api/trust',
  'GET /api/trust/authority.crt',
];
const OPEN_PAGES = /^\/(check|trust|assets)(\/|$)|\.\w+$/;

/** Kept as it is asked for: a POST stays one. */
const ELSEWHERE = 307;

const secureOf = ({ headers: { host = '' } }: Request, port: number): string => {
  const name = nameOf(host);
  return `https://${name.includes(':') ? `[${name}]` : name}:${port}`;
};

/**
 * @param trust where https answers; none where it does not
 * @param isLeftOpen whether plain http answers everything, on a network that is trusted
 */
export function plainHttp(trust: () => Trust | undefined, isLeftOpen: boolean): RequestHandler {
  return (request, response, next) => {
    const port = trust()?.port;
    if (port === undefined || isLeftOpen || request.secure || isOwnMachine(request)) {
      next();
      return;
    }
    const secure = secureOf(request, port);
    if (request.path.startsWith('/api/')) {
      if (!OPEN_CALLS.includes(patternOf(request.method, request.path) ?? ''))
        throw new ProblemError(
          'not-allowed',
          `Over the network the shop is asked on https alone: open ${secure}; how a tablet comes to trust it stands at /trust.`,
        );
      // The page learns of it, and does not take what it is refused for a server that is away.
      response.locals['secure'] = secure;
      next();
      return;
    }
    if (OPEN_PAGES.test(request.path)) next();
    else response.redirect(ELSEWHERE, `${secure}${request.originalUrl}`);
  };
}
