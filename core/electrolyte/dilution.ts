/** Mixing acid and water: how much of each, how warm it gets, and in how many pours. */
import { curveThrough } from './curve.ts';
import { densityAt } from './density.ts';
import { ACID_G_PER_MOL } from './emf.ts';

const WATER_G_PER_MOL = 18.015;
/** A pour that warms the mixture by more than this is made in stages, with a wait between them. */
export const STAGE_RISE_K = 20;

/**
 * Heat given off when 1 mol of pure H2SO4 is dissolved in n mol of water at 25 °C, kJ/mol.
 * @see NBS Circular 500 (1952), Selected Values of Chemical Thermodynamic Properties
 */
const integralHeat = curveThrough([
  [0, 0],
  [0.5, 15.73],
  [1, 28.07],
  [1.5, 36.9],
  [2, 41.92],
  [3, 48.99],
  [4, 54.06],
  [5, 58.03],
  [6, 60.75],
  [8, 64.6],
  [10, 67.03],
  [15, 70.17],
  [20, 71.5],
  [25, 72.3],
  [50, 73.35],
  [100, 73.97],
  [200, 74.94],
]);

/**
 * Specific heat of the acid at 20 °C, J/(g·K), by percent.
 * @see Perry's Chemical Engineers' Handbook, specific heats of aqueous sulfuric acid (cal/g × 4.184)
 */
const specificHeat = curveThrough(
  (
    [
      [0, 0.9988],
      [5.16, 0.9549],
      [9.82, 0.9177],
      [15.36, 0.8767],
      [21.4, 0.8339],
      [25.39, 0.8041],
      [30.34, 0.7647],
      [35.25, 0.7238],
      [40.49, 0.677],
      [47.57, 0.6153],
      [52.13, 0.5801],
      [57.65, 0.542],
      [64.47, 0.5012],
      [73.13, 0.4628],
      [81.33, 0.4481],
      [89.36, 0.4016],
      [97.44, 0.3404],
    ] as const
  ).map(([percent, calories]) => [percent / 100, calories * 4.184]),
);

/** J/(g·K) of acid of this strength. */
export function specificHeatAt(massFraction: number): number {
  return specificHeat.at(massFraction);
}

/** Heat of solution held in 1 g of this mixture, J, counted from pure acid and pure water. */
function heldHeat(massFraction: number): number {
  if (massFraction <= 0) return 0;
  const molAcid = massFraction / ACID_G_PER_MOL;
  const molWater = (1 - massFraction) / WATER_G_PER_MOL;
  return molAcid * integralHeat.at(molWater / molAcid) * 1000;
}

export interface Dilution {
  readonly acidG: number;
  readonly waterG: number;
  readonly acidMl: number;
  readonly waterMl: number;
  /** The mixture at 25 °C; less than acid and water together. */
  readonly mixedMl: number;
  /** Rise if nothing is lost, K. */
  readonly riseK: number;
  /** Pours, each followed by a wait until cool. */
  readonly stages: number;
}

/**
 * Concentrate and water for a wanted amount of weaker acid; acid goes into the water, never the reverse.
 * @param concentrate mass fraction of what is diluted
 * @param target mass fraction wanted
 * @param mixedMl wanted, mL at 25 °C
 * @param water mass fraction of what it is diluted with, 0 for water
 * @throws RangeError when the target does not lie between the two
 */
export function diluteTo(concentrate: number, target: number, mixedMl: number, water = 0): Dilution {
  if (!(target > water && target < concentrate))
    throw new RangeError(
      `The mixture must be weaker than the acid (${(concentrate * 100).toFixed(1)} %) and stronger than what it is poured into (${(water * 100).toFixed(1)} %); ${(target * 100).toFixed(1)} % is not.`,
    );
  if (!(mixedMl > 0)) throw new RangeError(`The wanted volume must be above 0 mL; ${mixedMl} is not.`);
  const mixedG = mixedMl * densityAt(target, 25);
  const acidG = (mixedG * (target - water)) / (concentrate - water);
  const waterG = mixedG - acidG;
  const heatJ = mixedG * heldHeat(target) - acidG * heldHeat(concentrate) - waterG * heldHeat(water);
  const riseK = heatJ / (mixedG * specificHeat.at(target));
  return {
    acidG,
    waterG,
    acidMl: acidG / densityAt(concentrate, 25),
    waterMl: waterG / densityAt(water, 25),
    mixedMl,
    riseK,
    stages: Math.max(1, Math.ceil(riseK / STAGE_RISE_K)),
  };
}
