/**
 * What a battery type is: the facts of its label and of the sheet in its box. How it is built, what it is made to do,
 * how it is delivered and how many cells it has are four facts, never read off one another (handbook 1).
 */
import { CONSTRUCTION, type Construction } from './construction.ts';

/** What it is made to do: thin plates for a start, thick ones for many cycles, or between them. */
export type Duty = 'starter' | 'deep-cycle' | 'standby';

export const DUTY_NAMES: Readonly<Record<Duty, string>> = {
  starter: 'starter',
  'deep-cycle': 'deep-cycle, traction',
  standby: 'standby, general purpose',
};

/** How a new one reaches the bench; one that only comes back is in service. */
export type Delivery = 'own-pack' | 'bulk-acid' | 'factory-activated' | 'in-service';

export const DELIVERY_NAMES: Readonly<Record<Delivery, string>> = {
  'own-pack': 'dry-charged, own acid pack',
  'bulk-acid': 'dry-charged, filled by hand',
  'factory-activated': 'filled at the factory',
  'in-service': 'in service',
};

/** Cold-cranking ratings mean little without the standard that rated them. */
export type CrankingStandard = 'SAE' | 'EN' | 'IEC' | 'DIN' | 'JIS';

export const CRANKING_STANDARDS = [
  'EN',
  'SAE',
  'DIN',
  'IEC',
  'JIS',
] as const satisfies readonly CrankingStandard[];

/** The acid pack that belongs to one AGM type: one measured chamber per cell. */
export interface AcidPack {
  readonly code: string;
  /** All chambers together, mL. */
  readonly volumeMl: number;
  /** At 25 °C, kg/L. */
  readonly densityKgPerL: number;
}

/** Values a label or a maker's sheet may print; each outranks house rules and handbook. */
export interface PrintedValues {
  readonly chargeCurrentA?: number;
  readonly chargeTimeH?: number;
  readonly ceilingV?: number;
  readonly packDwellMin?: number;
  readonly soakMin?: number;
  /** Of the electrolyte to fill with, g/cm³ at 25 °C. */
  readonly fillDensity?: number;
  /** The label's quick rate, attended, A. */
  readonly quickCurrentA?: number;
  readonly postTorqueNm?: number;
}

/** What a capacity was estimated from where no label says it. */
export type CapacitySource = 'cranking' | 'reserve' | 'mass' | 'like';

/** Where the positive post is, posts towards you; not every label says so. */
export const POSTS = ['left', 'right', 'unknown'] as const;

export interface BatteryType {
  readonly id: string;
  readonly maker: string;
  readonly construction: Construction;
  readonly duty: Duty;
  readonly delivery: Delivery;
  /** In series, two volts each. */
  readonly cells: number;
  readonly capacityAh: number;
  /** The discharge time in hours at which the capacity is stated. */
  readonly hourRate: number;
  /** Of a capacity that no label says: what it was estimated from, and its least, Ah; limits go by the least. */
  readonly estimate?: { readonly from: CapacitySource; readonly leastAh: number; readonly mostAh: number };
  readonly cranking?: {
    readonly amps: number;
    readonly standard: CrankingStandard;
    /** Of the known type it was matched to: its own label is silent. */
    readonly isEquivalent?: true;
  };
  /** Minutes at 25 A to 10.5 V. */
  readonly reserveMin?: number;
  readonly pack?: AcidPack;
  /** Maintenance-free, with service ports under its label. */
  readonly hasHiddenPorts?: boolean;
  /** A hose leads its gas away. */
  readonly hasVentHose?: boolean;
  /** The case's size or group, as printed. */
  readonly caseCode?: string;
  readonly dryMassG?: number;
  /** Filled. */
  readonly wetMassG?: number;
  /** What a new one costs, in the shop's money. */
  readonly newPrice?: number;
  readonly positivePost: (typeof POSTS)[number];
  /** The known type it was matched to for tester and model. */
  readonly likeId?: string;
  /** No maker's: one of a kind and size, as the handbook has it. */
  readonly isGeneric?: boolean;
  /** Not offered any more; batteries of it go on. */
  readonly isRetired?: boolean;
  readonly label: PrintedValues;
  readonly sheet: PrintedValues;
}

/** Recognised so that it can be refused in so many words: another chemistry. */
export interface LithiumType extends Omit<BatteryType, 'construction'> {
  readonly construction: 'lithium';
}

/** What a shop's list may hold. */
export type ListedType = BatteryType | LithiumType;

/** Another chemistry with another charger: nothing this bench does applies to it. */
export const LITHIUM_REFUSAL =
  'A lithium battery is not taken: it has another chemistry and needs its own charger. Give it back as it came.';

/** Whether this bench works on it. */
export const isTaken = (type: ListedType): type is BatteryType => type.construction !== 'lithium';

/** @throws RangeError for what this bench does not work on */
export function assertTaken(type: ListedType): asserts type is BatteryType {
  if (!isTaken(type)) throw new RangeError(LITHIUM_REFUSAL);
}

/** Volts a cell is called by. */
const CELL_NOMINAL_V = 2;

/** What a battery is called by: 12 V for six cells. */
export const nominalV = ({ cells }: { readonly cells: number }): number => cells * CELL_NOMINAL_V;

/** Cells a battery usually has: 2, 4, 6, 8, 12 and 24 V. */
export const USUAL_CELLS = [1, 2, 3, 4, 6, 12] as const;

/** A battery of six cells is what volts are stated for. */
export const SIX = 6;

/** What is stated for a battery of six cells, brought to this one's; volts, or a scale of them. */
export const onSix = (value: number, { cells }: { readonly cells: number }): number => (value * cells) / SIX;

/** What this battery's posts show, as six such cells would. */
export const asSix = (volts: number, { cells }: { readonly cells: number }): number => (volts * SIX) / cells;

const builtAs = ({ construction }: Pick<ListedType, 'construction'>): string =>
  construction === 'lithium' ? 'Lithium' : CONSTRUCTION[construction].name;

/** "AGM 12 V 9 Ah": the name a technician would call across the room. */
export function shortName(type: Pick<ListedType, 'construction' | 'cells' | 'capacityAh'>): string {
  return `${builtAs(type)} ${nominalV(type)} V ${type.capacityAh} Ah`;
}

const ARRIVES: Readonly<Record<Delivery, string>> = {
  'own-pack': 'dry-charged',
  'bulk-acid': 'dry-charged',
  'factory-activated': 'factory-activated',
  'in-service': 'in service',
};

/** "AGM-12/8": a code where nobody prints one. */
export const plainCode = (type: Pick<BatteryType, 'construction' | 'cells' | 'capacityAh'>): string =>
  `${builtAs(type).toUpperCase()}-${nominalV(type)}/${Number(type.capacityAh.toFixed(1))}`;

/** "AGM, dry-charged": what kind it is. */
export function kindName(type: Pick<ListedType, 'construction' | 'delivery'>): string {
  return type.construction === 'lithium'
    ? 'Lithium, not taken'
    : `${builtAs(type)}, ${ARRIVES[type.delivery]}`;
}

/** Whether acid goes in by hand, cell by cell. */
export const isFilledByHand = ({ construction, delivery }: ListedType): boolean =>
  construction === 'flooded' && (delivery === 'bulk-acid' || delivery === 'own-pack');

/** Whether it comes filled and closed from the factory, losing charge since. */
export const cameFilled = ({ delivery }: Pick<ListedType, 'delivery'>): boolean =>
  delivery === 'factory-activated' || delivery === 'in-service';

/** Capacity no limit is set above: the least it may have, Ah. */
export const leastAh = ({ capacityAh, estimate }: Pick<BatteryType, 'capacityAh' | 'estimate'>): number =>
  estimate?.leastAh ?? capacityAh;
