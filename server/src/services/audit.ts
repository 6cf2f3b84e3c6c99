/** Who did what, beside the record of each battery: who came in, what was refused, whom the shop lets do what. */
import type { AuditEntry, AuditKind } from '@cork-ember/core/access/people.ts';
import type { AccessStore } from '../store/accessStore.ts';

/** Lines that are shown, or written as a table. */
const MOST = 5000;

export class Audit {
  private readonly store: AccessStore;
  private readonly shopNow: () => number;

  constructor(store: AccessStore, shopNow: () => number) {
    this.store = store;
    this.shopNow = shopNow;
  }

  /** @param tablet the browser it was done at; the shop itself without one */
  note(kind: AuditKind, by: string, what: string, tablet = ''): Promise<void> {
    return this.store.note({ at: this.shopNow(), by, tablet, kind, what });
  }

  /** The latest first. */
  list(): Promise<AuditEntry[]> {
    return this.store.audit(MOST);
  }
}
