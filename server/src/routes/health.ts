/** For whoever looks after the machine: how the shop is, and its figures. Details are told on the machine itself, and to a lead. */
import { Router } from 'express';
import { callerOf, isOwnMachine } from '../access/callers.ts';
import type { Metrics } from '../metrics.ts';
import { ProblemError } from '../problems.ts';
import type { Access } from '../services/access.ts';
import { healthOf } from '../services/health.ts';

type HealthNeed = Parameters<typeof healthOf>[0];

const ILL = 503;

export function healthRoutes(need: HealthNeed, metrics: Metrics, access: Access): Router {
  const router = Router();
  router.get('/healthz', async (request, response) => {
    const health = await healthOf(need);
    const isTold = isOwnMachine(request) || callerOf(request, access).standing === 'lead';
    const said = isTold ? health : { state: health.state };
    response.status(health.state === 'ill' ? ILL : 200).json(said);
  });
  router.get('/metrics', async (request, response) => {
    if (!isOwnMachine(request))
      throw new ProblemError('not-allowed', 'Figures of the server are read on its own machine.');
    response.type('text/plain').send(await metrics.text());
  });
  return router;
}
