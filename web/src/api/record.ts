/** Records an entry on a job: checked here first, kept until the server has it. */
import { useCallback } from 'react';
import { v4 as uuid } from 'uuid';
import { rightOfEntry } from '@cork-ember/core/access/rights.ts';
import type { Entry } from '@cork-ember/core/runsheet/entries/events.ts';
import { record, type Job } from '@cork-ember/core/runsheet/log/fold.ts';
import { onwardWith, outlineOf, type Outline } from '@cork-ember/core/runsheet/log/outline.ts';
import { shopNow } from './clock.ts';
import { painted } from './gently.ts';
import { entering, send, type Sent } from '../store/outbox.ts';
import { usePerson } from './person.ts';
import { assertMay } from './session.ts';
import { queryClient } from './queries.ts';
import { Refusal } from './client.ts';

/** A picture and the key it is kept under, which its entry names. */
export interface KeyedPicture {
  readonly key: string;
  readonly picture: Blob;
}

export type RecordEntry = (entry: Entry, keyed?: KeyedPicture) => Promise<Sent>;

/**
 * Records an entry on a job as shown; what changes entries before it takes the whole log to be checked here.
 * @throws Error whose message is the sentence to show
 */
export async function recordOn(
  job: Job | Outline,
  by: string,
  entry: Entry,
  keyed?: KeyedPicture,
): Promise<Sent> {
  if (by === '') throw new Error('Say who is at the bench first, at the top right.');
  assertMay(rightOfEntry(entry));
  const { seq: expectedSeq, at } = 'log' in job ? outlineOf(job) : job;
  const enteredAt = Math.max(shopNow(), at);
  const entered = entering();
  try {
    // The press is seen first; what follows from an entry takes a slow tablet a good part of a second.
    await painted();
    if ('log' in job) record(job, entry, enteredAt, by);
    else onwardWith(job, entry, enteredAt, by);
    return await send(
      { requestKey: keyed?.key ?? uuid(), job: job.state.job, by, entry, expectedSeq, enteredAt },
      keyed?.picture,
    );
  } catch (error) {
    if (error instanceof Refusal && error.status === 409)
      void queryClient.invalidateQueries({ queryKey: ['job', job.state.job] });
    throw error;
  } finally {
    entered();
  }
}

/**
 * @param job as shown, entries on their way included
 * @returns a function that records, or throws an Error whose message is the sentence to show
 */
export function useRecord(job: Job | Outline): RecordEntry {
  const [by] = usePerson();
  return useCallback((entry, keyed) => recordOn(job, by, entry, keyed), [by, job]);
}

/** Records several entries of a job, one after the other; the first that is refused ends it. */
export function useRecordAll(job: Job): (entries: readonly Entry[]) => Promise<void> {
  const [by] = usePerson();
  return useCallback(
    async (entries) => {
      let shown = job;
      for (const entry of entries) {
        await recordOn(shown, by, entry);
        shown = record(shown, entry, Math.max(shopNow(), shown.log.at(-1)?.at ?? 0), by);
      }
    },
    [by, job],
  );
}
