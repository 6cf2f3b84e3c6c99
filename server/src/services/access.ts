/** How a browser stands in the shop, and what it is told of that. */
import type { SessionAnswer } from '@cork-ember/core/access/people.ts';
import { LOCKS_AFTER_MIN } from '@cork-ember/core/access/pins.ts';
import { rightsOf, type Standing } from '@cork-ember/core/access/rights.ts';
import type { AccessStore } from '../store/accessStore.ts';
import type { SettingStore } from '../store/settingStore.ts';
import { VERSION } from '../version.ts';
import { Audit } from './audit.ts';
import { Claims } from './claims.ts';
import { People } from './people.ts';
import { Sessions, type Seat } from './sessions.ts';

const LOCKS = 'locksAfterMin';
const LEAVES = 'locksOnLeaving';

/** When nobody is at the bench any more. */
export interface Locking {
  readonly locksAfterMin: number;
  readonly locksOnLeaving: boolean;
}

interface AccessNeed {
  readonly store: AccessStore;
  readonly settings: SettingStore;
  readonly isDemo: boolean;
  /** PINs of a demo's people, by name; they stand on its page. */
  readonly demoPins: ReadonlyMap<string, string>;
  readonly shopNow: () => number;
  /** Real time, ms. */
  readonly now: () => number;
}

export class Access {
  readonly isDemo: boolean;
  readonly people: People;
  readonly sessions: Sessions;
  readonly audit: Audit;
  readonly claims: Claims;
  private readonly need: AccessNeed;
  private locking: Locking = { locksAfterMin: LOCKS_AFTER_MIN, locksOnLeaving: false };

  constructor(need: AccessNeed) {
    this.need = need;
    this.isDemo = need.isDemo;
    const { store, shopNow, now } = need;
    this.audit = new Audit(store, shopNow);
    this.claims = new Claims(store, this.audit);
    this.people = new People({ store, shopNow, now, audit: this.audit });
    this.sessions = new Sessions({
      store,
      shopNow,
      now,
      audit: this.audit,
      people: this.people,
      locksAfterMin: () => this.locking.locksAfterMin,
    });
  }

  /** How names are known here: proven, said, or, in a demo, as whoever tries it likes. */
  get way(): 'held' | 'open' | 'demo' {
    if (this.isDemo) return 'demo';
    return this.people.isHeld ? 'held' : 'open';
  }

  async load(): Promise<void> {
    await this.people.load();
    await this.sessions.load();
    const { settings } = this.need;
    this.locking = {
      locksAfterMin: (await settings.read<number>(LOCKS)) ?? LOCKS_AFTER_MIN,
      locksOnLeaving: (await settings.read<boolean>(LEAVES)) ?? false,
    };
  }

  async lock(locking: Locking, by: string): Promise<void> {
    const { locksAfterMin, locksOnLeaving } = locking;
    await this.need.settings.write(LOCKS, locksAfterMin);
    await this.need.settings.write(LEAVES, locksOnLeaving);
    this.locking = { locksAfterMin, locksOnLeaving };
    const leaving = locksOnLeaving ? ', and when a battery is left' : '';
    await this.audit.note('people', by, `browsers lock after ${locksAfterMin} min${leaving}`);
  }

  /** @param seat of the browser that asks */
  answer({
    isOpen,
    standing,
    seat,
  }: {
    isOpen: boolean;
    standing: Standing;
    seat: Seat | undefined;
  }): SessionAnswer {
    const isOurs = isOpen || seat !== undefined;
    return {
      mode: isOpen ? 'open' : 'held',
      isDemo: this.isDemo,
      ...(seat ? { tablet: seat.tablet } : {}),
      ...(seat?.person ? { person: seat.person } : {}),
      rights: rightsOf(isOpen ? 'lead' : standing),
      people: isOurs ? this.people.list.map((person) => this.shown(person)) : [],
      ...(seat?.person?.role === 'lead' ? { locked: this.people.locked } : {}),
      ...(seat?.isLessByBadge ? { isByBadge: true } : {}),
      ...this.locking,
      version: VERSION,
    };
  }

  private shown(person: SessionAnswer['people'][number]): SessionAnswer['people'][number] {
    const pin = this.need.demoPins.get(person.name);
    return pin === undefined ? person : { ...person, pin };
  }
}
