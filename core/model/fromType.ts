/** What the model and the engine need, read off a type of the catalogue. */
import type { Subject } from '../charge/profile.ts';
import { leastAh, type BatteryType, type PrintedValues } from '../battery/types.ts';
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

/** The limits of a type, as the charge engine reads them; values entered on the job win, an estimate counts at its least. */
export function subjectOfType(type: BatteryType, entered: PrintedValues = {}): Subject {
  const printed = { ...type.sheet, ...type.label, ...entered };
  return {
    construction: type.construction,
    cells: type.cells,
    capacityAh: leastAh(type),
    ...(printed.chargeCurrentA === undefined ? {} : { labelA: printed.chargeCurrentA }),
    ...(printed.quickCurrentA === undefined ? {} : { quickA: printed.quickCurrentA }),
    ...(printed.chargeTimeH === undefined ? {} : { labelHours: printed.chargeTimeH }),
    ...(printed.ceilingV === undefined ? {} : { labelV: printed.ceilingV }),
  };
}
