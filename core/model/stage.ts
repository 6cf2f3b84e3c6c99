/**
 * What changes little within one implicit stage, worked out before Newton's passes (newton.ts) find the currents and overpotentials of
 * all cells. docs/model.md has the equations with their sources; the letters there are the names here.
 */
import { emfTemperatureSlope } from '../electrolyte/emf.ts';
import { ACID_G_PER_AH, WATER_MADE_G_PER_AH, WATER_SPLIT_G_PER_AH } from '../electrolyte/faraday.ts';
import type { CellString } from './cellString.ts';
import { lookUpConductance } from './conductance.ts';
import * as k from './constants.ts';
import { CASE_C, type StringState } from './state.ts';

export const HOUR = 3600;
const DAY = 86_400;
/** Grams per ampere-second. */
export const ACID = ACID_G_PER_AH / HOUR;
export const WATER = WATER_MADE_G_PER_AH / HOUR;
export const SPLIT = WATER_SPLIT_G_PER_AH / HOUR;
/** Divisions cost most of a pass: what is divided by again and again is multiplied by its inverse. */
export const AH_PER_ACID_G = 1 / ACID_G_PER_AH;
/** Molality is acid over this times water, both in grams. */
export const MOLAR = 0.09808;
export const LEAST_MOLALITY = 1e-3;
/** Temperature a group's rates were last computed for may be this old, K. */
const SAME_WARMTH_K = 0.001;
/** Numbers in and out of a look-up, so that none is allocated. */
const looked = new Float64Array(3);

/**
 * All that changes little within a stage: rates at its temperature, resistance, what stands still.
 * @param base state the stage starts from
 * @param seconds its length, γ·step
 */
export function prepareStage(cells: CellString, base: StringState, seconds: number): void {
  const { p, stage, shown, state } = cells;
  const caseC = (base.shared[CASE_C] as number) + cells.warmingKPerS * seconds;
  state.shared[CASE_C] = caseC;
  // What is the same for all cells.
  const undried = 1 / (1 + seconds / k.SOAK_TAU_S);
  const decay2 = 1 / (1 + seconds / k.DIFFUSION_TAU_S[2]);
  const surfacePerAh = k.SURFACE_AS_PER_V_AH / (k.SURFACE_TAU_S + seconds);
  for (let g = 0; g < cells.groups; g++) {
    const excess = (base.excess[g] as number) + (shown.warming[g] as number) * seconds;
    const tempC = caseC + excess;
    state.excess[g] = excess;
    const change = tempC - (stage.ratesC[g] as number);
    if (!(change < SAME_WARMTH_K && change > -SAME_WARMTH_K)) setRates(cells, g, tempC);
    const doubling = stage.doubling[g] as number;
    const convertible = p.convertibleAh[g] as number;
    const dry = (base.dry[g] as number) * undried;
    const wet = 1 - 0.98 * dry;
    state.dry[g] = dry;
    stage.wetted[g] = (base.dry[g] as number) - dry;

    const faster = stage.diffusionRate[g] as number;
    const decay0 = 1 / (1 + (seconds * faster) / k.DIFFUSION_TAU_S[0]);
    const decay1 = 1 / (1 + (seconds * faster) / k.DIFFUSION_TAU_S[1]);
    stage.deficit[g] =
      (base.slow[g] as number) * decay0 +
      (base.middle[g] as number) * decay1 +
      (base.fast[g] as number) * decay2;
    stage.deficitPerA[g] =
      seconds *
      ACID *
      ((cells.diffusion[0][g] as number) * decay0 +
        (cells.diffusion[1][g] as number) * decay1 +
        (cells.diffusion[2][g] as number) * decay2);
    stage.surfaceA[g] = surfacePerAh * (p.ratedAh[g] as number);

    // Where the stage will end if the cell goes on as it did: resistance and rates are taken there.
    const sulfate =
      (base.soft[g] as number) + (base.hard[g] as number) - (seconds / HOUR) * (shown.mainA[g] as number);
    const held = (stage.deficit[g] as number) - (stage.deficitPerA[g] as number) * (shown.mainA[g] as number);
    const share = Math.max(0, 1 - (Math.max(0, sulfate) + held * AH_PER_ACID_G) / convertible);
    const acid = (p.acidG[g] as number) - ACID_G_PER_AH * sulfate;
    const water = (p.waterG[g] as number) + WATER_MADE_G_PER_AH * sulfate - (base.lostG[g] as number);
    const saturation = ((p.waterG[g] as number) - (base.lostG[g] as number)) / (p.wetG[g] as number);
    const gasNow = Math.abs(shown.gasA[g] as number);
    const bulkMolality = Math.max(LEAST_MOLALITY, acid / (MOLAR * water));
    const isFlooded = cells.canLayer[g] === true;

    stage.exchange[g] =
      k.EXCHANGE_PER_CRANKING * (p.crankingA[g] as number) * wet * (stage.exchangeRate[g] as number);
    stage.transport[g] =
      k.DISCHARGE_LIMIT_PER_CRANKING * (p.crankingA[g] as number) * wet * (stage.transportRate[g] as number);
    const dissolving = stage.dissolving[g] as number;
    stage.softRate[g] = k.SOFT_RATE_PER_H * dissolving;
    const pulsed = 1 + ((p.pulseGain[g] as number) - 1) * cells.pulsing;
    stage.hardRate[g] = k.HARD_RATE_PER_H * dissolving * pulsed;

    const dryness = isFlooded ? 0 : Math.max(0, 1 - saturation);
    stage.gas[g] =
      (p.gassingA[g] as number) * (stage.gasRate[g] as number) * (1 + k.DRY_GASSING * dryness * dryness);
    const vented = (1 - (p.recombination[g] as number)) * Math.exp(k.DRY_RECOMBINATION * (saturation - 1));
    stage.ventedShare[g] = isFlooded ? 1 : Math.min(1, vented);
    stage.lostNow[g] =
      (base.lostG[g] as number) + SPLIT * seconds * (stage.ventedShare[g] as number) * gasNow;
    stage.layeredNow[g] = isFlooded
      ? layeredAfter(
          base.layered[g] as number,
          shown.mainA[g] as number,
          gasNow / (p.ratedAh[g] as number),
          seconds,
        )
      : 0;
    stage.selfA[g] =
      ((convertible * (p.selfDischargePerDay[g] as number)) / 24) *
      doubling *
      share *
      (1 + (2 * (base.hard[g] as number)) / convertible);
    // Layers drive the lower half as much further down as the upper one up: of two halves the mean of squares is asked.
    const apart = isFlooded ? ((base.layered[g] as number) * AH_PER_ACID_G) / convertible : 0;
    const flat = ((1 - share) * (1 - share) + apart * apart) * (1.5 / (0.5 + bulkMolality));
    const hardening = ((seconds * k.HARDENING_PER_DAY) / DAY) * doubling * flat;
    stage.hardened[g] = ((base.soft[g] as number) * hardening) / (1 + hardening);
    stage.emfPerK[g] = emfTemperatureSlope(bulkMolality);

    const narrow = saturation < 1 ? 1 / (saturation * saturation) : 1;
    looked[0] = acid / (acid + water);
    looked[1] = tempC;
    lookUpConductance(looked);
    const conductance = (looked[2] as number) * (1 - 0.9 * dry);
    stage.plainOhm[g] =
      (p.metalOhm[g] as number) +
      (p.jointOhm[g] as number) +
      ((p.acidOhm[g] as number) / conductance) * narrow * (1 + (0.3 * sulfate) / convertible);
  }
}

/** Acid set free sinks; gassing and time mix it again. Current in A, gassing in A/Ah. */
export function layeredAfter(layered: number, main: number, gasPerAh: number, seconds: number): number {
  const sinking = k.SINKING_SHARE * ACID * Math.max(0, main) * seconds;
  const mixing = (gasPerAh * 100) / k.MIXING_TAU_S + 1 / k.LAYER_FADE_S;
  return (layered + sinking) / (1 + seconds * mixing);
}

/** Everything that follows temperature alone; asked again only when it has moved. */
function setRates({ stage }: CellString, g: number, tempC: number): void {
  const kelvin = tempC + 273.15;
  // Arrhenius: exp(E/R·(1/T₀ − 1/T)).
  const warmth = (1 / k.REFERENCE_K - 1 / kelvin) / k.GAS_CONSTANT;
  stage.ratesC[g] = tempC;
  stage.doubling[g] = Math.exp((Math.LN2 * (tempC - 25)) / 10);
  stage.exchangeRate[g] = Math.exp(k.EXCHANGE_ACTIVATION * warmth);
  stage.transportRate[g] = Math.exp(k.TRANSPORT_ACTIVATION * warmth);
  stage.dissolving[g] = Math.exp(k.SULFATE_ACTIVATION * warmth);
  stage.diffusionRate[g] = Math.exp(k.DIFFUSION_ACTIVATION * warmth);
  stage.halfVolt[g] = (k.HALF_F_PER_RT * k.REFERENCE_K) / kelvin;
  stage.gasRate[g] = Math.exp(k.GASSING_PER_K * (tempC - 25));
}
