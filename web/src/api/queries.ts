/** What the interface knows of the shop. Server state lives in TanStack Query alone. */
import { QueryClient, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import type { ListedType } from '@cork-ember/core/battery/types.ts';
import type {
  BatteryAnswer,
  JobAnswer,
  JobLog,
  Quarantined,
  Shop,
  ShopChange,
} from '@cork-ember/core/contract/answers.ts';
import type { InstrumentIdentity, InstrumentReading } from '@cork-ember/core/instruments/instrument.ts';
import type { Finding } from '@cork-ember/core/ledger/finding.ts';
import type { JobEvent } from '@cork-ember/core/runsheet/events.ts';
import type { RecordedMove, StockLevel } from '@cork-ember/core/stock/stock.ts';
import { foldJob, record, type Job } from '@cork-ember/core/runsheet/fold.ts';
import type { InstrumentQuantity } from '@cork-ember/core/runsheet/step.ts';
import { ask, Refusal } from './client.ts';
import { fetchClock } from './clock.ts';
import { useParcels, whenRecorded, type Parcel } from './outbox.ts';

export const queryClient = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 60_000,
      // What the server refuses it refuses again; one that is away is asked once more, and again.
      retry: (failures, error) => !(error instanceof Refusal) && failures < 2,
      refetchOnWindowFocus: false,
    },
  },
});

const JOBS = ['jobs'] as const;
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

/** Entries still on their way are shown as if recorded; one of another job, or that no longer fits, is left out. */
function withParcels(job: Job, parcels: readonly Parcel[]): Job {
  return parcels.reduce((sofar, parcel) => {
    if (parcel.job !== job.state.job) return sofar;
    // One whose place is taken has been recorded, or comes too late.
    const lastSeq = sofar.log.at(-1)?.seq ?? 0;
    if (parcel.refused !== undefined || parcel.expectedSeq !== lastSeq) return sofar;
    try {
      const at = Math.max(parcel.enteredAt, sofar.log.at(-1)?.at ?? 0);
      return record(sofar, parcel.entry, at, parcel.by, parcel.requestKey);
    } catch {
      return sofar;
    }
  }, job);
}

export function useClock() {
  return useQuery({ queryKey: ['clock'], queryFn: fetchClock, staleTime: Number.POSITIVE_INFINITY });
}

export function useShop() {
  return useQuery({ queryKey: ['shop'], queryFn: () => ask<Shop>('/api/shop') });
}

export function useTypes() {
  return useQuery({ queryKey: ['types'], queryFn: () => ask<readonly ListedType[]>('/api/types') });
}

export function useShopChanges() {
  return useQuery({ queryKey: ['changes'], queryFn: () => ask<readonly ShopChange[]>('/api/shop/changes') });
}

interface StockAnswer {
  readonly levels: readonly StockLevel[];
  readonly moves: readonly RecordedMove[];
}

export function useStock() {
  return useQuery({ queryKey: ['stock'], queryFn: () => ask<StockAnswer>('/api/stock') });
}

export function useOpenJobs() {
  const query = useQuery({
    queryKey: JOBS,
    queryFn: async () => (await ask<readonly JobLog[]>('/api/jobs')).map(withHeard),
  });
  const parcels = useParcels();
  const jobs = useMemo(
    () =>
      (query.data ?? [])
        .map(({ events }) => withParcels(jobOf(events), parcels))
        .filter(({ state }) => state.outcome === undefined)
        .sort((a, b) => a.state.bay - b.state.bay),
    [query.data, parcels],
  );
  return { ...query, jobs };
}

/** Records nobody can read today: they stand apart and stop nothing else. */
export function useQuarantined() {
  return useQuery({ queryKey: APART, queryFn: () => ask<readonly Quarantined[]>('/api/quarantine') });
}

export function useJob(id: string) {
  const query = useQuery({
    queryKey: ['job', id],
    queryFn: async () => withHeard(await ask<JobAnswer>(`/api/jobs/${id}`)),
  });
  const parcels = useParcels();
  const events = query.data?.events;
  const job = useMemo(() => (events ? withParcels(jobOf(events), parcels) : undefined), [events, parcels]);
  const its = useMemo(() => parcels.filter((parcel) => parcel.job === id), [id, parcels]);
  return { ...query, job, parcels: its };
}

export function useBatteries() {
  return useQuery({ queryKey: BATTERIES, queryFn: () => ask<readonly BatteryAnswer[]>('/api/batteries') });
}

export function useBattery(tag: string) {
  return useQuery({
    queryKey: [...BATTERIES, tag],
    queryFn: () => ask<BatteryAnswer>(`/api/batteries/${tag}`),
    retry: false,
  });
}

/** What every ended job found, the oldest first. */
export function useLedger() {
  return useQuery({ queryKey: LEDGER, queryFn: () => ask<readonly Finding[]>('/api/ledger') });
}

export function useInstruments() {
  return useQuery({
    queryKey: ['instruments'],
    queryFn: () => ask<readonly InstrumentIdentity[]>('/api/instruments'),
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

function grown<T extends JobLog>(answer: T, event: JobEvent): T | undefined {
  const lastSeq = answer.events.at(-1)?.seq ?? 0;
  if (event.seq <= lastSeq) return answer;
  return event.seq === lastSeq + 1 ? { ...answer, events: [...answer.events, event] } : undefined;
}

/** Takes an event into what is known, wherever the job is shown; a gap is filled by asking again. */
export function takeEvent(event: JobEvent): void {
  heard.push(event);
  if (heard.length > MOST_HEARD) heard.shift();
  const one = queryClient.getQueryData<JobAnswer>(['job', event.job]);
  const next = one && grown(one, event);
  if (next) queryClient.setQueryData(['job', event.job], next);
  // With its end, and with every amendment, its papers come out anew.
  const isOut = next !== undefined && jobOf(next.events).state.outcome !== undefined;
  if (isOut || (one && !next)) void queryClient.invalidateQueries({ queryKey: ['job', event.job] });

  const open = queryClient.getQueryData<readonly JobLog[]>(JOBS);
  const listed = open?.find((answer) => answer.id === event.job);
  const longer = listed && grown(listed, event);
  const hasEnded = longer !== undefined && jobOf(longer.events).state.outcome !== undefined;
  if (open && longer && !hasEnded)
    queryClient.setQueryData(
      JOBS,
      open.map((answer) => (answer === listed ? longer : answer)),
    );
  else void queryClient.invalidateQueries({ queryKey: JOBS });
  const isAmended = event.kind === 'amended' || event.kind === 'reopened';
  if (event.seq === 1 || hasEnded || isAmended) void queryClient.invalidateQueries({ queryKey: BATTERIES });
  if (hasEnded || isAmended) void queryClient.invalidateQueries({ queryKey: LEDGER });
}

whenRecorded(takeEvent);

/** Rules, chargers, types or stock have changed. */
export function refreshShop(): void {
  for (const key of ['shop', 'types', 'changes', 'stock'])
    void queryClient.invalidateQueries({ queryKey: [key] });
}

/** Asks for everything again, after the connection was lost. */
export function refreshAll(): void {
  void queryClient.invalidateQueries();
}
