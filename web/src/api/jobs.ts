/** Jobs as the page keeps them: what stands on the bench, logs, entries on their way, and what is heard of them. */
import { QueryObserver, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import type { JobAnswer, JobLog, Missed, OpenJob } from '@cork-ember/core/contract/answers.ts';
import type { JobEvent } from '@cork-ember/core/runsheet/entries/events.ts';
import { foldJob, record, type Job } from '@cork-ember/core/runsheet/log/fold.ts';
import { onward, onwardWith, unpacked, type Outline } from '@cork-ember/core/runsheet/log/outline.ts';
import { keepAnswer } from '../store/answers.ts';
import { parcelsNow, useParcels, watchParcels } from '../store/outbox.ts';
import { isOfJob, type JobParcel, type Parcel } from '../store/parcel.ts';
import { ask } from './client.ts';
import { askKnown } from './known.ts';
import { newsLately, onNews, whenThere } from './news.ts';
import { isOfLogs, jobPath, JOBS, LISTS, queryClient } from './queries.ts';

/** Logs never change but by growing: a log already folded is not folded again. */
const folded = new WeakMap<readonly JobEvent[], Job>();

function jobOf(events: readonly JobEvent[]): Job {
  const known = folded.get(events);
  if (known) return known;
  const job = foldJob(events);
  folded.set(events, job);
  return job;
}

/**
 * Entries still on their way are shown as if recorded; one of another job, or that no longer fits, is left out.
 * @param take records one more; undefined where that cannot be told here
 */
function withParcels<T>(
  job: T,
  endOf: (job: T) => { readonly id: string; readonly seq: number; readonly at: number },
  take: (job: T, parcel: JobParcel, at: number) => T | undefined,
  parcels: readonly Parcel[],
): T {
  return parcels.reduce((sofar, parcel) => {
    const { id, seq, at } = endOf(sofar);
    // One whose place is taken has been recorded, or comes too late.
    if (!isOfJob(parcel) || parcel.job !== id) return sofar;
    if (parcel.refused !== undefined || parcel.expectedSeq !== seq) return sofar;
    try {
      return take(sofar, parcel, Math.max(parcel.enteredAt, at)) ?? sofar;
    } catch {
      return sofar;
    }
  }, job);
}

const jobWithParcels = (job: Job, parcels: readonly Parcel[]): Job =>
  withParcels(
    job,
    ({ log, state }) => ({ id: state.job, seq: log.at(-1)?.seq ?? 0, at: log.at(-1)?.at ?? 0 }),
    (sofar, { entry, by, requestKey }, at) => record(sofar, entry, at, by, requestKey),
    parcels,
  );

const outlineWithParcels = (outline: Outline, parcels: readonly Parcel[]): Outline =>
  withParcels(
    outline,
    ({ seq, at, state }) => ({ id: state.job, seq, at }),
    (sofar, { entry, by }, at) => onwardWith(sofar, entry, at, by),
    parcels,
  );

/** How what is on the bench is asked for. */
export const OPEN_JOBS = {
  queryKey: JOBS,
  queryFn: async () =>
    outlinesWithHeard(await askKnown('/api/jobs', (body) => (body as readonly OpenJob[]).map(unpacked))),
};

/** Open jobs with what is on its way, by bay. */
const standing = (outlines: readonly Outline[], parcels: readonly Parcel[]): readonly Outline[] =>
  outlines
    .map((outline) => outlineWithParcels(outline, parcels))
    .filter(({ state }) => state.outcome === undefined)
    .sort((a, b) => a.state.bay - b.state.bay);

/** What is on the bench, where it stands: each without its log. */
export function useOpenJobs() {
  const query = useQuery(OPEN_JOBS);
  const parcels = useParcels();
  const jobs = useMemo(() => standing(query.data ?? [], parcels), [query.data, parcels]);
  return { ...query, jobs };
}

/**
 * The same for whoever lives outside any view: calls whenever what stands on the bench has changed.
 * @param changed told nothing while nobody knows, and what failed where something did
 */
export function watchOpenJobs(
  changed: (jobs: readonly Outline[] | undefined, failed: unknown) => void,
): void {
  const observer = new QueryObserver(queryClient, OPEN_JOBS);
  const tell = (): void => {
    const { data, error } = observer.getCurrentResult();
    changed(data && standing(data, parcelsNow()), error);
  };
  observer.subscribe(tell);
  watchParcels(tell);
  tell();
}

/** A job with its log; what was kept and cannot be read any more is not given. */
const fetchJob = async (id: string): Promise<JobAnswer> =>
  withHeard(
    await askKnown(jobPath(id), (body) => {
      const answer = body as JobAnswer;
      jobOf(answer.events);
      return answer;
    }),
  );

export function useJob(id: string) {
  const query = useQuery({
    queryKey: ['job', id],
    queryFn: () => fetchJob(id),
  });
  const parcels = useParcels();
  const events = query.data?.events;
  const job = useMemo(() => (events ? jobWithParcels(jobOf(events), parcels) : undefined), [events, parcels]);
  const its = useMemo(() => parcels.filter(isOfJob).filter((parcel) => parcel.job === id), [id, parcels]);
  return { ...query, job, parcels: its };
}

/** An answer of the server with what was heard of its job while it was on its way. */
function withHeard<T extends JobLog>(answer: T): T {
  return newsLately().reduce(
    (sofar, event) => (event.job === sofar.id ? (grown(sofar, event) ?? sofar) : sofar),
    answer,
  );
}

/** The same of what is on the bench. */
function outlinesWithHeard(outlines: readonly Outline[]): readonly Outline[] {
  return outlines.map((outline) =>
    newsLately().reduce(
      (sofar, event) => (event.job === sofar.state.job ? (further(sofar, event) ?? sofar) : sofar),
      outline,
    ),
  );
}

function grown<T extends JobLog>(answer: T, event: JobEvent): T | undefined {
  const lastSeq = answer.events.at(-1)?.seq ?? 0;
  if (event.seq <= lastSeq) return answer;
  return event.seq === lastSeq + 1 ? { ...answer, events: [...answer.events, event] } : undefined;
}

/** An outline with what was heard of its job; undefined where it must be asked for anew. */
function further(outline: Outline, event: JobEvent): Outline | undefined {
  if (event.seq <= outline.seq) return outline;
  try {
    return onward(outline, event);
  } catch {
    // The server took it: what is known here is behind.
    return undefined;
  }
}

/** @returns whether the job has ended, or its papers came out anew */
function takeIntoJob(event: JobEvent): boolean {
  const one = queryClient.getQueryData<JobAnswer>(['job', event.job]);
  const next = one && grown(one, event);
  if (next && next !== one) {
    queryClient.setQueryData(['job', event.job], next);
    void keepAnswer(jobPath(event.job), next);
  }
  // With its end, and with every amendment, its papers come out anew.
  const isOut = next !== undefined && jobOf(next.events).state.outcome !== undefined;
  if (isOut || (one && !next)) void queryClient.invalidateQueries({ queryKey: ['job', event.job] });
  return isOut;
}

/** Takes an event into what is known, wherever the job is shown; a gap is filled by asking again. */
function takeEvent(event: JobEvent): void {
  const isOut = takeIntoJob(event);
  const open = queryClient.getQueryData<readonly Outline[]>(JOBS);
  const listed = open?.find(({ state }) => state.job === event.job);
  const longer = listed && further(listed, event);
  const hasEnded = isOut || longer?.state.outcome !== undefined;
  if (open && longer && !hasEnded)
    queryClient.setQueryData(
      JOBS,
      open.map((outline) => (outline === listed ? longer : outline)),
    );
  else void queryClient.invalidateQueries({ queryKey: JOBS });
  if (event.seq !== 1 && !hasEnded && event.kind !== 'reopened') return;
  for (const queryKey of LISTS) void queryClient.invalidateQueries({ queryKey });
}

/** Number of the last entry that is known of each job, the least where it is known twice. */
function lastKnown(): Record<string, number> {
  const known: Record<string, number> = {};
  for (const { state, seq } of queryClient.getQueryData<readonly Outline[]>(JOBS) ?? [])
    known[state.job] = seq;
  for (const [, answer] of queryClient.getQueriesData<JobAnswer>({ queryKey: ['job'] })) {
    const seq = answer?.events.at(-1)?.seq;
    if (answer && seq !== undefined) known[answer.id] = Math.min(seq, known[answer.id] ?? seq);
  }
  return known;
}

/** Takes in what was recorded while nobody listened, entry by entry. */
async function catchUp(): Promise<void> {
  try {
    const { events, isWhole } = await ask<Missed>('/api/jobs/since', { known: lastKnown() });
    for (const event of events) takeEvent(event);
    if (!isWhole) await queryClient.invalidateQueries({ queryKey: JOBS });
  } catch {
    // A server of before does not know the question, or is away again: then all is asked for, or asked for later.
    await queryClient.invalidateQueries({ predicate: isOfLogs });
  }
}

// What was heard before this was fetched has reached nothing that was asked for since.
for (const event of newsLately()) takeEvent(event);
onNews((news) => {
  if (news.kind === 'event') takeEvent(news.event);
});
whenThere((wasAway) => {
  if (wasAway) void catchUp();
});
