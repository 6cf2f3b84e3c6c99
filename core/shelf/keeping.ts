/** A battery off the bench as its entries leave it: where it stands, its charges, and what was read since. */
import { daysOf, Exposure } from './exposure.ts';
import type { ShelfEvent } from './entries.ts';
import type { Place, PlaceKind } from './places.ts';
import type { ShelfReading, Spell } from './rate.ts';
import { DAY_MS, USUAL_WARMTH } from './warmth.ts';

/** It left the bench charged. */
export interface Charged {
  readonly at: number;
  readonly isProven: boolean;
}

/** How a job left it: charged, or gone from the shop. */
export type BenchEnd = Charged | { readonly at: number; readonly goesTo: 'recycled' | 'supplier' };

export interface Stay {
  readonly from: number;
  readonly place: Place;
}

/** What lists and predictions go by: bounded however long it stands. */
export interface Kept {
  readonly tag: string;
  /** Place of its last entry; 0 where it has none. */
  readonly seq: number;
  /** The first first; the last is where it is now. */
  readonly stays: readonly Stay[];
  /** From charge to charge; the last is the one it stands in. */
  readonly spells: readonly Spell[];
  /** Last looked after on a maintainer, and last given water there. */
  readonly tendedAt?: number;
  readonly wateredAt?: number;
  /** The set it goes with. */
  readonly set?: string;
  /** How many make it whole. */
  readonly setOf?: number;
  /** When the tag that is on it was printed. */
  readonly taggedAt?: number;
  readonly called?: { readonly at: number; readonly said: string };
}

/** What a battery did two charges ago says little of it today. */
const MOST_SPELLS = 3;
/** Of one spell the first readings and the latest. */
const MOST_READINGS = 8;

const fewer = (readings: readonly ShelfReading[]): readonly ShelfReading[] =>
  readings.length <= MOST_READINGS
    ? readings
    : [...readings.slice(0, 2), ...readings.slice(2 - MOST_READINGS)];

type Change = (kept: Kept) => Kept;

const beginSpell =
  ({ at, isProven }: Charged): Change =>
  (kept) => ({
    ...kept,
    spells: [...kept.spells, { from: at, isProven, readings: [] }].slice(-MOST_SPELLS),
  });

function withReading(kept: Kept, reading: ShelfReading): Kept {
  const { spells } = kept;
  // Nobody knows when it was charged: what is known of it begins with this reading.
  if (spells.length === 0)
    return { ...kept, spells: [{ from: reading.at, isProven: false, readings: [reading] }] };
  // One that was sent late belongs to the charge it was read after.
  const at = Math.max(
    0,
    spells.findLastIndex(({ from }) => from <= reading.at),
  );
  return {
    ...kept,
    spells: spells.map((spell, index) =>
      index === at
        ? { ...spell, readings: fewer([...spell.readings, reading].sort((a, b) => a.at - b.at)) }
        : spell,
    ),
  };
}

/** Charged here so lately it comes off the bench, not from whoever has it: put away within a month. */
const OFF_BENCH_MS = 30 * DAY_MS;

/** Where a battery works for somebody, and is charged and discharged by whatever it is in. */
const USED_IN: readonly PlaceKind[] = ['lent', 'customer', 'sold'];

function moved(kept: Kept, at: number, place: Place): Kept {
  const stay = kept.stays.at(-1);
  const before = stay?.place;
  const charged = kept.spells.at(-1)?.from ?? Number.NEGATIVE_INFINITY;
  const stays = [...kept.stays, { from: at, place }];
  // Somebody used it meanwhile: nothing is known of its charge until it is read.
  const isBack =
    stay !== undefined &&
    USED_IN.includes(stay.place.kind) &&
    !USED_IN.includes(place.kind) &&
    (charged <= stay.from || at - charged > OFF_BENCH_MS);
  const next = { ...kept, stays, spells: isBack ? [] : kept.spells };
  // A maintainer holds it full: it stands from when it comes off.
  return before?.kind === 'maintainer' && place.kind !== 'maintainer'
    ? beginSpell({ at, isProven: true })(next)
    : next;
}

const atEnd = (end: BenchEnd): Change =>
  'goesTo' in end
    ? (kept) => {
        // Which machine it failed in is asked for later.
        const machine = kept.stays.at(-1)?.place.machine;
        const place: Place = { kind: end.goesTo, name: '', ...(machine === undefined ? {} : { machine }) };
        return moved(kept, end.at, place);
      }
    : beginSpell(end);

function apart({ machine: _machine, ...place }: Place): Place {
  return place;
}

function take(kept: Kept, event: ShelfEvent): Kept {
  const { at, seq } = event;
  const next = { ...kept, seq };
  switch (event.kind) {
    case 'placed':
      return moved(next, at, event.payload.place);
    case 'read': {
      const { volts, tempC, restedH } = event.payload;
      return withReading(next, {
        at,
        volts,
        ...(tempC === undefined ? {} : { tempC }),
        ...(restedH === undefined ? {} : { restedH }),
      });
    }
    case 'charged':
      return beginSpell({ at, isProven: event.payload.isProven })(next);
    case 'tended':
      return { ...next, tendedAt: at, ...(event.payload.waterMl === undefined ? {} : { wateredAt: at }) };
    case 'joined': {
      const { set: _set, setOf: _setOf, ...alone } = next;
      const { set, of } = event.payload;
      return set === '' ? alone : { ...alone, set, ...(of === undefined ? {} : { setOf: of }) };
    }
    case 'parted':
      return { ...next, stays: next.stays.map((stay) => ({ ...stay, place: apart(stay.place) })) };
    case 'tagged':
      return { ...next, taggedAt: at };
    case 'called':
      return { ...next, called: { at, said: event.payload.said } };
  }
}

/** Stays that still matter: those since the oldest spell that is kept. */
function recent(kept: Kept): Kept {
  const from = kept.spells[0]?.from ?? Number.POSITIVE_INFINITY;
  const { stays } = kept;
  const first = stays.findLastIndex((stay) => stay.from <= from);
  const since = stays.slice(
    Math.max(0, first === -1 ? (kept.spells.length === 0 ? stays.length - 1 : 0) : first),
  );
  return { ...kept, stays: since };
}

/**
 * Folds what is known of a battery off the bench.
 * @param events its entries, in order
 * @param ends how its jobs left it, in order
 */
export function keptOf(tag: string, events: readonly ShelfEvent[], ends: readonly BenchEnd[]): Kept {
  const changes: readonly { readonly at: number; readonly change: Change }[] = [
    ...ends.map((end) => ({ at: end.at, change: atEnd(end) })),
    ...events.map((event) => ({ at: event.at, change: (kept: Kept) => take(kept, event) })),
  ].sort((a, b) => a.at - b.at);
  return recent(
    changes.reduce<Kept>((kept, { change }) => change(kept), { tag, seq: 0, stays: [], spells: [] }),
  );
}

/** The same with one more entry. */
export const keptWith = (kept: Kept, event: ShelfEvent): Kept => recent(take(kept, event));

/** Where it is now; undefined before anybody said. */
export const placeOf = ({ stays }: Kept): Place | undefined => stays.at(-1)?.place;

/** Since when it is there, ms. */
export const sinceOf = ({ stays }: Kept): number | undefined => stays.at(-1)?.from;

/** What its places did to it. */
export function exposureOf({ stays, spells }: Kept, now: number): Exposure {
  const from = Math.min(spells[0]?.from ?? now, stays[0]?.from ?? now);
  const known: readonly Stay[] = stays.length > 0 ? stays : [{ from, place: { kind: 'shelf', name: '' } }];
  return new Exposure(
    known.map(({ from: begins, place }) => ({
      from: begins,
      days: daysOf(place.warmth ?? USUAL_WARMTH, from, now),
      drawMa: place.drawMa ?? 0,
    })),
  );
}
