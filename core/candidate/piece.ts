/** The battery of the model a candidate stands for. */
import { SOUND, type CellCondition } from '../model/battery.ts';
import type { CellString } from '../model/cellString.ts';
import { makeBattery, type Fault } from '../model/faults.ts';
import { soundBattery, type BatteryParameters, type Rating } from '../model/parameters.ts';
import { OPEN } from '../model/source.ts';
import { CASE_C } from '../model/state.ts';
import { stepperOf } from '../model/stepper.ts';
import { between } from './cube.ts';
import type { Second, Setting, Traits } from './traits.ts';

/** Leak of a shorted cell, Ω: from a dead short to one that only heats. */
const SHORT_OHM: readonly [number, number] = [0.004, 0.6];
/** What a weak cell has left of its capacity. */
const WEAK: readonly [number, number] = [0.25, 0.7];
/** Three in ten are cracked rather than through, Ω (handbook 3.2: collapses to about 2 V although it looked fine). */
const CRACKED_SHARE = 0.3;
const CRACKED_OHM: readonly [number, number] = [0.02, 0.4];
/** What a cell that stood reversed has left once it is the right way round (assumed). */
const REVERSED_LEFT: readonly [number, number] = [0.4, 0.9];

const geometric = ([low, high]: readonly [number, number], share: number): number =>
  low * (high / low) ** share;

function cellFault({ fault, cell, severity }: Second): Fault {
  switch (fault) {
    case 'weak-cell':
      return { kind: 'weak', cell, share: between(WEAK, severity) };
    case 'shorted-cell':
      return { kind: 'short', cell, ohms: geometric(SHORT_OHM, severity) };
    case 'open-cell':
      // From a cracked joint, under which a load collapses, to one that is through.
      return severity < CRACKED_SHARE
        ? { kind: 'joint', cell, ohms: geometric(CRACKED_OHM, severity / CRACKED_SHARE) }
        : { kind: 'open', cell };
  }
}

function ownFault({ cause, cell, severity }: Traits): Fault[] {
  switch (cause) {
    case 'weak-cell':
    case 'shorted-cell':
    case 'open-cell':
      return [cellFault({ fault: cause, cell, severity })];
    case 'reversed':
      return [{ kind: 'reversed', cell, left: between(REVERSED_LEFT, severity) }];
    case 'contaminated':
      return [{ kind: 'contaminated' }];
    default:
      return [];
  }
}

/** A cell that lacks less than this beside the others is one of them: it would be solved by itself for nothing. */
const EVEN_LOW = 0.01;

/** What is the matter with it, fault by fault. */
export function faultsOf(traits: Traits): Fault[] {
  const { left, dryShare, layering, cell, low, lowHard, second } = traits;
  return [
    ...(left < 1 ? [{ kind: 'worn', share: left } as const] : []),
    ...(dryShare > 0 ? [{ kind: 'dry', share: dryShare } as const] : []),
    ...(layering > 0 ? [{ kind: 'layered', share: layering } as const] : []),
    ...(low > EVEN_LOW ? [{ kind: 'low', cell, lacks: low, hardShare: lowHard } as const] : []),
    ...ownFault(traits),
    ...(second ? [cellFault(second)] : []),
  ];
}

/** A second is enough to show what stands still. */
const SETTLE_S = 1;

/** Sound batteries by their label, worked out once. */
const knownSound = new WeakMap<Rating, BatteryParameters>();

function soundOf(rating: Rating): BatteryParameters {
  const known = knownSound.get(rating) ?? soundBattery(rating);
  knownSound.set(rating, known);
  return known;
}

/** Sound parameters of this very piece: a little more or less of everything than its label says. */
function parametersOf(
  { capacityFactor: f, crankingFactor: g, acidFactor }: Traits,
  rating: Rating,
): BatteryParameters {
  const sound = soundOf(rating);
  const cell = sound.cells[0];
  if (!cell) return sound;
  const piece = {
    ...cell,
    ratedAh: cell.ratedAh * f,
    convertibleAh: cell.convertibleAh * f,
    acidG: cell.acidG * f * acidFactor,
    waterG: cell.waterG * f,
    wetG: cell.wetG * f,
    gassingA: cell.gassingA * f,
    crankingA: cell.crankingA * g,
    metalOhm: cell.metalOhm / g,
    acidOhm: cell.acidOhm / g,
  };
  return { ...sound, cells: sound.cells.map(() => piece) };
}

/** Lets the cells show what they stand at. */
export function settled(cells: CellString): CellString {
  stepperOf(cells).step(OPEN, SETTLE_S);
  return cells;
}

/** A change of a battery's parameters, for checking the belief against a model that is not quite its own. */
export type Perturb = (parameters: BatteryParameters) => BatteryParameters;

const unchanged: Perturb = (same) => same;

function made(
  traits: Traits,
  rating: Rating,
  condition: CellCondition,
  tempC: number,
  perturb: Perturb,
): CellString {
  const parameters = perturb(parametersOf(traits, rating));
  return settled(makeBattery({ parameters, condition, faults: faultsOf(traits), tempC }));
}

/** The battery of the model a candidate stands for, as it was found. */
export function batteryFrom(
  traits: Traits,
  { rating, tempC }: Setting,
  perturb: Perturb = unchanged,
): CellString {
  const { charge, hardShare, film } = traits;
  return made(traits, rating, { ...SOUND, charge, hardShare, film }, tempC, perturb);
}

/** Where figures of merit are told, °C. */
const REFERENCE_C = 25;

/** The same battery as it would stand charged as far as it goes: what is hard stays. */
export function chargedFrom(traits: Traits, { rating }: Setting, perturb: Perturb = unchanged): CellString {
  const hardAh = (1 - traits.charge) * rating.capacityAh * traits.hardShare;
  const condition = { ...SOUND, charge: Math.max(0, 1 - hardAh / rating.capacityAh), hardShare: 1, film: 0 };
  const charged = { ...traits, low: traits.low * traits.lowHard, lowHard: 1 };
  return made(charged, rating, condition, REFERENCE_C, perturb);
}

/** Cells brought to the warmth figures of merit are told at, their state otherwise as it is: changed in place. */
export function atReference(cells: CellString): CellString {
  cells.state.shared[CASE_C] = REFERENCE_C;
  cells.state.excess.fill(0);
  return settled(cells);
}
