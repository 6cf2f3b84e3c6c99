/**
 * How a shop writes its figures. The core, the record and what goes over the wire are in SI units, a decimal point, 24 hours
 * and "¤" for the shop's money; a region is applied where a person reads or types, and nowhere else.
 */
import { isSwitchable, shownAs, type SwitchableUnit, type Way } from './convert.ts';

export const DATE_FORMS = {
  'd MMM yyyy': '28 Nov 2026',
  'MMM d, yyyy': 'Nov 28, 2026',
  'dd.MM.yyyy': '28.11.2026',
  'dd/MM/yyyy': '28/11/2026',
  'MM/dd/yyyy': '11/28/2026',
  'yyyy-MM-dd': '2026-11-28',
} as const;

export type DateForm = keyof typeof DATE_FORMS;

export interface Money {
  /** One to four letters or signs. */
  readonly sign: string;
  /** 0–3. */
  readonly decimals: number;
  readonly isAfter: boolean;
}

export interface Region {
  readonly temperature: '°C' | '°F';
  readonly volume: 'mL' | 'fl oz';
  readonly mass: 'kg' | 'lb';
  readonly decimalMark: '.' | ',';
  readonly clock: '24 h' | '12 h';
  readonly date: DateForm;
  readonly money: Money;
}

export const PLAIN_REGION: Region = {
  temperature: '°C',
  volume: 'mL',
  mass: 'kg',
  decimalMark: '.',
  clock: '24 h',
  date: 'd MMM yyyy',
  money: { sign: '€', decimals: 2, isAfter: false },
};

/** Which choice of a region says how a unit is shown. */
const CHOSEN_BY: Readonly<Record<SwitchableUnit, (region: Region) => boolean>> = {
  '°C': ({ temperature }) => temperature === '°F',
  K: ({ temperature }) => temperature === '°F',
  mL: ({ volume }) => volume === 'fl oz',
  L: ({ volume }) => volume === 'fl oz',
  g: ({ mass }) => mass === 'lb',
  kg: ({ mass }) => mass === 'lb',
  // Density is kg/L everywhere; the reckoner alone offers the other.
  'kg/L': () => false,
};

/** Whether a region shows this unit of the core in another. */
export function isShownOtherwise(unit: string, region: Region): boolean {
  return isSwitchable(unit) && CHOSEN_BY[unit](region);
}

/** The way to and from the unit in which a region shows and types this unit of the core. */
export const wayOf = (unit: string, region: Region): Way => shownAs(unit, isShownOtherwise(unit, region));

/** A number of the region's own unit as it is typed into a field: "71,6" for 22 °C. */
export function entryText(value: number, unit: string, decimals: number, region: Region): string {
  const way = wayOf(unit, region);
  const shown = way.to(value).toFixed(decimals + way.moreDecimals);
  return shown.replace('.', region.decimalMark);
}

/** A number kept with whatever decimals it has, as it stands in a field: no trailing zeros. */
export function plainEntryText(value: number, unit: string, region: Region): string {
  const way = wayOf(unit, region);
  return String(Number(way.to(value).toFixed(6))).replace('.', region.decimalMark);
}

/** A number with either decimal mark; NaN where there is none, or more than one. */
export function numberIn(text: string): number {
  const typed = text.trim().replace('−', '-').replace(',', '.');
  return typed === '' ? Number.NaN : Number(typed);
}

/**
 * What was typed, in the core's unit; either decimal mark is taken, for a region is no reason to refuse a number.
 * @returns NaN where it is not one number
 */
export function fromEntry(text: string, unit: string, region: Region): number {
  // A billionth of a unit is no reading: 22 °C typed as 71.6 °F is 22, not 21.999999999999996.
  return Number(wayOf(unit, region).from(numberIn(text)).toFixed(9));
}
