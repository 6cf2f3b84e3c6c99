/** What the interface knows of the shop. Server state lives in TanStack Query alone. */
import { keepPreviousData, QueryClient, useQuery } from '@tanstack/react-query';
import type { ListedType } from '@cork-ember/core/battery/types.ts';
import type {
  BatteryAnswer,
  BatteryPage,
  BatteryQuery,
  LearnedAnswer,
  NextTag,
  Quarantined,
  Shop,
  ShopChange,
} from '@cork-ember/core/contract/answers.ts';
import type { InstrumentIdentity, InstrumentReading } from '@cork-ember/core/observation/instrument.ts';
import type { Shelf } from '@cork-ember/core/ledger/sets.ts';
import type { WayRecord } from '@cork-ember/core/ledger/ways.ts';
import type { RecordedMove, StockLevel } from '@cork-ember/core/stock/stock.ts';
import type { InstrumentQuantity } from '@cork-ember/core/observation/instrument.ts';
import { ask, Refusal } from './client.ts';
import { askKnown } from './known.ts';
import { fetchClock } from './clock.ts';

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
export const BATTERIES = ['batteries'] as const;
const LEDGER = ['ledger'] as const;
/** The shop says when it has learned something; a view that opens does not ask again. */
const LEARNED_MS = 600_000;
/** Batteries off the bench. */
export const SHELVED = ['shelved'] as const;
/** Machines that batteries work in. */
export const MACHINES = ['machines'] as const;
/** Lists of what the shop has and had: what comes to the bench or leaves it changes them, and what may be matched. */
export const LISTS = [BATTERIES, LEDGER, SHELVED, MACHINES] as const;
const APART = ['quarantine'] as const;

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

/** Records nobody can read today: they stand apart and stop nothing else. */
export function useQuarantined() {
  return useQuery({ queryKey: APART, queryFn: () => askKnown<readonly Quarantined[]>('/api/quarantine') });
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

/** What the shop has learned from its own jobs; the handbook's word alone holds until it is known. */
export function useLearned() {
  return useQuery({
    queryKey: [...LEDGER, 'learned'],
    queryFn: () => askKnown<LearnedAnswer>('/api/ledger/learned'),
    staleTime: LEARNED_MS,
    retry: false,
  });
}

/** Recovered batteries that may be matched. */
export function useMatchable() {
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

/** Rules, chargers, types or stock have changed. @returns when what is shown of them is what the server has, or was asked for */
export async function refreshShop(): Promise<void> {
  const changed = [
    ...['shop', 'types', 'changes', 'stock', 'instruments'].map((key) => [key]),
    [...BATTERIES, 'next tag'],
    MACHINES,
    [...LEDGER, 'learned'],
  ];
  await Promise.all(changed.map((queryKey) => queryClient.invalidateQueries({ queryKey })));
}

export const isOfLogs = ({ queryKey }: { readonly queryKey: readonly unknown[] }): boolean =>
  queryKey[0] === JOBS[0] || queryKey[0] === 'job';

/** All but the logs, which are caught up with entry by entry. */
export function askAnew(): void {
  void queryClient.invalidateQueries({ predicate: (query) => !isOfLogs(query) });
}
