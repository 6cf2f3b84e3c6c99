/** What the model and the engine need, read off a type of the catalogue. */
import type { Subject } from '../charge/profile.ts';
import { constructionOf, type BatteryType, type PrintedValues } from '../battery/types.ts';
import type { Rating } from './parameters.ts';

/**
 * The label of a type, as the model reads it.
 * @throws RangeError in one sentence when voltage and cells do not go together, or it is lithium
 */
export function ratingOf(type: BatteryType): Rating {
  if (type.cells * 2 !== type.nominalV)
    throw new RangeError(
      `A ${type.nominalV} V battery has ${type.nominalV / 2} cells in series; ${type.cells} is not possible.`,
    );
  return {
    construction: constructionOf(type.kind),
    cells: type.cells,
    capacityAh: type.capacityAh,
    hourRate: type.hourRate,
    ...(type.cranking ? { crankingA: type.cranking.amps, crankingStandard: type.cranking.standard } : {}),
    ...(type.pack ? { acidDensity: type.pack.densityKgPerL, acidMl: type.pack.volumeMl / type.cells } : {}),
  };
}

/** The limits of a type, as the charge engine reads them; values entered on the job win. */
export function subjectOfType(type: BatteryType, entered: PrintedValues = {}): Subject {
  const printed = { ...type.sheet, ...type.label, ...entered };
  return {
    construction: constructionOf(type.kind),
    cells: type.cells,
    capacityAh: type.capacityAh,
    ...(printed.chargeCurrentA === undefined ? {} : { labelA: printed.chargeCurrentA }),
    ...(printed.quickCurrentA === undefined ? {} : { quickA: printed.quickCurrentA }),
    ...(printed.chargeTimeH === undefined ? {} : { labelHours: printed.chargeTimeH }),
    ...(printed.ceilingV === undefined ? {} : { labelV: printed.ceilingV }),
  };
}
