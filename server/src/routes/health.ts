/** For whoever looks after the machine: how the shop is, and its figures. Details stay on the machine itself. */
import { Router } from 'express';
import { isOwnMachine } from '../access/callers.ts';
import type { Metrics } from '../metrics.ts';
import { ProblemError } from '../problems.ts';
import { healthOf } from '../services/health.ts';

type HealthNeed = Parameters<typeof healthOf>[0];

const ILL = 503;

export function healthRoutes(need: HealthNeed, metrics: Metrics): Router {
  const router = Router();
  router.get('/healthz', async (request, response) => {
    const health = await healthOf(need);
    const said = isOwnMachine(request) ? health : { state: health.state };
    response.status(health.state === 'ill' ? ILL : 200).json(said);
  });
  router.get('/metrics', async (request, response) => {
    if (!isOwnMachine(request))
      throw new ProblemError('not-allowed', 'Figures of the server are read on its own machine.');
    response.type('text/plain').send(await metrics.text());
  });
  return router;
}
