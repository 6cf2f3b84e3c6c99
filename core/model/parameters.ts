/** What one cell and its battery are made of, derived from what the label says. */
import type { Construction } from '../battery/construction.ts';
import { capacityAt, classOf } from '../battery/dischargeRates.ts';
import { onSaeScaleA } from '../battery/crankingStandards.ts';
import { onSix, type CrankingStandard, type Duty } from '../battery/types.ts';
import { densityAt, massFractionAt } from '../electrolyte/density.ts';
import { platesOf } from './plates.ts';

/** What a label tells of a battery; all the model needs. */
export interface Rating {
  readonly construction: Construction;
  readonly duty: Duty;
  readonly cells: number;
  readonly capacityAh: number;
  readonly hourRate: number;
  readonly crankingA?: number;
  readonly crankingStandard?: CrankingStandard;
  /** Acid at full charge, g/cm³ at 25 °C; by construction where the label is silent. */
  readonly acidDensity?: number;
  /** Acid per cell, mL; by construction where the label is silent. */
  readonly acidMl?: number;
}

export interface CellParameters {
  /** Sound 20-h capacity this cell was made for, Ah. */
  readonly ratedAh: number;
  /** All that could react, Ah; less when worn. */
  readonly convertibleAh: number;
  /** Full-charge acid and water, g. */
  readonly acidG: number;
  readonly waterG: number;
  /** Cranking amps on the SAE scale that set kinetics and resistance, A. */
  readonly crankingA: number;
  /** Metal and joints inside, Ω. */
  readonly metalOhm: number;
  /** Acid in the separators at full charge and 25 °C, Ω. */
  readonly acidOhm: number;
  /** Film of a plate that stood flat, Ω when complete. */
  readonly filmOhm: number;
  /** A poor joint, Ω. */
  readonly jointOhm: number;
  /** Acid held back per acid reacted, for the three diffusion modes, per hour. */
  readonly diffusion: readonly [slow: number, middle: number, fast: number];
  /** Gassing at 2.23 V and 25 °C, A. */
  readonly gassingA: number;
  /** Share of the gas that turns back to water when the mats are just full. */
  readonly recombination: number;
  /** Share of charge lost in a day at 25 °C, standing. */
  readonly selfDischargePerDay: number;
  /** Leak across the plates, S. */
  readonly shortS: number;
  /** Whether acid can sink in layers. */
  readonly canLayer: boolean;
  /** Water at which the mats are just full, g; drier conducts less and recombines more. */
  readonly wetG: number;
  /** How much faster hard sulfate goes under pulses than under their average: an assumption, 1 is none. */
  readonly pulseGain: number;
}

export interface BatteryParameters {
  readonly construction: Construction;
  readonly rating: Rating;
  /** Alike when the object is the same: alike cells are solved once. */
  readonly cells: readonly CellParameters[];
  readonly heatCapacityJPerK: number;
  readonly heatLossWPerK: number;
  readonly leadsOhm: number;
}

/** By construction: acid, gas and standing. */
interface KindTable {
  readonly acidDensity: number;
  readonly gassingMaPer100Ah: number;
  readonly recombination: number;
  readonly selfDischargePerDay: number;
  readonly canLayer: boolean;
}

/**
 * Gassing after Schiffer et al. 2007 (normalised 20 mA/100 Ah) and IEC 62485-2; self-discharge from handbook 4 (AGM
 * 2–3 % a month, gel 1.5–2.5, low-antimony flooded 4–6 %).
 */
const KINDS: Record<Construction, KindTable> = {
  agm: {
    acidDensity: 1.3,
    gassingMaPer100Ah: 25,
    recombination: 0.985,
    selfDischargePerDay: 0.025 / 30,
    canLayer: false,
  },
  flooded: {
    acidDensity: 1.28,
    gassingMaPer100Ah: 20,
    recombination: 0,
    selfDischargePerDay: 0.05 / 30,
    canLayer: true,
  },
  gel: {
    acidDensity: 1.29,
    gassingMaPer100Ah: 20,
    recombination: 0.985,
    selfDischargePerDay: 0.02 / 30,
    canLayer: false,
  },
};

/** Volts per cell lost in metal and in acid at the SAE cranking current, 25 °C (fitted to R ≈ 2.55 V/CCA). */
const METAL_VOLTS = 0.3;
const ACID_VOLTS = 0.17;
const FILM_OHM_AH = 40;

function assertRating({ cells, capacityAh, hourRate, crankingA }: Rating): void {
  if (!Number.isInteger(cells) || cells < 1 || cells > 12)
    throw new RangeError(`A battery has 1 to 12 cells in series; ${cells} is not possible.`);
  if (Number.isNaN(capacityAh)) throw new RangeError('Capacity: a number from 0.5 to 3000 Ah is needed.');
  if (!(capacityAh >= 0.5 && capacityAh <= 3000))
    throw new RangeError(`Capacity must lie between 0.5 and 3000 Ah; ${capacityAh} Ah does not.`);
  if (!(hourRate >= 1 && hourRate <= 120))
    throw new RangeError(`The hour rate must lie between 1 and 120 h; ${hourRate} h does not.`);
  if (crankingA !== undefined && !(crankingA >= capacityAh && crankingA <= capacityAh * 40))
    throw new RangeError(
      `Cranking current must lie between 1 and 40 times the capacity, here ${capacityAh} to ${capacityAh * 40} A; ${crankingA} A does not.`,
    );
}

/** Twenty-hour capacity of a label, by its class's own table, Ah. */
export const twentyHourAh = ({
  construction,
  duty,
  capacityAh,
  hourRate,
}: Pick<Rating, 'construction' | 'duty' | 'capacityAh' | 'hourRate'>): number =>
  capacityAt(classOf({ construction, duty, hourRate }), capacityAh, hourRate, 20);

/**
 * A sound cell of a label.
 * @throws RangeError with one sentence when the label is impossible
 */
export function soundCell(rating: Rating): CellParameters {
  assertRating(rating);
  const kind = KINDS[rating.construction];
  const ratedAh = twentyHourAh(rating);
  const plates = platesOf(rating, ratedAh);
  const crankingA =
    rating.crankingA === undefined
      ? ratedAh * plates.crankingPerAh
      : onSaeScaleA({ amps: rating.crankingA, standard: rating.crankingStandard ?? 'EN' });
  const density = rating.acidDensity ?? kind.acidDensity;
  const solutionG = (rating.acidMl ?? ratedAh * plates.acidMlPerAh) * density;
  const massFraction = massFractionAt(density, 25);
  return {
    ratedAh,
    convertibleAh: ratedAh * plates.convertibleShare,
    acidG: solutionG * massFraction,
    waterG: solutionG * (1 - massFraction),
    crankingA,
    metalOhm: METAL_VOLTS / crankingA,
    acidOhm: ACID_VOLTS / crankingA,
    filmOhm: FILM_OHM_AH / ratedAh,
    jointOhm: 0,
    diffusion: [plates.slow, plates.middle, (plates.fastCranking * ratedAh) / crankingA],
    gassingA: (kind.gassingMaPer100Ah * ratedAh) / 1e5,
    recombination: kind.recombination,
    selfDischargePerDay: kind.selfDischargePerDay,
    shortS: 0,
    canLayer: kind.canLayer,
    wetG: solutionG * (1 - massFraction),
    pulseGain: 1,
  };
}

/**
 * A battery of alike, sound cells.
 * @throws RangeError with one sentence when the label is impossible
 */
export function soundBattery(rating: Rating): BatteryParameters {
  const cell = soundCell(rating);
  const batteryAh = onSix(cell.ratedAh, rating);
  return {
    construction: rating.construction,
    rating,
    cells: Array.from({ length: rating.cells }, () => cell),
    heatCapacityJPerK: 270 * batteryAh,
    heatLossWPerK: 0.105 * batteryAh ** 0.62,
    leadsOhm: 0,
  };
}

/** Volume of acid in a cell, mL at 25 °C. */
export function electrolyteMl(acidG: number, waterG: number): number {
  const solutionG = acidG + waterG;
  return solutionG / densityAt(Math.min(0.98, acidG / solutionG), 25);
}
