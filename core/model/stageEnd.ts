/** What follows once a stage is solved: water, layers, film, warmth, and where charge and energy went. */
import { lookUpEmf } from '../electrolyte/emf.ts';
import { ACID_G_PER_AH, WATER_MADE_G_PER_AH } from '../electrolyte/faraday.ts';
import type { CellString } from './cellString.ts';
import * as k from './constants.ts';
import { ACID, HOUR, layeredAfter, LEAST_MOLALITY, MOLAR, SPLIT } from './stage.ts';
import { CASE_C, CHARGE_IN_AH, ENERGY_IN_J, GAS_J, HEAT_OUT_J, STORED_J, type StringState } from './state.ts';

/** Numbers in and out of a look-up, and sums over cells, so that none is allocated. */
const looked = new Float64Array(3);
const sums = new Float64Array(4);

/**
 * Once a stage is solved: water, layers, film, warmth and the accounts at its end. How far the warmth it was
 * solved at was off is left in `warmthOff`.
 */
export function finishStage(cells: CellString, base: StringState, seconds: number): void {
  const { p, stage, shown, state, parameters } = cells;
  const current = cells.currentA;
  const ampSeconds = seconds / HOUR;
  const number = cells.groupOf.length;
  const cellHeat = parameters.heatCapacityJPerK / number;
  sums.fill(0);
  for (let g = 0; g < cells.groups; g++) {
    const count = cells.counts[g] as number;
    const main = shown.mainA[g] as number;
    const netGas = shown.gasA[g] as number;
    const gas = Math.abs(netGas);
    const x = shown.overpotential[g] as number;
    const selfA = stage.selfA[g] as number;
    const hardPart = stage.hardPart[g] as number;
    const soaked = (cells.birthAh[g] as number) * (stage.wetted[g] as number);
    const hardened = stage.hardened[g] as number;
    state.soft[g] =
      (base.soft[g] as number) - hardened + soaked - ampSeconds * (main * (1 - hardPart) - selfA);
    state.hard[g] = (base.hard[g] as number) + hardened - ampSeconds * main * hardPart;
    const burnPerA = ampSeconds / (k.FILM_CHARGE_SHARE * (p.ratedAh[g] as number));
    state.film[g] = (base.film[g] as number) / (1 + burnPerA * Math.abs(current));
    const vented = stage.ventedShare[g] as number;
    const potential = (shown.emf[g] as number) + x;
    const released = seconds * ACID * main;
    const faster = seconds * (stage.diffusionRate[g] as number);
    state.slow[g] =
      ((base.slow[g] as number) - (cells.diffusion[0][g] as number) * released) /
      (1 + faster / k.DIFFUSION_TAU_S[0]);
    state.middle[g] =
      ((base.middle[g] as number) - (cells.diffusion[1][g] as number) * released) /
      (1 + faster / k.DIFFUSION_TAU_S[1]);
    state.fast[g] =
      ((base.fast[g] as number) - (cells.diffusion[2][g] as number) * released) /
      (1 + seconds / k.DIFFUSION_TAU_S[2]);
    const surface = base.surface[g] as number;
    state.surface[g] = surface + ((x - surface) * seconds) / (seconds + k.SURFACE_TAU_S);
    state.lostG[g] = (base.lostG[g] as number) + SPLIT * seconds * vented * (gas + selfA);
    if (cells.canLayer[g] === true)
      state.layered[g] = layeredAfter(
        base.layered[g] as number,
        main,
        gas / (p.ratedAh[g] as number),
        seconds,
      );
    const turned = stage.reversedShare[g] as number;
    const plating = netGas < 0 ? k.REVERSED_PLATING * gas : 0;
    const unturned = current > 0 ? current * turned : 0;
    state.reversed[g] = Math.max(0, (base.reversed[g] as number) + ampSeconds * (plating - unturned));
    state.gasAh[g] = (base.gasAh[g] as number) + ampSeconds * netGas;
    state.shortAh[g] = (base.shortAh[g] as number) + ampSeconds * ((shown.shortA[g] as number) + unturned);
    state.selfAh[g] = (base.selfAh[g] as number) + ampSeconds * selfA;

    const sulfate = (state.soft[g] as number) + (state.hard[g] as number);
    const acid = (p.acidG[g] as number) - ACID_G_PER_AH * sulfate;
    const water = (p.waterG[g] as number) + WATER_MADE_G_PER_AH * sulfate - (state.lostG[g] as number);
    const bulk = Math.max(LEAST_MOLALITY, acid / (MOLAR * water));
    looked[0] = bulk;
    lookUpEmf(looked);
    const enthalpy = (looked[1] as number) - k.REFERENCE_K * (stage.emfPerK[g] as number);
    const wettingW = ((cells.wettingJ[g] as number) * (stage.wetted[g] as number)) / seconds;
    const ohmicW = current * current * cells.squareRatio * (shown.resistance[g] as number);
    const cellPower = current * potential + ohmicW;
    const cellStored =
      main * enthalpy +
      (stage.surfaceNow[g] as number) * (shown.emf[g] as number) -
      selfA * enthalpy -
      wettingW;
    const cellGas = k.WATER_ENTHALPY_V * vented * (gas + selfA);
    const cellHeatW = cellPower - cellStored - cellGas;
    stage.x0[g] = cellHeatW;
    sums[0] = (sums[0] as number) + count * cellHeatW;
    sums[1] = (sums[1] as number) + count * cellStored;
    sums[2] = (sums[2] as number) + count * cellGas;
    sums[3] = (sums[3] as number) + count * cellPower;
  }
  const heatW = sums[0] as number;
  const storedW = sums[1] as number;
  const gasW = sums[2] as number;
  const powerW = sums[3] as number;
  const { heatCapacityJPerK: capacity, heatLossWPerK: loss } = parameters;
  const before = base.shared[CASE_C] as number;
  const after =
    (before + (seconds * (heatW + loss * cells.ambientC)) / capacity) / (1 + (seconds * loss) / capacity);
  cells.warmingKPerS = (after - before) / seconds;
  const { shared } = state;
  const caseOff = after - (shared[CASE_C] as number);
  shared[CASE_C] = after;
  shared[CHARGE_IN_AH] = (base.shared[CHARGE_IN_AH] as number) + ampSeconds * current;
  shared[ENERGY_IN_J] = (base.shared[ENERGY_IN_J] as number) + seconds * powerW;
  shared[HEAT_OUT_J] = (base.shared[HEAT_OUT_J] as number) + seconds * loss * (after - cells.ambientC);
  shared[STORED_J] = (base.shared[STORED_J] as number) + seconds * storedW;
  shared[GAS_J] = (base.shared[GAS_J] as number) + seconds * gasW;
  let worst = 0;
  for (let g = 0; g < cells.groups; g++) {
    const uneven = ((stage.x0[g] as number) - heatW / number) / cellHeat;
    const excess = ((base.excess[g] as number) + seconds * uneven) / (1 + seconds / k.EXCESS_FADE_S);
    worst = Math.max(worst, Math.abs(caseOff + excess - (state.excess[g] as number)));
    shown.warming[g] = (excess - (base.excess[g] as number)) / seconds;
    state.excess[g] = excess;
  }
  cells.warmthOff = worst;
}
