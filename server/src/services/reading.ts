/** Reads a job out of the file: what today's run sheets cannot read is said in a sentence, and stops nothing else. */
import { setImmediate } from 'node:timers/promises';
import { FAR_AHEAD, LONG_AGO } from '@cork-ember/core/contract/moments.ts';
import { entryKey } from '@cork-ember/core/runsheet/entries/entryKey.ts';
import { RunSheetError } from '@cork-ember/core/runsheet/entries/errors.ts';
import type { JobEvent } from '@cork-ember/core/runsheet/entries/events.ts';
import { foldStepwise, type Job } from '@cork-ember/core/runsheet/log/fold.ts';
import { forecast } from '@cork-ember/core/runsheet/plan/forecast.ts';
import { breather } from '../gently.ts';
import { ProblemError } from '../problems.ts';
import type { ChainedEntry } from '../record/chain.ts';
import { commitmentsIn, markOf } from '../record/names.ts';
import { eventsOf, type KeptJob } from '../store/jobStore.ts';

/** A moment no shop has lived in: whatever reckons with it would fail or never end. */
const isAbsurd = (at: unknown): boolean =>
  at !== undefined && !(typeof at === 'number' && at >= LONG_AGO && at <= FAR_AHEAD);

/** @throws RangeError that names the first entry that is damaged or of a moment nobody has lived in */
function checkEvents(events: readonly JobEvent[]): void {
  for (const { seq, at, recordedAt, payload } of events) {
    if (typeof payload !== 'object') throw new RangeError(`Entry ${entryKey(seq)} is damaged.`);
    const said = payload as { readonly promisedAt?: unknown; readonly plannedAt?: unknown };
    if (isAbsurd(at) || [recordedAt, said.promisedAt, said.plannedAt].some(isAbsurd))
      throw new RangeError(`Entry ${entryKey(seq)} has a date that no shop has seen.`);
  }
}

/** What is wrong with a record, in the one sentence it is set apart with. */
function unreadable(error: unknown): ProblemError {
  const isSaid = error instanceof RunSheetError || error instanceof RangeError;
  const why = isSaid ? error.message : 'something stands in it that they do not know.';
  return new ProblemError('quarantined', `This record cannot be read by today’s run sheets: ${why}`);
}

/**
 * Replays what is kept, an entry at a time.
 * @throws ProblemError of the kind "quarantined" where the entries are none that a run sheet would have taken
 */
function* foldKept(kept: KeptJob): Generator<undefined, Job> {
  try {
    const events = eventsOf(kept);
    checkEvents(events);
    return yield* foldStepwise(events);
  } catch (error) {
    throw unreadable(error);
  }
}

/** What can be folded can be drawn too, or every page that lists it would fail. @throws ProblemError as above */
function checkDrawn({ log, state }: Job): void {
  try {
    forecast(state, log.at(-1)?.at ?? state.openedAt);
  } catch (error) {
    throw unreadable(error);
  }
}

/** Entry by entry, and what comes of them. */
function* reading(kept: KeptJob): Generator<undefined, Job> {
  const job = yield* foldKept(kept);
  yield;
  checkDrawn(job);
  return job;
}

/**
 * A job as its entries tell it.
 * @throws ProblemError of the kind "quarantined", whatever is wrong with them
 */
export function readJob(kept: KeptJob): Job {
  const steps = reading(kept);
  for (;;) {
    const step = steps.next();
    if (step.done === true) return step.value;
  }
}

/** The same, letting others in between: a bench of two hundred is read while somebody waits for something small. */
export async function readJobGently(kept: KeptJob): Promise<Job> {
  await setImmediate();
  const steps = reading(kept);
  const breathe = breather();
  for (;;) {
    const step = steps.next();
    if (step.done === true) return step.value;
    await breathe();
  }
}

/** A job's events with marks in place of its customers' names: what is sealed holds no name. */
export function markedEvents(entries: readonly ChainedEntry[]): JobEvent[] {
  const commitments = commitmentsIn(JSON.stringify(entries.map(({ payload }) => payload)));
  const names = commitments.map((commitment) => ({ commitment, salt: '', name: markOf({ commitment }) }));
  return eventsOf({ entries, names });
}
