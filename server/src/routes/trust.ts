/** How a tablet comes to trust the shop's https: where it answers, and the authority's certificate to take in. */
import { Router } from 'express';
import type { TrustAnswer } from '@cork-ember/core/contract/answers.ts';
import { ProblemError } from '../problems.ts';
import { derOf, fingerprintOf } from '../tls/httpsKeys.ts';

export interface Trust {
  readonly port: number;
  /** PEM; none where the shop has a certificate of its own, which tablets trust already. */
  readonly authority?: string;
}

export function trustRoutes(trust: () => Trust | undefined): Router {
  const router = Router();
  router.get('/trust', (_request, response) => {
    const now = trust();
    const answer: TrustAnswer = {
      port: now?.port ?? null,
      fingerprint: now?.authority === undefined ? null : fingerprintOf(now.authority),
    };
    response.json(answer);
  });
  router.get('/trust/authority.crt', (_request, response) => {
    const authority = trust()?.authority;
    if (authority === undefined)
      throw new ProblemError('not-found', 'This shop has no authority of its own to trust.');
    response.attachment('cork-ember.crt').type('application/x-x509-ca-cert').send(derOf(authority));
  });
  return router;
}
