/** The Express application: security headers, JSON in, problems out, and the built interface. */
import { existsSync } from 'node:fs';
import type { IncomingMessage } from 'node:http';
import { join } from 'node:path';
import compression from 'compression';
import express, { type Express } from 'express';
import staticGzip from 'express-static-gzip';
import helmet from 'helmet';
import type { Logger } from 'pino';
import { pinoHttp } from 'pino-http';
import { gate, named } from './access/gate.ts';
import { fewCalls } from './access/limits.ts';
import { trustRoutes, type Trust } from './routes/trust.ts';
import { nameOf, onlyKnownNames } from './hosts.ts';
import { problemHandler, unknownRoute } from './problems.ts';
import { apiRoutes, type Services } from './routes/api.ts';
import { jobFileRoutes } from './routes/jobFile.ts';

export interface AppOptions {
  readonly log: Logger;
  /** Names the shop is called by. */
  readonly names: readonly string[];
  /** How tablets come to trust its https; none where it answers to this machine alone. */
  readonly trust: () => Trust | undefined;
  /** Folder of the built interface; without it only the API answers. */
  readonly webRoot?: string;
}

/**
 * Fonts and styles come from here alone; charts and cords set inline styles. A page on http may ask the same shop on https
 * whether this tablet trusts it yet, and nobody else.
 */
function contentSecurity(trust: () => Trust | undefined) {
  const onHttps = ({ headers: { host = '' } }: IncomingMessage): string => {
    const port = trust()?.port;
    return port === undefined ? "'self'" : `https://${nameOf(host)}:${port}`;
  };
  return {
    directives: {
      defaultSrc: ["'self'"],
      styleSrc: ["'self'", "'unsafe-inline'"],
      imgSrc: ["'self'", 'data:'],
      connectSrc: ["'self'", onHttps],
      upgradeInsecureRequests: null,
    },
  };
}

export function createApp(services: Services, { log, webRoot, names, trust }: AppOptions): Express {
  const app = express();
  app.disable('x-powered-by');
  // Changes are pushed over the stream; hashing every answer would only cost.
  app.disable('etag');
  app.use(onlyKnownNames(names));
  app.use(
    helmet({
      contentSecurityPolicy: contentSecurity(trust),
      // These count on https alone; on a shop's plain http a browser only complains of them.
      strictTransportSecurity: false,
      crossOriginOpenerPolicy: false,
      originAgentCluster: false,
    }),
  );
  if (log.isLevelEnabled('info'))
    app.use(pinoHttp({ logger: log, autoLogging: { ignore: (request) => request.method === 'GET' } }));
  // A stream is pushed on line by line; what is squeezed would wait for more.
  app.use('/api', compression({ filter: (request) => request.path !== '/stream' }));
  app.use('/api', fewCalls(), gate(services.access));
  app.use('/api', trustRoutes(trust));
  app.use('/api', jobFileRoutes(services));
  app.use('/api', express.json({ limit: '1mb' }), named(services.access), apiRoutes(services), unknownRoute);
  if (webRoot !== undefined && existsSync(join(webRoot, 'index.html'))) {
    app.use(
      '/assets',
      // Scripts and styles were compressed when they were built.
      staticGzip(join(webRoot, 'assets'), {
        enableBrotli: true,
        orderPreference: ['br', 'gz'],
        serveStatic: { immutable: true, maxAge: '1y' },
      }),
      unknownRoute,
    );
    app.use(express.static(webRoot, { index: false }));
    app.get('/{*path}', (_request, response) => void response.sendFile(join(webRoot, 'index.html')));
  }
  app.use(problemHandler(log));
  return app;
}
