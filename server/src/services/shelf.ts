/** Batteries off the bench: where each is, what was read of it, and what is recorded of both. */
import { isTaken, LITHIUM_REFUSAL } from '@cork-ember/core/battery/types.ts';
import type { Clock } from '@cork-ember/core/clock/clock.ts';
import type { BatteryRecord, FeedAnswer, ShelvedBattery } from '@cork-ember/core/contract/answers.ts';
import type { ShelfEntry, ShelfEvent } from '@cork-ember/core/shelf/entries.ts';
import { monthOf } from '@cork-ember/core/shelf/month.ts';
import { foretoldOf, overviewOf } from '@cork-ember/core/shelf/foretell.ts';
import type { Shelved } from '@cork-ember/core/shelf/overview.ts';
import { inStores } from '@cork-ember/core/shelf/stores.ts';
import { byPlace, isOnRound } from '@cork-ember/core/shelf/words.ts';
import { handOverSheet } from '../documents/handOver.ts';
import { roundSheet } from '../documents/roundSheet.ts';
import { shelfCalendar, type CalendarNeeds } from '../documents/shelfCalendar.ts';
import { ProblemError } from '../problems.ts';
import type { FeedStore } from '../store/feedStore.ts';
import type { JobStore } from '../store/jobStore.ts';
import type { ShelfStore } from '../store/shelfStore.ts';
import type { Queue } from './queue.ts';
import type { ShopSettings } from './shop.ts';
import type { Stream } from './stream.ts';

export interface ShelfRequest {
  readonly requestKey: string;
  readonly by: string;
  readonly enteredAt?: number;
  readonly battery?: BatteryRecord;
  readonly entry: ShelfEntry;
}

interface ShelfNeed {
  readonly store: JobStore;
  readonly shelf: ShelfStore;
  readonly feeds: FeedStore;
  readonly settings: ShopSettings;
  readonly clock: Clock;
  readonly stream: Stream;
  readonly queue: Queue;
}

export class Shelf {
  private readonly need: ShelfNeed;

  constructor(need: ShelfNeed) {
    this.need = need;
  }

  /** Each foretold, what is due first first. */
  private async overview(): Promise<readonly Shelved[]> {
    const { settings, clock } = this.need;
    const items = JSON.parse(await this.list()) as readonly ShelvedBattery[];
    const { stores, rules } = settings.shop;
    const kept = items.map((item) => ({ ...item, kept: inStores(item.kept, stores) }));
    return overviewOf(kept, settings.types, rules, clock.now());
  }

  private get paperNeeds(): CalendarNeeds {
    const { name, hours, region } = this.need.settings.shop;
    return { shop: name, timeZone: hours.timeZone, region, now: this.need.clock.now() };
  }

  /** The month's work, balanced over its days, as a calendar. */
  async calendar(): Promise<string> {
    const { settings, clock } = this.need;
    return shelfCalendar(monthOf(await this.overview(), settings.shop.hours, clock.now()), this.paperNeeds);
  }

  /** What a round today reads, on paper. */
  async roundSheet(): Promise<Buffer> {
    const now = this.need.clock.now();
    const toRead = (await this.overview()).filter((one) => isOnRound(one, now)).toSorted(byPlace);
    return roundSheet(toRead, this.paperNeeds);
  }

  /** What goes with one that was taken. @throws ProblemError for one that never stood on the shelf */
  async handOver(tag: string): Promise<Buffer> {
    const { shelf, settings, clock } = this.need;
    const item = await shelf.item(tag);
    const type = settings.types.find(({ id }) => id === item?.typeId);
    const one = item && type && foretoldOf(item, type, settings.shop, clock.now());
    if (!one) throw new ProblemError('not-found', `${tag} has not stood on the shelf.`);
    return handOverSheet(one, type, this.paperNeeds);
  }

  /** The calendar at a secret address. @throws ProblemError where there is none */
  async feed(secret: string): Promise<string> {
    if (await this.need.feeds.isOpen(secret)) return this.calendar();
    throw new ProblemError('not-found', 'There is no calendar at this address, or not any more.');
  }

  feedStanding(): Promise<FeedAnswer | undefined> {
    return this.need.feeds.standing();
  }

  /** A new secret address; the one of before opens nothing any more. */
  renewFeed(by: string): Promise<string> {
    return this.need.feeds.renew(by, this.need.clock.now());
  }

  revokeFeed(): Promise<void> {
    return this.need.feeds.revoke();
  }

  /** What was recorded of one battery off the bench, the first first. */
  events(tag: string): Promise<readonly ShelfEvent[]> {
    return this.need.shelf.events(tag);
  }

  /** As JSON: thousands of them are not read to be written again. */
  list(): Promise<string> {
    return this.need.shelf.list(this.need.clock.now());
  }

  /**
   * Records one entry of a battery off the bench.
   * @throws ProblemError for one the shop has not, or that stands on the bench
   */
  append(tag: string, { requestKey, by, enteredAt, battery, entry }: ShelfRequest): Promise<ShelfEvent> {
    return this.need.queue.run(`shelf ${tag}`, async () => {
      const { store, shelf, clock, stream } = this.need;
      const before = await shelf.recorded(requestKey);
      if (before) return before;
      await this.check(tag, battery);
      if (entry.kind === 'placed' && (await store.jobs({ tag, isOpen: true })).length > 0)
        throw new ProblemError('refused', `${tag} stands on the bench: end its run sheet first.`);
      const now = clock.now();
      const at = enteredAt === undefined ? now : Math.min(now, enteredAt);
      const late = now > at ? { recordedAt: now } : {};
      const event: ShelfEvent = { tag, seq: 0, key: requestKey, at, by, ...late, ...entry };
      const recorded = await shelf.append({ tag, event, ...(battery ? { battery } : {}) });
      if (!recorded) throw new ProblemError('taken', 'This entry was recorded of another battery already.');
      stream.tell({ kind: 'shelf', event: recorded });
      return recorded;
    });
  }

  /** @throws ProblemError for one nobody has had here, unless it comes with what it is */
  private async check(tag: string, battery: BatteryRecord | undefined): Promise<void> {
    const { store, settings } = this.need;
    const known = await store.battery(tag);
    if (!battery) {
      if (known) return;
      throw new ProblemError('not-found', `No battery in this shop carries the tag ${tag}.`);
    }
    if (known) throw new ProblemError('taken', `${tag} is in this shop already: give this one another tag.`);
    if (battery.tag !== tag) throw new ProblemError('bad-input', 'Tag: the battery carries another.');
    const type = settings.types.find(({ id }) => id === battery.typeId);
    if (!type) throw new ProblemError('bad-input', `Type: this shop knows no type ${battery.typeId}.`);
    if (!isTaken(type)) throw new ProblemError('bad-input', LITHIUM_REFUSAL);
  }
}
