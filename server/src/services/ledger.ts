/** What the shop knows of every battery it has had, and of all of them together. */
import { tagOf } from '@cork-ember/core/battery/tags.ts';
import type { ListedType } from '@cork-ember/core/battery/types.ts';
import type { Clock } from '@cork-ember/core/clock/clock.ts';
import type {
  BatteryAnswer,
  BatteryPage,
  BatteryQuery,
  BatteryRecord,
  JobSummary,
  NextTag,
} from '@cork-ember/core/contract/answers.ts';
import { FIGURES_HOLD_MS, shelfOf, type Shelf } from '@cork-ember/core/ledger/sets.ts';
import { USUAL_LEARNING } from '@cork-ember/core/learning/topics.ts';
import type { LedgerFile } from '@cork-ember/core/ledger/branches.ts';
import { wayRecords, type WayRecord } from '@cork-ember/core/ledger/ways.ts';
import { foretoldOf } from '@cork-ember/core/shelf/foretell.ts';
import type { Shelved } from '@cork-ember/core/shelf/overview.ts';
import { ProblemError } from '../problems.ts';
import type { BatteryList } from '../store/batteryList.ts';
import type { JobStore } from '../store/jobStore.ts';
import type { Lists } from '../store/lists.ts';
import type { ShelfStore } from '../store/shelfStore.ts';
import { VERSION } from '../version.ts';
import type { ShopSettings } from './shop.ts';

interface LedgerNeed {
  readonly store: JobStore;
  readonly lists: Lists;
  readonly batteries: BatteryList;
  readonly shelf: ShelfStore;
  readonly settings: ShopSettings;
  readonly clock: Clock;
}

export class Ledger {
  private readonly need: LedgerNeed;

  constructor(need: LedgerNeed) {
    this.need = need;
  }

  /** One page of the batteries a question finds. */
  page(query: BatteryQuery): Promise<BatteryPage> {
    return this.need.batteries.page(query, (word) => this.need.settings.typesOfMaker(word));
  }

  /** @throws ProblemError when no battery carries the tag */
  private async known(tag: string): Promise<BatteryRecord> {
    const battery = await this.need.store.battery(tag);
    if (!battery) throw new ProblemError('not-found', `No battery in this shop carries the tag ${tag}.`);
    return battery;
  }

  /**
   * One battery, its jobs and what they found, and what was recorded of it off the bench.
   * @throws ProblemError when no battery carries the tag
   */
  async battery(tag: string): Promise<BatteryAnswer> {
    const battery = await this.known(tag);
    const { store, lists, shelf } = this.need;
    const [jobs, findings] = [await store.jobs({ tag }), await lists.findingsOf(tag)];
    const brokenAt = await shelf.brokenAt(tag);
    const broken = brokenAt === undefined ? {} : { shelfBroken: brokenAt };
    return { ...battery, jobs, findings, shelf: await shelf.events(tag), ...broken };
  }

  /**
   * What stands on a battery's tag.
   * @throws ProblemError when no battery carries it
   */
  async labelled(tag: string): Promise<{
    readonly battery: BatteryRecord;
    readonly type: ListedType | undefined;
    readonly last: JobSummary | undefined;
    readonly shelved: Shelved | undefined;
  }> {
    const battery = await this.known(tag);
    const last = (await this.need.store.jobs({ tag })).at(-1);
    const type = this.need.settings.types.find(({ id }) => id === battery.typeId);
    const { shelf, settings, clock } = this.need;
    const item = await shelf.item(tag);
    const shelved = item && type && foretoldOf(item, type, settings.shop, clock.now());
    return { battery, type, last, shelved };
  }

  /** The next tag of the shop's own row. */
  async nextTag(): Promise<NextTag> {
    const { tagLetters } = this.need.settings.shop;
    const number = (await this.need.batteries.lastOfRow(tagLetters)) + 1;
    return { number, tag: tagOf(tagLetters, number) };
  }

  /** Which ways brought batteries back here. */
  async ways(): Promise<WayRecord[]> {
    const { costs, room, learning = USUAL_LEARNING } = this.need.settings.shop;
    return wayRecords(await this.need.lists.graded(learning.countsImported), {
      ...costs,
      pricePerKwh: room.pricePerKwh,
    });
  }

  /** What another shop may read of this one: everything that ended here, without a customer's name. */
  async file(): Promise<LedgerFile> {
    return {
      format: 'cork-ember-ledger',
      version: 1,
      program: VERSION,
      shop: this.need.settings.shop.name,
      at: this.need.clock.now(),
      findings: await this.need.lists.all(),
    };
  }

  /** Recovered batteries that may be matched. */
  async shelf(): Promise<Shelf> {
    return shelfOf(await this.need.lists.onShelf(this.need.clock.now() - FIGURES_HOLD_MS));
  }
}
