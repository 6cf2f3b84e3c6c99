/** The Express application: security headers, JSON in, problems out, and the built interface. */
import { existsSync } from 'node:fs';
import type { IncomingMessage } from 'node:http';
import { join } from 'node:path';
import compression from 'compression';
import express, { type Express, type RequestHandler } from 'express';
import staticGzip from 'express-static-gzip';
import helmet from 'helmet';
import type { Logger } from 'pino';
import { gate, named } from './access/gate.ts';
import { fewCalls } from './access/limits.ts';
import { plainHttp } from './access/plainHttp.ts';
import { plainAddress, plainBody } from './access/plainText.ts';
import { trustRoutes, type Trust } from './routes/trust.ts';
import { healthRoutes } from './routes/health.ts';
import { accessLog } from './accessLog.ts';
import { metricsOf } from './metrics.ts';
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
  /** Whether plain http answers everything over the network, where https does too. */
  readonly isPlainOpen: boolean;
  /** What is looked at to say how the shop is. */
  readonly health: Parameters<typeof healthRoutes>[0];
  /** Folder of the built interface; without it only the API answers. */
  readonly webRoot?: string;
}

/**
 * Rules two packages of the page lay down by themselves, by their hash: what a toast looks like, and that nothing scrolls behind a
 * dialog. The browser tests fail on any other.
 */
const STYLES_OF_PACKAGES: readonly string[] = [
  // A rule sheet before anything is written into it.
  "'sha256-47DEQpj8HBSa+/TImW+5JCeuQeRkm5NMpJWZG3hSuFU='",
  "'sha256-StEaX+se6YS7pqjzrzMIA0KaX9zF/8zAhvQXZAe5epY='",
  "'sha256-nzTgYzXYDNe6BAHiiI7NNlfK8n/auuOAhh2t92YvuXo='",
];

/**
 * Everything comes from here alone, styles but those named here too. A page on http may ask the same shop on https
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
      styleSrc: ["'self'", ...STYLES_OF_PACKAGES],
      scriptSrc: ["'self'"],
      scriptSrcAttr: ["'none'"],
      fontSrc: ["'self'"],
      objectSrc: ["'none'"],
      baseUri: ["'self'"],
      formAction: ["'self'"],
      frameAncestors: ["'none'"],
      imgSrc: ["'self'", 'data:'],
      connectSrc: ["'self'", onHttps],
      upgradeInsecureRequests: null,
    },
  };
}

/** Who has what battery is for no cache on the way, nor for the browser's own; what may be kept says so itself. */
const keptNowhere: RequestHandler = (_request, response, next) => {
  response.set('cache-control', 'no-store');
  next();
};

export function createApp(
  services: Services,
  { log, webRoot, names, trust, health, isPlainOpen }: AppOptions,
): Express {
  const app = express();
  app.disable('x-powered-by');
  // Changes are pushed over the stream; hashing every answer would only cost.
  app.disable('etag');
  app.use(onlyKnownNames(names), plainAddress, plainHttp(trust, isPlainOpen));
  app.use(
    helmet({
      contentSecurityPolicy: contentSecurity(trust),
      // These count on https alone; on a shop's plain http a browser only complains of them.
      strictTransportSecurity: false,
      crossOriginOpenerPolicy: false,
      originAgentCluster: false,
    }),
  );
  const logged = accessLog(log, services.access);
  if (logged) app.use('/api', logged);
  const metrics = metricsOf(() => services.stream.count);
  app.use(metrics.count, healthRoutes(health, metrics, services.access));
  // A stream is pushed on line by line; what is squeezed would wait for more.
  app.use('/api', compression({ filter: (request) => request.path !== '/stream' }));
  app.use('/api', keptNowhere, fewCalls(), gate(services.access));
  app.use('/api', trustRoutes(trust));
  app.use('/api', jobFileRoutes(services));
  app.use(
    '/api',
    express.json({ limit: '1mb' }),
    plainBody,
    named(services.access),
    apiRoutes(services),
    unknownRoute,
  );
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
