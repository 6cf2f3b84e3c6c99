/** One simulated battery: a hidden truth, what instruments read of it, and what the belief makes of that. */
import { Belief, shownOf } from '@cork-ember/core/belief/belief.ts';
import { figuresOf, type Figures, type Summary } from '@cork-ember/core/belief/figures.ts';
import {
  CAUSE_IDS,
  priorOf,
  type CauseId,
  type Complaint,
  type History,
} from '@cork-ember/core/belief/causes.ts';
import { chanceFrom, type Chance } from '@cork-ember/core/belief/chance.ts';
import type { Passage } from '@cork-ember/core/belief/passages.ts';
import type { Reading } from '@cork-ember/core/belief/readings.ts';
import type { Shown } from '@cork-ember/core/belief/shown.ts';
import {
  DIMENSIONS,
  traitsOf,
  type Perturb,
  type Setting,
  type Traits,
} from '@cork-ember/core/belief/traits.ts';
import { read } from '@cork-ember/core/instruments/modelView.ts';
import type { CellParameters } from '@cork-ember/core/model/parameters.ts';
import { AGM_80, FLOODED_70 } from '@cork-ember/core/test/modelBench.ts';

/** The figures whose intervals are checked. */
export const CHECKED = ['charge', 'capacity', 'cranking'] as const;
export type Checked = (typeof CHECKED)[number];

export interface Trial {
  readonly cause: CauseId;
  readonly construction: 'agm' | 'flooded';
  /** First-named after rested voltage and load test alone, and after the full set. */
  readonly early: CauseId;
  /** After every check of a battery that stands there, before any charge. */
  readonly standing: CauseId;
  readonly full: CauseId;
  readonly probabilities: Readonly<Record<CauseId, number>>;
  /** Share of the belief's weight below the truth, 0–1; flat when the belief is honest. */
  readonly rank: Readonly<Record<Stage, Readonly<Record<Checked, number>>>>;
}

const COMPLAINTS: readonly Complaint[] = [
  'unknown',
  'slow-crank',
  'cold-weather',
  'lights-left',
  'parked',
  'charger-nothing',
];
/** Candidates of each belief. */
const COUNT = 300;
/** And of one whose candidates are charged along. */
const CHARGED_COUNT = 160;
/** Every parameter of the hidden battery is off by up to this share. */
const OFF_BY = 0.1;
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
  return (parameters) => {
    const changed = new Map<CellParameters, CellParameters>();
    const cells = parameters.cells.map((cell) => {
      const known =
        changed.get(cell) ??
        ({
          ...cell,
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

export interface Truth {
  readonly traits: Traits;
  readonly perturb: Perturb | undefined;
  /** As it was found, and at the end. */
  readonly figures: Record<Stage, Figures>;
  readonly shown: Shown;
}

export function truthOf(chance: Chance, setting: Setting, isHard: boolean): Truth {
  const point = Float64Array.from({ length: DIMENSIONS }, () => chance());
  if (isHard && chance() < WIDENED) {
    const prior = priorOf(setting.history);
    const possible = CAUSE_IDS.filter((cause) => prior[cause] > 0);
    const chosen = possible[Math.floor(chance() * possible.length)];
    let below = 0;
    for (const cause of CAUSE_IDS) {
      if (cause === chosen) point[0] = below + prior[cause] / 2;
      below += prior[cause];
    }
  }
  const traits = traitsOf(point, setting);
  const perturb = isHard ? perturbation(chance) : undefined;
  const shown = shownOf(traits, setting, perturb);
  const at = (stage: number): Figures => figuresOf(traits, setting, shown.after(stage), perturb);
  return { traits, perturb, shown, figures: { standing: at(0), full: at(setting.passages?.length ?? 0) } };
}

/** The full set of checks, each through its instrument. */
function readingsOf(
  { shown }: Truth,
  { rating }: Setting,
  seed: string,
): { early: Reading[]; standing: Reading[]; charged: Reading[] } {
  const amps = 3 * rating.capacityAh;
  const cells = Array.from({ length: rating.cells }, (_, index) => index + 1);
  const accepted = shown.acceptedA(14.4, rating.capacityAh / 5);
  return {
    early: [
      { kind: 'ocv', volts: read(shown.ocvV(), 'meterV', `${seed} ocv`), isRested: true },
      {
        kind: 'load',
        amps,
        seconds: 15,
        volts: Math.max(0, read(shown.loadV(amps, 15), 'loadV', `${seed} load`)),
      },
    ],
    standing: [
      { kind: 'tester', amps: Math.max(0, read(shown.testerA(), 'conductanceA', `${seed} tester`)) },
      { kind: 'acceptance', volts: 14.4, amps: Math.max(0, read(accepted, 'shuntA', `${seed} takes`)) },
      ...(rating.construction === 'flooded' ? openedReadings(shown, cells, seed) : []),
    ],
    charged: chargedReadings(shown, seed),
  };
}

function openedReadings(shown: Shown, cells: readonly number[], seed: string, stage = 0): Reading[] {
  return [
    ...cells.flatMap((cell): Reading[] => [
      {
        kind: 'density',
        cell,
        stage,
        density: read(shown.density(cell), 'hydrometer', `${seed} density ${cell}`),
      },
      { kind: 'level', cell, stage, level: shown.level(cell) },
    ]),
    {
      kind: 'dips',
      stage,
      volts: shown.dips().map((volts, index) => read(volts, 'dipV', `${seed} dip ${index}`)),
    },
  ];
}

/** Charged slowly for a day, rested for one, held for another: what it shows on the way, and what it gives. */
function chargedReadings(found: Shown, seed: string): Reading[] {
  const looks = [60, 480, 1200].map((minute): Reading => ({
    kind: 'look',
    minute,
    volts: read(found.onCharge(minute, 'volts'), 'meterV', `${seed} V ${minute}`),
    amps: Math.max(0, read(found.onCharge(minute, 'amps'), 'shuntA', `${seed} A ${minute}`)),
    tempC: read(found.onCharge(minute, 'tempC'), 'thermometerC', `${seed} C ${minute}`),
  }));
  const rested = found.after(2);
  const restedV = read(rested.ocvV(), 'meterV', `${seed} rested`);
  const heldV = read(found.after(3).ocvV(), 'meterV', `${seed} held`);
  return [
    ...looks,
    { kind: 'ocv', stage: 2, volts: restedV, isRested: true },
    {
      kind: 'tester',
      stage: 2,
      amps: Math.max(0, read(rested.testerA(), 'conductanceA', `${seed} tester 2`)),
    },
    { kind: 'hold', stage: 3, volts: restedV - heldV },
    {
      kind: 'reserve',
      stage: 3,
      amps: 25,
      minutes: rested.reserveMin(25) * (1 + 0.01 * read(0, 'loadV', seed)),
    },
  ];
}

/** A day's slow charge, a day's rest, a week's hold. */
function passagesFor(capacityAh: number): Passage[] {
  return [
    { amps: capacityAh / 20, volts: 14.6, minutes: 24 * 60 },
    { amps: 0, volts: 0, minutes: 24 * 60 },
    { amps: 0, volts: 0, minutes: 7 * 24 * 60 },
  ];
}

const first = ({ ranked }: Summary): CauseId => ranked[0]?.cause ?? 'empty';

/** Weight below the truth, half of what is equal to it counted. */
function rankOf(belief: Belief, name: Checked, truth: number): number {
  const weights = belief.weights();
  const values = belief.values(name);
  return values.reduce((sum, value, index) => {
    const weight = weights[index] as number;
    if (Math.abs(value - truth) < 1e-9) return sum + weight / 2;
    return value < truth ? sum + weight : sum;
  }, 0);
}

/**
 * @param isHard whether the truth comes from a widened prior and parameters the belief does not have; otherwise
 * from the belief's own, for the calibration of the method itself
 */
export function trial(index: number, isHard: boolean): Trial {
  const chance = chanceFrom(1_000_003 + 7919 * index + (isHard ? 1 : 0));
  const construction = index % 2 === 0 ? 'agm' : 'flooded';
  const rating = construction === 'agm' ? AGM_80 : FLOODED_70;
  const setting: Setting = {
    rating,
    passages: passagesFor(rating.capacityAh),
    history: historyOf(chance, construction),
    tempC: 21,
  };
  const truth = truthOf(chance, setting, isHard);
  const { early, standing, charged } = readingsOf(truth, setting, `trial ${index} ${isHard}`);
  const belief = new Belief(setting, COUNT, 17 + index);
  belief.observe(...early);
  belief.refine(1);
  const afterEarly = first(belief.summary());
  belief.observe(...standing);
  belief.refine(3);
  const standingFirst = first(belief.summary());
  const ranks = (stage: Stage): Record<Checked, number> => ({
    charge: rankOf(belief, 'charge', truth.figures[stage].charge),
    capacity: rankOf(belief, 'capacity', truth.figures[stage].capacity),
    cranking: rankOf(belief, 'cranking', truth.figures[stage].cranking),
  });
  const standingRanks = ranks('standing');
  // Each candidate goes through the charge itself from here on: fewer of them do.
  belief.thin(CHARGED_COUNT);
  belief.observe(...charged);
  belief.refine(1);
  const summary = belief.summary();
  return {
    cause: truth.traits.cause,
    construction,
    early: afterEarly,
    standing: standingFirst,
    full: first(summary),
    probabilities: summary.causes,
    rank: { standing: standingRanks, full: ranks('full') },
  };
}
