/** What the interface knows of the shop. Server state lives in TanStack Query alone. */
import { keepPreviousData, QueryClient, QueryObserver, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import type { ListedType } from '@cork-ember/core/battery/types.ts';
import type {
  BatteryAnswer,
  BatteryPage,
  BatteryQuery,
  JobAnswer,
  JobLog,
  Missed,
  NextTag,
  OpenJob,
  Quarantined,
  Shop,
  ShopChange,
} from '@cork-ember/core/contract/answers.ts';
import type { InstrumentIdentity, InstrumentReading } from '@cork-ember/core/observation/instrument.ts';
import type { Shelf } from '@cork-ember/core/ledger/sets.ts';
import type { WayRecord } from '@cork-ember/core/ledger/ways.ts';
import type { JobEvent } from '@cork-ember/core/runsheet/entries/events.ts';
import type { RecordedMove, StockLevel } from '@cork-ember/core/stock/stock.ts';
import { foldJob, record, type Job } from '@cork-ember/core/runsheet/log/fold.ts';
import { onward, onwardWith, unpacked, type Outline } from '@cork-ember/core/runsheet/log/outline.ts';
import type { InstrumentQuantity } from '@cork-ember/core/observation/instrument.ts';
import { ask, Refusal } from './client.ts';
import { askKnown } from './known.ts';
import { fetchClock } from './clock.ts';
import { keepAnswer } from '../store/answers.ts';
import { parcelsNow, useParcels, watchParcels, whenRecorded, type Parcel } from '../store/outbox.ts';

export const queryClient = new QueryClient({
  defaultOptions: {
    queries: {
      // The shop's server may be on this machine, or on a network that leads nowhere else.
      networkMode: 'always',
      staleTime: 60_000,
      // What the server refuses it refuses again; one that is away is asked once more, and again.
      retry: (failures, error) => !(error instanceof Refusal) && failures < 2,
      refetchOnWindowFocus: false,
    },
  },
});

export const JOBS = ['jobs'] as const;
export const jobPath = (id: string): string => `/api/jobs/${id}`;
const BATTERIES = ['batteries'] as const;
const LEDGER = ['ledger'] as const;
const APART = ['quarantine'] as const;

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
  take: (job: T, parcel: Parcel, at: number) => T | undefined,
  parcels: readonly Parcel[],
): T {
  return parcels.reduce((sofar, parcel) => {
    const { id, seq, at } = endOf(sofar);
    // One whose place is taken has been recorded, or comes too late.
    if (parcel.job !== id || parcel.refused !== undefined || parcel.expectedSeq !== seq) return sofar;
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

export function useClock() {
  return useQuery({ queryKey: ['clock'], queryFn: fetchClock, staleTime: Number.POSITIVE_INFINITY });
}

export function useShop() {
  return useQuery({ queryKey: ['shop'], queryFn: () => askKnown<Shop>('/api/shop') });
}

export function useTypes() {
  return useQuery({ queryKey: ['types'], queryFn: () => askKnown<readonly ListedType[]>('/api/types') });
}

export function useShopChanges() {
  return useQuery({
    queryKey: ['changes'],
    queryFn: () => askKnown<readonly ShopChange[]>('/api/shop/changes'),
  });
}

interface StockAnswer {
  readonly levels: readonly StockLevel[];
  readonly moves: readonly RecordedMove[];
}

export function useStock() {
  return useQuery({ queryKey: ['stock'], queryFn: () => askKnown<StockAnswer>('/api/stock') });
}

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
 * @param changed told nothing while nobody knows
 */
export function watchOpenJobs(changed: (jobs: readonly Outline[] | undefined) => void): () => void {
  const observer = new QueryObserver(queryClient, OPEN_JOBS);
  const tell = (): void => {
    const { data } = observer.getCurrentResult();
    changed(data && standing(data, parcelsNow()));
  };
  const ends = [observer.subscribe(tell), watchParcels(tell)];
  tell();
  return () => ends.forEach((end) => end());
}

/** Records nobody can read today: they stand apart and stop nothing else. */
export function useQuarantined() {
  return useQuery({ queryKey: APART, queryFn: () => askKnown<readonly Quarantined[]>('/api/quarantine') });
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
  const its = useMemo(() => parcels.filter((parcel) => parcel.job === id), [id, parcels]);
  return { ...query, job, parcels: its };
}

export function fetchBatteryPage({ words, where, sort, page }: BatteryQuery): Promise<BatteryPage> {
  const asked = new URLSearchParams({ words, where, sort, page: String(page) });
  return askKnown<BatteryPage>(`/api/batteries?${asked.toString()}`);
}

/** One page of the list of batteries; the one before stays until it is there. */
export function useBatteryPage(asked: BatteryQuery) {
  const { words, where, sort, page } = asked;
  return useQuery({
    queryKey: [...BATTERIES, 'page', words, where, sort, page],
    queryFn: () => fetchBatteryPage(asked),
    placeholderData: keepPreviousData,
  });
}

/** A battery by its tag, as it is now. @throws Refusal when no battery carries it */
export const fetchBattery = (tag: string): Promise<BatteryAnswer> =>
  askKnown<BatteryAnswer>(`/api/batteries/${encodeURIComponent(tag)}`);

/** @param tag none asks for nothing */
export function useBattery(tag: string) {
  return useQuery({
    queryKey: [...BATTERIES, 'one', tag],
    queryFn: () => fetchBattery(tag),
    enabled: tag !== '',
    retry: false,
  });
}

/** A battery by its tag, asked for once; undefined where the shop has none. */
export async function knownBattery(tag: string): Promise<BatteryAnswer | undefined> {
  try {
    return await queryClient.fetchQuery({
      queryKey: [...BATTERIES, 'one', tag],
      queryFn: () => fetchBattery(tag),
    });
  } catch (error) {
    if (error instanceof Refusal && error.status === 404) return undefined;
    throw error;
  }
}

/** The next tag of the shop's own row. */
export function useNextTag() {
  return useQuery({
    queryKey: [...BATTERIES, 'next tag'],
    queryFn: () => askKnown<NextTag>('/api/tags/next'),
  });
}

/** What came of the ways back in this shop. */
export function useWays() {
  return useQuery({
    queryKey: [...LEDGER, 'ways'],
    queryFn: () => askKnown<readonly WayRecord[]>('/api/ledger/ways'),
  });
}

/** Recovered batteries that may be matched. */
export function useShelf() {
  return useQuery({
    queryKey: [...LEDGER, 'shelf'],
    queryFn: () => askKnown<Shelf>('/api/ledger/shelf'),
  });
}

export function useInstruments() {
  return useQuery({
    queryKey: ['instruments'],
    queryFn: () => askKnown<readonly InstrumentIdentity[]>('/api/instruments'),
  });
}

export type NamedReading = InstrumentReading & { readonly instrument: string };

/** Pulls one reading from whichever instrument on the bench offers it. */
export function readFrom(
  instrument: InstrumentIdentity,
  quantity: InstrumentQuantity,
  job: string,
): Promise<NamedReading> {
  return ask<NamedReading>(`/api/instruments/${instrument.id}/read`, { quantity, job });
}

/** Events heard lately: an answer that was on its way meanwhile may be without them. */
const heard: JobEvent[] = [];
const MOST_HEARD = 200;

/** An answer of the server with what was heard of its job while it was on its way. */
function withHeard<T extends JobLog>(answer: T): T {
  return heard.reduce(
    (sofar, event) => (event.job === sofar.id ? (grown(sofar, event) ?? sofar) : sofar),
    answer,
  );
}

/** The same of what is on the bench. */
function outlinesWithHeard(outlines: readonly Outline[]): readonly Outline[] {
  return outlines.map((outline) =>
    heard.reduce(
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
export function takeEvent(event: JobEvent): void {
  heard.push(event);
  if (heard.length > MOST_HEARD) heard.shift();
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
  // What comes to the bench or leaves it changes the lists, and what may be matched.
  if (event.seq !== 1 && !hasEnded && event.kind !== 'reopened') return;
  for (const queryKey of [BATTERIES, LEDGER]) void queryClient.invalidateQueries({ queryKey });
}

whenRecorded(takeEvent);

/** Rules, chargers, types or stock have changed. */
export function refreshShop(): void {
  for (const key of ['shop', 'types', 'changes', 'stock'])
    void queryClient.invalidateQueries({ queryKey: [key] });
  void queryClient.invalidateQueries({ queryKey: [...BATTERIES, 'next tag'] });
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

const isOfLogs = ({ queryKey }: { readonly queryKey: readonly unknown[] }): boolean =>
  queryKey[0] === JOBS[0] || queryKey[0] === 'job';

/** Takes in what was recorded while nobody listened, entry by entry; all else is asked for anew. */
export async function catchUp(): Promise<void> {
  void queryClient.invalidateQueries({ predicate: (query) => !isOfLogs(query) });
  try {
    const { events, isWhole } = await ask<Missed>('/api/jobs/since', { known: lastKnown() });
    for (const event of events) takeEvent(event);
    if (!isWhole) await queryClient.invalidateQueries({ queryKey: JOBS });
  } catch {
    // A server of before does not know the question, or is away again: then all is asked for, or asked for later.
    await queryClient.invalidateQueries({ predicate: isOfLogs });
  }
}
