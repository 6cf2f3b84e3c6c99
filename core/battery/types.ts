/** What a battery type is: the facts of its label and of the sheet in its box. */

export type BatteryKind = 'agm-dry-charged' | 'flooded-dry-charged' | 'agm-activated' | 'lithium';

export const KIND_NAMES: Record<BatteryKind, string> = {
  'agm-dry-charged': 'AGM, dry-charged',
  'flooded-dry-charged': 'Flooded, dry-charged',
  'agm-activated': 'AGM, factory-activated',
  lithium: 'Lithium, not taken',
};

/** Cold-cranking ratings mean little without the standard that rated them. */
export type CrankingStandard = 'SAE' | 'EN' | 'IEC' | 'DIN' | 'JIS';

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

export interface BatteryType {
  readonly id: string;
  readonly maker: string;
  readonly kind: BatteryKind;
  readonly cells: 3 | 6;
  readonly nominalV: 6 | 12;
  readonly capacityAh: number;
  /** The discharge time in hours at which the capacity is stated. */
  readonly hourRate: 10 | 20;
  readonly cranking?: { readonly amps: number; readonly standard: CrankingStandard };
  readonly pack?: AcidPack;
  readonly dryMassG?: number;
  /** What a new one costs, in the shop's money. */
  readonly newPrice?: number;
  /** Which side the positive post is on, posts towards you. */
  readonly positivePost: 'left' | 'right';
  readonly label: PrintedValues;
  readonly sheet: PrintedValues;
}

/** Another chemistry with another charger: nothing this bench does applies to it. */
export const LITHIUM_REFUSAL =
  'A lithium battery is not taken: it has another chemistry and needs its own charger. Give it back as it came.';

/** How a kind is built, as far as charging goes. */
export function constructionOf(kind: BatteryKind): 'flooded' | 'agm' {
  if (kind === 'lithium') throw new RangeError(LITHIUM_REFUSAL);
  return kind === 'flooded-dry-charged' ? 'flooded' : 'agm';
}

/** "AGM 12 V 9 Ah": the name a technician would call across the room. */
export function shortName(type: Pick<BatteryType, 'kind' | 'nominalV' | 'capacityAh'>): string {
  const names = { 'flooded-dry-charged': 'Flooded', lithium: 'Lithium' } as const;
  const construction = type.kind in names ? names[type.kind as keyof typeof names] : 'AGM';
  return `${construction} ${type.nominalV} V ${type.capacityAh} Ah`;
}

/** What is stated for a battery of six cells, brought to this one's; volts, or a scale of them. */
export const onSix = (volts: number, { cells }: { readonly cells: number }): number => (volts * cells) / 6;
