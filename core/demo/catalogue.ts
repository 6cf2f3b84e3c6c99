/**
 * The types of the demo shop, on which tests stand too. Makers and codes are invented. Pack volumes follow the acid a
 * cell needs (about 9.1 mL per Ah and cell at 1.30–1.33), dry masses that of plates, case and posts.
 */
import type { BatteryType, ListedType, PrintedValues } from '../battery/types.ts';

interface Row {
  readonly id: string;
  readonly maker: string;
  readonly cells: 3 | 6;
  readonly capacityAh: number;
  readonly amps: number;
  readonly positivePost: 'left' | 'right';
  readonly label?: PrintedValues;
  readonly sheet?: PrintedValues;
}

interface PackedRow extends Row {
  readonly pack: readonly [code: string, volumeMl: number, densityKgPerL: number];
  readonly dryMassG: number;
}

const fromPack: readonly PackedRow[] = [
  {
    id: 'LW-A6/4',
    maker: 'Lanternwick',
    cells: 3,
    capacityAh: 4,
    amps: 40,
    pack: ['P-04', 110, 1.32],
    dryMassG: 620,
    positivePost: 'right',
    label: { chargeCurrentA: 0.4, chargeTimeH: 5 },
  },
  {
    id: 'LW-A6/12',
    maker: 'Lanternwick',
    cells: 3,
    capacityAh: 12,
    amps: 150,
    pack: ['P-06', 330, 1.32],
    dryMassG: 1840,
    positivePost: 'left',
  },
  {
    id: 'LW-A12/4',
    maker: 'Lanternwick',
    cells: 6,
    capacityAh: 4,
    amps: 60,
    pack: ['P-05', 220, 1.32],
    dryMassG: 1190,
    positivePost: 'right',
  },
  {
    id: 'LW-A12/9',
    maker: 'Lanternwick',
    cells: 6,
    capacityAh: 9,
    amps: 130,
    pack: ['P-09', 492, 1.32],
    dryMassG: 2910,
    positivePost: 'right',
  },
  {
    id: 'LW-A12/12',
    maker: 'Lanternwick',
    cells: 6,
    capacityAh: 12,
    amps: 200,
    pack: ['P-12', 655, 1.32],
    dryMassG: 3640,
    positivePost: 'left',
    label: { chargeCurrentA: 1.2, chargeTimeH: 5 },
  },
  {
    id: 'TQ-A12/14',
    maker: 'Ternquay',
    cells: 6,
    capacityAh: 14,
    amps: 230,
    pack: ['P-14', 765, 1.31],
    dryMassG: 4120,
    positivePost: 'left',
    sheet: { packDwellMin: 45 },
  },
  {
    id: 'TQ-A12/20',
    maker: 'Ternquay',
    cells: 6,
    capacityAh: 20,
    amps: 300,
    pack: ['P-20', 1090, 1.31],
    dryMassG: 5980,
    positivePost: 'right',
    label: { ceilingV: 14.6 },
  },
  {
    id: 'TQ-A12/30',
    maker: 'Ternquay',
    cells: 6,
    capacityAh: 30,
    amps: 400,
    pack: ['P-30', 1640, 1.31],
    dryMassG: 8450,
    positivePost: 'left',
    label: { postTorqueNm: 6 },
  },
  {
    id: 'BK-A12/55',
    maker: 'Brackwell',
    cells: 6,
    capacityAh: 55,
    amps: 560,
    pack: ['P-55', 3000, 1.3],
    dryMassG: 14_100,
    positivePost: 'right',
    sheet: { soakMin: 180, postTorqueNm: 8 },
  },
];

const filledByHand: readonly Row[] = [
  { id: 'TQ-F6/11', maker: 'Ternquay', cells: 3, capacityAh: 11, amps: 80, positivePost: 'left' },
  { id: 'TQ-F12/14', maker: 'Ternquay', cells: 6, capacityAh: 14, amps: 180, positivePost: 'right' },
  { id: 'BK-F12/70', maker: 'Brackwell', cells: 6, capacityAh: 70, amps: 640, positivePost: 'right' },
];

const activated: readonly Row[] = [
  { id: 'BK-S12/75', maker: 'Brackwell', cells: 6, capacityAh: 75, amps: 760, positivePost: 'left' },
];

/** Recognised so that it can be refused in so many words. */
const refused: readonly Row[] = [
  { id: 'VX-L12/7', maker: 'Voxlade', cells: 6, capacityAh: 7, amps: 210, positivePost: 'right' },
];

function typeFrom(row: Row, what: Pick<BatteryType, 'construction' | 'delivery'>): BatteryType {
  return {
    id: row.id,
    maker: row.maker,
    ...what,
    duty: 'starter',
    cells: row.cells,
    capacityAh: row.capacityAh,
    hourRate: row.capacityAh <= 30 ? 10 : 20,
    cranking: { amps: row.amps, standard: 'EN' },
    positivePost: row.positivePost,
    label: row.label ?? {},
    sheet: row.sheet ?? {},
  };
}

export const CATALOGUE: readonly BatteryType[] = [
  ...fromPack.map((row): BatteryType => ({
    ...typeFrom(row, { construction: 'agm', delivery: 'own-pack' }),
    pack: { code: row.pack[0], volumeMl: row.pack[1], densityKgPerL: row.pack[2] },
    dryMassG: row.dryMassG,
  })),
  ...filledByHand.map((row) => typeFrom(row, { construction: 'flooded', delivery: 'bulk-acid' })),
  ...activated.map((row) => typeFrom(row, { construction: 'agm', delivery: 'factory-activated' })),
];

/** All a list may hold: one that is refused stands among them. */
export const LISTED: readonly ListedType[] = [
  ...CATALOGUE,
  ...refused.map((row): ListedType => ({
    ...typeFrom(row, { construction: 'agm', delivery: 'in-service' }),
    construction: 'lithium',
  })),
];
