/** What the engine needs of a battery, read off a type of the catalogue. */
import { leastAh, type BatteryType, type PrintedValues } from '../battery/types.ts';
import type { Subject } from './profile.ts';

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
