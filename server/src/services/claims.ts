/** Entries under a name the browser knew and nobody proved: marked until whose they are says so. */
import type { Claim, Person } from '@cork-ember/core/access/people.ts';
import { ProblemError } from '../problems.ts';
import type { AccessStore, ClaimKept } from '../store/accessStore.ts';
import type { Audit } from './audit.ts';

export class Claims {
  private readonly store: AccessStore;
  private readonly audit: Audit;

  constructor(store: AccessStore, audit: Audit) {
    this.store = store;
    this.audit = audit;
  }

  /** Before the entry itself: one that is recorded is never without its mark. */
  take(claim: Pick<Claim, 'key' | 'by' | 'sentBy' | 'tablet'>): Promise<void> {
    return this.store.claim(claim);
  }

  /** Those that are not settled, the oldest first. */
  list(): Promise<ClaimKept[]> {
    return this.store.claims();
  }

  /**
   * Whoever is meant says whether they are theirs; a lead says it of whoever is not there any more. What is not stays marked, and stands
   * before the lead.
   * @throws ProblemError where one of them is under another's name
   */
  async settle(
    keys: readonly string[],
    isMine: boolean,
    { name, role }: Person,
    tablet: string,
  ): Promise<void> {
    const meant = (await this.list()).filter(({ key }) => keys.includes(key));
    const other = meant.find(({ by }) => by !== name);
    if (other && role !== 'lead')
      throw new ProblemError(
        'not-allowed',
        `An entry on ${other.tag} is under ${other.by}’s name: ${other.by} or a lead says whether it is theirs.`,
      );
    for (const { tag, by, sentBy, kind } of meant)
      await this.audit.note(
        isMine ? 'access' : 'refused',
        name,
        `${tag}: “${kind}” under ${by}’s name, sent by ${sentBy}, is ${isMine ? 'confirmed' : 'not theirs'}`,
        tablet,
      );
    if (isMine) await this.store.settleClaims(meant.map(({ key }) => key));
  }
}
