/** One simulated battery: a hidden truth, what instruments read of it, and what the belief makes of that. */
import { AT_REST, Belief, SIZE } from '@cork-ember/core/belief/belief.ts';
import { exactly, OPENED, throughInstrument, type Check } from '@cork-ember/core/observation/checks.ts';
import { asReal, figuresOf, type Figures, type Summary } from '@cork-ember/core/belief/figures.ts';
import {
  isSulfated,
  possibleCauses,
  type CauseId,
  type Complaint,
  type History,
} from '@cork-ember/core/candidate/causes.ts';
import { chanceFrom, normal, type Chance } from '@cork-ember/core/chance/chance.ts';
import type { Passage } from '@cork-ember/core/candidate/passage.ts';
import { termsOf } from '@cork-ember/core/observation/likelihood.ts';
import { besideEachOther, type Reading } from '@cork-ember/core/observation/readings.ts';
import { shownOf, type Shown } from '@cork-ember/core/observation/shown.ts';
import { AXES, between, DIMENSIONS, type Axis, type Point } from '@cork-ember/core/candidate/cube.ts';
import type { Perturb } from '@cork-ember/core/candidate/piece.ts';
import { traitsOf, type Setting, type Traits } from '@cork-ember/core/candidate/traits.ts';
import { illnessesOf } from '@cork-ember/core/belief/words.ts';
import type { CellParameters } from '@cork-ember/core/model/parameters.ts';
import { PorousBattery } from '@cork-ember/core/test/porousBattery.ts';
import { done } from '@cork-ember/core/belief/work.ts';
import { AGM_80, FLOODED_70 } from '@cork-ember/core/test/modelBench.ts';

/** The figures whose intervals are checked. */
export const CHECKED = ['charge', 'capacity', 'cranking'] as const;
export type Checked = (typeof CHECKED)[number];

type Ranks = Readonly<Record<Stage, Readonly<Record<Checked, number>>>>;

export interface Trial {
  readonly cause: CauseId;
  readonly construction: 'agm' | 'flooded';
  /** First-named after rested voltage and load test alone, and after the full set. */
  readonly early: CauseId;
  /** After every check of a battery that stands there, before any charge. */
  readonly standing: CauseId;
  readonly full: CauseId;
  /** Whether one of the readings of the battery that stands there was said not to fit. */
  readonly hasRung: boolean;
  readonly probabilities: Readonly<Record<CauseId, number>>;
  /** Share of the belief's weight below the truth, 0–1, half of what equals it counted. */
  readonly rank: Ranks;
  /** The same with what equals the truth broken by chance: flat when the belief is honest, dead cells and all. */
  readonly even: Ranks;
}

const COMPLAINTS: readonly Complaint[] = [
  'unknown',
  'slow-crank',
  'cold-weather',
  'lights-left',
  'parked',
  'charger-nothing',
];
/**
 * Where hidden batteries come from: the belief's own prior and model; a widened prior and a model every parameter of which is off; with
 * that two illnesses at once, cells apart, two faults, a cold case and a label that is wrong; and another model altogether.
 */
export const POPULATIONS = ['own', 'perturbed', 'compound', 'porous'] as const;
export type Population = (typeof POPULATIONS)[number];

/** Every parameter of the hidden battery is off by up to this share. */
const OFF_BY = 0.1;
/** And of a compound one its label, in capacity and cranking. */
const LABEL_OFF_BY = 0.2;
const COLD_C: readonly [number, number] = [2, 10];
const ROOM_C = 21;
/** Share of hidden causes drawn evenly instead of from the prior. */
const WIDENED = 0.3;

export function historyOf(chance: Chance, construction: 'agm' | 'flooded'): History {
  const flatMonths = -4 * Math.log(1 - chance());
  return {
    construction,
    ageYears: 0.5 + 8 * chance(),
    complaint: COMPLAINTS[Math.floor(chance() * COMPLAINTS.length)] ?? 'unknown',
    ...(chance() < 0.6 ? { flatMonths } : {}),
  };
}

/** Other resistances, acid, capacity and kinetics than the belief's own model has. */
function perturbation(chance: Chance): Perturb {
  const off = (): number => 1 + OFF_BY * (2 * chance() - 1);
  const factors: Partial<Record<keyof CellParameters, number>> = {
    convertibleAh: off(),
    acidG: off(),
    metalOhm: off(),
    acidOhm: off(),
    filmOhm: off(),
    crankingA: off(),
    gassingA: off(),
  };
  // How much less it gives the faster it is drawn: no parameter is spared.
  const slower = off();
  return (parameters) => {
    const changed = new Map<CellParameters, CellParameters>();
    const cells = parameters.cells.map((cell) => {
      const known =
        changed.get(cell) ??
        ({
          ...cell,
          diffusion: [cell.diffusion[0] * slower, cell.diffusion[1] * slower, cell.diffusion[2] * slower],
          ...Object.fromEntries(
            Object.entries(factors).map(([name, factor]) => [
              name,
              (cell[name as keyof CellParameters] as number) * factor,
            ]),
          ),
        } satisfies CellParameters);
      changed.set(cell, known);
      return known;
    });
    return { ...parameters, cells };
  };
}

/** Before any charge, and after charge, rest, hold and capacity test. */
export const STAGES = ['standing', 'full'] as const;
export type Stage = (typeof STAGES)[number];

/** What instruments would read of one, exactly, and what is in it. */
interface Hidden {
  readonly cause: CauseId;
  readonly early: readonly Reading[];
  readonly standing: readonly Reading[];
  readonly charged: () => readonly Reading[];
  readonly figure: (stage: Stage, name: Checked) => number;
}

export interface Truth {
  readonly traits: Traits;
  readonly perturb: Perturb | undefined;
  /** As it was found, and at the end. */
  readonly figures: Record<Stage, Figures>;
  readonly shown: Shown;
}

/** Two illnesses or more: every axis of what may stand on top goes to its far end half of the time. */
const WORSE: readonly Axis[] = ['hard', 'wear', 'water', 'layers', 'low'];

function compounded(point: Point, chance: Chance): void {
  for (const axis of WORSE) if (chance() < 0.5) point[AXES.indexOf(axis)] = 0.85 + 0.15 * chance();
  if (chance() < 0.3) point[AXES.indexOf('second')] = 0.14 * chance();
}

function mislabelled(traits: Traits, chance: Chance): Traits {
  const off = (): number => 1 + LABEL_OFF_BY * (2 * chance() - 1);
  return {
    ...traits,
    capacityFactor: traits.capacityFactor * off(),
    crankingFactor: traits.crankingFactor * off(),
  };
}

export function truthOf(chance: Chance, setting: Setting, population: Population): Truth {
  const point = Float64Array.from({ length: DIMENSIONS }, () => chance());
  const isForeign = population !== 'own';
  if (isForeign && chance() < WIDENED) {
    const possible = possibleCauses(setting.history);
    const chosen = possible[Math.floor(chance() * possible.length)];
    if (chosen) point[0] = chosen.from + chosen.width / 2;
  }
  if (population === 'compound') compounded(point, chance);
  const drawn = traitsOf(point, setting);
  const traits = population === 'compound' ? mislabelled(drawn, chance) : drawn;
  const perturb = isForeign ? perturbation(chance) : undefined;
  const shown = shownOf(traits, setting, perturb);
  const at = (stage: number): Figures => figuresOf(traits, setting, shown.after(stage), perturb);
  return { traits, perturb, shown, figures: { standing: at(0), full: at(setting.passages?.length ?? 0) } };
}

type Reader = (reading: Reading) => Reading;

/** Every check of a battery that stands there, before any charge. */
function exactStanding(shown: Shown, setting: Setting): Pick<Hidden, 'early' | 'standing'> {
  const by = (checks: readonly Check[]): Reading[] =>
    checks.flatMap((check) => exactly(check, shown, setting));
  const opened = setting.rating.construction === 'flooded' ? OPENED : [];
  return {
    early: [{ kind: 'ocv', volts: shown.ocvV(), isRested: true }, ...by(['load'])],
    standing: by(['tester', 'acceptance', ...opened]),
  };
}

/** The same with a reader's error over each. */
export function standingReadings(
  { shown }: Truth,
  setting: Setting,
  reader: Reader,
): { early: Reading[]; standing: Reading[] } {
  const { early, standing } = exactStanding(shown, setting);
  return { early: early.map(reader), standing: standing.map(reader) };
}

/** One of the second model, of the belief's own prior, but for one that stands reversed. */
function porous(chance: Chance, setting: Setting, testA: number): Hidden {
  for (;;) {
    const traits = traitsOf(
      Float64Array.from({ length: DIMENSIONS }, () => chance()),
      setting,
    );
    if (traits.cause === 'reversed') continue;
    const battery = new PorousBattery(traits, setting);
    const figures = memoised((stage: Stage) => battery.figures(stage));
    return {
      cause: traits.cause,
      early: battery.early(),
      standing: battery.standing(),
      charged: () => battery.afterCharge(testA),
      figure: (stage, name) => figures(stage)[name],
    };
  }
}

function memoised<K, V>(work: (key: K) => V): (key: K) => V {
  const known = new Map<K, V>();
  return (key) => {
    const value = known.get(key) ?? work(key);
    known.set(key, value);
    return value;
  };
}

/** Charged slowly for a day, rested for one, held for a week: what it shows on the way, and what it gives. */
function chargedReadings(found: Shown, testA: number): Reading[] {
  const rested = found.after(2);
  return [
    ...[60, 480, 1200].map((minute): Reading => ({
      kind: 'look',
      minute,
      volts: found.onCharge(minute, 'volts'),
      amps: found.onCharge(minute, 'amps'),
      tempC: found.onCharge(minute, 'tempC'),
    })),
    { kind: 'ocv', stage: 2, volts: rested.ocvV(), isRested: true },
    { kind: 'tester', stage: 2, amps: rested.testerA() },
    { kind: 'hold', stage: 3, volts: rested.ocvV() - found.after(3).ocvV() },
    { kind: 'reserve', stage: 3, amps: testA, minutes: found.after(3).reserveMin(testA) },
  ];
}

/** Each through its instrument; a later one of a kind errs on its own. */
export const throughInstruments =
  (seed: string): Reader =>
  (reading) =>
    throughInstrument(reading, `${seed} ${reading.stage ?? 0}`);

/** Student's t with five degrees of freedom, as the likelihood has it. */
function studentT(chance: Chance): number {
  const squares = Array.from({ length: 5 }, () => normal(chance) ** 2);
  return normal(chance) / Math.sqrt(squares.reduce((sum, square) => sum + square, 0) / 5);
}

/**
 * Each with the very error the belief allows for: whatever is then not flat is the method's own fault.
 * @see Talts et al. 2018, Validating Bayesian inference algorithms with simulation-based calibration
 */
function asAllowed(truth: Truth, setting: Setting, chance: Chance): Reader {
  const floated: Extract<Reading, { kind: 'density' }>[] = [];
  return (exact) => {
    if (exact.kind === 'dips')
      return { ...exact, volts: exact.volts.map((volts) => volts + DIP_ERROR_V * studentT(chance)) };
    // A cell is floated beside those that were floated before it, errors and all.
    const reading = exact.kind === 'density' ? (besideEachOther([...floated, exact]).at(-1) ?? exact) : exact;
    const errors = new Map(
      termsOf(reading, truth.shown, setting).map(({ name, residual, scale }) => [
        name,
        scale * studentT(chance) - residual,
      ]),
    );
    // A sag is what is allowed for, so the first second moves along with the last.
    if (errors.has('firstV')) errors.set('firstV', (errors.get('firstV') ?? 0) + (errors.get('volts') ?? 0));
    const values = Object.entries(reading).map(([name, value]) => [
      name,
      typeof value === 'number' ? value + (errors.get(name) ?? 0) : value,
    ]);
    const read = Object.fromEntries(values) as Reading;
    if (read.kind === 'density') floated.push(read);
    return read;
  };
}

/** Of each step along the cells, as the belief allows. */
const DIP_ERROR_V = 0.02;

/** Capacity is counted at one of the trade's three currents (handbook 3.2), by turns: 25 A, in ten hours, in twenty. */
function testedA(index: number, capacityAh: number): number {
  const amps = [25, capacityAh / 10, capacityAh / 20];
  // Kinds take turns at every battery, so currents do at every second.
  return amps[Math.floor(index / 2) % amps.length] as number;
}

/** A day's slow charge, a day's rest, a week's hold. */
function passagesFor(capacityAh: number): Passage[] {
  return [
    { amps: capacityAh / 20, volts: 14.6, minutes: 24 * 60 },
    { amps: 0, volts: 0, minutes: 24 * 60 },
    { amps: 0, volts: 0, minutes: 7 * 24 * 60 },
  ];
}

/** The illness named first, in its likeliest degree. */
function first({ causes, ranked }: Summary): CauseId {
  const [illness] = illnessesOf(causes);
  const comesInDegrees = illness?.degrees !== undefined;
  const named = ranked.find(({ cause }) => isSulfated(cause) === comesInDegrees);
  return named?.cause ?? 'empty';
}

/** Below this share of its rating a battery is dead: how far below, no grade and no reading tells. */
const DEAD_SHARE = 0.2;

const isAlike = (name: Checked, value: number, truth: number): boolean =>
  Math.abs(value - truth) < 1e-9 || (name === 'capacity' && value < DEAD_SHARE && truth < DEAD_SHARE);

/** Weight below the truth, and that share of what is as good as equal to it. */
function rankOf(belief: Belief, name: Checked, truth: number, equal: number): number {
  const weights = belief.weights();
  const values = belief.values(name);
  return values.reduce((sum, value, index) => {
    const weight = weights[index] as number;
    if (isAlike(name, value, truth)) return sum + weight * equal;
    return value < truth ? sum + weight : sum;
  }, 0);
}

/** A hidden battery, and what is laid over its exact readings. */
function hiddenOf(
  chance: Chance,
  setting: Setting,
  population: Population,
  index: number,
): { hidden: Hidden; reader: Reader } {
  const instruments = throughInstruments(`trial ${index}`);
  const testA = testedA(index, setting.rating.capacityAh);
  if (population === 'porous') return { hidden: porous(chance, setting, testA), reader: instruments };
  const truth = truthOf(chance, setting, population);
  const isOwn = population === 'own';
  const hidden: Hidden = {
    cause: truth.traits.cause,
    ...exactStanding(truth.shown, setting),
    charged: () => chargedReadings(truth.shown, testA),
    // The belief's own batteries are off by what it allows for; the others are off by their own model.
    figure: (stage, name) =>
      isOwn
        ? asReal(name, truth.figures[stage][name], stage === 'full' ? 'charged' : 'found', chance())
        : truth.figures[stage][name],
  };
  return { hidden, reader: isOwn ? asAllowed(truth, setting, chance) : instruments };
}

export function trial(index: number, population: Population): Trial {
  const chance = chanceFrom(`${population} battery ${index}`);
  const construction = index % 2 === 0 ? 'agm' : 'flooded';
  const rating = construction === 'agm' ? AGM_80 : FLOODED_70;
  const setting: Setting = {
    rating,
    passages: passagesFor(rating.capacityAh),
    history: historyOf(chance, construction),
    tempC: population === 'compound' && chance() < 0.3 ? between(COLD_C, chance()) : ROOM_C,
    roomC: ROOM_C,
  };
  const { hidden, reader } = hiddenOf(chance, setting, population, index);
  const belief = new Belief(setting, SIZE.standing, 17 + index);
  belief.observe(...hidden.early.map(reader));
  belief.refine(1);
  const afterEarly = first(belief.summary());
  belief.observe(...hidden.standing.map(reader));
  belief.refine(AT_REST.standing);
  const standingFirst = first(belief.summary());
  const hasRung = done(belief.misfits()).length > 0;
  const ties = chanceFrom(`ties ${index}`);
  const ranks = (stage: Stage): { rank: Record<Checked, number>; even: Record<Checked, number> } => {
    const truths = CHECKED.map((name) => [name, hidden.figure(stage, name)] as const);
    const by = (equal: () => number): Record<Checked, number> =>
      Object.fromEntries(
        truths.map(([name, truth]) => [name, rankOf(belief, name, truth, equal())]),
      ) as Record<Checked, number>;
    return { rank: by(() => 0.5), even: by(ties) };
  };
  const standingRanks = ranks('standing');
  // Each candidate goes through the charge itself from here on: fewer of them do.
  belief.observe(...hidden.charged().map(reader));
  belief.refine(AT_REST.charged);
  const summary = belief.summary();
  const fullRanks = ranks('full');
  return {
    cause: hidden.cause,
    construction,
    early: afterEarly,
    standing: standingFirst,
    full: first(summary),
    hasRung,
    probabilities: summary.causes,
    rank: { standing: standingRanks.rank, full: fullRanks.rank },
    even: { standing: standingRanks.even, full: fullRanks.even },
  };
}
