/** Takes batteries in: over the counter, or with a job that was kept elsewhere. */
import { randomUUID } from 'node:crypto';
import { isDeepStrictEqual } from 'node:util';
import type { Transaction } from 'sequelize';
import type { Clock } from '@cork-ember/core/clock/clock.ts';
import type { BatteryRecord, JobAnswer, JobSummary } from '@cork-ember/core/contract/answers.ts';
import type { ListedType } from '@cork-ember/core/battery/types.ts';
import { SHELF } from '@cork-ember/core/runsheet/entries/place.ts';
import { foldJob } from '@cork-ember/core/runsheet/log/fold.ts';
import type { JobEvent } from '@cork-ember/core/runsheet/entries/events.ts';
import { ProblemError } from '../problems.ts';
import type { ToKeep } from '../store/entries.ts';
import { standingOf, type JobStore } from '../store/jobStore.ts';
import type { TakenJob } from './jobFile.ts';
import type { Jobs } from './jobs.ts';
import { openingOf, type IntakeRequest } from './opening.ts';
import type { Places } from './places.ts';
import type { Queue } from './queue.ts';
import type { ShopSettings } from './shop.ts';
import type { Stream } from './stream.ts';

/** What taking a battery in needs. */
interface IntakeNeeds {
  readonly jobs: Jobs;
  readonly store: JobStore;
  readonly settings: ShopSettings;
  readonly places: Places;
  readonly clock: Clock;
  readonly stream: Stream;
  /** Shared with whoever else gives bays away. */
  readonly queue: Queue;
}

/** A battery about to be taken in: all that is written of it. */
interface Opening {
  readonly battery: BatteryRecord;
  readonly summary: JobSummary;
  readonly event: JobEvent;
  readonly kept: ToKeep;
  /** Read off its label, new to the list. */
  readonly type?: ListedType;
}

/** Says of which battery a problem is, where there are several. */
async function named<T>(
  { battery: { tag } }: IntakeRequest,
  { length: count }: readonly IntakeRequest[],
  work: () => Promise<T>,
): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (count > 1 && error instanceof ProblemError)
      throw new ProblemError(error.kind, `${tag}: ${error.message}`);
    throw error;
  }
}

export class Intake {
  private readonly need: IntakeNeeds;

  constructor(need: IntakeNeeds) {
    this.need = need;
  }

  /** Takes a battery in and opens its run sheet. */
  async accept(request: IntakeRequest): Promise<JobAnswer> {
    const [answer] = await this.acceptAll([request]);
    if (!answer) throw new Error('what was taken in is answered for');
    return answer;
  }

  /**
   * Takes a delivery in: every battery of it, or none.
   * @param requests each with its own key; a type that is new here comes with the first battery that has it
   * @returns their jobs, in the same order
   * @throws ProblemError in one sentence, which names the battery where there are several
   */
  acceptAll(requests: readonly IntakeRequest[]): Promise<JobAnswer[]> {
    return this.need.queue.run('intake', async () => {
      const before = await this.takenBefore(requests);
      if (before) return before;
      const openings: Opening[] = [];
      for (const request of requests)
        openings.push(await named(request, requests, () => this.open(request, openings)));
      await this.write(openings, requests);
      for (const { event } of openings) this.need.stream.tell({ kind: 'event', event });
      return openings.map(({ summary: { id }, event }) => ({ id, events: [event], seals: [] }));
    });
  }

  /** The same delivery once more is answered as it was; half of one was never taken in. */
  private async takenBefore(requests: readonly IntakeRequest[]): Promise<JobAnswer[] | undefined> {
    const ids: string[] = [];
    for (const { requestKey } of requests) {
      const id = await this.need.store.openedBy(requestKey);
      if (id !== undefined) ids.push(id);
    }
    if (ids.length === 0) return undefined;
    if (ids.length < requests.length)
      throw new ProblemError(
        'taken',
        'Some of this was taken in already, with other batteries: look at the bench first.',
      );
    return Promise.all(ids.map((id) => this.need.jobs.answer(id)));
  }

  /** @param others of the same delivery, before it */
  private async open(request: IntakeRequest, others: readonly Opening[]): Promise<Opening> {
    const { settings, places, store, clock } = this.need;
    const { battery, bay, by, type, requestKey } = request;
    const same = others.find((other) => other.battery.tag === battery.tag);
    if (same) throw new ProblemError('taken', 'Its tag is given twice.');
    if (bay !== SHELF && others.some((other) => other.summary.bay === bay))
      throw new ProblemError('taken', `Bay ${bay} is given to two.`);
    await places.checkFree(request);
    const own = others.flatMap((other) => other.type ?? []);
    if (type) {
      settings.checkNew(type, battery.typeId);
      if (own.some(({ id }) => id === type.id))
        throw new ProblemError('taken', `Type code ${type.id} comes with another already.`);
    }
    const now = clock.now();
    const event: JobEvent = {
      job: randomUUID(),
      seq: 1,
      key: requestKey,
      at: now,
      by,
      kind: 'opened',
      payload: openingOf(request, { types: [...settings.types, ...own], shop: settings.shop }, now),
    };
    foldJob([event]);
    const summary: JobSummary = {
      id: event.job,
      tag: battery.tag,
      bay,
      openedAt: now,
      outcome: null,
      endedAt: null,
    };
    return { battery, summary, event, kept: await store.keeping([event]), ...(type ? { type } : {}) };
  }

  /** Types that are new here and the batteries they were read off: all, or nothing. */
  private async write(openings: readonly Opening[], [first]: readonly IntakeRequest[]): Promise<void> {
    const { settings, store } = this.need;
    const all = async (transaction: Transaction): Promise<void> => {
      for (const { battery, summary, kept } of openings)
        await store.createJob(battery, summary, kept, transaction);
    };
    const own = openings.filter(({ type }) => type !== undefined);
    if (own.length === 0) return store.together(all);
    const tags = own.map(({ battery: { tag } }) => tag).join(', ');
    await settings.addTypes(
      own.flatMap(({ type }) => type ?? []),
      first?.by ?? '',
      tags,
      all,
    );
  }

  /** Takes a job that was read from a file; nothing is told of it before all of it is on disk. */
  take(taken: TakenJob): Promise<JobAnswer> {
    return this.need.queue.run('intake', async () => {
      const { job, foreign } = taken;
      const id = job.state.job;
      const [present] = await this.need.store.jobs({ id });
      if (present) {
        if (await this.isSame(id, taken)) return this.need.jobs.answer(id);
        throw new ProblemError('taken', 'This job is here already, with another log; nothing was changed.');
      }
      const { opened, openedAt, outcome } = job.state;
      const { tag, serial, dateCode, owner } = opened.battery;
      const battery: BatteryRecord = { tag, typeId: opened.type.id, serial, dateCode, owner };
      await this.need.places.checkKnown(battery);
      if (!outcome) await this.need.places.checkFree({ battery, bay: job.state.bay });
      const summary: JobSummary = { id, tag, openedAt, ...standingOf(job.state) };
      const isNewer = (await this.need.store.laterJobs(tag, openedAt)) === 0;
      await this.need.store.takeJob(battery, summary, foreign, isNewer);
      // Its first and its last: whoever hears of a gap asks for the whole.
      for (const event of new Set([job.log.at(0), job.log.at(-1)]))
        if (event) this.need.stream.tell({ kind: 'event', event });
      return this.need.jobs.answer(id);
    });
  }

  /** The same record twice is no harm: it is told by its last hash, or, of a file without any, by what it says. */
  private async isSame(id: string, { job, foreign }: TakenJob): Promise<boolean> {
    const { entries } = await this.need.store.kept(id);
    return (
      entries.at(-1)?.hash === foreign.entries.at(-1)?.hash ||
      isDeepStrictEqual((await this.need.jobs.job(id)).log, job.log)
    );
  }
}
