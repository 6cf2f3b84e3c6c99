/** The one place every call passes: who may, who may not, and under whose name it is done. */
import type { Request, RequestHandler } from 'express';
import { badgeRefusal, mayDo, refusalOf, type Right } from '@cork-ember/core/access/rights.ts';
import { ProblemError } from '../problems.ts';
import type { Access } from '../services/access.ts';
import { callerOf, isOwnMachine } from './callers.ts';
import { rightOfRoute } from './routeRights.ts';

export const NOT_ENROLLED =
  'This browser is not one of the shop’s: a lead enrols it under Setup, People, or comes in by name and passphrase.';
const NOBODY_HERE = 'Nobody is at the bench: say who you are with your PIN. What you typed is kept.';
const NOT_HELD =
  'Nobody has a PIN in this shop yet, so nothing is recorded over the network: add a lead under Setup, People, on the machine it runs on.';

const READS: readonly Right[] = ['arrive', 'read', 'print'];

/**
 * What a call asks for beyond its route, once what it says was checked.
 * @throws ProblemError where whoever asks may not
 */
export async function assertMay(request: Request, right: Right, access: Access): Promise<void> {
  const { isOpen, standing, seat } = callerOf(request, access);
  if (isOpen) {
    if (access.isDemo || READS.includes(right) || isOwnMachine(request)) return;
    throw new ProblemError('not-allowed', NOT_HELD);
  }
  if (mayDo(standing, right)) return;
  if (!seat) throw new ProblemError('not-signed-in', NOT_ENROLLED);
  if (!seat.person) throw new ProblemError('not-signed-in', NOBODY_HERE);
  const { name } = seat.person;
  await access.audit.note('refused', name, `${request.method} ${request.path}`, seat.tablet);
  const isLeadByBadge = seat.isLessByBadge && mayDo('lead', right);
  throw new ProblemError(
    'not-allowed',
    isLeadByBadge ? badgeRefusal(right, name) : refusalOf(right, name, access.people.leads),
  );
}

/** Stands before every route. */
export function gate(access: Access): RequestHandler {
  return async (request, _response, next) => {
    const right = rightOfRoute(request.method, `${request.baseUrl}${request.path}`);
    if (right === undefined) throw new ProblemError('not-found', `There is nothing at ${request.path}.`);
    await assertMay(request, right, access);
    const { seat } = callerOf(request, access);
    if (seat && request.method !== 'GET' && request.method !== 'HEAD') await access.sessions.touch(seat);
    next();
  };
}

interface Said {
  by?: unknown;
  readonly enteredAt?: unknown;
  readonly requestKey?: unknown;
  readonly batteries?: unknown;
}

/** Keys of what a body would record. */
function keysOf({ requestKey, batteries }: Said): string[] {
  const several: readonly unknown[] = Array.isArray(batteries) ? batteries : [];
  const all = [requestKey, ...several.map((one) => (one as Said | null)?.requestKey)];
  return all.filter((key) => typeof key === 'string');
}

/**
 * Once a body was read: under whose name it is done. A name is the session's, whatever the body says; one that had to wait
 * for the server keeps the name its browser knew, and is marked as somebody's word until that name is proven.
 */
export function named(access: Access): RequestHandler {
  return async (request, _response, next) => {
    const body: unknown = request.body;
    if (typeof body !== 'object' || body === null) {
      next();
      return;
    }
    const said = body as Said;
    const { isOpen, seat } = callerOf(request, access);
    if (!isOpen && seat?.person && 'by' in said) {
      const waited =
        said.enteredAt !== undefined && typeof said.by === 'string'
          ? access.people.named(said.by)
          : undefined;
      const { name } = seat.person;
      said.by = (waited ?? seat.person).name;
      if (waited && waited.name !== name)
        for (const key of keysOf(said))
          await access.claims.take({ key, by: waited.name, sentBy: name, tablet: seat.tablet });
    }
    next();
  };
}
