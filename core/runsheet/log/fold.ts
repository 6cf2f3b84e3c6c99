/** A job is the fold of its events. Corrections name what they replace and take its place in time. */
import { RunSheetError } from '../entries/errors.ts';
import { entryKey, seqOfEntry } from '../entries/entryKey.ts';
import type { Change, Entry, EventKind, EventPayloads, JobEvent } from '../entries/events.ts';
import { openJob, reduce } from './reduce.ts';
import type { JobState } from '../state/jobState.ts';

export interface Job {
  readonly log: readonly JobEvent[];
  readonly state: JobState;
}

/** What a payload of each kind must hold at the least to stand in for another; kinds not named are only taken back. */
const MUST_HOLD: Partial<Record<EventKind, readonly string[]>> = {
  affirmed: [],
  observed: [],
  denied: ['denial'],
  measured: ['values', 'source'],
  skipped: [],
  overridden: ['reason'],
  chargeStarted: ['currentA'],
  chargeRead: ['values', 'source'],
  chargeLogged: ['file', 'rows', 'readings'],
  chargeSet: ['currentA'],
  chargePaused: ['reason'],
  chargeResumed: ['tempC'],
  chargeEnded: ['fullSignal'],
  decided: ['verdict'],
  routed: ['route'],
  routeLeft: ['reason'],
};

/** @throws RunSheetError when the payload is not one of the kind it would replace, or speaks of another step */
function assertReplaces(target: JobEvent, payload: EventPayloads['corrected']['payload']): void {
  const needed = MUST_HOLD[target.kind];
  if (!needed || !('step' in target.payload))
    throw new RunSheetError(
      'cannot-correct',
      'This kind of entry is not corrected; take it back and make it anew.',
    );
  const given: Readonly<Record<string, unknown>> = { ...payload };
  const missing = needed.find((name) => given[name] === undefined);
  if (missing !== undefined)
    throw new RunSheetError(
      'cannot-correct',
      `Entry ${entryKey(target.seq)} holds “${missing}”; the correction has none.`,
    );
  if (payload.step !== target.payload.step)
    throw new RunSheetError(
      'cannot-correct',
      `Entry ${entryKey(target.seq)} belongs to another step; a correction stays with its own.`,
    );
}

/** Puts another payload into an event of the same kind, keeping its place, time and author. */
function withPayload(event: JobEvent, payload: JobEvent['payload']): JobEvent {
  return { ...event, payload } as JobEvent;
}

/** What an entry changes of entries before it; of most nothing. */
export function changesIn(event: JobEvent): readonly Change[] {
  switch (event.kind) {
    case 'corrected':
    case 'undone':
      return [event.payload];
    case 'amended':
      return event.payload.changes;
    case 'reopened':
      return [{ replaces: event.payload.ending }];
    default:
      return [];
  }
}

/** Entries that do nothing but change others; a job that is opened again also comes to stand somewhere. */
const ONLY_CHANGE: readonly EventKind[] = ['corrected', 'undone', 'amended'];

/** What opens a job, at first or again: what follows rests on it whole. */
const OPENINGS: readonly EventKind[] = ['opened', 'reopened'];

/** The log as it stands so far, its entries by their place. */
class Standing {
  private readonly events = new Map<number, JobEvent>();
  private readonly places = new Map<string, number>();

  add(event: JobEvent): void {
    this.events.set(event.seq, event);
    this.places.set(event.key, event.seq);
    this.places.set(entryKey(event.seq), event.seq);
  }

  /** @throws RunSheetError where no plain entry of this name stands */
  change({ replaces, payload }: Change): void {
    const target = this.events.get(this.places.get(replaces) ?? 0);
    if (!target)
      throw new RunSheetError(
        'cannot-correct',
        `There is no standing entry ${replaces.startsWith('#') ? replaces : 'of this key'} to correct.`,
      );
    if (OPENINGS.includes(target.kind))
      throw new RunSheetError(
        'cannot-correct',
        target.kind === 'opened'
          ? 'The opening of a job cannot be corrected; withdraw it and take the battery in again.'
          : 'That the job was opened again stays; end it again instead.',
      );
    if (payload === undefined) this.events.delete(target.seq);
    else this.events.set(target.seq, withPayload(target, payload));
  }

  all(): JobEvent[] {
    return [...this.events.values()];
  }
}

/**
 * The log with every correction carried out: replaced events carry their new payload at their own time,
 * undone ones are gone, and the corrections themselves have no further effect.
 * @throws RunSheetError when a correction names no plain event before it
 */
export function effectiveEvents(log: readonly JobEvent[]): JobEvent[] {
  if (log.every((event) => changesIn(event).length === 0)) return log.slice();
  const standing = new Standing();
  for (const event of log) {
    for (const change of changesIn(event)) standing.change(change);
    if (!ONLY_CHANGE.includes(event.kind)) standing.add(event);
  }
  return standing.all();
}

function checkOrder(before: JobEvent | undefined, event: JobEvent): void {
  if (before && event.at < before.at)
    throw new RunSheetError('out-of-order', 'An entry cannot be earlier than the one before it.');
}

/**
 * Replays a log an entry at a time, for whoever must let others in between.
 * @throws RunSheetError when the log is not one a run sheet would have accepted
 */
export function* foldStepwise(log: readonly JobEvent[]): Generator<undefined, Job> {
  const [first, ...rest] = effectiveEvents(log);
  if (first?.kind !== 'opened') throw new RunSheetError('out-of-order', 'A job begins with its opening.');
  log.forEach((event, index) => checkOrder(log[index - 1], event));
  let state = openJob(first);
  for (const event of rest) {
    state = reduce(state, event);
    yield;
  }
  return { log, state };
}

/**
 * Replays a log.
 * @throws RunSheetError when the log is not one a run sheet would have accepted
 */
export function foldJob(log: readonly JobEvent[]): Job {
  const steps = foldStepwise(log);
  for (;;) {
    const step = steps.next();
    if (step.done === true) return step.value;
  }
}

/** The entry a job ended with. */
export function endingOf({ log, state: { outcome } }: Job): JobEvent | undefined {
  const [first, ...rest] = effectiveEvents(log);
  if (outcome === undefined || first?.kind !== 'opened') return undefined;
  let state = openJob(first);
  return rest.find((event) => {
    state = reduce(state, event);
    return state.outcome !== undefined;
  });
}

function isRefusedLater(error: unknown): error is RunSheetError {
  return error instanceof RunSheetError && error.problem !== 'cannot-correct';
}

/** @throws RunSheetError where a job that is open is amended, or one whose papers are out is mended in place */
function checkMayChange({ state }: Job, kind: EventKind): void {
  const isOut = state.outcome !== undefined;
  const isAmendment = kind === 'amended' || kind === 'reopened';
  if (isOut === isAmendment) return;
  throw new RunSheetError(
    'closed',
    isOut
      ? 'This job has ended and its papers are out: amend it, and they come out again with both.'
      : 'This job is open: put the entry itself right.',
  );
}

/** @throws RunSheetError where an amendment leaves the job open */
function checkEnding({ state }: Job, kind: EventKind): void {
  if (kind === 'amended' && !state.outcome)
    throw new RunSheetError(
      'cannot-correct',
      'So the job would not have ended: open it again instead, and end it as it was.',
    );
}

function refold(log: readonly JobEvent[], { kind }: JobEvent): Job {
  try {
    return foldJob(log);
  } catch (error) {
    if (!isRefusedLater(error)) throw error;
    if (kind === 'reopened') throw new RunSheetError('cannot-correct', 'This entry did not end the job.');
    throw new RunSheetError(
      'cannot-correct',
      `Later entries rest on this one (${error.message}) Undo those first.`,
    );
  }
}

/**
 * Records one more event.
 * @throws RunSheetError when it is not taken; the job given stays as it was
 */
export function append(job: Job, event: JobEvent): Job {
  const lastSeq = job.log.at(-1)?.seq ?? 0;
  if (event.seq !== lastSeq + 1)
    throw new RunSheetError('out-of-order', `Entry ${event.seq} does not follow entry ${lastSeq}.`);
  checkOrder(job.log.at(-1), event);
  const log = [...job.log, event];
  const changes = changesIn(event);
  if (changes.length === 0) return { log, state: reduce(job.state, event) };
  checkMayChange(job, event.kind);
  const standing = effectiveEvents(job.log);
  for (const { replaces, payload } of changes) {
    const target = standing.find(({ seq }) => seq === seqOfEntry(job.log, replaces));
    if (target && payload) assertReplaces(target, payload);
  }
  const changed = refold(log, event);
  checkEnding(changed, event.kind);
  return changed;
}

/**
 * Appends an entry as the next event of a job.
 * @param key its own; its place where it is given none
 */
export function record(job: Job, entry: Entry, at: number, by: string, key?: string): Job {
  const seq = (job.log.at(-1)?.seq ?? 0) + 1;
  return append(job, { job: job.state.job, seq, key: key ?? entryKey(seq), at, by, ...entry });
}
