/**
 * Jobs at work: folds logs, takes entries one at a time per job, and answers a retry with what was
 * recorded the first time.
 */
import { randomUUID } from 'node:crypto';
import { isDeepStrictEqual } from 'node:util';
import { LRUCache } from 'lru-cache';
import type { Transaction } from 'sequelize';
import type { Clock } from '@cork-ember/core/clock/clock.ts';
import {
  isTaken,
  kindName,
  LITHIUM_REFUSAL,
  type BatteryType,
  type ListedType,
} from '@cork-ember/core/battery/types.ts';
import type { BatteryRecord, JobAnswer, JobSummary, Quarantined } from '@cork-ember/core/contract/answers.ts';
import { findingOf } from '@cork-ember/core/ledger/finding.ts';
import { SHELF, standsText } from '@cork-ember/core/runsheet/place.ts';
import { append as appendTo, foldJob, type Job } from '@cork-ember/core/runsheet/fold.ts';
import { seqOfEntry } from '@cork-ember/core/runsheet/entryKey.ts';
import {
  EDITION,
  type Change,
  type Entry,
  type JobEvent,
  type OpenedPayload,
  type Told,
} from '@cork-ember/core/runsheet/events.ts';
import { procedureById, proceduresFor } from '@cork-ember/core/runsheet/procedures/procedures.ts';
import { stepPayloadSchemas } from '@cork-ember/core/contract/schemas.ts';
import type { Procedure } from '@cork-ember/core/runsheet/step.ts';
import { sharedSettingRefusal } from '@cork-ember/core/runsheet/sharedSetting.ts';
import type { JobState } from '@cork-ember/core/runsheet/state.ts';
import { movesBetween } from '@cork-ember/core/stock/usedByJob.ts';
import { ProblemError } from '../problems.ts';
import { validated } from '../validate.ts';
import { SeqTakenError, type Appending, type JobChange, type JobStore } from '../store/jobStore.ts';
import type { TakenJob } from './jobFile.ts';
import { Queue } from './queue.ts';
import { markedEvents, readJob } from './reading.ts';
import { summaryOf, type Sealing } from './sealing.ts';
import type { ShopSettings, Standing } from './shop.ts';
import type { Stream } from './stream.ts';

export interface AppendRequest {
  readonly expectedSeq: number;
  readonly requestKey: string;
  readonly by: string;
  readonly enteredAt?: number;
  readonly entry: Entry;
}

export interface IntakeRequest {
  readonly battery: BatteryRecord;
  /** Its type, read off the label, where the list has none; it goes into the list. */
  readonly type?: ListedType;
  readonly bay: number;
  readonly promisedAt: number;
  /** Work to be done; the usual for the kind where it is not given. */
  readonly procedure?: string;
  readonly fitting?: boolean;
  readonly plannedAt?: number;
  readonly told?: Told;
  readonly by: string;
  readonly requestKey: string;
}

interface Held {
  job: Job;
  /** Hash of the last entry. */
  hash: string;
  /** The job's entries with marks for names: what a seal is made of. */
  readonly marked: JobEvent[];
  /** Entries by their keys: a retry is answered with what was recorded. */
  readonly byKey: Map<string, JobEvent>;
}

function standingOf({ bay, outcome, endedAt }: JobState): JobChange {
  return { bay, outcome: outcome ?? null, endedAt: endedAt ?? null };
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

/** Ended jobs are looked up again and again for a while, and then no more. */
const MOST_HELD = 400;

export class Jobs {
  private readonly held = new LRUCache<string, Promise<Held>>({ max: MOST_HELD });
  private readonly queue = new Queue();
  private readonly store: JobStore;
  private readonly clock: Clock;
  private readonly stream: Stream;
  private readonly settings: ShopSettings;
  private readonly sealing: Sealing;

  constructor(store: JobStore, clock: Clock, stream: Stream, settings: ShopSettings, sealing: Sealing) {
    this.store = store;
    this.clock = clock;
    this.stream = stream;
    this.settings = settings;
    this.sealing = sealing;
  }

  private load(id: string): Promise<Held> {
    const known = this.held.get(id);
    if (known) return known;
    const loading = this.read(id);
    this.held.set(id, loading);
    loading.catch(() => this.held.delete(id));
    return loading;
  }

  private async read(id: string): Promise<Held> {
    const kept = await this.store.kept(id);
    if (kept.entries.length === 0) throw new ProblemError('not-found', 'There is no such job.');
    const job = readJob(kept);
    return {
      job,
      hash: kept.entries.at(-1)?.hash ?? '',
      marked: markedEvents(kept.entries),
      byKey: new Map(job.log.map((event) => [event.key, event])),
    };
  }

  /** @throws ProblemError when there is none, or its record cannot be read */
  async job(id: string): Promise<Job> {
    return (await this.load(id)).job;
  }

  /** Every open job that can be read: one that cannot stands in nobody's way. */
  async openJobs(): Promise<Job[]> {
    const open = await this.store.jobs({ isOpen: true });
    const jobs = await Promise.all(open.map(({ id }) => this.ifReadable(id)));
    return jobs.filter((job) => job !== undefined);
  }

  private async ifReadable(id: string): Promise<Job | undefined> {
    try {
      return await this.job(id);
    } catch (error) {
      if (error instanceof ProblemError && error.kind === 'quarantined') return undefined;
      throw error;
    }
  }

  /** Open jobs, and ended ones that have no seal, whose record cannot be read. */
  async quarantined(): Promise<Quarantined[]> {
    const summaries = [
      ...(await this.store.jobs({ isOpen: true })),
      ...(await this.store.jobs({ id: await this.store.unsealed() })),
    ];
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

  /** What stands on the bench, and the charger of the charge at hand. */
  async standing(): Promise<Standing[]> {
    return (await this.openJobs()).map(({ state }) => {
      // A charge that pauses for heat goes on with the same one.
      const charger = state.steps[state.cursor]?.charge?.charger;
      return { tag: state.opened.battery.tag, bay: state.bay, ...(charger ? { charger } : {}) };
    });
  }

  summaries(where: { tag?: string } = {}): Promise<JobSummary[]> {
    return this.store.jobs(where);
  }

  /**
   * Takes one entry.
   * @throws ProblemError when the client has not seen the latest entries; RunSheetError when it is refused
   */
  append(id: string, request: AppendRequest): Promise<JobEvent> {
    return this.queue.run(id, async () => {
      const held = await this.load(id);
      const recorded = held.byKey.get(request.requestKey);
      if (recorded) return recorded;
      const lastSeq = held.job.log.at(-1)?.seq ?? 0;
      if (request.expectedSeq !== lastSeq) throw staleError(held.job, request.expectedSeq);
      checkChanges(held.job, request.entry);
      await this.checkPicture(id, request.entry);
      const [at, now] = [this.moment(held.job, request.enteredAt), this.clock.now()];
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
      this.stream.tell({ kind: 'event', event });
      return event;
    });
  }

  /** Where an entry touches what others touch too, one after the other. */
  private inTurn(before: Job, { state }: Job, entry: Entry, write: () => Promise<void>): Promise<void> {
    if (state.bay !== before.state.bay || entry.kind === 'reopened')
      return this.queue.run('intake', async () => {
        if (entry.kind === 'reopened') await this.checkIsLatest(state);
        await this.checkBay(state.bay);
        await write();
      });
    if (SETS_A_CHARGER.includes(entry.kind))
      return this.queue.run('chargers', async () => {
        await this.checkSetting(state);
        await write();
      });
    return write();
  }

  /** The picture comes first, then the entry that names it. */
  private async checkPicture(id: string, entry: Entry): Promise<void> {
    if (entry.kind !== 'photographed' || (await this.store.hasPhoto(id, entry.payload.photo))) return;
    throw new ProblemError(
      'bad-input',
      'Photo: there is no such picture of this job; send the picture first.',
    );
  }

  /** @throws ProblemError where the battery of a job that is opened again has come back since */
  private async checkIsLatest({ opened, openedAt }: JobState): Promise<void> {
    const { tag } = opened.battery;
    if ((await this.store.laterJobs(tag, openedAt)) > 0)
      throw new ProblemError('taken', `${tag} has been taken in again since: this ending stays.`);
  }

  /** @throws ProblemError where its charger is set otherwise for another battery, and has one setting for all */
  private async checkSetting(after: JobState): Promise<void> {
    const others = (await this.openJobs()).filter(({ state }) => state.job !== after.job);
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
            seal: await this.sealing.prepare([...held.marked, event], this.clock.now()),
            finding: findingOf(after) ?? null,
          }
        : {}),
      ...(event.kind === 'reopened' ? { finding: null } : {}),
    };
    try {
      held.hash = (await this.store.append(appending)).hash;
    } catch (error) {
      if (!(error instanceof SeqTakenError)) throw error;
      this.held.delete(id);
      throw staleError(await this.job(id), event.seq - 1);
    }
    held.job = job;
    held.marked.push(event);
    held.byKey.set(event.key, event);
    // A name that was given is a mark in the file: it is read from there.
    if (event.kind === 'arranged') this.held.delete(id);
    else this.held.set(id, Promise.resolve(held));
    if (moves.length > 0) this.stream.tell({ kind: 'shop' });
  }

  /** An entry that waited in the browser keeps its own time, as far as the log and the present allow. */
  private moment(job: Job, enteredAt: number | undefined): number {
    const now = this.clock.now();
    const last = job.log.at(-1)?.at ?? now;
    return enteredAt !== undefined && enteredAt >= last && enteredAt <= now ? enteredAt : Math.max(now, last);
  }

  /** Takes a battery in and opens its run sheet. */
  intake(request: IntakeRequest): Promise<JobAnswer> {
    return this.queue.run('intake', async () => {
      const opened = await this.store.openedBy(request.requestKey);
      if (opened) return this.answer(opened);
      await this.checkFree(request);
      const { battery, by, type } = request;
      if (type) this.settings.checkNew(type, battery.typeId);
      const id = randomUUID();
      const event: JobEvent = {
        job: id,
        seq: 1,
        key: request.requestKey,
        at: this.clock.now(),
        by,
        kind: 'opened',
        payload: this.opening(request),
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
      const kept = await this.store.keeping([event]);
      const write = (transaction?: Transaction): Promise<void> =>
        this.store.createJob(battery, summary, kept, transaction);
      // A type that is new here and the battery it was read off: both, or neither.
      if (type)
        await this.settings.addType(type, by, battery.tag, async (within) => void (await write(within)));
      else await write();
      this.stream.tell({ kind: 'event', event });
      return { id, events: [event], seals: [] };
    });
  }

  /** What is to be done with a battery: as asked, or the usual for its kind. */
  private workOn(type: BatteryType, asked: string | undefined): Procedure {
    const possible = proceduresFor(type);
    const procedure = asked === undefined ? possible[0] : possible.find(({ id }) => id === asked);
    if (procedure) return procedure;
    throw new ProblemError(
      'bad-input',
      `Work: ${kindName(type)} is not commissioned by “${procedureById(asked ?? '').title}”.`,
    );
  }

  private opening({
    battery,
    bay,
    promisedAt,
    procedure: asked,
    fitting,
    plannedAt,
    told,
    type: own,
  }: IntakeRequest): OpenedPayload {
    const type = own ?? this.settings.types.find((candidate) => candidate.id === battery.typeId);
    if (!type)
      throw new ProblemError('bad-input', `Type: there is no “${battery.typeId}” in this shop’s list.`);
    if (!isTaken(type)) throw new ProblemError('bad-input', LITHIUM_REFUSAL);
    const procedure = this.workOn(type, asked);
    if (promisedAt <= this.clock.now())
      throw new ProblemError('bad-input', 'Promised: the time must lie ahead.');
    const { tag, serial, dateCode, owner } = battery;
    if (Date.parse(`${dateCode}-01T00:00:00Z`) > this.clock.now())
      throw new ProblemError(
        'bad-input',
        `Date code: ${dateCode} lies ahead; a month that has begun is needed.`,
      );
    const { rules, hours } = this.settings.shop;
    return {
      edition: EDITION,
      procedure: procedure.id,
      battery: { tag, serial, dateCode, owner },
      type,
      rules,
      hours,
      bay,
      promisedAt,
      ...(fitting === true ? { fitting } : {}),
      // What was planned for a moment that has gone by is to be begun now.
      ...(plannedAt !== undefined && plannedAt > this.clock.now() ? { plannedAt } : {}),
      ...(told && procedure.routes ? { told } : {}),
    };
  }

  /** The shelf takes any number; a bay takes one. */
  private async checkBay(bay: number): Promise<void> {
    if (bay === SHELF) return;
    const { bays } = this.settings.shop;
    if (!bays.some(({ number }) => number === bay))
      throw new ProblemError('bad-input', `Bay: there is no bay ${bay}; this shop has ${bays.length}.`);
    const other = (await this.store.jobs({ isOpen: true })).find((open) => open.bay === bay);
    if (other) throw new ProblemError('taken', `Bay ${bay} is taken by ${other.tag}; choose a free one.`);
  }

  private async checkFree({ battery, bay }: Pick<IntakeRequest, 'battery' | 'bay'>): Promise<void> {
    const standing = (await this.store.jobs({ isOpen: true })).find(({ tag }) => tag === battery.tag);
    if (standing)
      throw new ProblemError('taken', `${battery.tag} is at work here already, ${standsText(standing.bay)}.`);
    await this.checkBay(bay);
    const before = await this.store.battery(battery.tag);
    if (before && before.typeId !== battery.typeId)
      throw new ProblemError(
        'taken',
        `${battery.tag} is in the ledger as ${before.typeId}; give this one another tag.`,
      );
  }

  async answer(id: string): Promise<JobAnswer> {
    const { log } = await this.job(id);
    return { id, events: log, seals: (await this.store.seals(id)).map(summaryOf) };
  }

  /** Takes a job that was read from a file; nothing is told of it before all of it is on disk. */
  take(taken: TakenJob): Promise<JobAnswer> {
    return this.queue.run('intake', async () => {
      const { job, foreign } = taken;
      const id = job.state.job;
      const [present] = await this.store.jobs({ id });
      if (present) {
        if (await this.isSame(id, taken)) return this.answer(id);
        throw new ProblemError('taken', 'This job is here already, with another log; nothing was changed.');
      }
      const { opened, openedAt, outcome } = job.state;
      const { tag, serial, dateCode, owner } = opened.battery;
      const battery: BatteryRecord = { tag, typeId: opened.type.id, serial, dateCode, owner };
      await this.checkKnown(battery);
      if (!outcome) await this.checkFree({ battery, bay: job.state.bay });
      const summary: JobSummary = { id, tag, openedAt, ...standingOf(job.state) };
      const isNewer = (await this.store.laterJobs(tag, openedAt)) === 0;
      await this.store.takeJob(battery, summary, foreign, isNewer);
      for (const event of job.log) this.stream.tell({ kind: 'event', event });
      return this.answer(id);
    });
  }

  /** The same record twice is no harm: it is told by its last hash, or, of a file without any, by what it says. */
  private async isSame(id: string, { job, foreign }: TakenJob): Promise<boolean> {
    const { entries } = await this.store.kept(id);
    return (
      entries.at(-1)?.hash === foreign.entries.at(-1)?.hash ||
      isDeepStrictEqual((await this.job(id)).log, job.log)
    );
  }

  /** @throws ProblemError where a battery of this tag is known as another type or piece */
  private async checkKnown(battery: BatteryRecord): Promise<void> {
    const known = await this.store.battery(battery.tag);
    if (!known) return;
    const differs = (['typeId', 'serial', 'dateCode'] as const).find((fact) => known[fact] !== battery[fact]);
    if (differs === undefined) return;
    const words = { typeId: 'type', serial: 'serial', dateCode: 'date code' }[differs];
    throw new ProblemError(
      'taken',
      `${battery.tag} is known here with another ${words} (${known[differs] || 'none'}, not ${battery[differs] || 'none'}): nothing was taken in.`,
    );
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
