/** Air for a charging bench, and the hydrogen that gathers without it. */

export type Venting = 'vented' | 'valve-regulated';
export type Holding = 'float' | 'boost';

/** Gassing current to reckon with, mA per Ah. @see IEC 62485-2:2010, table 1 */
const GASSING_MA_PER_AH: Record<Venting, Record<Holding, number>> = {
  vented: { float: 5, boost: 20 },
  'valve-regulated': { float: 1, boost: 8 },
};

/**
 * Air a charging battery needs.
 * @param cells in series
 * @param gassingA gassing current where known, A; otherwise the standard's figure for the kind
 * @returns air in m³/h and the free opening in cm² that gives it by itself
 * @see IEC 62485-2:2010, Q = 0.05·n·I_gas·C·10⁻³ and A = 28·Q
 */
export function ventilation(
  cells: number,
  capacityAh: number,
  venting: Venting,
  holding: Holding,
  gassingA?: number,
): { airM3PerH: number; openingCm2: number } {
  const amps = gassingA ?? (GASSING_MA_PER_AH[venting][holding] * capacityAh) / 1000;
  const airM3PerH = 0.05 * cells * amps;
  return { airM3PerH, openingCm2: 28 * airM3PerH };
}

/**
 * No spark within this distance of the battery.
 * @param gassingA of all cells in series, A
 * @returns mm
 * @see IEC 62485-2:2010, d = 28.8·∛(I_gas·C), I_gas·C in mA: 5 A are about half a metre
 */
export function sparkDistanceMm(gassingA: number): number {
  return 28.8 * Math.cbrt(gassingA * 1000);
}

/** Hydrogen is kept below this share of the air; it burns from 4 %. @see IEC 62485-2:2010 */
export const HYDROGEN_LIMIT = 0.01;

/**
 * Share of hydrogen in a room after a while, well mixed.
 * @param hydrogenLPerH given off, L/h
 * @param roomM3 volume of air
 * @param changesPerH air changes an hour; 0 with doors shut tight
 * @param hours since it began
 */
export function hydrogenShare(
  hydrogenLPerH: number,
  roomM3: number,
  changesPerH: number,
  hours: number,
): number {
  const perHour = hydrogenLPerH / 1000 / roomM3;
  // So little draught that it makes no difference, and would only divide nothing by nothing.
  if (changesPerH * Math.max(1, hours) < 1e-9) return perHour * hours;
  return (perHour / changesPerH) * -Math.expm1(-changesPerH * hours);
}
