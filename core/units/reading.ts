/**
 * Turns what a person typed into a number of the unit a step asks for, or into one sentence that says
 * what is wrong and what is allowed. A slip that can be guessed (131 for 13.1, Fahrenheit for Celsius)
 * is asked about, not refused.
 */
import { SWITCHABLE } from './convert.ts';
import { PLAIN_REGION, wayOf, type Region } from './region.ts';
import { celsiusFromFahrenheit } from './temperature.ts';

export type Unit =
  'V' | 'A' | 'mA' | 'mΩ' | 'h' | 'min' | '°C' | 'g' | 'g/cm³' | 'mL' | '%' | 'N·m' | 'Ah' | 'months';

/** Inclusive range. */
export interface Range {
  readonly min: number;
  readonly max: number;
}

export interface ReadingSpec {
  readonly label: string;
  readonly unit: Unit;
  readonly decimals: number;
  /** What such a battery can show at all; outside it nothing is recorded. */
  readonly possible: Range;
  /** What one expects to see; outside it the app asks before it records. */
  readonly plausible: Range;
}

export type ParsedReading =
  | { readonly kind: 'value'; readonly value: number; readonly readAs?: string }
  | { readonly kind: 'ask'; readonly question: string; readonly suggestion?: number; readonly value?: number }
  | { readonly kind: 'refused'; readonly sentence: string };

export function isWithin(value: number, range: Range): boolean {
  return value >= range.min && value <= range.max;
}

/** "0 to 18 V" in the step's own decimals. */
export function rangeText(spec: ReadingSpec, range: Range): string {
  const digits = (n: number): string =>
    (Number.isInteger(n) ? String(n) : n.toFixed(spec.decimals)).replace('-', '−');
  return `${digits(range.min)} to ${digits(range.max)} ${spec.unit}`;
}

const NUMBER =
  /^([-+−]?)(\d+(?:[.,]\d*)?|[.,]\d+)\s*(v|mv|a|ma|h|min|°?c|°?f|kg|g|lb|oz|ml|l|fl ?oz|%|n·?m|ah|months?)?$/i;

/** Converts a value typed with its own unit; undefined when that unit does not belong here. */
function inUnit(value: number, typedUnit: string, unit: Unit): number | undefined {
  const typed = typedUnit.toLowerCase().replace(/[°·\s]/g, '');
  const factors: Partial<Record<Unit, Record<string, (n: number) => number>>> = {
    V: { v: (n) => n, mv: (n) => n / 1000 },
    A: { a: (n) => n, ma: (n) => n / 1000 },
    h: { h: (n) => n, min: (n) => n / 60 },
    min: { min: (n) => n, h: (n) => n * 60 },
    '°C': { c: (n) => n, f: celsiusFromFahrenheit },
    g: {
      g: (n) => n,
      kg: (n) => n * 1000,
      oz: SWITCHABLE.g[1].from,
      lb: (n) => SWITCHABLE.kg[1].from(n) * 1000,
    },
    mL: { ml: (n) => n, l: (n) => n * 1000, floz: SWITCHABLE.mL[1].from },
    '%': { '%': (n) => n },
    'N·m': { nm: (n) => n },
    Ah: { ah: (n) => n },
    months: { month: (n) => n, months: (n) => n },
  };
  return factors[unit]?.[typed]?.(value);
}

/** A temperature in °C whose figure was read off a thermometer of the scale the shop does not use. */
function onOtherScale(tempC: number, region: Region): number {
  const { to, unit } = wayOf('°C', region);
  return unit === '°F' ? to(tempC) : celsiusFromFahrenheit(tempC);
}

/** Colder than a bench is, and as Celsius just what one expects: 24 typed in a shop of °F. */
const COLD_C = 5;

function isOtherScale(tempC: number, { plausible }: ReadingSpec, region: Region): boolean {
  const { unit } = wayOf('°C', region);
  const meant = onOtherScale(tempC, region);
  return unit === '°F' && tempC < COLD_C && meant >= COLD_C && isWithin(meant, plausible);
}

/** The value the person most likely meant, if one lies where readings are expected. */
function likelySlip(value: number, spec: ReadingSpec, region: Region): number | undefined {
  const { to, from } = wayOf(spec.unit, region);
  const typed = to(value);
  const shifts = spec.unit === '°C' ? [0.1] : [0.1, 0.01, 0.001, 10, 1000];
  const guesses = shifts.map((factor) => from(typed * factor));
  // A thermometer of the other kind.
  if (spec.unit === '°C') guesses.unshift(onOtherScale(value, region));
  const guess = guesses.find((candidate) => isWithin(candidate, spec.plausible));
  return guess === undefined ? undefined : Number(guess.toFixed(spec.decimals));
}

/**
 * Reads one entry.
 * @param text what stands in the field
 * @param spec what the step asks for
 * @param region in whose unit a bare number is meant
 */
export function parseReading(text: string, spec: ReadingSpec, region: Region = PLAIN_REGION): ParsedReading {
  const allowed = `Allowed: ${rangeText(spec, spec.possible)}.`;
  const typed = text.trim();
  if (typed === '') return { kind: 'refused', sentence: `${spec.label}: type a reading. ${allowed}` };
  const match = NUMBER.exec(typed);
  if (!match) return { kind: 'refused', sentence: `${spec.label}: “${typed}” is not one number. ${allowed}` };
  const [, sign = '', digits = '', typedUnit] = match;
  const written = Number(`${sign === '' || sign === '+' ? '' : '-'}${digits.replace(',', '.')}`);
  // A hydrometer's scale is often printed without its point: 1140 is 1.140, and nothing else can be meant.
  const isUnpointed = spec.unit === 'g/cm³' && typedUnit === undefined && written >= 1000 && written <= 1400;
  const bare = isUnpointed ? written / 1000 : written;
  const way = wayOf(spec.unit, region);
  const value =
    typedUnit === undefined ? Number(way.from(bare).toFixed(9)) : inUnit(bare, typedUnit, spec.unit);
  if (value === undefined)
    return { kind: 'refused', sentence: `${spec.label}: ${typedUnit} is not a unit for this. ${allowed}` };
  const parsed = checkReading(value, spec, region);
  const isOtherMark = digits.includes(region.decimalMark === ',' ? '.' : ',');
  const isReworded = isOtherMark || typedUnit !== undefined || isUnpointed;
  return parsed.kind === 'value' && isReworded
    ? { ...parsed, readAs: `Read as ${value.toFixed(spec.decimals)} ${spec.unit}.` }
    : parsed;
}

/** Judges a number that is already in the step's unit, from an instrument or an import. */
export function checkReading(value: number, spec: ReadingSpec, region: Region = PLAIN_REGION): ParsedReading {
  const isOther = spec.unit === '°C' && isOtherScale(value, spec, region);
  if (isWithin(value, spec.plausible) && !isOther) return { kind: 'value', value };
  const allowed = `Allowed: ${rangeText(spec, spec.possible)}.`;
  const way = wayOf(spec.unit, region);
  const shown = `${way.unit === spec.unit ? Number(value.toFixed(3)) : value.toFixed(spec.decimals)} ${spec.unit}`;
  if (spec.unit === 'V' && value < 0 && spec.possible.min >= 0)
    return {
      kind: 'refused',
      sentence: `${spec.label}: ${shown} is below zero; check which lead is on which post. ${allowed}`,
    };
  const suggestion = likelySlip(value, spec, region);
  const isPossible = isWithin(value, spec.possible);
  if (suggestion !== undefined) {
    const other = way.unit === '°F' ? 'Celsius' : 'Fahrenheit';
    const isOfOther = Math.abs(suggestion - onOtherScale(value, region)) < 0.1;
    const hint =
      spec.unit === '°C' && isOfOther ? ` ${Number(way.to(value).toFixed(1))} looks like ${other}.` : '';
    return {
      kind: 'ask',
      question: `${suggestion.toFixed(spec.decimals)} ${spec.unit}?${hint} ${allowed}`,
      suggestion,
      ...(isPossible ? { value } : {}),
    };
  }
  if (!isPossible) return { kind: 'refused', sentence: `${spec.label}: ${shown} cannot be. ${allowed}` };
  return {
    kind: 'ask',
    question: `${shown} is unusual here; expected ${rangeText(spec, spec.plausible)}. Keep it?`,
    value,
  };
}
