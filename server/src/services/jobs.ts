/**
 * Jobs at work: folds logs, takes entries one at a time per job, and answers a retry with what was
 * recorded the first time.
 */
import { randomUUID } from 'node:crypto';
import { isDeepStrictEqual } from 'node:util';
import type { Clock } from '@cork-ember/core/clock/clock.ts';
import {
  isTaken,
  kindName,
  LITHIUM_REFUSAL,
  type BatteryType,
  type ListedType,
} from '@cork-ember/core/battery/types.ts';
import type { BatteryRecord, JobAnswer, JobExport, JobSummary } from '@cork-ember/core/contract/answers.ts';
import { SHELF, standsText } from '@cork-ember/core/runsheet/place.ts';
import { append as appendTo, foldJob, record, type Job } from '@cork-ember/core/runsheet/fold.ts';
import { RunSheetError } from '@cork-ember/core/runsheet/errors.ts';
import {
  EDITION,
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
import { SeqTakenError, type JobChange, type JobStore, type StoredEvent } from '../store/jobStore.ts';
import { Queue } from './queue.ts';
import type { ShopSettings, Standing } from './shop.ts';
import type { Stock } from './stock.ts';
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
  /** Request keys already recorded, and the entry each became. */
  readonly seqOf: Map<string, number>;
}

function standingOf({ bay, outcome, endedAt }: JobState): JobChange {
  return { bay, outcome: outcome ?? null, endedAt: endedAt ?? null };
}

/** A correction holds what the entry it replaces would have to. @throws ProblemError in the schema's own words */
function checkCorrection({ log }: Job, entry: Entry): void {
  if (entry.kind !== 'corrected') return;
  const target = log.find(({ seq }) => seq === entry.payload.replaces);
  const schema = target && stepPayloadSchemas[target.kind];
  if (schema) validated(schema, entry.payload.payload);
}

/** What puts a charger on, or sets it otherwise. */
const SETS_A_CHARGER: readonly string[] = ['chargeStarted', 'chargeSet', 'chargeResumed'];

export class Jobs {
  private readonly held = new Map<string, Promise<Held>>();
  private readonly queue = new Queue();
  private readonly store: JobStore;
  private readonly clock: Clock;
  private readonly stream: Stream;
  private readonly settings: ShopSettings;
  private readonly stock: Stock;

  constructor(store: JobStore, clock: Clock, stream: Stream, settings: ShopSettings, stock: Stock) {
    this.store = store;
    this.clock = clock;
    this.stream = stream;
    this.settings = settings;
    this.stock = stock;
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
    const stored = await this.store.events(id);
    if (stored.length === 0) throw new ProblemError('not-found', 'There is no such job.');
    const seqOf = new Map(
      stored.flatMap(({ event, requestKey }) => (requestKey ? [[requestKey, event.seq] as const] : [])),
    );
    return { job: foldJob(stored.map(({ event }) => event)), seqOf };
  }

  /** @throws ProblemError when there is none */
  async job(id: string): Promise<Job> {
    return (await this.load(id)).job;
  }

  async openJobs(): Promise<Job[]> {
    const open = await this.store.jobs({ isOpen: true });
    return Promise.all(open.map(({ id }) => this.job(id)));
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
      const knownSeq = held.seqOf.get(request.requestKey);
      const recorded = held.job.log.find((event) => event.seq === knownSeq);
      if (recorded) return recorded;
      const lastSeq = held.job.log.at(-1)?.seq ?? 0;
      if (request.expectedSeq !== lastSeq) throw staleError(held.job, request.expectedSeq);
      checkCorrection(held.job, request.entry);
      const job = record(held.job, request.entry, this.moment(held.job, request.enteredAt), request.by);
      const event = job.log.at(-1);
      if (!event) throw new Error('a recorded job has a log');
      const stored = { event, requestKey: request.requestKey };
      const { state: before } = held.job;
      const write = async (): Promise<void> => {
        await this.write(id, stored, before, job.state);
        held.job = job;
      };
      if (job.state.bay !== before.bay)
        await this.queue.run('intake', async () => {
          await this.checkBay(job.state.bay);
          await write();
        });
      else if (SETS_A_CHARGER.includes(request.entry.kind))
        await this.queue.run('chargers', async () => {
          await this.checkSetting(id, job.state);
          await write();
        });
      else await write();
      const moves = movesBetween(before, job.state);
      held.seqOf.set(request.requestKey, event.seq);
      this.stream.tell({ kind: 'event', event });
      await this.stock.drawn(request.by, id, job.state.opened.battery.tag, moves);
      return event;
    });
  }

  /** @throws ProblemError where its charger is set otherwise for another battery, and has one setting for all */
  private async checkSetting(id: string, after: JobState): Promise<void> {
    const others = (await this.openJobs()).filter(({ state }) => state.job !== id);
    const refusal = sharedSettingRefusal(
      after,
      others.map(({ state }) => state),
    );
    if (refusal !== undefined) throw new ProblemError('refused', refusal);
  }

  private async write(id: string, stored: StoredEvent, before: JobState, after: JobState): Promise<void> {
    try {
      const isChanged = before.outcome !== after.outcome || before.bay !== after.bay;
      const { tag, owner } = after.opened.battery;
      await this.store.append(
        stored,
        isChanged ? standingOf(after) : undefined,
        owner === before.opened.battery.owner ? undefined : { tag, owner },
      );
    } catch (error) {
      if (!(error instanceof SeqTakenError)) throw error;
      this.held.delete(id);
      throw staleError(await this.job(id), stored.event.seq - 1);
    }
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
        at: this.clock.now(),
        by,
        kind: 'opened',
        payload: this.opening(request),
      };
      foldJob([event]);
      if (type) await this.settings.addType(type, by, battery.tag);
      const summary: JobSummary = {
        id,
        tag: battery.tag,
        bay: request.bay,
        openedAt: event.at,
        outcome: null,
        endedAt: null,
      };
      await this.store.createJob(battery, summary, [{ event, requestKey: request.requestKey }]);
      this.stream.tell({ kind: 'event', event });
      return { id, events: [event] };
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
    return { id, events: log };
  }

  async export(id: string): Promise<JobExport> {
    const { log } = await this.job(id);
    return { format: 'cork-ember-job', version: 2, job: id, events: log };
  }

  /**
   * Takes a whole job from a file. The log must be one the run sheet would have accepted.
   * @returns the job, unchanged when this very log is already here
   */
  import(file: JobExport): Promise<JobAnswer> {
    return this.queue.run('intake', async () => {
      const job = foldExport(file);
      const present = await this.job(file.job).catch(() => undefined);
      if (present) {
        if (isDeepStrictEqual(present.log, file.events)) return this.answer(file.job);
        throw new ProblemError('taken', 'This job is here already, with another log; nothing was changed.');
      }
      const { opened, openedAt, outcome } = job.state;
      const { tag, serial, dateCode, owner } = opened.battery;
      const battery: BatteryRecord = { tag, typeId: opened.type.id, serial, dateCode, owner };
      if (!outcome) await this.checkFree({ battery, bay: job.state.bay });
      const summary: JobSummary = { id: file.job, tag, openedAt, ...standingOf(job.state) };
      await this.store.createJob(
        battery,
        summary,
        file.events.map((event) => ({ event, requestKey: null })),
      );
      for (const event of file.events) this.stream.tell({ kind: 'event', event });
      return this.answer(file.job);
    });
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

function foldExport(file: JobExport): Job {
  const [first, ...rest] = file.events;
  if (!first || file.events.some((event) => event.job !== file.job))
    throw new ProblemError('bad-input', 'The file mixes entries of different jobs.');
  try {
    return rest.reduce(appendTo, foldJob([first]));
  } catch (error) {
    if (error instanceof RunSheetError)
      throw new ProblemError('bad-input', `The file’s log does not hold together: ${error.message}`);
    throw error;
  }
}
