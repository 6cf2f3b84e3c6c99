/** How this browser stands in the shop, and who is at it. */
import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef } from 'react';
import type { Claim, SessionAnswer } from '@cork-ember/core/access/people.ts';
import { badgeRefusal, mayDo, refusalOf, type Right } from '@cork-ember/core/access/rights.ts';
import { ask, revoke, whenTurnedAway } from './client.ts';
import { setPerson } from './person.ts';
import { forgetAnswers } from '../store/answers.ts';
import { flush } from '../store/outbox.ts';
import { onNews } from './news.ts';
import { queryClient } from './queries.ts';
import { realNow } from './realTime.ts';

const SESSION = ['session'] as const;
const PATH = '/api/session';

whenTurnedAway(refreshSession);

/** Undefined until the server has said, or while it is away. */
export function useSession(): SessionAnswer | undefined {
  return useQuery({ queryKey: SESSION, queryFn: () => ask<SessionAnswer>(PATH) }).data;
}

/** Whether whoever is here may; until the server has said, and where names are only said, everybody may. */
export function useMay(right: Right): boolean {
  const session = useSession();
  return session === undefined || session.rights.includes(right);
}

/**
 * Refuses before anything is shown as done: a form that had gone would have taken along what was typed in it.
 * @throws Error whose message is the sentence to show
 */
export function assertMay(right: Right): void {
  const session = queryClient.getQueryData<SessionAnswer>(SESSION);
  if (!session?.person || session.rights.includes(right)) return;
  throw new Error(refusalHere(right, session, session.person.name));
}

/** Why whoever is here may not. */
function refusalHere(right: Right, session: SessionAnswer, name: string): string {
  return session.isByBadge && mayDo('lead', right)
    ? badgeRefusal(right, name)
    : refusalOf(right, name, leadsOf(session));
}

/** Names of those who lead this shop, as far as this browser is told. */
export const leadsOf = ({ people }: SessionAnswer): readonly string[] =>
  people.filter(({ role }) => role === 'lead').map(({ name }) => name);

function take(session: SessionAnswer): void {
  // At once: what waits goes under whoever is here from now on.
  if (session.person) setPerson(session.person.name);
  queryClient.setQueryData(SESSION, session);
}

/** @throws Refusal for a wrong PIN, ServerAway */
export async function signIn(person: string, pin: string): Promise<void> {
  take(await ask<SessionAnswer>(PATH, { person, pin }));
  // What waited for somebody to be there goes now.
  void flush();
}

/** @throws Refusal for a badge that is nobody's, ServerAway */
export async function signInByBadge(badge: string): Promise<void> {
  take(await ask<SessionAnswer>(`${PATH}/badge`, { badge }));
  void flush();
}

/** A new PIN for whoever is here, against the one of now. @throws Refusal where that is wrong, or the new one is not taken */
export async function changePin(old: string, pin: string): Promise<void> {
  take(await ask<SessionAnswer>(`${PATH}/pin`, { old, pin }));
}

const CLAIMS = ['claims'] as const;
const CLAIMS_PATH = '/api/claims';

/** Entries under a name nobody proved yet. */
export function useClaims(): readonly Claim[] {
  const session = useSession();
  const isAsked = session?.mode === 'held' && session.tablet !== undefined && session.secure === undefined;
  const { data } = useQuery({
    queryKey: CLAIMS,
    queryFn: () => ask<readonly Claim[]>(CLAIMS_PATH),
    enabled: isAsked,
  });
  return (isAsked ? data : undefined) ?? NO_CLAIMS;
}

const NO_CLAIMS: readonly Claim[] = [];

/** Says of such entries whether they are one's own. @throws Refusal, ServerAway */
export async function settleClaims(keys: readonly string[], isMine: boolean): Promise<void> {
  queryClient.setQueryData(CLAIMS, await ask<readonly Claim[]>(CLAIMS_PATH, { keys, isMine }));
}

// Only what had to wait may be under a name that was not proven.
onNews(({ event: { at, recordedAt = at } }) => {
  if (recordedAt > at) void queryClient.invalidateQueries({ queryKey: CLAIMS });
});

/** Asks anew how this browser stands. */
export function refreshSession(): void {
  void queryClient.invalidateQueries({ queryKey: SESSION });
}

/** Nobody is at it any more. */
export async function leaveBench(): Promise<void> {
  await revoke(PATH);
  await queryClient.invalidateQueries({ queryKey: SESSION });
}

const MINUTE_MS = 60_000;
/** That somebody is still there is told this often while they are. */
const TELL_MS = 45_000;
const LOOK_MS = 5000;
const TOUCHES = ['pointerdown', 'keydown', 'wheel'] as const;

/**
 * Keeps the name this browser knows as the server has it, tells the server that somebody is still there, and leaves the bench where
 * nobody touched it for as long as the shop says, or where a battery's page was left and the shop wants that. What is typed stays where it is.
 * @param battery whose page is open
 */
export function useSeat(session: SessionAnswer | undefined, battery: string | undefined): void {
  const isHeld = session?.mode === 'held';
  const name = session?.person?.name;
  const locksAfterMs = (session?.locksAfterMin ?? 0) * MINUTE_MS;
  const isStrange = isHeld && session.tablet === undefined;
  useEffect(() => {
    if (isHeld) setPerson(name ?? '');
  }, [isHeld, name]);
  useEffect(() => {
    // Customers' names among it: what was read here is no business of a browser that was let go.
    if (isStrange) void forgetAnswers().catch(() => undefined);
  }, [isStrange]);
  const isLeft = battery === undefined && session?.locksOnLeaving === true;
  const wasOpen = useRef(false);
  useEffect(() => {
    if (isLeft && wasOpen.current && isHeld && name !== undefined) void leaveBench().catch(() => undefined);
    wasOpen.current = battery !== undefined;
  }, [battery, isLeft, isHeld, name]);
  useEffect(() => {
    if (!isHeld || name === undefined) return undefined;
    let [touchedAt, toldAt] = [realNow(), realNow()];
    const touched = (): void => {
      touchedAt = realNow();
      if (touchedAt - toldAt < TELL_MS) return;
      toldAt = touchedAt;
      void fetch(`${PATH}/touch`, { method: 'POST' }).catch(() => undefined);
    };
    const look = setInterval(() => {
      if (realNow() - touchedAt >= locksAfterMs) void leaveBench().catch(() => setPerson(''));
    }, LOOK_MS);
    for (const kind of TOUCHES) addEventListener(kind, touched, { passive: true });
    return () => {
      clearInterval(look);
      for (const kind of TOUCHES) removeEventListener(kind, touched);
    };
  }, [isHeld, name, locksAfterMs]);
}
