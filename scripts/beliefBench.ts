/** How long a belief takes over one reading, the ways back over a belief, and a logger's file over its rows. */
import papaparse from 'papaparse';
import type { Course } from '@cork-ember/core/advice/courses.ts';
import { JUDGES } from '@cork-ember/core/advice/nextCheck.ts';
import { outcomeOf } from '@cork-ember/core/advice/outcome.ts';
import { Belief } from '@cork-ember/core/belief/belief.ts';
import type { Reading } from '@cork-ember/core/belief/readings.ts';
import type { Setting } from '@cork-ember/core/belief/traits.ts';
import { delimiterOf, keptOf, readLog, recognise } from '@cork-ember/core/logger/log.ts';
import { FLOODED_70 } from '@cork-ember/core/test/modelBench.ts';

const stopwatch = globalThis.performance;
const CANDIDATES = 1000;
const ROWS = 200_000;

const setting: Setting = {
  rating: FLOODED_70,
  history: { construction: 'flooded', ageYears: 4, flatMonths: 3, complaint: 'parked' },
  tempC: 21,
};

const READINGS: readonly Reading[] = [
  { kind: 'ocv', volts: 12.05, isRested: true },
  { kind: 'tester', amps: 310 },
  { kind: 'density', cell: 3, density: 1.17 },
  { kind: 'level', cell: 2, level: 'at-line' },
  { kind: 'acceptance', volts: 14.4, amps: 6 },
  { kind: 'load', amps: 210, seconds: 15, volts: 8.9 },
];

const timed = (work: () => void): number => {
  const begun = stopwatch.now();
  work();
  return stopwatch.now() - begun;
};

/** Each reading in turn, to what the screen then shows; candidates are drawn anew afterwards, as in the worker, ms. */
export function readingsMs(): readonly (readonly [kind: string, ms: number])[] {
  const belief = new Belief(setting, CANDIDATES, 7);
  belief.summary();
  return READINGS.map((reading) => {
    const ms = timed(() => {
      const quick = belief.preview([reading]);
      if (quick) return;
      belief.observe(reading);
      belief.summary();
    });
    if (belief.known.at(-1) !== reading) belief.observe(reading);
    belief.refine(1);
    belief.summary();
    return [reading.kind, ms];
  });
}

const course = (id: string, ...routes: string[]): Course => ({ id, title: id, routes });
const EIGHT: readonly Course[] = [
  course('slow-charge', 'slow-charge'),
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
    keptOf(readLog(table, recognise(table.slice(0, 40))), 54);
  });
}

/** Run by itself it prints its figures: a process without another's loader and garbage. */
export const PRINTS = 'CORK_EMBER_BELIEF_BENCH';
export interface BeliefFigures {
  readonly readings: readonly (readonly [kind: string, ms: number])[];
  readonly importMs: number;
}

const asked = process.env[PRINTS];
if (asked === 'routes') process.stdout.write(JSON.stringify(halfOfRoutesMs()));
if (asked === 'rest')
  process.stdout.write(
    JSON.stringify({ readings: readingsMs(), importMs: importMs() } satisfies BeliefFigures),
  );
