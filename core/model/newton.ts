/**
 * Newton's passes over the equations of an implicit stage: what each cell would answer to a change of current, and moving them along it.
 * docs/model.md has the equations with their sources; the letters there are the names here.
 */
import { lookUpEmf } from '../electrolyte/emf.ts';
import { ACID_G_PER_AH, WATER_MADE_G_PER_AH } from '../electrolyte/faraday.ts';
import type { CellString } from './cellString.ts';
import * as k from './constants.ts';
import { ACID, AH_PER_ACID_G, HOUR, LEAST_MOLALITY, MOLAR, WATER } from './stage.ts';
import type { StringState } from './state.ts';

/** What is divided by again and again is multiplied by its inverse. */
const PER_ONSET_WIDTH = 1 / k.GASSING_ONSET_WIDTH_V;
/** Limits of one iteration: the longest move of an overpotential, V, and the largest exponent. */
const LONGEST_MOVE_V = 0.15;
const LARGEST_EXPONENT = 40;
const HARD_PUSH_PER_V = k.HARD_RATE_PER_TENTH_V / 0.1;
/** Numbers in and out of a look-up, so that none is allocated. */
const looked = new Float64Array(3);

/**
 * What the three parts of a pass hand on from one to the next, for one cell, in an array so that none is allocated. `PerA` is the slope by
 * the main current, `PerX` by the overpotential at steady electromotive force, `PerV` by both together.
 */
const at = new Float64Array(19);
const SOFT = 0;
const HARD = 1;
const HARD_RATE = 2;
const PUSH = 3;
const M = 4;
const M_PER_A = 5;
const Q = 6;
const Q_PER_A = 7;
const EMF = 8;
const EMF_PER_A = 9;
const TURNED = 10;
const POSSIBLE = 11;
const POSSIBLE_PER_X = 12;
const POSSIBLE_PER_A = 13;
const FORWARD = 14;
const BACKWARD = 15;
const GAS_PER_V = 16;
const GAS_PER_X = 17;
const SURFACE = 18;

/**
 * One Newton pass over all cells at the string's present current: leaves the linear answer of each cell in
 * `stage`, and of the string in `terminalV` and `slopeOhm`.
 */
export function pass(cells: CellString, base: StringState, seconds: number): void {
  const current = cells.currentA;
  const { leadsOhm } = cells.parameters;
  sums[0] = leadsOhm * current;
  sums[1] = leadsOhm;
  for (let g = 0; g < cells.groups; g++) {
    platesAt(cells, base, seconds, g);
    flowsAt(cells, base, seconds, g);
    answerOf(cells, base, seconds, g);
  }
  cells.terminalV = sums[0] as number;
  cells.slopeOhm = sums[1] as number;
}

/** Voltage of the string and its slope, summed over cells. */
const sums = new Float64Array(2);

/** First part: sulfate, acid and charge at the plates at the stage's end, and the electromotive force they give. */
function platesAt(cells: CellString, base: StringState, seconds: number, g: number): void {
  const { p, stage, shown } = cells;
  const current = cells.currentA;
  const ampSeconds = seconds / HOUR;
  const main = shown.mainA[g] as number;
  const softRate = stage.softRate[g] as number;
  // Hard sulfate gives way faster the harder it is pushed.
  const push = 1 + HARD_PUSH_PER_V * Math.max(0, shown.overpotential[g] as number);
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
  const perCharge = 1 / (p.convertibleAh[g] as number);
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

  // Electromotive force, gone when empty, turned when reversed.
  const width = k.EMPTY_WIDTH * k.EMPTY_WIDTH;
  const perAlive = 1 / (q * q + width);
  const alive = q * q * perAlive;
  looked[0] = m;
  lookUpEmf(looked);
  const full = (looked[1] as number) + (stage.emfPerK[g] as number) * (cells.tempOf(g) - 25);

  stage.reversedShare[g] = turned;
  stage.hardPart[g] = hardPart;
  at[SOFT] = soft;
  at[HARD] = hard;
  at[HARD_RATE] = hardRate;
  at[PUSH] = push;
  at[M] = m;
  at[M_PER_A] = mPerA;
  at[Q] = q;
  at[Q_PER_A] = qPerA;
  at[EMF] = full * alive - k.REVERSED_V * turned;
  at[EMF_PER_A] = (looked[2] as number) * mPerA * alive + full * 2 * q * width * perAlive * perAlive * qPerA;
  at[TURNED] = turned;
}

/** Second part: what flows then. Charge transfer with its limits, gas, surface charge and a leak, each with its slopes. */
function flowsAt(cells: CellString, base: StringState, seconds: number, g: number): void {
  const { stage, shown } = cells;
  const x = shown.overpotential[g] as number;
  const m = at[M] as number;
  const mPerA = at[M_PER_A] as number;
  const q = at[Q] as number;
  const qPerA = at[Q_PER_A] as number;

  // Charge transfer: sulfate gives way only so fast, acid arrives only so fast.
  const perV = stage.halfVolt[g] as number;
  const e = Math.exp(Math.min(LARGEST_EXPONENT, Math.max(-LARGEST_EXPONENT, perV * x)));
  const back = 1 / e;
  const thinness = 1 / (m + 0.4);
  const exchange = (stage.exchange[g] as number) * Math.sqrt(q) * m * thinness;
  const drive = exchange * (e - back);
  const drivePerX = exchange * perV * (e + back);
  const drivePerA = drive * ((0.5 * qPerA) / q + (0.4 * thinness * mPerA) / m);
  let limit: number;
  let limitPerA: number;
  let limitPerX = 0;
  if (drive >= 0) {
    const softRate = stage.softRate[g] as number;
    const hardRate = at[HARD_RATE] as number;
    const hard = Math.max(0, at[HARD] as number);
    const hardPart = stage.hardPart[g] as number;
    const perOpen = 1 / (q + 0.06);
    const open = (q + 0.005) * perOpen;
    const willing = softRate * Math.max(0, at[SOFT] as number) + hardRate * hard;
    limit = willing * open + 1e-9;
    limitPerX = (hardRate / (at[PUSH] as number)) * hard * HARD_PUSH_PER_V * open;
    limitPerA =
      (-seconds / HOUR) * (softRate * (1 - hardPart) + hardRate * hardPart) * open +
      willing * 0.055 * perOpen * perOpen * qPerA;
  } else {
    limit = ((stage.transport[g] as number) * m * q) / (q + 0.02);
    limitPerA = limit * (mPerA / m + (0.02 / (q * (q + 0.02))) * qPerA);
  }
  const perLimit = 1 / limit;
  const undamped = 1 / (1 + Math.abs(drive) * perLimit);
  const possible = drive * undamped;
  const ratio = possible * perLimit;
  at[POSSIBLE] = possible;
  at[POSSIBLE_PER_X] = drivePerX * undamped * undamped + ratio * ratio * limitPerX;
  at[POSSIBLE_PER_A] = drivePerA * undamped * undamped + Math.sign(drive) * ratio * ratio * limitPerA;

  const potential = (at[EMF] as number) + x;
  const started = (k.GASSING_ONSET_V - x) * PER_ONSET_WIDTH;
  const onset = 1 / (1 + Math.exp(Math.min(LARGEST_EXPONENT, started)));
  const gassing = k.GASSING_PER_V * (potential - k.GASSING_REFERENCE_V);
  const forward = (stage.gas[g] as number) * Math.exp(Math.min(LARGEST_EXPONENT, gassing)) * onset;
  const reversing = k.GASSING_PER_V * (k.REVERSAL_V - potential);
  const backward =
    potential < 0.5 ? (stage.gas[g] as number) * Math.exp(Math.min(LARGEST_EXPONENT, reversing)) : 0;
  at[FORWARD] = forward;
  at[BACKWARD] = backward;
  at[GAS_PER_V] = k.GASSING_PER_V * (forward + backward);
  at[GAS_PER_X] = forward * (1 - onset) * PER_ONSET_WIDTH;
  at[SURFACE] = (stage.surfaceA[g] as number) * (x - (base.surface[g] as number));
}

/** Third part: the cell's two equations solved for its moves, and what it adds to the string. */
function answerOf(cells: CellString, base: StringState, seconds: number, g: number): void {
  const { p, stage, shown } = cells;
  const current = cells.currentA;
  const x = shown.overpotential[g] as number;
  const main = shown.mainA[g] as number;
  const emf = at[EMF] as number;
  const emfPerA = at[EMF_PER_A] as number;
  const turned = at[TURNED] as number;
  const gas = (at[FORWARD] as number) - (at[BACKWARD] as number);
  const gasPerV = at[GAS_PER_V] as number;
  const gasPerX = at[GAS_PER_X] as number;
  const surface = at[SURFACE] as number;
  const potential = emf + x;
  const leak = p.shortS[g] as number;
  const taken = current > 0 ? 1 - turned : 1;

  const f1 = main - (at[POSSIBLE] as number);
  const f2 = main + gas + surface + leak * potential - current * taken;
  const a11 = 1 - (at[POSSIBLE_PER_A] as number);
  const a12 = -(at[POSSIBLE_PER_X] as number);
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
  shown.molality[g] = at[M] as number;
  shown.gasA[g] = gas;
  stage.emfPerA[g] = emfPerA;
  stage.gasPerV[g] = gasPerV;
  stage.gasPerX[g] = gasPerX;
  shown.shortA[g] = leak * potential;
  stage.surfaceNow[g] = surface;
  // The film burns off with charge passed, so its resistance answers to the current as well.
  const burnPerA = seconds / HOUR / (k.FILM_CHARGE_SHARE * (p.ratedAh[g] as number));
  const unburnt = 1 / (1 + burnPerA * Math.abs(current));
  const filmOhm = (p.filmOhm[g] as number) * (base.film[g] as number) * unburnt;
  const resistance = (stage.plainOhm[g] as number) + filmOhm;
  const resistancePerA = -filmOhm * burnPerA * unburnt * Math.abs(current);
  shown.resistance[g] = resistance;
  stage.ohmPerA[g] = resistancePerA;
  shown.cellV[g] = potential + resistance * current;
  const count = cells.counts[g] as number;
  sums[0] = (sums[0] as number) + count * (potential + resistance * current + emfPerA * main0 + x0);
  sums[1] = (sums[1] as number) + count * (emfPerA * mainPerA + xPerA + resistance + resistancePerA);
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
