/** A job is the fold of its events. Corrections name what they replace and take its place in time. */
import { RunSheetError } from './errors.ts';
import { entryKey } from './entryKey.ts';
import type { Entry, EventKind, EventPayloads, JobEvent } from './events.ts';
import { openJob, reduce } from './reduce.ts';
import type { JobState } from './state.ts';

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

/**
 * The log with every correction carried out: replaced events carry their new payload at their own time,
 * undone ones are gone, and the corrections themselves have no further effect.
 * @throws RunSheetError when a correction names no plain event before it
 */
export function effectiveEvents(log: readonly JobEvent[]): JobEvent[] {
  const isPlain = log.every((event) => event.kind !== 'corrected' && event.kind !== 'undone');
  if (isPlain) return log.slice();
  const standing = new Map<number, JobEvent>();
  for (const event of log) {
    if (event.kind !== 'corrected' && event.kind !== 'undone') {
      standing.set(event.seq, event);
      continue;
    }
    const target = standing.get(event.payload.replaces);
    if (!target)
      throw new RunSheetError(
        'cannot-correct',
        `There is no standing entry ${entryKey(event.payload.replaces)} to correct.`,
      );
    if (target.kind === 'opened')
      throw new RunSheetError(
        'cannot-correct',
        'The opening of a job cannot be corrected; withdraw it and take the battery in again.',
      );
    if (event.kind === 'undone') {
      standing.delete(target.seq);
      continue;
    }
    standing.set(target.seq, withPayload(target, event.payload.payload));
  }
  return [...standing.values()];
}

function checkOrder(before: JobEvent | undefined, event: JobEvent): void {
  if (before && event.at < before.at)
    throw new RunSheetError('out-of-order', 'An entry cannot be earlier than the one before it.');
}

/**
 * Replays a log.
 * @throws RunSheetError when the log is not one a run sheet would have accepted
 */
export function foldJob(log: readonly JobEvent[]): Job {
  const [first, ...rest] = effectiveEvents(log);
  if (first?.kind !== 'opened') throw new RunSheetError('out-of-order', 'A job begins with its opening.');
  log.forEach((event, index) => checkOrder(log[index - 1], event));
  return { log, state: rest.reduce(reduce, openJob(first)) };
}

function isRefusedLater(error: unknown): error is RunSheetError {
  return error instanceof RunSheetError && error.problem !== 'cannot-correct';
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
  const isMending = event.kind === 'corrected' || event.kind === 'undone';
  if (isMending && job.state.outcome)
    throw new RunSheetError(
      'closed',
      'This job has ended and its papers are out: nothing in it is changed. Say it in a note.',
    );
  if (event.kind === 'corrected') {
    const { replaces, payload } = event.payload;
    const target = effectiveEvents(job.log).find(({ seq }) => seq === replaces);
    if (target) assertReplaces(target, payload);
  }
  const log = [...job.log, event];
  if (!isMending) return { log, state: reduce(job.state, event) };
  try {
    return foldJob(log);
  } catch (error) {
    if (!isRefusedLater(error)) throw error;
    throw new RunSheetError(
      'cannot-correct',
      `Later entries rest on this one (${error.message}) Undo those first.`,
    );
  }
}

/** Appends an entry as the next event of a job. */
export function record(job: Job, entry: Entry, at: number, by: string): Job {
  const seq = (job.log.at(-1)?.seq ?? 0) + 1;
  return append(job, { job: job.state.job, seq, at, by, ...entry });
}
