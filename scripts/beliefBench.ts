/** How long a belief takes over one reading, the ways back over a belief, and a logger's file over its rows. */
import papaparse from 'papaparse';
import type { Course } from '@cork-ember/core/advice/courses.ts';
import { JUDGES } from '@cork-ember/core/advice/bestCheck.ts';
import { outcomeOf } from '@cork-ember/core/advice/outcome.ts';
import { Belief } from '@cork-ember/core/belief/belief.ts';
import { Believer, type Question } from '@cork-ember/core/belief/believer.ts';
import type { Passage } from '@cork-ember/core/candidate/passage.ts';
import type { Reading } from '@cork-ember/core/observation/readings.ts';
import type { Setting } from '@cork-ember/core/candidate/traits.ts';
import { recognise } from '@cork-ember/core/logger/columns.ts';
import { delimiterOf, keptOf, readLog } from '@cork-ember/core/logger/log.ts';
import { FLOODED_70 } from '@cork-ember/core/test/modelBench.ts';

const stopwatch = globalThis.performance;
const CANDIDATES = 1000;
const ROWS = 200_000;

const setting: Setting = {
  rating: FLOODED_70,
  history: { construction: 'flooded', ageYears: 4, flatMonths: 3, complaint: 'parked' },
  tempC: 21,
};

const CHARGE: Passage = { amps: 7, volts: 14.4, minutes: 24 * 60 };
const BROKEN_OFF: Passage = { ...CHARGE, minutes: 11 * 60 };
const REST: Passage = { amps: 0, volts: 0, minutes: 13 * 60 };

type Entry = readonly [name: string, reading: Reading, ...passages: readonly Passage[]];

/** A morning at the bench: found out, put on charge, taken off, read again. */
const ENTRIES: readonly Entry[] = [
  ['ocv', { kind: 'ocv', volts: 12.05, isRested: true }],
  ['tester', { kind: 'tester', amps: 310 }],
  ['density', { kind: 'density', cell: 3, density: 1.17 }],
  ['level', { kind: 'level', cell: 2, level: 'at-line' }],
  ['acceptance', { kind: 'acceptance', volts: 14.4, amps: 6 }],
  ['load', { kind: 'load', amps: 210, seconds: 15, volts: 8.9 }],
  ['first look on charge', { kind: 'look', minute: 60, volts: 13.5, amps: 7, tempC: 23 }, CHARGE],
  ['second look', { kind: 'look', minute: 180, volts: 13.9, amps: 7, tempC: 25 }, CHARGE],
  ['rested after it', { kind: 'ocv', stage: 2, volts: 12.6, isRested: true }, BROKEN_OFF, REST],
  ['tester after it', { kind: 'tester', stage: 2, amps: 380 }, BROKEN_OFF, REST],
];

const timed = (work: () => void): number => {
  const begun = stopwatch.now();
  work();
  return stopwatch.now() - begun;
};

/** The question once so many entries are made. */
function questionAt(count: number): Question {
  const [, , ...passages] = ENTRIES[count - 1] ?? [];
  return {
    setting: { ...setting, passages: passages as readonly Passage[] },
    readings: ENTRIES.slice(0, count).map(([, reading]) => reading),
    seed: 7,
  };
}

/** Each reading in turn, to what the screen then shows; the rest of the work is done before the next, ms. */
export function readingsMs(): readonly (readonly [name: string, ms: number])[] {
  const believer = new Believer(CANDIDATES);
  return ENTRIES.map(([name], index) => {
    // The page was open before the entry was made.
    if (index === 0) believer.goOn({ setting, readings: [], seed: 7 }, () => false);
    const question = questionAt(index + 1);
    const ms = timed(() => believer.answer(question));
    believer.goOn(question, () => false);
    return [name, ms];
  });
}

/** The first answer about a battery that has been on charge, where nothing is known of it yet, ms. */
export function openingMs(): number {
  const believer = new Believer();
  return timed(() => believer.answer(questionAt(ENTRIES.length)));
}

const course = (id: string, ...routes: string[]): Course => ({ id, title: id, routes });
/** The first is decided at its end, among all that is open then. */
const EIGHT: readonly Course[] = [
  {
    ...course('slow-charge', 'slow-charge'),
    onward: [
      { id: 'prove', title: 'prove', routes: [] },
      ...['constant-current', 'pulse', 'layered', 'cycle'].map((id) => ({ id, title: id, routes: [id] })),
      { id: 'water-back', title: 'water back', routes: ['water-back', 'slow-charge'] },
      { id: 'retire', title: 'retire', routes: [] },
    ],
  },
  course('constant-current', 'constant-current'),
  course('high-then-low', 'high-then-low'),
  course('equalise', 'slow-charge', 'equalise'),
  course('water-back', 'water-back', 'slow-charge'),
  course('cycle', 'cycle', 'slow-charge'),
  course('supply-wake', 'supply-wake', 'slow-charge'),
  course('prove', 'prove'),
];

/** Half of the candidates through eight courses, as one of the two workers takes them, ms. */
export function halfOfRoutesMs(): number {
  const belief = new Belief(setting, 300, 7);
  belief.observe({ kind: 'ocv', volts: 12.05, isRested: true });
  const half = belief.spread(JUDGES).filter((_, index) => index % 2 === 0);
  const all = (): void => {
    for (const { traits } of half) for (const one of EIGHT) outcomeOf(one, traits, setting);
  };
  all();
  return timed(all);
}

/** A logger's file of two hundred thousand rows, from its text to what is kept, ms. */
export function importMs(): number {
  const rows = Array.from({ length: ROWS }, (_, index) =>
    `${index};${(12.2 + index / 90_000).toFixed(3)};${(5 * Math.exp(-index / 150_000)).toFixed(3)};${(21 + index / 60_000).toFixed(1)}`.replaceAll(
      '.',
      ',',
    ),
  );
  const text = ['Zeit (s);Spannung (V);Strom (A);Temp (°C)', ...rows].join('\n');
  return timed(() => {
    const table = papaparse.parse<string[]>(text, { delimiter: delimiterOf(text.slice(0, 8000)) }).data;
    keptOf(readLog(table, recognise(table.slice(0, 40)), 'Etc/UTC'), 54);
  });
}

/** Run by itself it prints its figures: a process without another's loader and garbage. */
export const PRINTS = 'CORK_EMBER_BELIEF_BENCH';
export interface BeliefFigures {
  readonly readings: readonly (readonly [name: string, ms: number])[];
  readonly openingMs: number;
  readonly importMs: number;
}

const asked = process.env[PRINTS];
if (asked === 'routes') process.stdout.write(JSON.stringify(halfOfRoutesMs()));
if (asked === 'rest')
  process.stdout.write(
    JSON.stringify({
      readings: readingsMs(),
      openingMs: openingMs(),
      importMs: importMs(),
    } satisfies BeliefFigures),
  );
