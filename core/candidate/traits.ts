/** What a point of the cube means for a battery with this history: every illness by degrees, and which faults it has. */
import { soundCell, type Rating } from '../model/parameters.ts';
import { normalQuantile } from '../chance/distributions.ts';
import { CAUSE_IDS, isOfCell, isSulfated, priorOf, type CauseId, type History } from './causes.ts';
import { at, between, tailed, type Axis, type Point } from './cube.ts';
import type { Passage } from './passage.ts';

/** A fault of one cell that stands beside the main one. */
export interface Second {
  readonly fault: 'weak-cell' | 'shorted-cell' | 'open-cell';
  /** From the positive post, from 1. */
  readonly cell: number;
  readonly severity: number;
}

/** What a point means for a battery. */
export interface Traits {
  /** What it suffers from most. */
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
  /** Share of the acid sunk from the upper half to the lower. */
  readonly layering: number;
  /** From the positive post, from 1. */
  readonly cell: number;
  readonly severity: number;
  /** Charge that cell lacks beside the others, share of the rating; and how much of that has grown hard. */
  readonly low: number;
  readonly lowHard: number;
  readonly second?: Second;
}

/** Everything that shapes the prior. */
export interface Setting {
  readonly rating: Rating;
  readonly history: History;
  /** Of the battery as it was found, °C. */
  readonly tempC: number;
  /** Of the room it is charged and rests in, °C; as it was found where it is left out. */
  readonly roomC?: number;
  /** The load test of the house; three times the capacity for 15 s where it has none (handbook 3.2). */
  readonly load?: { readonly currentA: number; readonly seconds: number };
  /** Whether it is known what a full one of its type weighs. */
  readonly isMassKnown?: boolean;
  /** What was done to it since, in order; a reading says how many of these came before it. */
  readonly passages?: readonly Passage[];
  /** What this shop's tester shows over what it should, where that was learned. */
  readonly testerFactor?: number;
}

export const roomOf = ({ tempC, roomC = tempC }: Setting): number => roomC;

/** Hard share of the sulfate, by cause. */
const HARD: Partial<Record<CauseId, readonly [low: number, high: number]>> = {
  empty: [0, 0.1],
  'sulfated-light': [0.08, 0.22],
  'sulfated-moderate': [0.22, 0.48],
  'sulfated-hard': [0.48, 0.92],
};
/** On top of another illness: three in four have what every battery has, the fourth is sulfated as well. */
const HARD_ON_TOP: readonly [low: number, usual: number, most: number] = [0, 0.1, 0.5];
const USUALLY = 0.75;
/** Where acid lies in layers the lower halves are never charged out: as many are sulfated as are not (assumed). */
const USUALLY_LAYERED = 0.5;
/** Film on the plates, as a power of ten: a thousandth doubles the resistance, a tenth takes no charge at first. */
const FILM: Partial<Record<CauseId, readonly [low: number, high: number]>> = {
  'sulfated-light': [-4.2, -2.2],
  'sulfated-moderate': [-3.8, -1.4],
  'sulfated-hard': [-3.2, -0.4],
};
const FILM_USUAL: readonly [number, number] = [-5, -3.6];
/** Of what lies on top of another illness, by how hard it is: from the usual film to that of a moderate one. */
const FILM_ON_TOP: readonly [number, number] = [-3.8, -1.8];
/**
 * Film belongs to plates that stood flat, and burns off with the first charge that passes: powers of ten less of it
 * on one that stands full (reasoned from the model). One that looks fine and lets nothing through is open, not filmed.
 */
const FILM_LESS = 3;

/** Wear a year, one battery more than another (practice: five to ten years to the end of life). */
export const WEAR_YEAR: readonly [number, number] = [0.005, 0.04];
const WORN: readonly [number, number] = [0.3, 0.72];
const LEAST_LEFT = 0.55;

/** Water gone: of a dried-out one; of others, six of seven next to nothing and the seventh some (assumed). */
const DRY: readonly [number, number] = [0.1, 0.4];
const SOUND_DRY: readonly [number, number] = [0, 0.06];
const DRY_ON_TOP: readonly [number, number, number] = [0, 0.06, 0.25];
const SELDOM = 0.86;
/** Layers: of one that is layered; of other flooded ones little, and of one in seven more (assumed). */
const LAYERED: readonly [number, number] = [0.08, 0.35];
const LAYERED_ON_TOP: readonly [number, number, number] = [0, 0.03, 0.15];

/**
 * What one cell lacks beside the others: nothing worth following in half of them, and up to a fifth of its charge in the rest (assumed:
 * cells of a string drift apart). A weak cell has little left because what it lacks has grown hard.
 */
const EVEN = 0.5;
const MOST_LOW = 0.2;
const WEAK_LOW: readonly [number, number] = [0.03, 0.4];
const LOW_HARD: readonly [number, number] = [0.1, 0.6];
const WEAK_LOW_HARD: readonly [number, number] = [0.5, 1];

/**
 * Odds of a second faulty cell where there is one (assumed: what killed the first cell, age or a deep discharge, was done to all), and what it
 * then has.
 */
const SECOND_ODDS = 0.15;
const SECONDS: readonly (readonly [fault: Second['fault'], share: number])[] = [
  ['weak-cell', 0.55],
  ['shorted-cell', 0.35],
  ['open-cell', 0.1],
];

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

/** What could react over the rating, by label, worked out once. */
const knownConvertible = new WeakMap<Rating, number>();

function convertibleOf(rating: Rating): number {
  const known = knownConvertible.get(rating);
  if (known !== undefined) return known;
  const { convertibleAh, ratedAh } = soundCell(rating);
  knownConvertible.set(rating, convertibleAh / ratedAh);
  return convertibleAh / ratedAh;
}

/** Charged share of the rating: below 0 past empty, where the last of what could react has gone. */
function chargeOf(
  share: number,
  most: number,
  left: number,
  { rating, history }: Pick<Setting, 'rating' | 'history'>,
): number {
  const deep = DRAWN_PAST_EMPTY[history.complaint];
  if (share >= deep) return most * ((share - deep) / (1 - deep)) ** 1.3;
  return 1 - (1 - 10 ** between(PAST_EMPTY, share / deep)) * Math.max(1, convertibleOf(rating) * left);
}

/** Of no age known, wear is anything from none to what so many hard years bring. */
const MOST_YEARS = 10;

function wearOf({ ageYears }: History, place: number): number {
  return ageYears === undefined
    ? between([0, MOST_YEARS * WEAR_YEAR[1]], place)
    : ageYears * between(WEAR_YEAR, place);
}

/** Share of capacity that wear has left. */
function leftOf(cause: CauseId, place: number, history: History): number {
  return cause === 'worn' ? between(WORN, place) : Math.max(LEAST_LEFT, 1 - wearOf(history, place));
}

function hardOf(cause: CauseId, place: number): number {
  const own = HARD[cause];
  if (own) return between(own, place);
  return tailed(HARD_ON_TOP, cause === 'layered' ? USUALLY_LAYERED : USUALLY, place);
}

/** The film that goes with its sulfate, as a power of ten. */
function filmOf(cause: CauseId, hardShare: number, place: number): number {
  const [, usual, most] = HARD_ON_TOP;
  const onTop = HARD[cause] ? 0 : Math.max(0, hardShare - usual) / (most - usual);
  const film = between(FILM[cause] ?? FILM_USUAL, place);
  return film + onTop * (between(FILM_ON_TOP, place) - film);
}

function dryOf(cause: CauseId, place: number): number {
  if (cause === 'dry') return between(DRY, place);
  return cause === 'empty' ? between(SOUND_DRY, place) : tailed(DRY_ON_TOP, SELDOM, place);
}

function lowOf(cause: CauseId, place: number): Pick<Traits, 'low' | 'lowHard'> {
  if (cause === 'weak-cell') return { low: between(WEAK_LOW, place), lowHard: between(WEAK_LOW_HARD, place) };
  const share = Math.max(0, place - EVEN) / (1 - EVEN);
  return { low: share === 0 ? 0 : MOST_LOW * share ** 2, lowHard: between(LOW_HARD, share) };
}

/** Another cell than the one that is bad already. */
function secondOf(cause: CauseId, cell: number, cells: number, point: Point): Second | undefined {
  if (!isOfCell(cause) || cells < 2) return undefined;
  const place = at(point, 'second') / SECOND_ODDS;
  if (place >= 1) return undefined;
  let sum = 0;
  const [fault] = SECONDS.find(([, share]) => place < (sum += share)) ?? ['weak-cell' as const];
  const other = 1 + Math.min(cells - 2, Math.floor(at(point, 'other') * (cells - 1)));
  return { fault, cell: other < cell ? other : other + 1, severity: at(point, 'force') };
}

/** What a point means before this history. */
export function traitsOf(point: Point, { rating, history }: Setting): Traits {
  const sums = cumulative(history);
  const place = sums.findIndex((sum) => at(point, 'cause') < sum);
  const cause = CAUSE_IDS[place === -1 ? 0 : place] ?? 'empty';
  const left = leftOf(cause, at(point, 'wear'), history);
  // Most stand low; a sulfated one is never far above half, since what is hard is not charged.
  const charge = chargeOf(at(point, 'charge'), isSulfated(cause) ? 0.75 : 0.98, left, { rating, history });
  const hardShare = hardOf(cause, at(point, 'hard'));
  const film = filmOf(cause, hardShare, at(point, 'film'));
  const cell = 1 + Math.min(rating.cells - 1, Math.floor(at(point, 'cell') * rating.cells));
  const second = secondOf(cause, cell, rating.cells, point);
  return {
    cause,
    charge,
    hardShare,
    film: 10 ** (film - FILM_LESS * Math.max(0, charge)),
    left,
    capacityFactor: 1 + CAPACITY_SPREAD * normalQuantile(at(point, 'capacity')),
    crankingFactor: 1 + CRANKING_SPREAD * normalQuantile(at(point, 'cranking')),
    acidFactor: 1 + ACID_SPREAD * normalQuantile(at(point, 'acid')),
    dryShare: dryOf(cause, at(point, 'water')),
    layering: layeringOf(cause, rating, at(point, 'layers')),
    cell,
    severity: at(point, 'severity'),
    ...lowOf(cause, at(point, 'low')),
    ...(second ? { second } : {}),
  };
}

function layeringOf(cause: CauseId, { construction }: Rating, place: number): number {
  if (cause === 'layered') return between(LAYERED, place);
  if (construction !== 'flooded' || cause === 'empty') return 0;
  return tailed(LAYERED_ON_TOP, SELDOM, place);
}

/** Axes that mean the same thing on another scale under each cause. */
export const SCALED = ['hard', 'wear', 'water', 'layers', 'low'] as const satisfies readonly Axis[];

/** What a place on such an axis means under a cause: it rises or falls with the place, or stands still. */
export function meaningOf(
  axis: (typeof SCALED)[number],
  cause: CauseId,
  place: number,
  { rating, history }: Pick<Setting, 'rating' | 'history'>,
): number {
  switch (axis) {
    case 'hard':
      return hardOf(cause, place);
    case 'wear':
      return leftOf(cause, place, history);
    case 'water':
      return dryOf(cause, place);
    case 'layers':
      return layeringOf(cause, rating, place);
    case 'low':
      return lowOf(cause, place).low;
  }
}
