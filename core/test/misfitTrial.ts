/** Batteries of the belief's own model, read through instruments, one of their readings spoilt: how often it is noticed. */
import { throughInstrument } from '../observation/checks.ts';
import { Belief } from '../belief/belief.ts';
import type { History } from '../candidate/causes.ts';
import { chanceFrom, type Chance } from '../chance/chance.ts';
import { DIMENSIONS } from '../candidate/cube.ts';
import { traitsOf, type Setting } from '../candidate/traits.ts';
import { done } from '../belief/work.ts';
import type { Reading } from '../observation/readings.ts';
import { everyCheck, readingsOf } from './candidate.ts';
import { AGM_80, FLOODED_70 } from './modelBench.ts';

/** What happens to the readings of one; `other` are those of another battery of the type. */
export type Spoil = (readings: readonly Reading[], other: readonly Reading[]) => readonly Reading[];

const each =
  (kind: Reading['kind'], change: (reading: Reading) => Reading): Spoil =>
  (readings) =>
    readings.map((reading) => (reading.kind === kind ? change(reading) : reading));

const times =
  (field: 'amps' | 'volts', by: number) =>
  (reading: Reading): Reading =>
    ({ ...reading, [field]: by * Number((reading as unknown as Record<string, unknown>)[field]) }) as Reading;

/** What goes wrong when a figure is written down, by what it is called. */
export const SPOILS: Readonly<Record<string, Spoil>> = {
  'a digit more at the tester': each('tester', times('amps', 10)),
  'the point of the current it takes one place off': each('acceptance', times('amps', 10)),
  'load voltage of another battery': (readings, other) =>
    readings.map((reading) =>
      reading.kind === 'load' ? (other.find(({ kind }) => kind === 'load') ?? reading) : reading,
    ),
  'rested voltage of another battery': (readings, other) =>
    readings.map((reading) =>
      reading.kind === 'ocv' ? (other.find(({ kind }) => kind === 'ocv') ?? reading) : reading,
    ),
  'one cell’s density with its last two digits exchanged': (readings) => {
    const first = readings.find(({ kind }) => kind === 'density');
    return readings.map((reading) => {
      if (reading !== first || reading.kind !== 'density') return reading;
      const digits = Math.round(reading.density * 1000) % 100;
      const density =
        Math.floor(reading.density * 10) / 10 + ((digits % 10) * 10 + Math.floor(digits / 10)) / 1000;
      return { ...reading, density };
    });
  },
};

const HISTORIES: readonly Omit<History, 'construction'>[] = [
  { ageYears: 3, flatMonths: 3, complaint: 'parked' },
  { ageYears: 5, complaint: 'slow-crank' },
  { ageYears: 2, complaint: 'lights-left' },
];

const settingOf = (construction: 'agm' | 'flooded', index: number): Setting => {
  const history = HISTORIES[index % HISTORIES.length];
  if (!history) throw new Error('there are histories');
  return {
    rating: construction === 'agm' ? AGM_80 : FLOODED_70,
    history: { construction, ...history },
    tempC: 21,
  };
};

function readOf(chance: Chance, setting: Setting): readonly Reading[] {
  const point = Float64Array.from({ length: DIMENSIONS }, () => chance());
  const exact = readingsOf(traitsOf(point, setting), setting, everyCheck(setting));
  const seed = String(chance());
  return exact.map((reading) => throughInstrument(reading, seed));
}

export interface MisfitTrial {
  /** Of all: where something was said not to fit. */
  readonly alarms: number;
  /** Of all: where what was spoilt was named first. */
  readonly named: number;
}

/**
 * @param count batteries, @param candidates of each belief
 * @param spoil leaves what was read as it is where it returns the same
 */
export function misfitTrial(
  construction: 'agm' | 'flooded',
  count: number,
  candidates: number,
  seed: number,
  spoil: Spoil = (readings) => readings,
): MisfitTrial {
  const chance = chanceFrom(seed);
  let [alarms, named] = [0, 0];
  for (let index = 0; index < count; index++) {
    const setting = settingOf(construction, index);
    const [read, other] = [readOf(chance, setting), readOf(chance, setting)];
    const spoilt = spoil(read, other);
    const belief = new Belief(setting, candidates, index + 1);
    belief.observe(...spoilt);
    const [first] = done(belief.misfits());
    alarms += Number(first !== undefined);
    named += Number(first !== undefined && !read.includes(first.reading));
  }
  return { alarms, named };
}
