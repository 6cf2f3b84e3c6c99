/**
 * The equations of one implicit stage. Given the state it starts from, a stage finds the currents and
 * overpotentials of all cells together with the state they lead to. docs/model.md has the equations with
 * their sources; the letters there are the names here.
 */
import { emfTemperatureSlope, lookUpEmf } from '../electrolyte/emf.ts';
import { ACID_G_PER_AH, WATER_MADE_G_PER_AH, WATER_SPLIT_G_PER_AH } from '../electrolyte/faraday.ts';
import type { CellString } from './cellString.ts';
import { lookUpConductance } from './conductance.ts';
import * as k from './constants.ts';
import {
  CASE_C,
  CHARGE_IN_AH,
  ENERGY_IN_J,
  GAS_J,
  get,
  HEAT_OUT_J,
  STORED_J,
  type StringState,
} from './state.ts';

const HOUR = 3600;
const DAY = 86_400;
/** Grams per ampere-second. */
const ACID = ACID_G_PER_AH / HOUR;
const WATER = WATER_MADE_G_PER_AH / HOUR;
const SPLIT = WATER_SPLIT_G_PER_AH / HOUR;
/** Molality is acid over this times water, both in grams. */
const MOLAR = 0.09808;
const LEAST_MOLALITY = 1e-3;
/** Limits of one iteration: the longest move of an overpotential, V, and the largest exponent. */
const LONGEST_MOVE_V = 0.15;
const LARGEST_EXPONENT = 40;

const HARD_PUSH_PER_V = k.HARD_RATE_PER_TENTH_V / 0.1;
/** Temperature a group's rates were last computed for may be this old, K. */
const SAME_WARMTH_K = 0.001;
/** Numbers in and out of a look-up, so that none is allocated. */
const looked = new Float64Array(3);

function clamped(exponent: number): number {
  if (exponent > LARGEST_EXPONENT) return LARGEST_EXPONENT;
  return exponent < -LARGEST_EXPONENT ? -LARGEST_EXPONENT : exponent;
}

/**
 * All that changes little within a stage: rates at its temperature, resistance, what stands still.
 * @param base state the stage starts from
 * @param seconds its length, γ·step
 */
export function prepareStage(cells: CellString, base: StringState, seconds: number): void {
  const { p, stage, shown, state } = cells;
  const caseC = get(base.shared, CASE_C) + cells.warmingKPerS * seconds;
  state.shared[CASE_C] = caseC;
  for (let g = 0; g < cells.groups; g++) {
    const excess = get(base.excess, g) + get(stage.warming, g) * seconds;
    const tempC = caseC + excess;
    state.excess[g] = excess;
    const change = tempC - get(stage.ratesC, g);
    if (!(change < SAME_WARMTH_K && change > -SAME_WARMTH_K)) setRates(cells, g, tempC);
    const doubling = get(stage.doubling, g);
    const convertible = get(p.convertibleAh, g);
    const dry = get(base.dry, g) / (1 + seconds / k.SOAK_TAU_S);
    const wet = 1 - 0.98 * dry;
    state.dry[g] = dry;
    stage.wetted[g] = get(base.dry, g) - dry;

    const faster = get(stage.diffusionRate, g);
    const decay0 = 1 / (1 + (seconds * faster) / k.DIFFUSION_TAU_S[0]);
    const decay1 = 1 / (1 + (seconds * faster) / k.DIFFUSION_TAU_S[1]);
    const decay2 = 1 / (1 + seconds / k.DIFFUSION_TAU_S[2]);
    stage.deficit[g] = get(base.slow, g) * decay0 + get(base.middle, g) * decay1 + get(base.fast, g) * decay2;
    stage.deficitPerA[g] =
      seconds *
      ACID *
      (get(cells.diffusion[0], g) * decay0 +
        get(cells.diffusion[1], g) * decay1 +
        get(cells.diffusion[2], g) * decay2);
    stage.surfaceA[g] =
      (k.SURFACE_AS_PER_V_AH * get(p.ratedAh, g)) / k.SURFACE_TAU_S / (1 + seconds / k.SURFACE_TAU_S);

    // Where the stage will end if the cell goes on as it did: resistance and rates are taken there.
    const sulfate = get(base.soft, g) + get(base.hard, g) - (seconds / HOUR) * get(shown.mainA, g);
    const held = get(stage.deficit, g) - get(stage.deficitPerA, g) * get(shown.mainA, g);
    const share = Math.max(0, 1 - (Math.max(0, sulfate) + held / ACID_G_PER_AH) / convertible);
    const acid = get(p.acidG, g) - ACID_G_PER_AH * sulfate;
    const water = get(p.waterG, g) + WATER_MADE_G_PER_AH * sulfate - get(base.lostG, g);
    const saturation = (get(p.waterG, g) - get(base.lostG, g)) / get(p.wetG, g);
    const gasNow = Math.abs(get(shown.gasA, g));
    const bulkMolality = Math.max(LEAST_MOLALITY, acid / (MOLAR * water));
    const isFlooded = cells.canLayer[g] === true;

    stage.exchange[g] = k.EXCHANGE_PER_CRANKING * get(p.crankingA, g) * wet * get(stage.exchangeRate, g);
    stage.transport[g] =
      k.DISCHARGE_LIMIT_PER_CRANKING * get(p.crankingA, g) * wet * get(stage.transportRate, g);
    const dissolving = get(stage.dissolving, g);
    stage.softRate[g] = k.SOFT_RATE_PER_H * dissolving;
    const pulsed = 1 + (get(p.pulseGain, g) - 1) * cells.pulsing;
    stage.hardRate[g] = k.HARD_RATE_PER_H * dissolving * pulsed;

    const dryness = isFlooded ? 0 : Math.max(0, 1 - saturation);
    stage.gas[g] = get(p.gassingA, g) * get(stage.gasRate, g) * (1 + k.DRY_GASSING * dryness * dryness);
    const vented = (1 - get(p.recombination, g)) * Math.exp(k.DRY_RECOMBINATION * (saturation - 1));
    stage.ventedShare[g] = isFlooded ? 1 : Math.min(1, vented);
    stage.lostNow[g] = get(base.lostG, g) + SPLIT * seconds * get(stage.ventedShare, g) * gasNow;
    stage.layeredNow[g] = isFlooded
      ? layeredAfter(get(base.layered, g), get(shown.mainA, g), gasNow / get(p.ratedAh, g), seconds)
      : 0;
    stage.selfA[g] =
      ((convertible * get(p.selfDischargePerDay, g)) / 24) *
      doubling *
      share *
      (1 + (2 * get(base.hard, g)) / convertible);
    const flat = (1 - share) * (1 - share) * (1.5 / (0.5 + bulkMolality));
    const hardening = ((seconds * k.HARDENING_PER_DAY) / DAY) * doubling * flat;
    stage.hardened[g] = (get(base.soft, g) * hardening) / (1 + hardening);
    stage.emfPerK[g] = emfTemperatureSlope(bulkMolality);

    const narrow = saturation < 1 ? 1 / (saturation * saturation) : 1;
    looked[0] = acid / (acid + water);
    looked[1] = tempC;
    lookUpConductance(looked);
    const conductance = get(looked, 2) * (1 - 0.9 * dry);
    stage.plainOhm[g] =
      get(p.metalOhm, g) +
      get(p.jointOhm, g) +
      (get(p.acidOhm, g) / conductance) * narrow * (1 + (0.3 * sulfate) / convertible);
  }
}

/** Acid set free sinks; gassing and time mix it again. Current in A, gassing in A/Ah. */
function layeredAfter(layered: number, main: number, gasPerAh: number, seconds: number): number {
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

/**
 * One Newton pass over all cells at the string's present current: leaves the linear answer of each cell in
 * `stage`, and of the string in `terminalV` and `slopeOhm`.
 */
export function pass(cells: CellString, base: StringState, seconds: number): void {
  const { p, stage, shown } = cells;
  const current = cells.currentA;
  const ampSeconds = seconds / HOUR;
  let volts = cells.parameters.leadsOhm * current;
  let slope = cells.parameters.leadsOhm;
  for (let g = 0; g < cells.groups; g++) {
    const x = get(shown.overpotential, g);
    const main = get(shown.mainA, g);
    const convertible = get(p.convertibleAh, g);
    const softRate = get(stage.softRate, g);
    // Hard sulfate gives way faster the harder it is pushed.
    const push = 1 + HARD_PUSH_PER_V * Math.max(0, x);
    const hardRate = get(stage.hardRate, g) * push;
    const baseSoft =
      get(base.soft, g) - get(stage.hardened, g) + get(cells.birthAh, g) * get(stage.wetted, g);
    const baseHard = get(base.hard, g) + get(stage.hardened, g);

    // Charge goes to soft and hard sulfate as they give way; discharge makes soft.
    const hardPart =
      main > 0 ? (hardRate * baseHard) / (softRate * Math.max(0, baseSoft) + hardRate * baseHard + 1e-12) : 0;
    const soft = baseSoft - ampSeconds * (main * (1 - hardPart) - get(stage.selfA, g));
    const hard = baseHard - ampSeconds * main * hardPart;
    const sulfate = soft + hard;

    // Acid at the plates, and the share of charge left.
    const deficit = get(stage.deficit, g) - get(stage.deficitPerA, g) * main;
    const acidPerA = ACID * seconds + get(stage.deficitPerA, g);
    const water = get(p.waterG, g) + WATER_MADE_G_PER_AH * sulfate - get(stage.lostNow, g);
    const atPlates =
      get(p.acidG, g) - ACID_G_PER_AH * sulfate - deficit + k.LAYER_AT_PLATES * get(stage.layeredNow, g);
    const freeMolality = atPlates / (MOLAR * water);
    const m = Math.max(LEAST_MOLALITY, freeMolality);
    const mPerA =
      freeMolality > LEAST_MOLALITY ? acidPerA / (MOLAR * water) + (m * WATER * seconds) / water : 0;
    const raw = 1 - (sulfate + deficit / ACID_G_PER_AH) / convertible;
    const root = Math.sqrt(raw * raw + 4 * k.EMPTY_SMOOTHING * k.EMPTY_SMOOTHING);
    const q = (raw + root) / 2;
    const qPerA = (acidPerA / (ACID_G_PER_AH * convertible)) * (q / root);

    // Charge held the wrong way is used up by charging current before any goes the right way.
    const reversedWidth = k.REVERSED_WIDTH * get(p.ratedAh, g);
    let reversed = get(base.reversed, g);
    if (current > 0 && reversed > 0) {
      const half = (reversedWidth - reversed + ampSeconds * current) / 2;
      reversed = Math.sqrt(half * half + reversed * reversedWidth) - half;
    }
    const turned = reversed / (reversed + reversedWidth);
    stage.reversedShare[g] = turned;

    // Electromotive force, gone when empty, turned when reversed.
    const width = k.EMPTY_WIDTH * k.EMPTY_WIDTH;
    const alive = (q * q) / (q * q + width);
    looked[0] = m;
    lookUpEmf(looked);
    const full = get(looked, 1) + get(stage.emfPerK, g) * (cells.tempOf(g) - 25);
    const emf = full * alive - k.REVERSED_V * turned;
    const emfPerA = get(looked, 2) * mPerA * alive + ((full * 2 * q * width) / (q * q + width) ** 2) * qPerA;

    // Charge transfer with its limits: sulfate gives way only so fast, acid arrives only so fast.
    const perV = get(stage.halfVolt, g);
    const e = Math.exp(clamped(perV * x));
    const exchange = (get(stage.exchange, g) * Math.sqrt(q) * m) / (m + 0.4);
    const drive = exchange * (e - 1 / e);
    const drivePerV = exchange * perV * (e + 1 / e);
    const exchangePerA = exchange * ((0.5 / q) * qPerA + (0.4 / (m * (m + 0.4))) * mPerA);
    const drivePerA = (drive / exchange) * exchangePerA;
    let limit: number;
    let limitPerA: number;
    let limitPerX = 0;
    if (drive >= 0) {
      const open = (q + 0.005) / (q + 0.06);
      const willing = softRate * Math.max(0, soft) + hardRate * Math.max(0, hard);
      limit = willing * open + 1e-9;
      limitPerX = (hardRate / push) * Math.max(0, hard) * HARD_PUSH_PER_V * open;
      limitPerA =
        -ampSeconds * (softRate * (1 - hardPart) + hardRate * hardPart) * open +
        willing * (0.055 / (q + 0.06) ** 2) * qPerA;
    } else {
      limit = (get(stage.transport, g) * m * q) / (q + 0.02);
      limitPerA = limit * (mPerA / m + (0.02 / (q * (q + 0.02))) * qPerA);
    }
    const damping = 1 + Math.abs(drive) / limit;
    const possible = drive / damping;
    const ratio = possible / limit;
    const possiblePerV = drivePerV / (damping * damping) + ratio * ratio * limitPerX;
    const possiblePerA = drivePerA / (damping * damping) + Math.sign(drive) * ratio * ratio * limitPerA;

    // What else flows: gas, surface charge, a leak.
    const potential = emf + x;
    const onset = 1 / (1 + Math.exp(clamped((k.GASSING_ONSET_V - x) / k.GASSING_ONSET_WIDTH_V)));
    const forward =
      get(stage.gas, g) * Math.exp(clamped(k.GASSING_PER_V * (potential - k.GASSING_REFERENCE_V))) * onset;
    const backward =
      potential < 0.5
        ? get(stage.gas, g) * Math.exp(clamped(k.GASSING_PER_V * (k.REVERSAL_V - potential)))
        : 0;
    const gasPerV = k.GASSING_PER_V * (forward + backward);
    const gasPerX = (forward * (1 - onset)) / k.GASSING_ONSET_WIDTH_V;
    const surface = get(stage.surfaceA, g) * (x - get(base.surface, g));
    const leak = get(p.shortS, g);
    const taken = current > 0 ? 1 - turned : 1;

    const f1 = main - possible;
    const f2 = main + forward - backward + surface + leak * potential - current * taken;
    const a11 = 1 - possiblePerA;
    const a12 = -possiblePerV;
    const a21 = 1 + (gasPerV + leak) * emfPerA;
    const a22 = gasPerV + gasPerX + get(stage.surfaceA, g) + leak;
    const determinant = a11 * a22 - a12 * a21;
    const main0 = (-f1 * a22 + a12 * f2) / determinant;
    const x0 = (-a11 * f2 + a21 * f1) / determinant;
    const mainPerA = (-a12 * taken) / determinant;
    const xPerA = (a11 * taken) / determinant;
    stage.main0[g] = main0;
    stage.mainPerA[g] = mainPerA;
    stage.x0[g] = x0;
    stage.xPerA[g] = xPerA;

    shown.emf[g] = emf;
    shown.molality[g] = m;
    shown.gasA[g] = forward - backward;
    stage.emfPerA[g] = emfPerA;
    stage.gasPerV[g] = gasPerV;
    stage.gasPerX[g] = gasPerX;
    stage.hardPart[g] = hardPart;
    shown.shortA[g] = leak * potential;
    stage.surfaceNow[g] = surface;
    // The film burns off with charge passed, so its resistance answers to the current as well.
    const burnPerA = ampSeconds / (k.FILM_CHARGE_SHARE * get(p.ratedAh, g));
    const unburnt = 1 + burnPerA * Math.abs(current);
    const film = get(base.film, g) / unburnt;
    const filmOhm = get(p.filmOhm, g) * film;
    const resistance = get(stage.plainOhm, g) + filmOhm;
    const resistancePerA = -filmOhm * (burnPerA / unburnt) * Math.abs(current);
    shown.resistance[g] = resistance;
    stage.ohmPerA[g] = resistancePerA;
    shown.cellV[g] = potential + resistance * current;
    const count = get(cells.counts, g);
    volts += count * (potential + resistance * current + emfPerA * main0 + x0);
    slope += count * (emfPerA * mainPerA + xPerA + resistance + resistancePerA);
  }
  cells.terminalV = volts;
  cells.slopeOhm = slope;
}

/**
 * Moves current and cells along the answer of the last pass. All that flows moves along its own slope, so
 * that after the last move the currents of a cell still sum exactly to the current at the posts.
 * @param changeA of the terminal current
 * @returns the largest move, as a voltage
 */
export function move(cells: CellString, changeA: number): number {
  const { p, stage, shown } = cells;
  const current = cells.currentA + changeA;
  let largest = 0;
  for (let g = 0; g < cells.groups; g++) {
    const wantedX = get(stage.x0, g) + get(stage.xPerA, g) * changeA;
    const wantedMain = get(stage.main0, g) + get(stage.mainPerA, g) * changeA;
    const size = Math.abs(wantedX);
    const part = size > LONGEST_MOVE_V ? LONGEST_MOVE_V / size : 1;
    const x = part * wantedX;
    const main = part * wantedMain;
    const emf = get(stage.emfPerA, g) * main;
    shown.overpotential[g] = get(shown.overpotential, g) + x;
    shown.mainA[g] = get(shown.mainA, g) + main;
    shown.emf[g] = get(shown.emf, g) + emf;
    shown.gasA[g] = get(shown.gasA, g) + get(stage.gasPerV, g) * (emf + x) + get(stage.gasPerX, g) * x;
    shown.shortA[g] = get(shown.shortA, g) + get(p.shortS, g) * (emf + x);
    stage.surfaceNow[g] = get(stage.surfaceNow, g) + get(stage.surfaceA, g) * x;
    const resistance = get(shown.resistance, g) + (get(stage.ohmPerA, g) * changeA) / (current || 1);
    shown.resistance[g] = resistance;
    shown.cellV[g] = get(shown.emf, g) + get(shown.overpotential, g) + resistance * current;
    largest = Math.max(largest, size, Math.abs(wantedMain) / get(p.ratedAh, g));
  }
  cells.currentA = current;
  return largest;
}

/**
 * Once a stage is solved: water, layers, film, warmth and the accounts at its end.
 * @returns how far the warmth it was solved at was off, K
 */
export function finishStage(cells: CellString, base: StringState, seconds: number): number {
  const { p, stage, shown, state, parameters } = cells;
  const current = cells.currentA;
  const ampSeconds = seconds / HOUR;
  const number = cells.groupOf.length;
  const cellHeat = parameters.heatCapacityJPerK / number;
  let heatW = 0;
  let storedW = 0;
  let gasW = 0;
  let powerW = 0;
  for (let g = 0; g < cells.groups; g++) {
    const count = get(cells.counts, g);
    const main = get(shown.mainA, g);
    const netGas = get(shown.gasA, g);
    const gas = Math.abs(netGas);
    const x = get(shown.overpotential, g);
    const selfA = get(stage.selfA, g);
    const hardPart = get(stage.hardPart, g);
    const soaked = get(cells.birthAh, g) * get(stage.wetted, g);
    const hardened = get(stage.hardened, g);
    state.soft[g] = get(base.soft, g) - hardened + soaked - ampSeconds * (main * (1 - hardPart) - selfA);
    state.hard[g] = get(base.hard, g) + hardened - ampSeconds * main * hardPart;
    const burnPerA = ampSeconds / (k.FILM_CHARGE_SHARE * get(p.ratedAh, g));
    state.film[g] = get(base.film, g) / (1 + burnPerA * Math.abs(current));
    const vented = get(stage.ventedShare, g);
    const potential = get(shown.emf, g) + x;
    const released = seconds * ACID * main;
    const faster = seconds * get(stage.diffusionRate, g);
    state.slow[g] =
      (get(base.slow, g) - get(cells.diffusion[0], g) * released) / (1 + faster / k.DIFFUSION_TAU_S[0]);
    state.middle[g] =
      (get(base.middle, g) - get(cells.diffusion[1], g) * released) / (1 + faster / k.DIFFUSION_TAU_S[1]);
    state.fast[g] =
      (get(base.fast, g) - get(cells.diffusion[2], g) * released) / (1 + seconds / k.DIFFUSION_TAU_S[2]);
    const surface = get(base.surface, g);
    state.surface[g] = surface + ((x - surface) * seconds) / (seconds + k.SURFACE_TAU_S);
    state.lostG[g] = get(base.lostG, g) + SPLIT * seconds * vented * (gas + selfA);
    if (cells.canLayer[g] === true)
      state.layered[g] = layeredAfter(get(base.layered, g), main, gas / get(p.ratedAh, g), seconds);
    const turned = get(stage.reversedShare, g);
    const plating = netGas < 0 ? k.REVERSED_PLATING * gas : 0;
    const unturned = current > 0 ? current * turned : 0;
    state.reversed[g] = Math.max(0, get(base.reversed, g) + ampSeconds * (plating - unturned));
    state.gasAh[g] = get(base.gasAh, g) + ampSeconds * netGas;
    state.shortAh[g] = get(base.shortAh, g) + ampSeconds * (get(shown.shortA, g) + unturned);
    state.selfAh[g] = get(base.selfAh, g) + ampSeconds * selfA;

    const sulfate = get(state.soft, g) + get(state.hard, g);
    const acid = get(p.acidG, g) - ACID_G_PER_AH * sulfate;
    const water = get(p.waterG, g) + WATER_MADE_G_PER_AH * sulfate - get(state.lostG, g);
    const bulk = Math.max(LEAST_MOLALITY, acid / (MOLAR * water));
    looked[0] = bulk;
    lookUpEmf(looked);
    const enthalpy = get(looked, 1) - k.REFERENCE_K * get(stage.emfPerK, g);
    const wettingW = (get(cells.wettingJ, g) * get(stage.wetted, g)) / seconds;
    const ohmicW = current * current * cells.squareRatio * get(shown.resistance, g);
    const cellPower = current * potential + ohmicW;
    const cellStored =
      main * enthalpy + get(stage.surfaceNow, g) * get(shown.emf, g) - selfA * enthalpy - wettingW;
    const cellGas = k.WATER_ENTHALPY_V * vented * (gas + selfA);
    const cellHeatW = cellPower - cellStored - cellGas;
    stage.x0[g] = cellHeatW;
    heatW += count * cellHeatW;
    storedW += count * cellStored;
    gasW += count * cellGas;
    powerW += count * cellPower;
  }
  const { heatCapacityJPerK: capacity, heatLossWPerK: loss } = parameters;
  const before = get(base.shared, CASE_C);
  const after =
    (before + (seconds * (heatW + loss * cells.ambientC)) / capacity) / (1 + (seconds * loss) / capacity);
  cells.warmingKPerS = (after - before) / seconds;
  const { shared } = state;
  const caseOff = after - get(shared, CASE_C);
  shared[CASE_C] = after;
  shared[CHARGE_IN_AH] = get(base.shared, CHARGE_IN_AH) + ampSeconds * current;
  shared[ENERGY_IN_J] = get(base.shared, ENERGY_IN_J) + seconds * powerW;
  shared[HEAT_OUT_J] = get(base.shared, HEAT_OUT_J) + seconds * loss * (after - cells.ambientC);
  shared[STORED_J] = get(base.shared, STORED_J) + seconds * storedW;
  shared[GAS_J] = get(base.shared, GAS_J) + seconds * gasW;
  let worst = 0;
  for (let g = 0; g < cells.groups; g++) {
    const uneven = (get(stage.x0, g) - heatW / number) / cellHeat;
    const excess = (get(base.excess, g) + seconds * uneven) / (1 + seconds / k.EXCESS_FADE_S);
    worst = Math.max(worst, Math.abs(caseOff + excess - get(state.excess, g)));
    stage.warming[g] = (excess - get(base.excess, g)) / seconds;
    state.excess[g] = excess;
  }
  return worst;
}
