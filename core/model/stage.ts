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
import { CASE_C, type StringState } from './state.ts';

export const HOUR = 3600;
const DAY = 86_400;
/** Grams per ampere-second. */
export const ACID = ACID_G_PER_AH / HOUR;
const WATER = WATER_MADE_G_PER_AH / HOUR;
export const SPLIT = WATER_SPLIT_G_PER_AH / HOUR;
/** Divisions cost most of a pass: what is divided by again and again is multiplied by its inverse. */
const AH_PER_ACID_G = 1 / ACID_G_PER_AH;
const PER_ONSET_WIDTH = 1 / k.GASSING_ONSET_WIDTH_V;
/** Molality is acid over this times water, both in grams. */
export const MOLAR = 0.09808;
export const LEAST_MOLALITY = 1e-3;
/** Limits of one iteration: the longest move of an overpotential, V, and the largest exponent. */
const LONGEST_MOVE_V = 0.15;
const LARGEST_EXPONENT = 40;

const HARD_PUSH_PER_V = k.HARD_RATE_PER_TENTH_V / 0.1;
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
    const flat = (1 - share) * (1 - share) * (1.5 / (0.5 + bulkMolality));
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

/**
 * One Newton pass over all cells at the string's present current: leaves the linear answer of each cell in
 * `stage`, and of the string in `terminalV` and `slopeOhm`.
 */
export function pass(cells: CellString, base: StringState, seconds: number): void {
  const { p, stage, shown } = cells;
  const current = cells.currentA;
  const ampSeconds = seconds / HOUR;
  const { excess } = cells.state;
  const caseC = cells.state.shared[CASE_C] as number;
  let volts = cells.parameters.leadsOhm * current;
  let slope = cells.parameters.leadsOhm;
  for (let g = 0; g < cells.groups; g++) {
    const x = shown.overpotential[g] as number;
    const main = shown.mainA[g] as number;
    const convertible = p.convertibleAh[g] as number;
    const softRate = stage.softRate[g] as number;
    // Hard sulfate gives way faster the harder it is pushed.
    const push = 1 + HARD_PUSH_PER_V * Math.max(0, x);
    const hardRate = (stage.hardRate[g] as number) * push;
    const baseSoft =
      (base.soft[g] as number) -
      (stage.hardened[g] as number) +
      (cells.birthAh[g] as number) * (stage.wetted[g] as number);
    const baseHard = (base.hard[g] as number) + (stage.hardened[g] as number);

    // Charge goes to soft and hard sulfate as they give way; discharge makes soft.
    const hardPart =
      main > 0 ? (hardRate * baseHard) / (softRate * Math.max(0, baseSoft) + hardRate * baseHard + 1e-12) : 0;
    const soft = baseSoft - ampSeconds * (main * (1 - hardPart) - (stage.selfA[g] as number));
    const hard = baseHard - ampSeconds * main * hardPart;
    const sulfate = soft + hard;

    // Acid at the plates, and the share of charge left.
    const deficit = (stage.deficit[g] as number) - (stage.deficitPerA[g] as number) * main;
    const acidPerA = ACID * seconds + (stage.deficitPerA[g] as number);
    const water = (p.waterG[g] as number) + WATER_MADE_G_PER_AH * sulfate - (stage.lostNow[g] as number);
    const atPlates =
      (p.acidG[g] as number) -
      ACID_G_PER_AH * sulfate -
      deficit +
      k.LAYER_AT_PLATES * (stage.layeredNow[g] as number);
    const perWater = 1 / (MOLAR * water);
    const freeMolality = atPlates * perWater;
    const m = Math.max(LEAST_MOLALITY, freeMolality);
    const mPerA = freeMolality > LEAST_MOLALITY ? (acidPerA + m * WATER * seconds * MOLAR) * perWater : 0;
    const perCharge = 1 / convertible;
    const raw = 1 - (sulfate + deficit * AH_PER_ACID_G) * perCharge;
    const root = Math.sqrt(raw * raw + 4 * k.EMPTY_SMOOTHING * k.EMPTY_SMOOTHING);
    const q = (raw + root) / 2;
    const qPerA = acidPerA * AH_PER_ACID_G * perCharge * (q / root);

    // Charge held the wrong way is used up by charging current before any goes the right way.
    const reversedWidth = k.REVERSED_WIDTH * (p.ratedAh[g] as number);
    let reversed = base.reversed[g] as number;
    if (current > 0 && reversed > 0) {
      const half = (reversedWidth - reversed + ampSeconds * current) / 2;
      reversed = Math.sqrt(half * half + reversed * reversedWidth) - half;
    }
    const turned = reversed / (reversed + reversedWidth);
    stage.reversedShare[g] = turned;

    // Electromotive force, gone when empty, turned when reversed.
    const width = k.EMPTY_WIDTH * k.EMPTY_WIDTH;
    const perAlive = 1 / (q * q + width);
    const alive = q * q * perAlive;
    looked[0] = m;
    lookUpEmf(looked);
    const full = (looked[1] as number) + (stage.emfPerK[g] as number) * (caseC + (excess[g] as number) - 25);
    const emf = full * alive - k.REVERSED_V * turned;
    const emfPerA =
      (looked[2] as number) * mPerA * alive + full * 2 * q * width * perAlive * perAlive * qPerA;

    // Charge transfer with its limits: sulfate gives way only so fast, acid arrives only so fast.
    const perV = stage.halfVolt[g] as number;
    const e = Math.exp(Math.min(LARGEST_EXPONENT, Math.max(-LARGEST_EXPONENT, perV * x)));
    const back = 1 / e;
    const thinness = 1 / (m + 0.4);
    const exchange = (stage.exchange[g] as number) * Math.sqrt(q) * m * thinness;
    const drive = exchange * (e - back);
    const drivePerV = exchange * perV * (e + back);
    const drivePerA = drive * ((0.5 * qPerA) / q + (0.4 * thinness * mPerA) / m);
    let limit: number;
    let limitPerA: number;
    let limitPerX = 0;
    if (drive >= 0) {
      const perOpen = 1 / (q + 0.06);
      const open = (q + 0.005) * perOpen;
      const willing = softRate * Math.max(0, soft) + hardRate * Math.max(0, hard);
      limit = willing * open + 1e-9;
      limitPerX = (hardRate / push) * Math.max(0, hard) * HARD_PUSH_PER_V * open;
      limitPerA =
        -ampSeconds * (softRate * (1 - hardPart) + hardRate * hardPart) * open +
        willing * 0.055 * perOpen * perOpen * qPerA;
    } else {
      limit = ((stage.transport[g] as number) * m * q) / (q + 0.02);
      limitPerA = limit * (mPerA / m + (0.02 / (q * (q + 0.02))) * qPerA);
    }
    const perLimit = 1 / limit;
    const undamped = 1 / (1 + Math.abs(drive) * perLimit);
    const possible = drive * undamped;
    const ratio = possible * perLimit;
    const possiblePerV = drivePerV * undamped * undamped + ratio * ratio * limitPerX;
    const possiblePerA = drivePerA * undamped * undamped + Math.sign(drive) * ratio * ratio * limitPerA;

    // What else flows: gas, surface charge, a leak.
    const potential = emf + x;
    const started = (k.GASSING_ONSET_V - x) * PER_ONSET_WIDTH;
    const onset = 1 / (1 + Math.exp(Math.min(LARGEST_EXPONENT, started)));
    const gassing = k.GASSING_PER_V * (potential - k.GASSING_REFERENCE_V);
    const forward = (stage.gas[g] as number) * Math.exp(Math.min(LARGEST_EXPONENT, gassing)) * onset;
    const reversing = k.GASSING_PER_V * (k.REVERSAL_V - potential);
    const backward =
      potential < 0.5 ? (stage.gas[g] as number) * Math.exp(Math.min(LARGEST_EXPONENT, reversing)) : 0;
    const gasPerV = k.GASSING_PER_V * (forward + backward);
    const gasPerX = forward * (1 - onset) * PER_ONSET_WIDTH;
    const surface = (stage.surfaceA[g] as number) * (x - (base.surface[g] as number));
    const leak = p.shortS[g] as number;
    const taken = current > 0 ? 1 - turned : 1;

    const f1 = main - possible;
    const f2 = main + forward - backward + surface + leak * potential - current * taken;
    const a11 = 1 - possiblePerA;
    const a12 = -possiblePerV;
    const a21 = 1 + (gasPerV + leak) * emfPerA;
    const a22 = gasPerV + gasPerX + (stage.surfaceA[g] as number) + leak;
    const perDeterminant = 1 / (a11 * a22 - a12 * a21);
    const main0 = (a12 * f2 - f1 * a22) * perDeterminant;
    const x0 = (a21 * f1 - a11 * f2) * perDeterminant;
    const mainPerA = -a12 * taken * perDeterminant;
    const xPerA = a11 * taken * perDeterminant;
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
    const burnPerA = ampSeconds / (k.FILM_CHARGE_SHARE * (p.ratedAh[g] as number));
    const unburnt = 1 / (1 + burnPerA * Math.abs(current));
    const filmOhm = (p.filmOhm[g] as number) * (base.film[g] as number) * unburnt;
    const resistance = (stage.plainOhm[g] as number) + filmOhm;
    const resistancePerA = -filmOhm * burnPerA * unburnt * Math.abs(current);
    shown.resistance[g] = resistance;
    stage.ohmPerA[g] = resistancePerA;
    shown.cellV[g] = potential + resistance * current;
    const count = cells.counts[g] as number;
    volts += count * (potential + resistance * current + emfPerA * main0 + x0);
    slope += count * (emfPerA * mainPerA + xPerA + resistance + resistancePerA);
  }
  cells.terminalV = volts;
  cells.slopeOhm = slope;
}

/**
 * Moves current and cells along the answer of the last pass. All that flows moves along its own slope, so
 * that after the last move the currents of a cell still sum exactly to the current at the posts.
 * The largest move, as a voltage, is left in `moved`.
 * @param changeA of the terminal current
 */
export function move(cells: CellString, changeA: number): void {
  const { p, stage, shown } = cells;
  const current = cells.currentA + changeA;
  let largest = 0;
  for (let g = 0; g < cells.groups; g++) {
    const wantedX = (stage.x0[g] as number) + (stage.xPerA[g] as number) * changeA;
    const wantedMain = (stage.main0[g] as number) + (stage.mainPerA[g] as number) * changeA;
    const size = Math.abs(wantedX);
    const part = size > LONGEST_MOVE_V ? LONGEST_MOVE_V / size : 1;
    const x = part * wantedX;
    const main = part * wantedMain;
    const emf = (stage.emfPerA[g] as number) * main;
    shown.overpotential[g] = (shown.overpotential[g] as number) + x;
    shown.mainA[g] = (shown.mainA[g] as number) + main;
    shown.emf[g] = (shown.emf[g] as number) + emf;
    shown.gasA[g] =
      (shown.gasA[g] as number) + (stage.gasPerV[g] as number) * (emf + x) + (stage.gasPerX[g] as number) * x;
    shown.shortA[g] = (shown.shortA[g] as number) + (p.shortS[g] as number) * (emf + x);
    stage.surfaceNow[g] = (stage.surfaceNow[g] as number) + (stage.surfaceA[g] as number) * x;
    const resistance =
      (shown.resistance[g] as number) + ((stage.ohmPerA[g] as number) * changeA) / (current || 1);
    shown.resistance[g] = resistance;
    shown.cellV[g] = (shown.emf[g] as number) + (shown.overpotential[g] as number) + resistance * current;
    largest = Math.max(largest, size, Math.abs(wantedMain) / (p.ratedAh[g] as number));
  }
  cells.currentA = current;
  cells.moved = largest;
}
