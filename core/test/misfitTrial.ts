/** Batteries read through instruments, something about it written down wrong or unknown to the belief: how often it is noticed, where it matters. */
import type { Interval } from '../belief/figures.ts';
import { Belief } from '../belief/belief.ts';
import { illnessesOf } from '../belief/words.ts';
import { done } from '../belief/work.ts';
import { DIMENSIONS } from '../candidate/cube.ts';
import type { History } from '../candidate/causes.ts';
import type { Perturb } from '../candidate/piece.ts';
import { traitsOf, type Setting, type Traits } from '../candidate/traits.ts';
import { chanceFrom, type Chance } from '../chance/chance.ts';
import { exactly, throughInstrument } from '../observation/checks.ts';
import { besideEachOther, type Reading } from '../observation/readings.ts';
import { shownOf } from '../observation/shown.ts';
import { everyCheck } from './candidate.ts';
import { AGM_80, FLOODED_70 } from './modelBench.ts';

type Kind = 'agm' | 'flooded';

/** What goes wrong: with what is written down, or with the battery. */
export interface Mistake {
  /** Of which kinds it can be made; both where it is left out. */
  readonly kind?: Kind;
  /** What becomes of the readings; `other` are those of another battery of the type. */
  readonly spoil?: (
    readings: readonly Reading[],
    other: readonly Reading[],
    chance: Chance,
  ) => readonly Reading[];
  /** What becomes of its warmth as it is written down, °C. */
  readonly tempC?: (tempC: number) => number;
  /** An illness no candidate has. */
  readonly illness?: Perturb;
}

const each =
  (kind: Reading['kind'], change: (reading: Reading) => Reading) =>
  (readings: readonly Reading[]): readonly Reading[] =>
    readings.map((reading) => (reading.kind === kind ? change(reading) : reading));

const times =
  (field: 'amps' | 'volts', by: number) =>
  (reading: Reading): Reading =>
    ({ ...reading, [field]: by * Number((reading as unknown as Record<string, unknown>)[field]) }) as Reading;

/** Those of some kinds as another battery shows them. */
const ofAnother =
  (...kinds: readonly Reading['kind'][]) =>
  (readings: readonly Reading[], other: readonly Reading[]): readonly Reading[] =>
    readings.map((reading) =>
      kinds.includes(reading.kind) ? (other.find(({ kind }) => kind === reading.kind) ?? reading) : reading,
    );

/** Any other digit in the last place of a voltage. */
const lastDigit = (volts: number, chance: Chance): number =>
  Math.floor(volts * 10) / 10 + Math.floor(chance() * 10) / 100;

/** Densities of two cells in each other's place, the furthest apart. */
function swapped(readings: readonly Reading[]): readonly Reading[] {
  const floated = readings.filter((one) => one.kind === 'density');
  const order = floated.toSorted((a, b) => a.density - b.density);
  const [low, high] = [order[0], order.at(-1)];
  if (!low || !high) return readings;
  const changed = readings.map((reading) => {
    if (reading === low) return { ...low, density: high.density };
    return reading === high ? { ...high, density: low.density } : reading;
  });
  return besideEachOther(changed);
}

const toF = (tempC: number): number => tempC * 1.8 + 32;

/** One of the cells, changed. */
const ofCell =
  (place: number, change: (cell: Parameters<Perturb>[0]['cells'][number]) => typeof cell): Perturb =>
  (parameters) => ({
    ...parameters,
    cells: parameters.cells.map((cell, index) => (index === place ? change(cell) : cell)),
  });

export const MISTAKES: Readonly<Record<string, Mistake>> = {
  'as it was read': {},
  'a digit more at the tester': { spoil: each('tester', times('amps', 10)) },
  'the point of the current it takes one place off': { spoil: each('acceptance', times('amps', 10)) },
  'rested voltage of another battery': { spoil: ofAnother('ocv') },
  'load test of another battery': { spoil: ofAnother('load') },
  'both voltages of another battery': { spoil: ofAnother('ocv', 'load') },
  'last digit of the rested voltage wrong': {
    spoil: (readings, _other, chance) =>
      each('ocv', (one) => (one.kind === 'ocv' ? { ...one, volts: lastDigit(one.volts, chance) } : one))(
        readings,
      ),
  },
  'densities of two cells swapped': { kind: 'flooded', spoil: swapped },
  'last two digits of one cell’s density exchanged': {
    kind: 'flooded',
    spoil: (readings) => {
      const first = readings.find(({ kind }) => kind === 'density');
      return besideEachOther(
        readings.map((reading) => {
          if (reading !== first || reading.kind !== 'density') return reading;
          const digits = Math.round(reading.density * 1000) % 100;
          const density =
            Math.floor(reading.density * 10) / 10 + ((digits % 10) * 10 + Math.floor(digits / 10)) / 1000;
          return { ...reading, density };
        }),
      );
    },
  },
  '°F for °C where the acid’s warmth was taken': {
    kind: 'flooded',
    spoil: (readings) =>
      besideEachOther(
        each('density', (one) => (one.kind === 'density' ? { ...one, tempC: toF(one.tempC ?? 21) } : one))(
          readings,
        ),
      ),
  },
  '°F for °C of the case': { tempC: toF },
  'posts corroded, 8 mΩ': { illness: (parameters) => ({ ...parameters, leadsOhm: 0.008 }) },
  'one cell alone dried out': {
    illness: ofCell(2, (cell) => ({ ...cell, waterG: cell.waterG * 0.6, acidOhm: cell.acidOhm * 4 })),
  },
  'filled up with acid': {
    illness: (parameters) => ({
      ...parameters,
      cells: parameters.cells.map((cell) => ({ ...cell, acidG: cell.acidG * 1.5 })),
    }),
  },
};
export type MistakeId = keyof typeof MISTAKES & string;

const HISTORIES: readonly Omit<History, 'construction'>[] = [
  { ageYears: 3, flatMonths: 3, complaint: 'parked' },
  { ageYears: 5, complaint: 'slow-crank' },
  { ageYears: 2, complaint: 'lights-left' },
];

const settingOf = (construction: Kind, index: number): Setting => {
  const history = HISTORIES[index % HISTORIES.length];
  if (!history) throw new Error('there are histories');
  return {
    rating: construction === 'agm' ? AGM_80 : FLOODED_70,
    history: { construction, ...history },
    tempC: 21,
    roomC: 21,
  };
};

function read(traits: Traits, setting: Setting, seed: string, illness?: Perturb): readonly Reading[] {
  const shown = shownOf(traits, setting, illness);
  const exact: Reading[] = [
    { kind: 'ocv', volts: shown.ocvV(), isRested: true },
    ...everyCheck(setting).flatMap((check) => exactly(check, shown, setting)),
  ];
  return exact.map((reading) => throughInstrument(reading, seed));
}

/** What is done with a battery hangs on what is the matter with it and on the grade it may come to (handbook 3.6). */
function decisionOf(belief: Belief): string {
  const { causes, figures } = belief.summary();
  const [illness] = illnessesOf(causes);
  const least = (of: (interval: Interval) => number): number =>
    Math.min(of(figures.capacity), of(figures.cranking));
  const share = least(({ middle }) => middle);
  const grade = share >= 0.8 ? 'A' : share >= 0.6 ? 'B' : share >= 0.4 ? 'C' : 'R';
  return `${illness?.name} ${grade}`;
}

export interface MisfitCount {
  tried: number;
  /** Where something was said not to fit, and where what was spoilt was named first. */
  alarms: number;
  named: number;
  /** Where another illness is named first, or another grade expected, than without the mistake; and of these the alarms. */
  matters: number;
  alarmsThen: number;
}

/**
 * @param count batteries, @param candidates of each belief
 * @returns by what went wrong
 */
export function misfitTrial(
  construction: Kind,
  count: number,
  candidates: number,
  seed: number,
  mistakes: readonly MistakeId[] = Object.keys(MISTAKES),
): ReadonlyMap<MistakeId, MisfitCount> {
  const chance = chanceFrom(seed);
  const counts = new Map<MistakeId, MisfitCount>();
  const drawn = (setting: Setting): Traits =>
    traitsOf(
      Float64Array.from({ length: DIMENSIONS }, () => chance()),
      setting,
    );
  for (let index = 0; index < count; index++) {
    const setting = settingOf(construction, index);
    const [traits, seedOfIt] = [drawn(setting), String(chance())];
    const right = read(traits, setting, seedOfIt);
    const other = read(drawn(setting), setting, String(chance()));
    const believed = (readings: readonly Reading[], as: Setting): Belief => {
      const belief = new Belief(as, candidates, index + 1);
      belief.observe(...readings);
      return belief;
    };
    const asRead = believed(right, setting);
    const usual = decisionOf(asRead);
    for (const id of mistakes) {
      const mistake = MISTAKES[id];
      if (!mistake || (mistake.kind && mistake.kind !== construction)) continue;
      const isAsRead = Object.keys(mistake).length === 0;
      const it = mistake.illness ? read(traits, setting, seedOfIt, mistake.illness) : right;
      const spoilt = mistake.spoil?.(it, other, chanceFrom(`${seedOfIt} ${id}`)) ?? it;
      const tempC = mistake.tempC?.(setting.tempC) ?? setting.tempC;
      const belief = isAsRead ? asRead : believed(spoilt, { ...setting, tempC });
      const [first] = done(belief.misfits());
      const matters = decisionOf(belief) !== usual;
      const counted = counts.get(id) ?? { tried: 0, alarms: 0, named: 0, matters: 0, alarmsThen: 0 };
      counted.tried += 1;
      counted.alarms += Number(first !== undefined);
      counted.named += Number(first !== undefined && !right.includes(first.reading));
      counted.matters += Number(matters);
      counted.alarmsThen += Number(matters && first !== undefined);
      counts.set(id, counted);
    }
  }
  return counts;
}
