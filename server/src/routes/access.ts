/** To come to the bench and to leave it; who works here, which browsers are the shop's, and who did what. */
import type { Request, Router } from 'express';
import papa from 'papaparse';
import qrcode from 'qrcode';
import type { Badge, Claim, EnrolmentCode } from '@cork-ember/core/access/people.ts';
import {
  accessRuleSchema,
  badgeSchema,
  claimsSchema,
  newPersonSchema,
  ownPinSchema,
  passphraseSchema,
  personChangeSchema,
  signInSchema,
  tabletSchema,
} from '@cork-ember/core/contract/accessSchemas.ts';
import { callerOf, doneBy, giveToken, takeToken } from '../access/callers.ts';
import { NOT_ENROLLED } from '../access/gate.ts';
import { fewTries } from '../access/limits.ts';
import { ProblemError } from '../problems.ts';
import { inWords } from '../services/claimWords.ts';
import type { Access, Locking } from '../services/access.ts';
import { OWN_MACHINE, type NewPerson, type PersonChange } from '../services/people.ts';
import type { Seat } from '../services/sessions.ts';
import { validated } from '../validate.ts';
import { originOf } from './origin.ts';
import type { Services } from './api.ts';

type AccessServices = Pick<Services, 'access' | 'address' | 'jobs' | 'shelf'>;

const THIS_BROWSER = 'this browser';
const THE_DEMO = 'the demo';

function sessionRoutes(router: Router, access: Access): void {
  const { sessions, people } = access;
  const seatOf = (request: Request): Seat | undefined => callerOf(request, access).seat;
  /** How it stands after what was just done. */
  const answer = (token: string | undefined) => {
    const seat = sessions.seat(token);
    return access.answer({ isOpen: false, standing: seat?.person?.role ?? 'tablet', seat });
  };
  /** @throws ProblemError where the browser is not one of the shop's */
  const seated = async (request: Request): Promise<Seat> => {
    const seat = seatOf(request);
    if (seat) return seat;
    const given = access.isDemo ? sessions.seat(await sessions.enrol(THIS_BROWSER, THE_DEMO, '')) : undefined;
    if (given) return given;
    throw new ProblemError('not-signed-in', NOT_ENROLLED);
  };
  router.get('/session', (request, response) => {
    response.json(access.answer(callerOf(request, access)));
  });
  const few = fewTries();
  router.post('/session', few, async (request, response) => {
    const { person, pin } = validated<{ person: string; pin: string }>(signInSchema, request.body);
    const token = await sessions.signIn(await seated(request), person, pin);
    giveToken(request, response, token);
    response.json(answer(token));
  });
  router.post('/session/badge', few, async (request, response) => {
    const { badge } = validated<{ badge: string }>(badgeSchema, request.body);
    const token = await sessions.signInByBadge(await seated(request), badge);
    giveToken(request, response, token);
    response.json(answer(token));
  });
  router.post('/session/passphrase', few, async (request, response) => {
    const { name, passphrase } = validated<{ name: string; passphrase: string }>(
      passphraseSchema,
      request.body,
    );
    const token = await sessions.byPassphrase(name, passphrase);
    giveToken(request, response, token);
    response.json(answer(token));
  });
  // That somebody is there was written down on the way here.
  router.post('/session/touch', (_request, response) => void response.status(204).end());
  router.delete('/session', async (request, response) => {
    const seat = seatOf(request);
    if (seat) await sessions.leave(seat);
    if (seat?.session.way === 'passphrase') takeToken(request, response);
    response.status(204).end();
  });
  router.post('/session/pin', few, async (request, response) => {
    const { old, pin } = validated<{ old: string; pin: string }>(ownPinSchema, request.body);
    const seat = seatOf(request);
    if (!seat?.person)
      throw new ProblemError('not-signed-in', 'Nobody is at the bench whose PIN it could be.');
    const { id, name } = await people.byPin(seat.person.id, old, seat.tablet);
    await people.change(id, { pin }, name);
    await sessions.leaveAll(id);
    const token = await sessions.signIn(seat, id, pin);
    giveToken(request, response, token);
    response.json(answer(token));
  });
  router.post('/tablets', few, async (request, response) => {
    const { code, name } = validated<{ code: string; name: string }>(tabletSchema, request.body);
    const token = await sessions.enrolBy(code, name);
    giveToken(request, response, token);
    response.status(201).json(answer(token));
  });
}

function peopleRoutes(router: Router, { access, address }: AccessServices): void {
  const { sessions, people } = access;
  const byOf = (request: Request): string => doneBy(request, access);
  router.get('/people', (_request, response) => void response.json(people.kept));
  router.post('/people', async (request, response) => {
    const isFirst = !people.isHeld;
    const person = await people.add(validated<NewPerson>(newPersonSchema, request.body), byOf(request));
    // Whoever makes the first lead is that lead, at a browser that is the shop's from now on.
    if (isFirst) giveToken(request, response, await sessions.enrol(OWN_MACHINE, person.name, person.id));
    response.status(201).json(people.kept);
  });
  router.post('/people/:id', async (request, response) => {
    const change = validated<PersonChange>(personChangeSchema, request.body);
    const { id } = await people.change(request.params.id, change, byOf(request));
    if (
      change.pin !== undefined ||
      change.passphrase !== undefined ||
      change.gone ||
      change.role !== undefined
    )
      await sessions.leaveAll(id);
    else if (change.badge !== undefined) await sessions.leaveAll(id, 'badge');
    response.json(people.kept);
  });
  router.post('/people/:id/badge', async (request, response) => {
    const given = await people.giveBadge(request.params.id, byOf(request));
    await sessions.leaveAll(request.params.id, 'badge');
    const picture = await qrcode.toString(given.code, { type: 'svg', margin: 1 });
    response.status(201).json({ ...given, picture } satisfies Badge);
  });
  router.get('/tablets', (_request, response) => void response.json(sessions.list));
  router.post('/tablets/codes', async (request, response) => {
    const given = sessions.giveCode(byOf(request));
    // Behind the #: no server on the way sees it.
    const url = `${originOf(request, address())}/#enrol=${given.code}`;
    const picture = await qrcode.toString(url, { type: 'svg', margin: 1 });
    response.status(201).json({ ...given, url, picture } satisfies EnrolmentCode);
  });
  router.delete('/tablets/:id', async (request, response) => {
    await sessions.forget(request.params.id, byOf(request));
    response.status(204).end();
  });
  router.post('/access', async (request, response) => {
    await access.lock(validated<Locking>(accessRuleSchema, request.body), byOf(request));
    response.json(access.answer(callerOf(request, access)));
  });
}

function claimRoutes(router: Router, { access, jobs, shelf }: AccessServices): void {
  const told = async (): Promise<Claim[]> => inWords(await access.claims.list(), { jobs, shelf });
  router.get('/claims', async (_request, response) => void response.json(await told()));
  router.post('/claims', async (request, response) => {
    const { keys, isMine } = validated<{ keys: string[]; isMine: boolean }>(claimsSchema, request.body);
    const seat = callerOf(request, access).seat;
    if (!seat?.person) throw new ProblemError('not-signed-in', 'Nobody is at the bench whose they could be.');
    await access.claims.settle(keys, isMine, seat.person, seat.tablet);
    response.json(await told());
  });
}

/** As a table: a name that begins like a formula is none. */
const COLUMNS = ['at', 'by', 'tablet', 'kind', 'what'] as const;

function auditRoutes(router: Router, { audit }: Access): void {
  router.get('/audit', async (_request, response) => void response.json(await audit.list()));
  router.get('/audit.csv', async (_request, response) => {
    const rows = (await audit.list()).map((entry) => ({ ...entry, at: new Date(entry.at).toISOString() }));
    response
      .attachment('who-did-what.csv')
      .type('text/csv')
      .send(papa.unparse(rows, { columns: [...COLUMNS], escapeFormulae: true }));
  });
}

export function accessRoutes(router: Router, services: AccessServices): void {
  sessionRoutes(router, services.access);
  peopleRoutes(router, services);
  claimRoutes(router, services);
  auditRoutes(router, services.access);
}
