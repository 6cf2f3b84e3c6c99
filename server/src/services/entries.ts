/** Takes entries, one at a time for each job, and answers a retry with what was recorded the first time. */
import type { Clock } from '@cork-ember/core/clock/clock.ts';
import { findingOf } from '@cork-ember/core/ledger/finding.ts';
import { append as appendTo, type Job } from '@cork-ember/core/runsheet/log/fold.ts';
import { seqOfEntry } from '@cork-ember/core/runsheet/entries/entryKey.ts';
import type { Change, Entry, JobEvent } from '@cork-ember/core/runsheet/entries/events.ts';
import { stepPayloadSchemas } from '@cork-ember/core/contract/schemas.ts';
import { sharedSettingRefusal } from '@cork-ember/core/runsheet/plan/sharedSetting.ts';
import type { JobState } from '@cork-ember/core/runsheet/state/jobState.ts';
import { movesBetween } from '@cork-ember/core/adapters/usedByJob.ts';
import { ProblemError } from '../problems.ts';
import { MOST_ENTRIES } from '../record/fileSchema.ts';
import { validated } from '../validate.ts';
import { SeqTakenError, standingOf, type Appending, type JobStore } from '../store/jobStore.ts';
import type { Held, Jobs } from './jobs.ts';
import type { Places } from './places.ts';
import type { Queue } from './queue.ts';
import type { Sealing } from './sealing.ts';
import type { Stream } from './stream.ts';

export interface AppendRequest {
  readonly expectedSeq: number;
  readonly requestKey: string;
  readonly by: string;
  readonly enteredAt?: number;
  readonly entry: Entry;
}

/** What replaces an entry holds what that entry would have to. @throws ProblemError in the schema's own words */
function checkChanges({ log }: Job, entry: Entry): void {
  const changes: readonly Change[] =
    entry.kind === 'corrected' ? [entry.payload] : entry.kind === 'amended' ? entry.payload.changes : [];
  for (const { replaces, payload } of changes) {
    const seq = seqOfEntry(log, replaces);
    const target = log.find((event) => event.seq === seq);
    const schema = target && stepPayloadSchemas[target.kind];
    if (schema && payload) validated(schema, payload);
  }
}

/** What puts a charger on, or sets it otherwise. */
const SETS_A_CHARGER: readonly string[] = ['chargeStarted', 'chargeSet', 'chargeResumed'];

/** What taking an entry needs beside the job. */
interface EntriesNeed {
  readonly jobs: Jobs;
  readonly store: JobStore;
  readonly sealing: Sealing;
  readonly places: Places;
  readonly clock: Clock;
  readonly stream: Stream;
  /** Shared with whoever else gives bays away. */
  readonly queue: Queue;
}

/** Kept free for what ends a job that was read to its limit. */
const LEFT_TO_END = 1000;
const READ_AGAIN_AND_AGAIN: readonly string[] = ['chargeRead', 'noted', 'evidenced', 'photographed'];

/** @throws ProblemError where a job holds as much as its file could carry */
function checkRoom(held: number, { kind }: Entry): void {
  const most = READ_AGAIN_AND_AGAIN.includes(kind) ? MOST_ENTRIES - LEFT_TO_END : MOST_ENTRIES;
  if (held >= most)
    throw new ProblemError(
      'refused',
      `This job holds ${held} entries: only what ends it is still recorded; take the battery in anew after that.`,
    );
}

export class Entries {
  private readonly need: EntriesNeed;

  constructor(need: EntriesNeed) {
    this.need = need;
  }

  /**
   * Takes one entry.
   * @throws ProblemError when the client has not seen the latest entries; RunSheetError when it is refused
   */
  append(id: string, request: AppendRequest): Promise<JobEvent> {
    return this.need.queue.run(id, async () => {
      const held = await this.need.jobs.load(id);
      const recorded = held.byKey.get(request.requestKey);
      if (recorded) return recorded;
      const lastSeq = held.job.log.at(-1)?.seq ?? 0;
      if (request.expectedSeq !== lastSeq) throw staleError(held.job, request.expectedSeq);
      checkRoom(lastSeq, request.entry);
      checkChanges(held.job, request.entry);
      await this.checkPicture(id, request.entry);
      const [at, now] = [this.moment(held.job, request.enteredAt), this.need.clock.now()];
      const { entry, by, requestKey: key } = request;
      const seq = lastSeq + 1;
      const event: JobEvent = {
        job: id,
        seq,
        key,
        at,
        ...(now > at ? { recordedAt: now } : {}),
        by,
        ...entry,
      };
      const job = appendTo(held.job, event);
      await this.inTurn(held.job, job, entry, () => this.write(held, job, event));
      this.need.stream.tell({ kind: 'event', event });
      return event;
    });
  }

  /** Where an entry touches what others touch too, one after the other. */
  private inTurn(before: Job, { state }: Job, entry: Entry, write: () => Promise<void>): Promise<void> {
    if (state.bay !== before.state.bay || entry.kind === 'reopened')
      return this.need.queue.run('intake', async () => {
        if (entry.kind === 'reopened') await this.need.places.checkIsLatest(state);
        await this.need.places.checkBay(state.bay);
        await write();
      });
    if (SETS_A_CHARGER.includes(entry.kind))
      return this.need.queue.run('chargers', async () => {
        await this.checkSetting(state);
        await write();
      });
    return write();
  }

  /** The picture comes first, then the entry that names it. */
  private async checkPicture(id: string, entry: Entry): Promise<void> {
    if (entry.kind !== 'photographed' || (await this.need.store.hasPhoto(id, entry.payload.photo))) return;
    throw new ProblemError(
      'bad-input',
      'Photo: there is no such picture of this job; send the picture first.',
    );
  }

  /** @throws ProblemError where its charger is set otherwise for another battery, and has one setting for all */
  private async checkSetting(after: JobState): Promise<void> {
    const others = (await this.need.jobs.openJobs()).filter(({ state }) => state.job !== after.job);
    const refusal = sharedSettingRefusal(
      after,
      others.map(({ state }) => state),
    );
    if (refusal !== undefined) throw new ProblemError('refused', refusal);
  }

  /** Event, job, stock, seal and finding go to disk together; what is held here follows. */
  private async write(held: Held, job: Job, event: JobEvent): Promise<void> {
    const [before, after] = [held.job.state, job.state];
    const { job: id } = event;
    const isChanged = before.outcome !== after.outcome || before.bay !== after.bay;
    const { tag, owner } = after.opened.battery;
    const isEnd = after.outcome !== undefined && (before.outcome === undefined || event.kind === 'amended');
    const moves = movesBetween(before, after).map((move) => ({ ...move, why: tag }));
    const appending: Appending = {
      event,
      before: held.hash,
      ...(isChanged ? { change: standingOf(after) } : {}),
      ...(owner === before.opened.battery.owner ? {} : { owned: { tag, owner } }),
      moves,
      ...(isEnd
        ? {
            seal: await this.need.sealing.prepare([...held.marked, event], this.need.clock.now()),
            finding: findingOf(after) ?? null,
          }
        : {}),
      ...(event.kind === 'reopened' ? { finding: null } : {}),
    };
    try {
      this.need.jobs.keep(held, job, await this.need.store.append(appending));
    } catch (error) {
      if (!(error instanceof SeqTakenError)) throw error;
      this.need.jobs.forget(id);
      throw staleError(await this.need.jobs.job(id), event.seq - 1);
    }
    if (moves.length > 0) this.need.stream.tell({ kind: 'shop' });
  }

  /** An entry that waited in the browser keeps its own time, as far as the log and the present allow. */
  private moment(job: Job, enteredAt: number | undefined): number {
    const now = this.need.clock.now();
    const last = job.log.at(-1)?.at ?? now;
    return enteredAt !== undefined && enteredAt >= last && enteredAt <= now ? enteredAt : Math.max(now, last);
  }
}

function staleError(job: Job, expectedSeq: number): ProblemError {
  const changed = job.log.filter((event) => event.seq > expectedSeq);
  const who = [...new Set(changed.map((event) => event.by))].join(' and ');
  const detail =
    who === ''
      ? 'Your page is ahead of the record; reload it.'
      : `${who} recorded something in the meantime; look again, then enter yours.`;
  return new ProblemError('stale', detail, changed);
}
