/** How well battery acid conducts. */
import { curveThrough } from './curve.ts';

/**
 * Conductivity at 18 °C in S/cm and its rise in 1/K, by percent H2SO4.
 * @see Kohlrausch & Holborn, Das Leitvermögen der Elektrolyte, as in the CRC Handbook of Chemistry and Physics
 */
const PUBLISHED = [
  [0, 0, 0.0118],
  [5, 0.2085, 0.0121],
  [10, 0.3915, 0.0128],
  [15, 0.5432, 0.0136],
  [20, 0.6527, 0.0145],
  [25, 0.7171, 0.0154],
  [30, 0.7388, 0.0162],
  [35, 0.7243, 0.017],
  [40, 0.68, 0.0178],
  [50, 0.5405, 0.0193],
  [60, 0.3726, 0.0213],
] as const;

const at18 = curveThrough(PUBLISHED.map(([percent, siemens]) => [percent / 100, siemens]));
const rise = curveThrough(PUBLISHED.map(([percent, , perKelvin]) => [percent / 100, perKelvin]));
/** In the cold the straight rise would end at nothing; acid still conducts a little. */
const COLDEST_FACTOR = 0.12;

/**
 * @param massFraction H2SO4 by mass, 0–0.6
 * @param tempC of the acid
 * @returns S/cm
 */
export function conductivityAt(massFraction: number, tempC: number): number {
  return at18.at(massFraction) * Math.max(COLDEST_FACTOR, 1 + rise.at(massFraction) * (tempC - 18));
}
