/**
 * A candidate battery as a point in a unit cube: each coordinate is uniform before anything is known, and
 * history and prior shape what it means. That makes the prior flat where candidates are moved about, so a
 * move is judged by the readings alone.
 */
import { SOUND } from '../model/battery.ts';
import type { CellString } from '../model/cellString.ts';
import { makeBattery, type Fault } from '../model/faults.ts';
import { OPEN } from '../model/source.ts';
import { Stepper } from '../model/stepper.ts';
import { soundBattery, type BatteryParameters, type Rating } from '../model/parameters.ts';
import type { Passage } from './passage.ts';
import { CAUSE_IDS, isSulfated, priorOf, type CauseId, type History } from './causes.ts';
import { normalQuantile } from './chance.ts';

/** Coordinates of the cube. */
export const AXES = [
  'cause',
  'charge',
  'hard',
  'film',
  'wear',
  'capacity',
  'cranking',
  'cell',
  'severity',
  'water',
  'acid',
] as const;
export const DIMENSIONS = AXES.length;
type Axis = (typeof AXES)[number];
export type Point = Float64Array;

/** What a point means for a battery. */
export interface Traits {
  readonly cause: CauseId;
  /** Charged share of every cell, before faults. */
  readonly charge: number;
  readonly hardShare: number;
  readonly film: number;
  /** Share of capacity that wear has left. */
  readonly left: number;
  /** This very piece against its label. */
  readonly capacityFactor: number;
  readonly crankingFactor: number;
  /** Acid against what such a battery usually holds. */
  readonly acidFactor: number;
  /** Share of the water gone. */
  readonly dryShare: number;
  /** From the positive post, from 1. */
  readonly cell: number;
  readonly severity: number;
}

/** Everything that shapes the prior. */
export interface Setting {
  readonly rating: Rating;
  readonly history: History;
  /** Of the battery when it is read, °C. */
  readonly tempC: number;
  /** The load test of the house; three times the capacity for 15 s where it has none (handbook 3.2). */
  readonly load?: { readonly currentA: number; readonly seconds: number };
  /** Whether it is known what a full one of its type weighs. */
  readonly isMassKnown?: boolean;
  /** What was done to it since, in order; a reading says how many of these came before it. */
  readonly passages?: readonly Passage[];
}

const at = (point: Point, axis: Axis): number => point[AXES.indexOf(axis)] as number;
const between = (low: number, high: number, share: number): number => low + (high - low) * share;

/** Hard share of the sulfate, by cause. */
const HARD: Partial<Record<CauseId, readonly [low: number, high: number]>> = {
  'sulfated-light': [0.08, 0.22],
  'sulfated-moderate': [0.22, 0.48],
  'sulfated-hard': [0.48, 0.92],
};
const HARD_USUAL: readonly [number, number] = [0, 0.1];
/** Film on the plates, as a power of ten: a thousandth doubles the resistance, a tenth takes no charge at first. */
const FILM: Partial<Record<CauseId, readonly [low: number, high: number]>> = {
  'sulfated-light': [-4.2, -2.2],
  'sulfated-moderate': [-3.8, -1.4],
  'sulfated-hard': [-3.2, -0.4],
};
const FILM_USUAL: readonly [number, number] = [-5, -3.6];
/**
 * Film belongs to plates that stood flat, and burns off with the first charge that passes: powers of ten less of it
 * on one that stands full (reasoned from the model). One that looks fine and lets nothing through is open, not filmed.
 */
const FILM_LESS = 3;

/** Wear a year, one battery more than another (practice: five to ten years to the end of life). */
const WEAR_YEAR: readonly [number, number] = [0.005, 0.04];
const WORN: readonly [number, number] = [0.3, 0.72];
const LEAST_LEFT = 0.55;

/**
 * What pieces differ by from the model of their label, one standard deviation: wider than makers' tolerances,
 * since the model itself is not quite the battery (docs/model.md).
 */
const CAPACITY_SPREAD = 0.085;
const CRANKING_SPREAD = 0.09;
const ACID_SPREAD = 0.085;

/** Cumulative prior of the causes, kept per history. */
const knownPriors = new WeakMap<History, readonly number[]>();

function cumulative(history: History): readonly number[] {
  const known = knownPriors.get(history);
  if (known) return known;
  const prior = priorOf(history);
  let sum = 0;
  const sums = CAUSE_IDS.map((cause) => (sum += prior[cause]));
  knownPriors.set(history, sums);
  return sums;
}

/** Share of those brought that were drawn past empty, by what is said of them (handbook 3.3; practice). */
const DRAWN_PAST_EMPTY: Record<History['complaint'], number> = {
  unknown: 0.15,
  'slow-crank': 0.05,
  'cold-weather': 0.05,
  'lights-left': 0.35,
  parked: 0.3,
  'charger-nothing': 0.5,
};
/** What such a one still holds of all that could react, as a power of ten: from a volt or less to 11.5 V. */
const PAST_EMPTY: readonly [number, number] = [-3.3, -1.3];

/** Charged share of the rating: below 0 past empty, where the last of what could react has gone. */
function chargeOf(
  share: number,
  most: number,
  left: number,
  { rating, history }: Pick<Setting, 'rating' | 'history'>,
): number {
  const deep = DRAWN_PAST_EMPTY[history.complaint];
  if (share >= deep) return most * ((share - deep) / (1 - deep)) ** 1.3;
  const cell = soundOf(rating).cells[0];
  const holds = ((cell?.convertibleAh ?? 1) / (cell?.ratedAh ?? 1)) * left;
  return 1 - (1 - 10 ** between(...PAST_EMPTY, share / deep)) * Math.max(1, holds);
}

/** Of no age known, wear is anything from none to what so many hard years bring. */
const MOST_YEARS = 10;

function wearOf({ ageYears }: History, place: number): number {
  return ageYears === undefined
    ? between(0, MOST_YEARS * WEAR_YEAR[1], place)
    : ageYears * between(...WEAR_YEAR, place);
}

/** What a point means before this history. */
export function traitsOf(point: Point, { rating, history }: Setting): Traits {
  const sums = cumulative(history);
  const place = sums.findIndex((sum) => at(point, 'cause') < sum);
  const cause = CAUSE_IDS[place === -1 ? 0 : place] ?? 'empty';
  const [hardLow, hardHigh] = HARD[cause] ?? HARD_USUAL;
  const hardShare = between(hardLow, hardHigh, at(point, 'hard'));
  const worn = 1 - wearOf(history, at(point, 'wear'));
  const left = cause === 'worn' ? between(...WORN, at(point, 'wear')) : Math.max(LEAST_LEFT, worn);
  // Most stand low; a sulfated one is never far above half, since what is hard is not charged.
  const charge = chargeOf(at(point, 'charge'), isSulfated(cause) ? 0.75 : 0.98, left, { rating, history });
  return {
    cause,
    charge,
    hardShare,
    film:
      10 ** (between(...(FILM[cause] ?? FILM_USUAL), at(point, 'film')) - FILM_LESS * Math.max(0, charge)),
    left,
    capacityFactor: 1 + CAPACITY_SPREAD * normalQuantile(at(point, 'capacity')),
    crankingFactor: 1 + CRANKING_SPREAD * normalQuantile(at(point, 'cranking')),
    acidFactor: 1 + ACID_SPREAD * normalQuantile(at(point, 'acid')),
    dryShare: cause === 'dry' ? between(0.1, 0.4, at(point, 'water')) : 0.06 * at(point, 'water'),
    cell: 1 + Math.min(rating.cells - 1, Math.floor(at(point, 'cell') * rating.cells)),
    severity: at(point, 'severity'),
  };
}

/** Leak of a shorted cell, Ω: from a dead short to one that only heats. */
const SHORT_OHM: readonly [number, number] = [0.004, 0.6];

/** Three in ten are cracked rather than through, Ω (handbook 3.2: collapses to about 2 V although it looked fine). */
const CRACKED_SHARE = 0.3;
const CRACKED_OHM: readonly [number, number] = [0.02, 0.4];

function faultsOf({ cause, cell, severity, left, dryShare }: Traits): Fault[] {
  const worn: Fault[] = left < 1 ? [{ kind: 'worn', share: left }] : [];
  const dry: Fault[] = dryShare > 0 ? [{ kind: 'dry', share: dryShare }] : [];
  const own = ((): Fault[] => {
    switch (cause) {
      case 'layered':
        return [{ kind: 'layered', share: between(0.08, 0.35, severity) }];
      case 'weak-cell':
        return [{ kind: 'weak', cell, share: between(0.25, 0.7, severity) }];
      case 'shorted-cell':
        return [{ kind: 'short', cell, ohms: SHORT_OHM[0] * (SHORT_OHM[1] / SHORT_OHM[0]) ** severity }];
      case 'open-cell':
        // From a cracked joint, under which a load collapses, to one that is through.
        return severity < CRACKED_SHARE
          ? [
              {
                kind: 'joint',
                cell,
                ohms: CRACKED_OHM[0] * (CRACKED_OHM[1] / CRACKED_OHM[0]) ** (severity / CRACKED_SHARE),
              },
            ]
          : [{ kind: 'open', cell }];
      case 'reversed':
        return [{ kind: 'reversed', cell }];
      case 'contaminated':
        return [{ kind: 'contaminated' }];
      default:
        return [];
    }
  })();
  return [...worn, ...dry, ...own];
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
  new Stepper(cells).step(OPEN, SETTLE_S);
  return cells;
}

/** A change of a battery's parameters, for checking the belief against a model that is not quite its own. */
export type Perturb = (parameters: BatteryParameters) => BatteryParameters;

const unchanged: Perturb = (same) => same;

/** The battery of the model a candidate stands for. */
export function batteryFrom(
  traits: Traits,
  { rating, tempC }: Setting,
  perturb: Perturb = unchanged,
): CellString {
  const cells = makeBattery({
    parameters: perturb(parametersOf(traits, rating)),
    condition: { ...SOUND, charge: traits.charge, hardShare: traits.hardShare, film: traits.film },
    faults: faultsOf(traits),
    tempC,
  });
  return settled(cells);
}

/** The same battery as it would stand charged as far as it goes: what is hard stays. */
export function chargedFrom(traits: Traits, { rating }: Setting, perturb: Perturb = unchanged): CellString {
  const parameters = perturb(parametersOf(traits, rating));
  const hardAh = (1 - traits.charge) * rating.capacityAh * traits.hardShare;
  const cells = makeBattery({
    parameters,
    condition: {
      ...SOUND,
      charge: Math.max(0, 1 - hardAh / rating.capacityAh),
      hardShare: 1,
      film: 0,
    },
    faults: faultsOf(traits),
    tempC: 25,
  });
  return settled(cells);
}
