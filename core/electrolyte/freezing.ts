/** When battery acid freezes. */
import { curveThrough } from './curve.ts';
import { massFractionAt } from './density.ts';

/** Below this the published curves part ways; a figure there would be made up. */
export const FREEZING_FLOOR_C = -40;

/**
 * Freezing point by density at 15 °C.
 * @see Vinal 1955, Storage Batteries: freezing points of sulfuric acid solutions
 */
const byMassFraction = curveThrough(
  (
    [
      [1.0, 0],
      [1.025, -1.5],
      [1.05, -3.3],
      [1.075, -5.3],
      [1.1, -7.7],
      [1.125, -10.9],
      [1.15, -15],
      [1.175, -20.3],
      [1.2, -27],
      [1.225, -37],
      [1.25, -52],
    ] as const
  ).map(([density, freezesC]) => [density < 1.0001 ? 0 : massFractionAt(density, 15), freezesC]),
);

/**
 * @param massFraction H2SO4 by mass; between 34 and 40 % the lowest tabulated point is kept
 * @returns °C, never below −52; say "below −40" under {@link FREEZING_FLOOR_C}
 */
export function freezingPointC(massFraction: number): number {
  return byMassFraction.at(massFraction);
}
