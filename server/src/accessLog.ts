/** One line for each call that changes, prints or takes something away: who, from where, what came of it, how long it took. */
import { randomUUID } from 'node:crypto';
import type { Request, RequestHandler } from 'express';
import type { Logger } from 'pino';
import { pinoHttp } from 'pino-http';
import { callerOf } from './access/callers.ts';
import { rightOfRoute } from './access/routeRights.ts';
import type { Access } from './services/access.ts';

/** What is merely looked at is not written down: a bench is looked at all day. */
function isLookedAt({ method, originalUrl }: Pick<Request, 'method' | 'originalUrl'>): boolean {
  const right = rightOfRoute(method, originalUrl.split('?')[0] ?? '');
  return (
    (method === 'GET' || method === 'HEAD') && (right === 'read' || right === 'arrive' || right === undefined)
  );
}

/**
 * Gives each call a number, which its answer carries too, and writes it down. Neither cookies nor bodies go into the log.
 * @returns undefined where nothing is to be logged
 */
export function accessLog(log: Logger, access: Access): RequestHandler | undefined {
  if (!log.isLevelEnabled('info')) return undefined;
  return pinoHttp<Request>({
    logger: log,
    genReqId: (_request, response) => {
      const id = randomUUID();
      response.setHeader('x-request-id', id);
      return id;
    },
    autoLogging: { ignore: isLookedAt },
    serializers: {
      req: ({ id, method, url }: { id: string; method: string; url: string }) => ({ id, method, url }),
      res: ({ statusCode }: { statusCode: number }) => ({ statusCode }),
    },
    customProps: (request) => {
      const { seat } = callerOf(request, access);
      return { by: seat?.person?.name ?? '', tablet: seat?.tablet ?? '', from: request.socket.remoteAddress };
    },
  });
}
