/** A job is the fold of its events. Corrections name what they replace and take its place in time. */
import { RunSheetError } from './errors.ts';
import type { Entry, JobEvent } from './events.ts';
import { openJob, reduce } from './reduce.ts';
import type { JobState } from './state.ts';

export interface Job {
  readonly log: readonly JobEvent[];
  readonly state: JobState;
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
        `There is no standing entry ${event.payload.replaces} to correct.`,
      );
    if (target.kind === 'opened')
      throw new RunSheetError(
        'cannot-correct',
        'The opening of a job cannot be corrected; withdraw it and take the battery in again.',
      );
    if (event.kind === 'undone') standing.delete(target.seq);
    else standing.set(target.seq, withPayload(target, event.payload.payload));
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
  const log = [...job.log, event];
  if (event.kind !== 'corrected' && event.kind !== 'undone') return { log, state: reduce(job.state, event) };
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
