/** Figures of the running server, as Prometheus reads them. */
import type { RequestHandler } from 'express';
import { collectDefaultMetrics, Gauge, Histogram, Registry } from 'prom-client';
import { elapsedNow } from './clock/realTime.ts';
import { patternOf } from './access/routeRights.ts';

/** Where a shop feels a difference, s. */
const BUCKETS_S = [0.005, 0.02, 0.05, 0.1, 0.2, 0.5, 1, 3, 10];

export interface Metrics {
  /** Counts each call under its route: never a tag, an id or a name. */
  readonly count: RequestHandler;
  text(): Promise<string>;
}

/** @param listeners how many pages listen to the shop */
export function metricsOf(listeners: () => number): Metrics {
  const registry = new Registry();
  collectDefaultMetrics({ register: registry });
  const calls = new Histogram({
    name: 'cork_ember_call_seconds',
    help: 'Calls by route and status',
    labelNames: ['route', 'status'],
    buckets: BUCKETS_S,
    registers: [registry],
  });
  new Gauge({
    name: 'cork_ember_pages',
    help: 'Pages that listen to the shop',
    registers: [registry],
    collect() {
      this.set(listeners());
    },
  });
  return {
    count: (request, response, next) => {
      const began = elapsedNow();
      const path = request.originalUrl.split('?')[0] ?? '';
      response.once('finish', () => {
        const route = patternOf(request.method, path) ?? 'other';
        calls.observe({ route, status: response.statusCode }, (elapsedNow() - began) / 1000);
      });
      next();
    },
    text: () => registry.metrics(),
  };
}
