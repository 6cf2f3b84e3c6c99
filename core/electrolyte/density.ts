/** Density of battery acid, both ways: how dense this mixture is, and how strong acid of this density is. */
import { at, curveThrough, solveRising } from './curve.ts';
import { DENSITY_ROWS, TABLE_TEMPERATURES_C } from './densityTable.ts';

/** One curve over mass fraction per tabulated temperature. */
const isotherms = TABLE_TEMPERATURES_C.map((_, column) =>
  curveThrough(DENSITY_ROWS.map(([percent, row]) => [percent / 100, row[column] ?? 0])),
);
const temperatures = Float64Array.from(TABLE_TEMPERATURES_C);

/** Densest acid of the table at 25 °C; nothing above it can be told from its density. */
const STRONGEST = 0.97;
/** Water at 25 °C, g/cm³: the reference of a hydrometer marked 25/25. */
const WATER_25 = 0.997;

function assertWithin(value: number, low: number, high: number, what: string): void {
  if (!(value >= low && value <= high)) {
    const shown = (limit: number): string => String(Number(limit.toFixed(4)));
    throw new RangeError(`${what} must lie between ${shown(low)} and ${shown(high)}; ${value} does not.`);
  }
}

/**
 * Mass density of aqueous sulfuric acid.
 * @param massFraction H2SO4 by mass, 0–0.98
 * @param tempC 0–50 °C
 * @returns g/cm³
 * @throws RangeError outside the table
 * @see Perry's Chemical Engineers' Handbook, densities of sulfuric acid
 */
export function densityAt(massFraction: number, tempC: number): number {
  assertWithin(massFraction, 0, 0.98, 'The mass fraction of acid');
  assertWithin(tempC, 0, 50, 'The temperature of acid in °C');
  let column = 0;
  while (column < temperatures.length - 2 && tempC > at(temperatures, column + 1)) column += 1;
  const cold = isotherms[column]?.at(massFraction) ?? 0;
  const warm = isotherms[column + 1]?.at(massFraction) ?? 0;
  const t0 = at(temperatures, column);
  return cold + ((tempC - t0) / (at(temperatures, column + 1) - t0)) * (warm - cold);
}

/**
 * Strength of acid of a known density.
 * @param density g/cm³, from water up to 97 % acid
 * @param tempC 0–50 °C
 * @returns H2SO4 by mass, 0–0.97
 * @throws RangeError when no such acid exists at that temperature
 */
export function massFractionAt(density: number, tempC: number): number {
  assertWithin(tempC, 0, 50, 'The temperature of acid in °C');
  const low = densityAt(0, tempC);
  const high = densityAt(STRONGEST, tempC);
  assertWithin(density, low, high, 'The density of acid in g/cm³');
  return solveRising(density, 0, STRONGEST, (massFraction) => densityAt(massFraction, tempC));
}

/**
 * What acid of this density would have at 25 °C, by the full table.
 * @param density g/cm³ at `tempC`
 * @returns g/cm³ at 25 °C
 */
export function densityTo25(density: number, tempC: number): number {
  return densityAt(massFractionAt(density, tempC), 25);
}

/**
 * The bench's correction: 0.0007 per kelvin near battery strength.
 * @see Battery Council International, Battery Technical Manual: 0.004 for every 10 °F
 */
export function hydrometerTo25(reading: number, tempC: number): number {
  return reading + 0.0007 * (tempC - 25);
}

/** Specific gravity 25/25 from density in g/cm³: a ratio to water, not a density. */
export function specificGravity(density25: number): number {
  return density25 / WATER_25;
}
