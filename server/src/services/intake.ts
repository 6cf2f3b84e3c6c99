/** Takes batteries in: over the counter, or with a job that was kept elsewhere. */
import { randomUUID } from 'node:crypto';
import { isDeepStrictEqual } from 'node:util';
import type { Transaction } from 'sequelize';
import type { Clock } from '@cork-ember/core/clock/clock.ts';
import type { BatteryRecord, JobAnswer, JobSummary } from '@cork-ember/core/contract/answers.ts';
import { foldJob } from '@cork-ember/core/runsheet/log/fold.ts';
import type { JobEvent } from '@cork-ember/core/runsheet/entries/events.ts';
import { ProblemError } from '../problems.ts';
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

export class Intake {
  private readonly need: IntakeNeeds;

  constructor(need: IntakeNeeds) {
    this.need = need;
  }

  /** Takes a battery in and opens its run sheet. */
  accept(request: IntakeRequest): Promise<JobAnswer> {
    const { settings } = this.need;
    return this.need.queue.run('intake', async () => {
      const opened = await this.need.store.openedBy(request.requestKey);
      if (opened) return this.need.jobs.answer(opened);
      await this.need.places.checkFree(request);
      const { battery, by, type } = request;
      if (type) settings.checkNew(type, battery.typeId);
      const [id, now] = [randomUUID(), this.need.clock.now()];
      const event: JobEvent = {
        job: id,
        seq: 1,
        key: request.requestKey,
        at: now,
        by,
        kind: 'opened',
        payload: openingOf(request, settings, now),
      };
      foldJob([event]);
      const summary: JobSummary = {
        id,
        tag: battery.tag,
        bay: request.bay,
        openedAt: event.at,
        outcome: null,
        endedAt: null,
      };
      const kept = await this.need.store.keeping([event]);
      const write = (transaction?: Transaction): Promise<void> =>
        this.need.store.createJob(battery, summary, kept, transaction);
      // A type that is new here and the battery it was read off: both, or neither.
      if (type) await settings.addType(type, by, battery.tag, write);
      else await write();
      this.need.stream.tell({ kind: 'event', event });
      return { id, events: [event], seals: [] };
    });
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
