/** What is kept of a customer: given out as one file, or deleted so that sealed records stand without the name. */
import type { Customer, CustomerData, Forgotten } from '@cork-ember/core/contract/customers.ts';
import type { Clock } from '@cork-ember/core/clock/clock.ts';
import { ProblemError } from '../problems.ts';
import { breather } from '../gently.ts';
import type { CustomerStore } from '../store/customerStore.ts';
import type { ShelfStore } from '../store/shelfStore.ts';
import { VERSION } from '../version.ts';
import type { Audit } from './audit.ts';
import type { Jobs } from './jobs.ts';
import type { ShopSettings } from './shop.ts';
import type { Stream } from './stream.ts';

interface CustomersNeed {
  readonly store: CustomerStore;
  readonly shelf: Pick<ShelfStore, 'events'>;
  readonly jobs: Jobs;
  readonly settings: ShopSettings;
  readonly clock: Clock;
  readonly stream: Stream;
  readonly audit: Audit;
}

export class Customers {
  private readonly need: CustomersNeed;

  constructor(need: CustomersNeed) {
    this.need = need;
  }

  list(): Promise<Customer[]> {
    return this.need.store.list();
  }

  /** @throws ProblemError where nothing is kept under the name */
  private async standing(name: string): ReturnType<CustomerStore['standing']> {
    const standing = await this.need.store.standing(name);
    const { batteries, machines, commitments } = standing;
    if (batteries.length + machines.length + commitments.length > 0) return standing;
    throw new ProblemError('not-found', `Nothing is kept here of “${name}”: look at the list of customers.`);
  }

  /** Everything, for them to have. @throws ProblemError where nothing is kept under the name */
  async data(name: string, by: string): Promise<CustomerData> {
    const { batteries, machines, jobs: ids, shelfTags } = await this.standing(name);
    const { jobs, shelf, settings, clock, audit } = this.need;
    const breathe = breather();
    const told: CustomerData['jobs'][number][] = [];
    for (const id of ids) {
      told.push({ job: id, events: (await jobs.answer(id)).events });
      await breathe();
    }
    const off = await Promise.all(shelfTags.map((tag) => shelf.events(tag)));
    await audit.note('shop', by, `what is kept of a customer was given out: ${batteries.length} batteries`);
    return {
      format: 'cork-ember-customer',
      version: 1,
      name,
      at: clock.now(),
      shop: settings.shop.name,
      program: VERSION,
      batteries,
      machines,
      jobs: told,
      shelf: off.flat(),
    };
  }

  /**
   * Deletes a name. Records stay whole: in them it was a mark that nobody can read without what is deleted here.
   * @throws ProblemError where nothing is kept under it
   */
  async forget(name: string, why: string, by: string): Promise<Forgotten> {
    const { store, jobs, stream, audit } = this.need;
    const standing = await this.standing(name);
    await store.forget(standing);
    for (const id of standing.jobs) jobs.forget(id);
    const { batteries, machines } = standing;
    const counts = { batteries: batteries.length, machines: machines.length, jobs: standing.jobs.length };
    // Whose it was is what is not to be known any more: the trace says how much, and why.
    await audit.note(
      'shop',
      by,
      `a customer’s name was deleted: ${counts.batteries} batteries, ${counts.machines} machines, ${counts.jobs} run sheets; ${why}`,
    );
    stream.tell({ kind: 'shop' });
    return { ...counts, stillSaid: await store.writtenOf(name) };
  }
}
