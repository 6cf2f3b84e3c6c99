/** What the model needs, read off a type of the catalogue. */
import type { BatteryType } from '../battery/types.ts';
import type { Rating } from './parameters.ts';

/**
 * The label of a type, as the model reads it.
 */
export function ratingOf(type: BatteryType): Rating {
  return {
    construction: type.construction,
    duty: type.duty,
    cells: type.cells,
    capacityAh: type.capacityAh,
    hourRate: type.hourRate,
    ...(type.cranking ? { crankingA: type.cranking.amps, crankingStandard: type.cranking.standard } : {}),
    ...(type.pack ? { acidDensity: type.pack.densityKgPerL, acidMl: type.pack.volumeMl / type.cells } : {}),
  };
}
