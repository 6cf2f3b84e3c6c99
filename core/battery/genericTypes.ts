/**
 * What a shop's list begins with: the handbook's kinds in the sizes that come to a bench, of nobody's make. Each says
 * only what its kind and size say; what a label prints is entered on the job, or as a type of the shop's own.
 */
import type { Construction } from './construction.ts';
import { isLongLife } from './dischargeRates.ts';
import { plainCode, type Delivery, type Duty, type ListedType } from './types.ts';

interface Kind {
  readonly construction: Construction;
  readonly duty: Duty;
  readonly delivery: Delivery;
  /** Called by, within its name. */
  readonly called: string;
  readonly hourRate: number;
  readonly sizes: readonly (readonly [cells: number, capacityAh: number])[];
}

const KINDS: readonly Kind[] = [
  {
    construction: 'flooded',
    duty: 'starter',
    delivery: 'bulk-acid',
    called: 'dry, filled by hand',
    hourRate: 10,
    sizes: [
      [3, 6],
      [3, 11],
      [6, 9],
      [6, 14],
    ],
  },
  {
    construction: 'flooded',
    duty: 'starter',
    delivery: 'in-service',
    called: 'starter',
    hourRate: 20,
    sizes: [
      [6, 45],
      [6, 60],
      [6, 75],
      [6, 100],
    ],
  },
  {
    construction: 'flooded',
    duty: 'deep-cycle',
    delivery: 'in-service',
    called: 'deep-cycle',
    hourRate: 20,
    sizes: [
      [3, 225],
      [4, 170],
      [6, 110],
    ],
  },
  {
    construction: 'agm',
    duty: 'starter',
    delivery: 'factory-activated',
    called: 'starter',
    hourRate: 20,
    sizes: [
      [6, 12],
      [6, 60],
      [6, 80],
    ],
  },
  {
    construction: 'agm',
    duty: 'standby',
    delivery: 'factory-activated',
    called: 'general purpose',
    hourRate: 20,
    sizes: [
      [3, 4.5],
      [6, 7],
      [6, 18],
      [6, 40],
      [6, 100],
    ],
  },
  {
    construction: 'agm',
    duty: 'standby',
    delivery: 'factory-activated',
    called: 'standby',
    hourRate: 10,
    sizes: [
      [1, 500],
      [6, 100],
    ],
  },
  {
    construction: 'gel',
    duty: 'deep-cycle',
    delivery: 'factory-activated',
    called: 'deep-cycle',
    hourRate: 20,
    sizes: [
      [6, 40],
      [6, 70],
      [6, 100],
    ],
  },
  {
    construction: 'gel',
    duty: 'standby',
    delivery: 'factory-activated',
    called: 'standby, tubular',
    hourRate: 10,
    sizes: [[1, 500]],
  },
];

export const GENERIC_TYPES: readonly ListedType[] = KINDS.flatMap(({ called, sizes, ...kind }) =>
  sizes.map(([cells, capacityAh]): ListedType => ({
    ...kind,
    // The long-life ones, rated at ten hours, say so.
    id: `${plainCode({ ...kind, cells, capacityAh })}${isLongLife(kind) ? '-C10' : ''}`,
    maker: `Generic, ${called}`,
    cells,
    capacityAh,
    positivePost: 'unknown',
    isGeneric: true,
    label: {},
    sheet: {},
  })),
);
