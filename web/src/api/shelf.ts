/** Batteries off the bench as the page knows them: those the shop keeps, with what is on its way, and what is foretold of them. */
import { useQuery } from '@tanstack/react-query';
import { useEffect, useMemo, useState } from 'react';
import type { ListedType } from '@cork-ember/core/battery/types.ts';
import type { Shop, ShelvedBattery } from '@cork-ember/core/contract/answers.ts';
import type { ShelfEvent } from '@cork-ember/core/shelf/entries.ts';
import { readFigures } from '@cork-ember/core/shelf/figures.ts';
import { keptWith, type Kept } from '@cork-ember/core/shelf/keeping.ts';
import type { ShelfRules } from '@cork-ember/core/shelf/due.ts';
import { inStores } from '@cork-ember/core/shelf/stores.ts';
import { listed, type Shelved } from '@cork-ember/core/shelf/overview.ts';
import type { Place } from '@cork-ember/core/shelf/places.ts';
import type { Prediction } from '@cork-ember/core/shelf/prediction.ts';
import { useParcels } from '../store/outbox.ts';
import { isOfShelf, type ShelfParcel } from '../store/parcel.ts';
import type { Wanted } from '../ui/Waiting.tsx';
import type { Keeper } from '../workers/shelf.worker.ts';
import { Hired } from '../workers/hired.ts';
import { shopNow, useMinute } from './clock.ts';
import { askKnown } from './known.ts';
import { onNews } from './news.ts';
import { BATTERIES, queryClient, SHELVED, useShop, useTypes } from './queries.ts';

const keeper = new Hired<Keeper>(
  () => new Worker(new URL('../workers/shelf.worker.ts', import.meta.url), { type: 'module' }),
);

/** One entry more; what leaves the shop's care stays until the list is asked for anew. */
const withEvent = (
  batteries: readonly ShelvedBattery[],
  event: ShelfEvent,
): readonly ShelvedBattery[] | undefined => {
  const its = batteries.find(({ tag }) => tag === event.tag);
  if (!its || event.kind === 'placed') return undefined;
  if (event.seq <= its.kept.seq) return batteries;
  return batteries.map((one) => (one === its ? { ...one, kept: keptWith(one.kept, event) } : one));
};

onNews((news) => {
  if (news.kind !== 'shelf') return;
  const before = queryClient.getQueryData<readonly ShelvedBattery[]>(SHELVED);
  const next = before && withEvent(before, news.event);
  if (next) queryClient.setQueryData(SHELVED, next);
  else void queryClient.invalidateQueries({ queryKey: SHELVED });
  void queryClient.invalidateQueries({ queryKey: [...BATTERIES, 'one', news.event.tag] });
});

const eventOf = ({ requestKey, tag, by, enteredAt, shelfEntry }: ShelfParcel, seq: number): ShelfEvent => ({
  tag,
  seq,
  key: requestKey,
  at: enteredAt,
  by,
  ...shelfEntry,
});

/** What is on its way is shown as if recorded. */
function withParcels(
  batteries: readonly ShelvedBattery[],
  parcels: readonly ShelfParcel[],
): readonly ShelvedBattery[] {
  const waiting = parcels.filter(({ refused }) => refused === undefined);
  if (waiting.length === 0) return batteries;
  return batteries.map((battery) =>
    waiting
      .filter(({ tag }) => tag === battery.tag)
      .reduce(
        (sofar, parcel) => ({
          ...sofar,
          kept: keptWith(sofar.kept, eventOf(parcel, sofar.kept.seq + 1)),
        }),
        battery,
      ),
  );
}

interface Foretold {
  readonly shelved?: readonly Shelved[];
  readonly error?: unknown;
}

const HOUR = 3_600_000;

/** What is foretold of each as it is kept, in which hour; one that changes is foretold anew, the others are not. */
let foretold = new WeakMap<Kept, { readonly hour: number; readonly prediction: Prediction | undefined }>();
/** Types they were foretold by. */
let foretoldBy: readonly ListedType[] | undefined;
interface Question {
  readonly items: readonly ShelvedBattery[];
  readonly types: readonly ListedType[];
  readonly rules: ShelfRules;
  readonly hour: number;
}

/** What was asked last, and the answer: whoever comes back to the shelf sees it at once. */
let last: (Question & { readonly shelved: readonly Shelved[] }) | undefined;

const isAnswered = ({ items, types, rules, hour }: Question): boolean =>
  last?.items === items && last.types === types && last.rules === rules && last.hour === hour;

/** Asks for what is not foretold yet. */
async function foretellAll(
  items: readonly ShelvedBattery[],
  types: readonly ListedType[],
  hour: number,
): Promise<void> {
  if (foretoldBy !== types) foretold = new WeakMap();
  foretoldBy = types;
  const missing = items.filter(({ kept }) => foretold.get(kept)?.hour !== hour);
  if (missing.length === 0) return;
  const used = new Set(missing.map(({ typeId }) => typeId));
  const figures = await keeper.ask((worker) =>
    worker.foretell(
      missing,
      types.filter(({ id }) => used.has(id)),
      shopNow(),
    ),
  );
  missing.forEach(({ kept }, index) => foretold.set(kept, { hour, prediction: readFigures(figures, index) }));
}

/** Foretells them anew when one changes, and with each hour; what was foretold before stays until then. */
function useForetold(
  items: readonly ShelvedBattery[] | undefined,
  types: readonly ListedType[] | undefined,
  rules: ShelfRules | undefined,
): Foretold & { readonly again: () => void } {
  const [answer, setAnswer] = useState<Foretold>(() => (last ? { shelved: last.shelved } : {}));
  const [asked, setAsked] = useState(0);
  const hour = Math.floor(useMinute() / HOUR);
  useEffect(() => {
    if (!items || !types || !rules || hour === 0) return undefined;
    if (isAnswered({ items, types, rules, hour })) return undefined;
    let isWanted = true;
    foretellAll(items, types, hour).then(
      () => {
        if (!isWanted) return;
        const shelved = listed(items, types, ({ kept }) => foretold.get(kept)?.prediction, rules, shopNow());
        last = { items, types, rules, hour, shelved };
        setAnswer({ shelved });
      },
      (error: unknown) => isWanted && setAnswer((before) => ({ ...before, error })),
    );
    return () => {
      isWanted = false;
    };
  }, [items, types, rules, hour, asked]);
  return { ...answer, again: () => setAsked((times) => times + 1) };
}

/** Those that stand at one place share it: what goes to the worker is a fraction. */
function sharing(body: unknown): readonly ShelvedBattery[] {
  const places = new Map<string, Place>();
  const shared = (place: Place): Place => {
    const key = JSON.stringify(place);
    const there = places.get(key);
    if (!there) places.set(key, place);
    return there ?? place;
  };
  return (body as readonly ShelvedBattery[]).map((one) => ({
    ...one,
    kept: { ...one.kept, stays: one.kept.stays.map((stay) => ({ ...stay, place: shared(stay.place) })) },
  }));
}

interface ShelfAnswer {
  /** What is due first comes first; undefined while nobody knows. */
  readonly shelved: readonly Shelved[] | undefined;
  readonly types: readonly ListedType[] | undefined;
  readonly shop: Shop | undefined;
  /** All it waits for. */
  readonly asked: readonly Wanted[];
}

/** Every battery off the bench, foretold. */
export function useShelf(): ShelfAnswer {
  const kept = useQuery({
    queryKey: SHELVED,
    queryFn: () => askKnown('/api/shelf', sharing),
  });
  const [shops, typeList] = [useShop(), useTypes()];
  const parcels = useParcels();
  const stores = shops.data?.stores;
  const items = useMemo(() => {
    if (!kept.data || !stores) return undefined;
    const all = withParcels(kept.data, parcels.filter(isOfShelf));
    return stores.length === 0
      ? all
      : all.map((one) => {
          const inIts = inStores(one.kept, stores);
          return inIts === one.kept ? one : { ...one, kept: inIts };
        });
  }, [kept.data, parcels, stores]);
  const { shelved, error, again } = useForetold(items, typeList.data, shops.data?.rules);
  const foretold: Wanted = { data: shelved, error, refetch: again };
  return {
    shelved,
    types: typeList.data,
    shop: shops.data,
    asked: [kept, shops, typeList, foretold],
  };
}
