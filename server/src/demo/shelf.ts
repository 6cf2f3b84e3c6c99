/** A year of the loft's shelves: batteries that stood, were read and charged, as the model has them, read with a meter's noise. */
import { chanceFrom, normal } from '@cork-ember/core/chance/chance.ts';
import type { Machine } from '@cork-ember/core/battery/machines.ts';
import { CATALOGUE } from '@cork-ember/core/demo/catalogue.ts';
import type { ShelfEntry, ShelfEvent } from '@cork-ember/core/shelf/entries.ts';
import { daysOf } from '@cork-ember/core/shelf/exposure.ts';
import type { Place } from '@cork-ember/core/shelf/places.ts';
import { standingOf } from '@cork-ember/core/shelf/standing.ts';
import { DAY_MS, USUAL_WARMTH, type Warmth } from '@cork-ember/core/shelf/warmth.ts';
import type { ShelfStore, ToShelve } from '../store/shelfStore.ts';
import { FERRY, LIFT, MOWER } from './machines.ts';

const LOFT: Warmth = { byMonthC: [9, 9, 11, 13, 16, 19, 21, 21, 18, 15, 11, 10] };
const CELLAR: Warmth = { tempC: 7 };
const OUTSIDE: Warmth = { byMonthC: [3, 3, 5, 8, 11, 14, 16, 17, 14, 11, 7, 4] };

const rack = (name: string): Place => ({ kind: 'shelf', name, warmth: LOFT });
const cellar = (name: string): Place => ({ kind: 'cold', name, warmth: CELLAR });
const display = (name: string, machine?: string): Place => ({
  kind: 'display',
  name,
  warmth: LOFT,
  ...(machine === undefined ? {} : { machine }),
});
/** With the customer, in a machine of theirs. */
const worksIn = ({ tag, owner }: Machine): Place => ({ kind: 'customer', name: '', machine: tag, to: owner });
const maintained = (name: string, charger: string): Place => ({
  kind: 'maintainer',
  name,
  warmth: LOFT,
  charger,
});
const laidUp = (name: string, drawMa: number): Place => ({ kind: 'laidUp', name, warmth: OUTSIDE, drawMa });

/** Charged so lately, its old tag is still on it, days. */
const UNTAGGED_DAYS = 20;

interface Shelved {
  readonly tag: string;
  readonly typeId: string;
  readonly owner: string;
  /** Months since it was made. */
  readonly age: number;
  readonly place: Place;
  /** Days ago it was charged, the first first. */
  readonly charged: readonly number[];
  /** Days ago it was read. */
  readonly read?: readonly number[];
  /** Days ago its maintainer was looked at, and it was given water. */
  readonly tended?: readonly number[];
  readonly watered?: readonly number[];
  /** Its own rate by its kind's. */
  readonly times?: number;
  /** It goes with others of this name. */
  readonly set?: string;
}

const SHELF: readonly Shelved[] = [
  {
    tag: 'SK-0051',
    typeId: 'LW-A12/9',
    owner: 'stock',
    age: 11,
    place: rack('Rack 1'),
    charged: [241, 158, 70],
    read: [200, 128, 38],
    times: 1.1,
  },
  {
    tag: 'SK-0052',
    typeId: 'LW-A12/9',
    owner: 'stock',
    age: 11,
    place: rack('Rack 1'),
    charged: [241, 158, 70],
    read: [200, 128, 38],
    times: 0.8,
  },
  {
    tag: 'SK-0053',
    typeId: 'LW-A12/9',
    owner: 'stock',
    age: 8,
    place: rack('Rack 1'),
    charged: [12],
    times: 1,
  },
  {
    tag: 'SK-0056',
    typeId: 'LW-A12/12',
    owner: 'stock',
    age: 14,
    place: rack('Rack 1'),
    charged: [180, 82],
    read: [150, 60],
    times: 1.3,
  },
  {
    tag: 'SK-0058',
    typeId: 'LW-A12/4',
    owner: 'stock',
    age: 20,
    place: rack('Rack 2'),
    charged: [260, 170, 62],
    read: [230, 140, 31],
    times: 0.9,
  },
  {
    tag: 'SK-0061',
    typeId: 'TQ-F12/14',
    owner: 'stock',
    age: 16,
    place: rack('Rack 2'),
    charged: [150, 88],
    read: [120, 40],
    times: 1.8,
  },
  {
    tag: 'SK-0062',
    typeId: 'TQ-F12/14',
    owner: 'stock',
    age: 16,
    place: rack('Rack 2'),
    charged: [150, 60],
    read: [120, 39, 9],
    times: 9,
  },
  {
    tag: 'SK-0066',
    typeId: 'BK-F12/70',
    owner: 'stock',
    age: 30,
    place: maintained('Maintainer 2', 'keeper'),
    charged: [200],
    tended: [170, 140, 110, 80, 50, 20],
    watered: [110, 20],
  },
  {
    tag: 'SK-0067',
    typeId: 'BK-A12/55',
    owner: 'stock',
    age: 26,
    place: maintained('Maintainer 1', 'automatic-5'),
    charged: [90],
    tended: [60, 32],
  },
  {
    tag: 'SK-0071',
    typeId: 'LW-A12/9',
    owner: 'stock',
    age: 7,
    place: cellar('Cellar 1'),
    charged: [85],
    read: [50, 20],
    times: 1.2,
  },
  {
    tag: 'SK-0072',
    typeId: 'LW-A12/9',
    owner: 'stock',
    age: 7,
    place: cellar('Cellar 1'),
    charged: [85],
    read: [50, 20],
    times: 0.7,
  },
  {
    tag: 'SK-0074',
    typeId: 'TQ-A12/20',
    owner: 'stock',
    age: 18,
    place: cellar('Cellar 2'),
    charged: [120, 29],
    times: 1,
  },
  {
    tag: 'SK-0077',
    typeId: 'TQ-F6/11',
    owner: 'stock',
    age: 40,
    place: rack('Rack 3'),
    charged: [140],
    read: [100],
    times: 2.4,
  },
  {
    tag: 'SK-0081',
    typeId: 'BK-F12/70',
    owner: 'harbour office',
    age: 44,
    place: laidUp('Winter caravan', 4),
    charged: [58],
    read: [44, 16],
    times: 1.3,
  },
  {
    tag: 'SK-0082',
    typeId: 'BK-A12/55',
    owner: 'pilot launch',
    age: 38,
    place: laidUp('Pilot launch, laid up', 9),
    charged: [41],
    times: 1,
  },
  {
    tag: 'SK-0084',
    typeId: 'TQ-A12/14',
    owner: 'stock',
    age: 9,
    place: display('Quad bike, showroom'),
    charged: [66],
    read: [50, 21],
    times: 1,
  },
  {
    tag: 'SK-0085',
    typeId: 'TQ-A12/20',
    owner: 'stock',
    age: 9,
    place: display(MOWER.name, MOWER.tag),
    charged: [89],
    read: [61],
    times: 1.4,
  },
  {
    tag: 'SK-0088',
    typeId: 'BK-A12/55',
    owner: 'stock',
    age: 50,
    place: { kind: 'lent', name: '', to: 'ferry slip' },
    charged: [16],
  },
  {
    tag: 'SK-0086',
    typeId: 'BK-A12/55',
    owner: 'stock',
    age: 48,
    place: rack('Rack 3'),
    charged: [75],
    read: [44, 12],
    times: 0.9,
  },
  {
    tag: 'SK-0087',
    typeId: 'BK-A12/55',
    owner: 'stock',
    age: 48,
    place: rack('Rack 3'),
    charged: [75],
    read: [44, 12],
    times: 1,
  },
];

/** Four that match, kept for a machine that carries four. */
const DECK_FOUR = [0.9, 1, 1.1, 1].map((times, index): Shelved => ({
  tag: `SK-002${index + 1}`,
  typeId: 'BK-A12/55',
  owner: 'stock',
  age: 6,
  place: rack('Rack 4'),
  charged: [52, 24],
  read: [40, 10],
  times,
  set: 'Deck four',
}));

const PEOPLE = ['Solveig', 'Ines', 'Tarek'] as const;

/** All that was recorded of one, in order of time. */
function storyOf(
  one: Shelved,
  month: (ago: number) => string,
  now: number,
  chance: () => number,
): ToShelve[] {
  const type = CATALOGUE.find(({ id }) => id === one.typeId);
  if (!type) throw new Error(`the demo knows no type ${one.typeId}`);
  const standing = standingOf(type);
  const { place, times = 1 } = one;
  const ownV = 0.012 * normal(chance);
  const at = (daysAgo: number): number => now - daysAgo * DAY_MS - 3_600_000;
  const charged = one.charged.map(at);
  const battery = {
    tag: one.tag,
    typeId: one.typeId,
    serial: '',
    dateCode: month(one.age),
    owner: one.owner,
  };
  const readAt = (moment: number): ShelfEntry => {
    const from = charged.filter((charge) => charge <= moment).at(-1) ?? moment;
    const drawn = (((moment - from) / DAY_MS) * 24 * (place.drawMa ?? 0)) / 1000 / type.capacityAh;
    const days = daysOf(place.warmth ?? USUAL_WARMTH, from, moment);
    const left = standing.shareAtRate(times, days.until(moment) - days.until(from)) - drawn;
    const volts = standing.restedV(left) + ownV + 0.006 * normal(chance);
    return { kind: 'read', payload: { volts: Math.round(volts * 100) / 100, source: 'meter' } };
  };
  const entries: readonly (readonly [number, ShelfEntry])[] = [
    ...charged.map((moment) => [moment, { kind: 'charged', payload: { isProven: true } }] as const),
    [(charged[0] ?? now) + 60_000, { kind: 'placed', payload: { place } }] as const,
    ...(one.set === undefined
      ? []
      : [[(charged[0] ?? now) + 90_000, { kind: 'joined', payload: { set: one.set, of: 4 } }] as const]),
    // The newest charges are still to get their tags.
    ...charged
      .filter((moment) => moment < now - UNTAGGED_DAYS * DAY_MS)
      .map((moment) => [moment + 120_000, { kind: 'tagged', payload: {} }] as const),
    ...(one.read ?? []).map((daysAgo) => [at(daysAgo), readAt(at(daysAgo))] as const),
    ...(one.tended ?? []).map((daysAgo) => {
      const water = one.watered?.includes(daysAgo) ? { waterMl: 60 } : {};
      return [at(daysAgo), { kind: 'tended', payload: { floatV: 13.4, ...water } }] as const;
    }),
  ];
  return [...entries]
    .sort(([a], [b]) => a - b)
    .map(([moment, entry], index): ToShelve => {
      const event: ShelfEvent = {
        tag: one.tag,
        seq: 0,
        key: `demo shelf ${one.tag} ${index}`,
        at: moment,
        by: PEOPLE[index % PEOPLE.length] ?? 'Solveig',
        ...entry,
      };
      return { tag: one.tag, event, ...(index === 0 ? { battery } : {}) };
    });
}

/** Boxes that wait for an order, unfilled. */
const DRY: readonly (readonly [tag: string, typeId: string, age: number])[] = [
  ['SK-0041', 'LW-A12/9', 37],
  ['SK-0042', 'LW-A12/9', 9],
  ['SK-0043', 'TQ-A12/20', 14],
];

/** From the bench of the last weeks and months to where they stand. */
const FROM_BENCH: readonly (readonly [tag: string, daysAgo: number, place: Place])[] = [
  ['SK-0117', 3, rack('Rack 1')],
  ['SK-0091', 57, rack('Rack 3')],
  ['SK-0092', 56, rack('Rack 3')],
  ['SK-0093', 55, rack('Rack 3')],
  ['SK-0094', 54, rack('Rack 3')],
];

/** What worked in machines before the bench had it, and what does. */
const IN_MACHINES: readonly (readonly [tag: string, daysAgo: number, machine: Machine, age: number])[] = [
  ...['SK-0091', 'SK-0092', 'SK-0093', 'SK-0094', 'SK-0095'].map((tag) => [tag, 300, FERRY, 44] as const),
  ...['SK-0031', 'SK-0032', 'SK-0033', 'SK-0034'].map((tag) => [tag, 110, LIFT, 40] as const),
];

const SEED = 5_220_177;

/** @param month date code some months back */
export async function seedShelf(
  shelf: ShelfStore,
  month: (monthsAgo: number) => string,
  now: number,
): Promise<void> {
  const chance = chanceFrom(SEED);
  const moved = FROM_BENCH.map(([tag, daysAgo, place]): ToShelve => {
    const at = now - daysAgo * DAY_MS;
    const entry = { kind: 'placed', payload: { place } } as const;
    return { tag, event: { tag, seq: 0, key: `demo shelf ${tag}`, at, by: 'Solveig', ...entry } };
  });
  const boxes = DRY.map(([tag, typeId, age]): ToShelve => {
    const entry = { kind: 'placed', payload: { place: { ...rack('Rack 4'), isDry: true } } } as const;
    const event: ShelfEvent = {
      tag,
      seq: 0,
      key: `demo shelf ${tag}`,
      at: now - 30 * DAY_MS,
      by: 'Solveig',
      ...entry,
    };
    return { tag, event, battery: { tag, typeId, serial: '', dateCode: month(age), owner: 'stock' } };
  });
  const working = IN_MACHINES.map(([tag, daysAgo, machine, age]): ToShelve => {
    const entry = { kind: 'placed', payload: { place: worksIn(machine) } } as const;
    const at = now - daysAgo * DAY_MS;
    const { typeId, owner } = machine;
    return {
      tag,
      event: { tag, seq: 0, key: `demo machine ${tag}`, at, by: 'Solveig', ...entry },
      battery: { tag, typeId, serial: '', dateCode: month(age), owner },
    };
  });
  await shelf.appendAll([
    ...working,
    ...[...SHELF, ...DECK_FOUR].flatMap((one) => storyOf(one, month, now, chance)),
    ...moved,
    ...boxes,
  ]);
}
