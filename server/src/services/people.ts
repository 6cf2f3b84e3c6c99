/** Who works here: names, roles, PINs and passphrases, and whether one that is tried is right. */
import { createHash, randomBytes, randomInt, randomUUID } from 'node:crypto';
import { hash, verify } from '@node-rs/argon2';
import type { Person, PersonKept } from '@cork-ember/core/access/people.ts';
import { BADGE, LOCKED_FROM, pinTrouble, waitAfter } from '@cork-ember/core/access/pins.ts';
import type { Role } from '@cork-ember/core/access/rights.ts';
import { assertUnguessed } from '../access/guessable.ts';
import { ProblemError } from '../problems.ts';
import type { AccessStore, PersonSecrets } from '../store/accessStore.ts';
import type { Audit } from './audit.ts';
import { Queue } from './queue.ts';

export interface NewPerson {
  readonly name: string;
  readonly role: Role;
  readonly pin: string;
  readonly passphrase?: string;
}

export interface PersonChange {
  readonly role?: Role;
  readonly pin?: string;
  readonly passphrase?: string;
  readonly badge?: false;
  readonly unlock?: true;
  readonly gone?: true;
}

/** Who does what is done where no name is asked for: the first lead is made there, and one who forgot the PIN. */
export const OWN_MACHINE = 'the shop’s own machine';

interface PeopleNeed {
  readonly store: AccessStore;
  readonly audit: Audit;
  /** Shop time, ms. */
  readonly shopNow: () => number;
  /** Real time, ms: a wait after a wrong PIN is no shorter where a demo's clock runs faster. */
  readonly now: () => number;
}

/**
 * Passphrases of one name that may be tried within an hour. They are counted apart from PINs: whoever guesses from the network must not
 * lock anybody out of the bench. @see OWASP ASVS 4.0.3, 2.2.1
 */
const MOST_PASSPHRASES = 100;
const HOUR_MS = 3_600_000;

/** 128 bits, in letters every scanner types on every keyboard. */
const BADGE_BYTES = 16;
const newBadge = (): string => `${BADGE}${randomBytes(BADGE_BYTES).toString('hex').toUpperCase()}`;
const badgeHash = (code: string): string => createHash('sha256').update(code).digest('hex');

/** Compared with where there is nobody by a name, so that the answer takes as long as for somebody. */
const NOBODYS = hash('nobody carries this one');

/** A passphrase as it is kept. @throws ProblemError where it would be guessed */
async function kept(passphrase: string, name: string): Promise<string> {
  await assertUnguessed(passphrase, [name]);
  return hash(passphrase);
}

export class People {
  private readonly need: PeopleNeed;
  private readonly queue = new Queue();
  private all: readonly PersonSecrets[] = [];
  /** Wrong passphrases of a name, and since when. */
  private readonly guessed = new Map<string, { readonly sinceMs: number; readonly count: number }>();

  constructor(need: PeopleNeed) {
    this.need = need;
  }

  async load(): Promise<void> {
    this.all = await this.need.store.people();
  }

  private get here(): readonly PersonSecrets[] {
    return this.all.filter(({ isGone }) => !isGone);
  }

  /** Whether names are proven: from the first PIN on. */
  get isHeld(): boolean {
    return this.here.some(({ pin }) => pin !== '');
  }

  get list(): readonly Person[] {
    return this.here.map(({ id, name, role }) => ({ id, name, role }));
  }

  get kept(): readonly PersonKept[] {
    return this.here.map(({ id, name, role, pin, passphrase, badge, wrong }) => ({
      id,
      name,
      role,
      hasPin: pin !== '',
      hasPassphrase: passphrase !== '',
      hasBadge: badge !== '',
      isLocked: wrong >= LOCKED_FROM,
    }));
  }

  /** Names of who tried too many wrong PINs. */
  get locked(): readonly string[] {
    return this.kept.filter(({ isLocked }) => isLocked).map(({ name }) => name);
  }

  get leads(): readonly string[] {
    return this.here.filter(({ role }) => role === 'lead').map(({ name }) => name);
  }

  person(id: string): Person | undefined {
    return this.list.find((one) => one.id === id);
  }

  named(name: string): Person | undefined {
    const asked = name.trim().toLowerCase();
    return this.list.find((one) => one.name.toLowerCase() === asked);
  }

  /** @throws ProblemError where nobody here has the id */
  private known(id: string): PersonSecrets {
    const person = this.here.find((one) => one.id === id);
    if (!person) throw new ProblemError('not-found', 'Nobody of this shop is meant: look at the list again.');
    return person;
  }

  private async write(person: PersonSecrets): Promise<void> {
    await this.need.store.writePerson(person);
    const isNew = !this.all.some(({ id }) => id === person.id);
    // Whoever is changed keeps their place in the list.
    this.all = isNew ? [...this.all, person] : this.all.map((one) => (one.id === person.id ? person : one));
  }

  /** @throws ProblemError where the name is taken, or the first would not lead */
  add({ name, role, pin, passphrase }: NewPerson, by: string): Promise<Person> {
    return this.queue.run('people', async () => {
      if (this.named(name))
        throw new ProblemError('taken', `${name} works here already: two people need two names.`);
      if (!this.isHeld && role !== 'lead')
        throw new ProblemError(
          'bad-input',
          'The first who gets a PIN leads the shop: choose lead. Others follow.',
        );
      const person: PersonSecrets = {
        id: randomUUID(),
        name,
        role,
        pin: await hash(pin),
        passphrase: passphrase === undefined ? '' : await kept(passphrase, name),
        badge: '',
        wrong: 0,
        wrongAt: 0,
        since: this.need.shopNow(),
        isGone: false,
      };
      await this.write(person);
      await this.need.audit.note('people', by, `${name} works here now, as ${role}`);
      return { id: person.id, name, role };
    });
  }

  /** @throws ProblemError where nobody would lead the shop any more, or a passphrase is not a lead's */
  change(id: string, change: PersonChange, by: string): Promise<Person> {
    return this.queue.run('people', async () => {
      const before = this.known(id);
      const after = await this.changed(before, change);
      const isLed = this.here
        .map((one) => (one.id === id ? after : one))
        .some((one) => one.role === 'lead' && !one.isGone);
      if (!isLed)
        throw new ProblemError('refused', `${before.name} is the only lead: make somebody else one first.`);
      await this.write(after);
      for (const what of wordsOf(before.name, change)) await this.need.audit.note('people', by, what);
      const { name, role } = after;
      return { id, name, role };
    });
  }

  private async changed(
    before: PersonSecrets,
    { role, pin, passphrase, badge, unlock, gone }: PersonChange,
  ): Promise<PersonSecrets> {
    return {
      ...before,
      ...(role === undefined ? {} : { role }),
      ...(pin === undefined ? {} : { pin: await hash(pin), wrong: 0 }),
      ...(passphrase === undefined ? {} : { passphrase: await kept(passphrase, before.name) }),
      ...(badge === false ? { badge: '' } : {}),
      ...(unlock ? { wrong: 0 } : {}),
      ...(gone ? { isGone: true, pin: '', passphrase: '', badge: '' } : {}),
    };
  }

  /** A badge for somebody; the one they had opens nothing any more. @returns what stands on it, which is kept nowhere */
  giveBadge(id: string, by: string): Promise<{ readonly name: string; readonly code: string }> {
    return this.queue.run('people', async () => {
      const person = this.known(id);
      const code = newBadge();
      await this.write({ ...person, badge: badgeHash(code) });
      await this.need.audit.note('people', by, `${person.name} has a new badge`);
      return { name: person.name, code };
    });
  }

  /** Somebody by their badge. @throws ProblemError where it is nobody's, or theirs is locked */
  async byBadge(code: string, tablet: string): Promise<Person> {
    const asked = badgeHash(code.trim().toUpperCase());
    const person = this.here.find(({ badge }) => badge === asked);
    if (!person) {
      await this.need.audit.note('refused', 'somebody', 'a badge that is nobody’s', tablet);
      throw new ProblemError('not-signed-in', 'That badge is nobody’s here any more: come by PIN.');
    }
    this.checkMayTry(person);
    const { name, role } = person;
    return { id: person.id, name, role };
  }

  /**
   * On the machine itself: a lead who forgot it gets a new PIN, and may try it at once.
   * @returns the PIN, which is kept nowhere
   * @throws ProblemError where no lead has the name
   */
  async renewPin(name: string): Promise<string> {
    const person = this.named(name);
    if (person?.role !== 'lead')
      throw new ProblemError(
        'not-found',
        `No lead of this shop is called “${name}”${this.leads.length > 0 ? `; there is ${this.leads.join(', ')}` : ''}.`,
      );
    let pin = '';
    while (pinTrouble(pin) !== undefined) pin = String(randomInt(10 ** 6)).padStart(6, '0');
    await this.change(person.id, { pin }, OWN_MACHINE);
    return pin;
  }

  /** A lead by name and passphrase; whether there is such a name is not told. @throws ProblemError as {@link byPin} does */
  byPassphrase(name: string, passphrase: string): Promise<Person> {
    const asked = name.trim().toLowerCase();
    return this.queue.run(`passphrase ${asked}`, async () => {
      this.countGuess(asked);
      const found = this.here.find((one) => one.name.toLowerCase() === asked);
      const person = found?.role === 'lead' && found.passphrase !== '' ? found : undefined;
      const isRight = await verify(person?.passphrase ?? (await NOBODYS), passphrase);
      if (!person || !isRight) {
        if (person) await this.need.audit.note('refused', person.name, 'a wrong passphrase');
        throw new ProblemError('not-signed-in', 'Name and passphrase do not belong together.');
      }
      this.guessed.delete(asked);
      return { id: person.id, name: person.name, role: person.role };
    });
  }

  /** @throws ProblemError where a name was tried too often within the hour, whether there is such a name or not */
  private countGuess(name: string): void {
    const now = this.need.now();
    const known = this.guessed.get(name);
    const since = known && now - known.sinceMs < HOUR_MS ? known : { sinceMs: now, count: 0 };
    if (since.count >= MOST_PASSPHRASES)
      throw new ProblemError(
        'slow-down',
        `More than ${MOST_PASSPHRASES} passphrases were tried for this name within an hour: wait for the next.`,
      );
    this.guessed.set(name, { ...since, count: since.count + 1 });
  }

  /**
   * Somebody by their PIN. Tries of one are taken one after the other, so that many at once are no more than many.
   * @throws ProblemError for a wrong one, one that comes too soon after wrong ones, or one that is locked
   */
  byPin(id: string, pin: string, tablet: string): Promise<Person> {
    return this.queue.run(id, async () => {
      const person = this.known(id);
      this.checkMayTry(person);
      const { name, role } = person;
      if (person.pin !== '' && (await verify(person.pin, pin))) {
        if (person.wrong > 0) await this.write({ ...person, wrong: 0 });
        return { id, name, role };
      }
      const wrong = person.wrong + 1;
      await this.write({ ...person, wrong, wrongAt: this.need.now() });
      await this.need.audit.note('refused', name, 'a wrong PIN', tablet);
      if (wrong === LOCKED_FROM)
        await this.need.audit.note('access', name, `locked after ${wrong} wrong tries`, tablet);
      throw new ProblemError('not-signed-in', `That is not the PIN.${this.next({ ...person, wrong })}`);
    });
  }

  /** @throws ProblemError where the next try has to wait */
  private checkMayTry({ name, wrong, wrongAt }: PersonSecrets): void {
    if (wrong >= LOCKED_FROM)
      throw new ProblemError(
        'slow-down',
        `${name} is locked after ${wrong} wrong tries: a lead unlocks it under Setup, People.`,
      );
    const leftMs = wrongAt + waitAfter(wrong) * 1000 - this.need.now();
    if (leftMs > 0)
      throw new ProblemError('slow-down', `Too many wrong tries: wait ${Math.ceil(leftMs / 1000)} s.`);
  }

  private next({ wrong }: PersonSecrets): string {
    if (wrong >= LOCKED_FROM) return ' It is locked now: a lead unlocks it under Setup, People.';
    const wait = waitAfter(wrong);
    return wait === 0 ? '' : ` The next try waits ${wait} s.`;
  }
}

function wordsOf(name: string, { role, pin, passphrase, badge, unlock, gone }: PersonChange): string[] {
  return [
    role === undefined ? '' : `${name} is ${role} now`,
    pin === undefined ? '' : `${name} has a new PIN`,
    passphrase === undefined ? '' : `${name} has a new passphrase`,
    badge === false ? `${name}’s badge opens nothing any more` : '',
    unlock ? `${name} may try again` : '',
    gone ? `${name} works here no more` : '',
  ].filter((words) => words !== '');
}
