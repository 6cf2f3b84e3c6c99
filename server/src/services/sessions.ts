/** Browsers the shop knows, and who is at which. What a browser holds is a token; the shop keeps its hash alone. */
import { createHash, randomBytes, randomInt, randomUUID } from 'node:crypto';
import type { EnrolmentCode, Person, Tablet } from '@cork-ember/core/access/people.ts';
import { byBadge } from '@cork-ember/core/access/rights.ts';
import { ProblemError } from '../problems.ts';
import type { Proof } from '../store/accessModels.ts';
import type { AccessStore, Session } from '../store/accessStore.ts';
import type { Audit } from './audit.ts';
import type { People } from './people.ts';

const MINUTE_MS = 60_000;
/** One that came in by a passphrase goes out again after so long, whatever is done. */
const PASSPHRASE_MS = 12 * 60 * MINUTE_MS;
/** A one-time code is good for so long, min. */
const CODE_MIN = 10;
/** Letters nobody takes for one another, and how many make a code: 32^10 of them. */
const LETTERS = 'ABCDEFGHJKLMNPQRSTUVWXYZ23456789';
const CODE_LENGTH = 10;
/** A touch is written down at most this often: nobody is locked out later than by so much. */
const TOUCH_MS = 30_000;

/** Who a browser is, and who is at it. */
export interface Seat {
  readonly session: Session;
  /** Its name in the shop; one that came by a passphrase has none. */
  readonly tablet: string;
  readonly person: Person | undefined;
  /** A lead, if a PIN were shown. */
  readonly isLessByBadge: boolean;
}

interface SessionsNeed {
  readonly store: AccessStore;
  readonly audit: Audit;
  readonly people: People;
  readonly locksAfterMin: () => number;
  readonly shopNow: () => number;
  /** Real time, ms. */
  readonly now: () => number;
}

const hashOf = (token: string): string => createHash('sha256').update(token).digest('hex');
const newToken = (): string => randomBytes(32).toString('base64url');
const BY_PASSPHRASE = 'by passphrase';

/** As what somebody stands there, by what they showed. */
function standingAt({ proof }: Session, person: Person | undefined): Pick<Seat, 'person' | 'isLessByBadge'> {
  if (!person || proof === 'pin') return { person, isLessByBadge: false };
  const role = byBadge(person.role);
  return { person: { ...person, role }, isLessByBadge: role !== person.role };
}

export class Sessions {
  private readonly need: SessionsNeed;
  private readonly sessions = new Map<string, Session>();
  private readonly tablets = new Map<string, Tablet>();
  /** Codes that were given out and not used, with the moment they end at. */
  private readonly codes = new Map<string, { readonly untilMs: number; readonly by: string }>();

  constructor(need: SessionsNeed) {
    this.need = need;
  }

  async load(): Promise<void> {
    for (const tablet of await this.need.store.tablets()) this.tablets.set(tablet.id, tablet);
    for (const session of await this.need.store.sessions()) this.sessions.set(session.hash, session);
  }

  get list(): readonly Tablet[] {
    return [...this.tablets.values()];
  }

  /** Who holds a token, as it stands now; undefined where it is nobody's, or no more. */
  seat(token: string | undefined): Seat | undefined {
    const session = token === undefined ? undefined : this.sessions.get(hashOf(token));
    if (!session) return undefined;
    const { now, people, locksAfterMin } = this.need;
    if (session.way === 'passphrase' && now() - session.madeAt > PASSPHRASE_MS) return undefined;
    const isIdle = now() - session.seenAt > locksAfterMin() * MINUTE_MS;
    return {
      session,
      tablet: this.tablets.get(session.tablet)?.name ?? BY_PASSPHRASE,
      ...standingAt(session, isIdle ? undefined : people.person(session.person)),
    };
  }

  /** Whether a browser is still the shop's, whoever is at it now and under whatever token. */
  stands({ session }: Seat): boolean {
    if (session.way === 'enrolled') return this.tablets.has(session.tablet);
    const isOver = this.need.now() - session.madeAt > PASSPHRASE_MS;
    return (
      !isOver &&
      [...this.sessions.values()].some((one) => one.way === 'passphrase' && one.madeAt === session.madeAt)
    );
  }

  private async write(session: Session, instead?: string): Promise<void> {
    await this.need.store.writeSession(session, instead);
    if (instead !== undefined) this.sessions.delete(instead);
    this.sessions.set(session.hash, session);
  }

  /** Somebody touched it: they stay. */
  async touch({ session, person }: Seat): Promise<void> {
    const now = this.need.now();
    if (person && now - session.seenAt >= TOUCH_MS) await this.write({ ...session, seenAt: now });
  }

  /** The same by a badge, which proves somebody of the bench and never a lead. @throws ProblemError where it is nobody's */
  async signInByBadge(seat: Seat, badge: string): Promise<string> {
    if (seat.session.way === 'passphrase')
      throw new ProblemError('not-allowed', 'A badge opens the shop’s own browsers alone; this is none.');
    return this.seated(seat, await this.need.people.byBadge(badge, seat.tablet), 'badge');
  }

  /**
   * Somebody takes their place at a browser the shop knows. Its token changes with whoever is at it.
   * @returns the token it has from now on
   * @throws ProblemError for a wrong PIN
   */
  async signIn(seat: Seat, id: string, pin: string): Promise<string> {
    const { session, tablet } = seat;
    // A passphrase proved one person, and lets nobody else in.
    if (session.way === 'passphrase' && session.person !== id)
      throw new ProblemError(
        'not-allowed',
        'This browser is not enrolled: it is for who came in by a passphrase.',
      );
    return this.seated(seat, await this.need.people.byPin(id, pin, tablet), 'pin');
  }

  private async seated({ session, tablet }: Seat, person: Person, proof: Proof): Promise<string> {
    const token = newToken();
    await this.write(
      { ...session, hash: hashOf(token), person: person.id, proof, seenAt: this.need.now() },
      session.hash,
    );
    const how = proof === 'badge' ? ' by badge' : '';
    await this.need.audit.note('access', person.name, `came to the bench${how}`, tablet);
    return token;
  }

  /** A lead from anywhere. @returns their token @throws ProblemError where name and passphrase do not belong together */
  async byPassphrase(name: string, passphrase: string): Promise<string> {
    const person = await this.need.people.byPassphrase(name, passphrase);
    const now = this.need.now();
    const token = newToken();
    await this.write({
      hash: hashOf(token),
      tablet: '',
      person: person.id,
      way: 'passphrase',
      proof: 'pin',
      madeAt: now,
      seenAt: now,
    });
    await this.need.audit.note('access', person.name, 'came in by passphrase');
    return token;
  }

  /** Nobody is at it any more; the browser stays the shop's, one that came by a passphrase does not. */
  async leave({ session, person, tablet }: Seat): Promise<void> {
    if (session.way === 'passphrase') await this.end([session.hash]);
    else await this.write({ ...session, person: '' });
    if (person) await this.need.audit.note('access', person.name, 'left the bench', tablet);
  }

  private async end(hashes: readonly string[]): Promise<void> {
    await this.need.store.endSessions(hashes);
    for (const hash of hashes) this.sessions.delete(hash);
  }

  /** Somebody is at no browser any more. @param proof only where they came by that */
  async leaveAll(person: string, proof?: Proof): Promise<void> {
    const meant = [...this.sessions.values()].filter(
      (one) => one.person === person && (proof === undefined || one.proof === proof),
    );
    for (const session of meant)
      if (session.way === 'passphrase') await this.end([session.hash]);
      else await this.write({ ...session, person: '' });
  }

  /** A code that makes one browser the shop's, once. */
  giveCode(by: string): Pick<EnrolmentCode, 'code' | 'forMin'> {
    const code = Array.from({ length: CODE_LENGTH }, () => LETTERS[randomInt(LETTERS.length)]).join('');
    this.codes.set(code, { untilMs: this.need.now() + CODE_MIN * MINUTE_MS, by });
    return { code, forMin: CODE_MIN };
  }

  /**
   * A browser becomes the shop's by a code.
   * @returns its token
   * @throws ProblemError for a code that was used, is over, or was never given out
   */
  async enrolBy(code: string, name: string): Promise<string> {
    const asked = code.toUpperCase().replace(/[^A-Z0-9]/g, '');
    const given = this.codes.get(asked);
    if (!given || given.untilMs < this.need.now())
      throw new ProblemError(
        'not-signed-in',
        'That code is not good any more: a lead makes another under Setup, People.',
      );
    this.codes.delete(asked);
    return this.enrol(name, given.by, '');
  }

  /** @param person who is at it at once; nobody without one */
  async enrol(name: string, by: string, person: string): Promise<string> {
    const now = this.need.now();
    const tablet: Tablet = { id: randomUUID(), name, at: this.need.shopNow(), by };
    const token = newToken();
    const session: Session = {
      hash: hashOf(token),
      tablet: tablet.id,
      person,
      way: 'enrolled',
      proof: 'pin',
      madeAt: now,
      seenAt: now,
    };
    await this.need.store.enrol(tablet, session);
    this.tablets.set(tablet.id, tablet);
    this.sessions.set(session.hash, session);
    await this.need.audit.note('people', by, `“${name}” is a browser of the shop`);
    return token;
  }

  /** A browser is the shop's no more. @throws ProblemError where there is none */
  async forget(id: string, by: string): Promise<void> {
    const tablet = this.tablets.get(id);
    if (!tablet) throw new ProblemError('not-found', 'That browser is not one of the shop’s any more.');
    await this.need.store.forget(id);
    this.tablets.delete(id);
    for (const session of [...this.sessions.values()])
      if (session.tablet === id) this.sessions.delete(session.hash);
    await this.need.audit.note('people', by, `“${tablet.name}” is a browser of the shop no more`);
  }
}
