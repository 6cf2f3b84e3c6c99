/** A dry-charged battery from the moment its acid goes in. */
import { chargeAfterSoakByAge } from '../battery/stateOfCharge.ts';
import { massFractionAt } from '../electrolyte/density.ts';
import { batteryOf, type CellCondition } from './battery.ts';
import type { CellString } from './cellString.ts';
import type { BatteryParameters, CellParameters } from './parameters.ts';

export interface Filling {
  /** All cells together, mL at 25 °C. */
  readonly acidMl: number;
  /** g/cm³ at 25 °C. */
  readonly density: number;
  /** Months since the date code: dry plates lose charge as they stand. */
  readonly ageMonths: number;
  readonly tempC: number;
  /** A chamber that gave less: which, and what share of its acid. */
  readonly shortFill?: { readonly cell: number; readonly share: number };
  /** A plate loss other than the age's, as a share of capacity: damp or broken seals. */
  readonly lostShare?: number;
}

/** Warmth of soaking, K of the whole battery: some always, more with plates that have aged (trial). */
const WETTING_K = 8;
const WETTING_PER_LOST_K = 20;
/** Share of the acid that has yet to find its way into the pores when the filling ends (trial). */
const OUTSIDE_PORES = 0.2;
/** A fresh plate still holds this share of what it could lose. */
const FRESH: CellCondition = {
  charge: 1,
  hardShare: 0,
  film: 0,
  waterLostG: 0,
  layering: 0,
  reversedAh: 0,
};

/**
 * A battery whose last chamber has just run empty: plates not yet soaked, warmth and sulfate still to come.
 * @throws RangeError when the acid is not acid or the short chamber does not exist
 */
export function fillDryCharged(parameters: BatteryParameters, filling: Filling): CellString {
  const { cells } = parameters;
  const { shortFill } = filling;
  if (shortFill && !(shortFill.cell >= 1 && shortFill.cell <= cells.length))
    throw new RangeError(`This battery has cells 1 to ${cells.length}; there is no cell ${shortFill.cell}.`);
  const solutionG = (filling.acidMl / cells.length) * filling.density;
  const massFraction = massFractionAt(filling.density, 25);
  // Alike cells stay one object, so that they are solved once.
  const known = new Map<CellParameters, Map<number, CellParameters>>();
  const filled = cells.map((cell, index) => {
    const share = shortFill?.cell === index + 1 ? shortFill.share : 1;
    const alike = known.get(cell) ?? new Map<number, CellParameters>();
    known.set(cell, alike);
    const same = alike.get(share);
    if (same) return same;
    const made = {
      ...cell,
      acidG: solutionG * massFraction * share,
      waterG: solutionG * (1 - massFraction) * share,
      wetG: solutionG * (1 - massFraction),
    };
    alike.set(share, made);
    return made;
  });
  const string = batteryOf(
    { ...parameters, cells: filled },
    filled.map(() => FRESH),
    filling.tempC,
  );
  const lost = filling.lostShare ?? 1 - chargeAfterSoakByAge(filling.ageMonths) / 100;
  const warmth = WETTING_K + WETTING_PER_LOST_K * lost;
  for (let group = 0; group < string.groups; group++) {
    const cell = filled[string.groupOf.indexOf(group)];
    if (!cell) continue;
    string.state.dry[group] = 1;
    string.state.middle[group] = OUTSIDE_PORES * cell.acidG;
    string.birthAh[group] = lost * cell.ratedAh;
    string.wettingJ[group] = (warmth * parameters.heatCapacityJPerK) / cells.length;
  }
  return string;
}
