/** Jobs as they stand: read from the file once, held while they are looked at, and set apart where they cannot be read. */
import { LRUCache } from 'lru-cache';
import type { Clock } from '@cork-ember/core/clock/clock.ts';
import type { JobAnswer, Missed, OpenJob, Quarantined } from '@cork-ember/core/contract/answers.ts';
import {
  bayPicture,
  byBay,
  type BayPicture,
  type BenchPicture,
} from '@cork-ember/core/runsheet/plan/benchPicture.ts';
import { byUrgency, type Hand } from '@cork-ember/core/runsheet/plan/hand.ts';
import { handsOf } from '@cork-ember/core/runsheet/plan/hands.ts';
import type { Job } from '@cork-ember/core/runsheet/log/fold.ts';
import type { JobEvent } from '@cork-ember/core/runsheet/entries/events.ts';
import { outlineOf, packed } from '@cork-ember/core/runsheet/log/outline.ts';
import { breather, together } from '../gently.ts';
import { ProblemError } from '../problems.ts';
import type { JobStore, KeptJob } from '../store/jobStore.ts';
import type { SealStore } from '../store/sealStore.ts';
import { markedEvents, readJobGently } from './reading.ts';
import { summaryOf } from './sealing.ts';
import type { Standing } from './shop.ts';

/** A job in hand, as whoever records on it needs it. */
export interface Held {
  job: Job;
  /** Hash of the last entry. */
  hash: string;
  /** The job's entries with marks for names: what a seal is made of. */
  readonly marked: JobEvent[];
  /** Entries by their keys: a retry is answered with what was recorded. */
  readonly byKey: Map<string, JobEvent>;
  /** As lists show it, as it is sent; written when it is first asked for. */
  outline?: { readonly of: Job; readonly json: string };
}

const openJobOf = (job: Job): OpenJob => ({ id: job.state.job, ...packed(outlineOf(job)) });

/** Ended jobs are looked up again and again for a while, and then no more. */
const MOST_HELD = 400;

/** Jobs whose entries are asked for together: a question costs the file a few milliseconds, however little it asks. */
const READ_TOGETHER = 8;

/** Whoever has missed more asks for everything anew. */
const MOST_MISSED = 1000;

export interface Since {
  readonly known: Readonly<Record<string, number>>;
}

/** Jobs of each kind are among so many. */
const TO_WARM_UP = 32;

const NOTHING_KEPT: KeptJob = { entries: [], names: [] };

/** @throws ProblemError when there is no entry, or they cannot be read */
async function heldOf(kept: KeptJob): Promise<Held> {
  if (kept.entries.length === 0) throw new ProblemError('not-found', 'There is no such job.');
  const job = await readJobGently(kept);
  return {
    job,
    hash: kept.entries.at(-1)?.hash ?? '',
    marked: markedEvents(kept.entries),
    byKey: new Map(job.log.map((event) => [event.key, event])),
  };
}

export class Jobs {
  private readonly held = new LRUCache<string, Promise<Held>>({ max: MOST_HELD });
  private readonly store: JobStore;
  private readonly seals: SealStore;
  private readonly clock: Clock;

  constructor(store: JobStore, seals: SealStore, clock: Clock) {
    this.store = store;
    this.seals = seals;
    this.clock = clock;
  }

  /** @throws ProblemError when there is none, or its record cannot be read */
  load(id: string): Promise<Held> {
    return this.held.get(id) ?? this.hold(id, this.store.kept(id).then(heldOf));
  }

  private hold(id: string, loading: Promise<Held>): Promise<Held> {
    this.held.set(id, loading);
    loading.catch(() => this.held.delete(id));
    return loading;
  }

  /**
   * Takes jobs in hand that are not yet: the entries of a few with one question, then one job after the other, so that
   * whoever asks something small meanwhile is answered in between.
   */
  private async loadAll(ids: readonly string[]): Promise<void> {
    for (let from = 0; from < ids.length; from += READ_TOGETHER) {
      const missing = ids.slice(from, from + READ_TOGETHER).filter((id) => !this.held.has(id));
      if (missing.length === 0) continue;
      const kept = this.store.keptOf(missing);
      let before: Promise<unknown> = kept;
      for (const id of missing) {
        const reading = before.then(async () => heldOf((await kept).get(id) ?? NOTHING_KEPT));
        before = this.hold(id, reading).catch(() => undefined);
      }
      await before;
    }
  }

  /** The same, as it stands alone. */
  async job(id: string): Promise<Job> {
    return (await this.load(id)).job;
  }

  /** Every open job that can be read: one that cannot stands in nobody's way. */
  async openJobs(): Promise<Job[]> {
    return (await this.openHeld()).map(({ job }) => job);
  }

  /** Takes the first few open jobs in hand: whoever asks next finds a program that has folded and drawn before. */
  async warmUp(): Promise<void> {
    const open = await this.store.jobs({ isOpen: true });
    await this.loadAll(open.slice(0, TO_WARM_UP).map(({ id }) => id));
  }

  private async openHeld(): Promise<Held[]> {
    const ids = (await this.store.jobs({ isOpen: true })).map(({ id }) => id);
    await this.loadAll(ids);
    const all: Held[] = [];
    for (const id of ids) {
      const held = await this.ifReadable(id);
      if (held) all.push(held);
    }
    return all;
  }

  /** Every open job as lists show it, as JSON: what did not change is not written anew. */
  readonly outlines = together(async (): Promise<string> => {
    const breathe = breather();
    const all: string[] = [];
    for (const held of await this.openHeld()) {
      if (held.outline?.of !== held.job)
        held.outline = { of: held.job, json: JSON.stringify(openJobOf(held.job)) };
      all.push(held.outline.json);
      await breathe();
    }
    return `[${all.join(',')}]`;
  });

  /** The bench worked out as it stands now, for a page that has not the means to do so yet. */
  readonly picture = together(async (): Promise<BenchPicture> => {
    const breathe = breather();
    const now = this.clock.now();
    const bays: BayPicture[] = [];
    const hands: Hand[] = [];
    for (const job of await this.openJobs()) {
      bays.push(bayPicture(outlineOf(job), now));
      hands.push(...handsOf(job.state, now));
      await breathe();
    }
    return { bays: bays.sort(byBay), hands: hands.sort(byUrgency) };
  });

  /**
   * What a page has missed that knows jobs up to an entry.
   * @param known number of the last entry it heard of, by job; one it speaks of that is not here is passed over
   */
  async since(known: ReadonlyMap<string, number>): Promise<Missed> {
    const events: JobEvent[] = [];
    let isWhole = true;
    for (const { id } of await this.store.jobs({ isOpen: true })) isWhole &&= known.has(id);
    const breathe = breather();
    for (const [id, seq] of known) {
      const held = await this.ifReadable(id).catch(() => undefined);
      events.push(...(held?.job.log.filter((event) => event.seq > seq) ?? []));
      if (events.length > MOST_MISSED) return { events: [], isWhole: false };
      await breathe();
    }
    return { events, isWhole };
  }

  private async ifReadable(id: string): Promise<Held | undefined> {
    try {
      return await this.load(id);
    } catch (error) {
      if (error instanceof ProblemError && error.kind === 'quarantined') return undefined;
      throw error;
    }
  }

  /** Open jobs, and ended ones that have no seal, whose record cannot be read. */
  async quarantined(): Promise<Quarantined[]> {
    const summaries = [
      ...(await this.store.jobs({ isOpen: true })),
      ...(await this.store.jobs({ id: await this.seals.unsealed() })),
    ];
    await this.loadAll(summaries.map(({ id }) => id));
    const found = await Promise.all(
      summaries.map(async ({ id, tag, bay, openedAt, outcome }): Promise<Quarantined | undefined> => {
        try {
          await this.job(id);
          return undefined;
        } catch (error) {
          if (!(error instanceof ProblemError)) throw error;
          return { id, tag, bay, openedAt, outcome, why: error.message };
        }
      }),
    );
    return found.filter((one) => one !== undefined);
  }

  /** The latest moment of what was recorded last, ms. */
  lastMoment(): Promise<number> {
    return this.store.lastMoment();
  }

  /** What stands on the bench, and the charger of the charge at hand. */
  async standing(): Promise<Standing[]> {
    return (await this.openJobs()).map(({ state }) => {
      // A charge that pauses for heat goes on with the same one.
      const charger = state.steps[state.cursor]?.charge?.charger;
      return { tag: state.opened.battery.tag, bay: state.bay, ...(charger ? { charger } : {}) };
    });
  }

  /** Puts what was recorded on a job in hand; it is held on, so that nobody reads it anew meanwhile. */
  keep(held: Held, job: Job, hash: string): void {
    const event = job.log.at(-1);
    if (!event) return;
    Object.assign(held, { job, hash });
    held.marked.push(event);
    held.byKey.set(event.key, event);
    // A name that was given is a mark in the file: it is read from there.
    if (event.kind === 'arranged') this.forget(event.job);
    else this.held.set(event.job, Promise.resolve(held));
  }

  /** What is in the file is newer than what is held. */
  forget(id: string): void {
    this.held.delete(id);
  }

  async answer(id: string): Promise<JobAnswer> {
    const { log } = await this.job(id);
    return { id, events: log, seals: (await this.seals.seals(id)).map(summaryOf) };
  }
}
