/** One simulated battery put before four ways of deciding: what each is worth on it, checks and all. */
import { compare } from '@cork-ember/core/advice/compare.ts';
import { stepsOf } from '@cork-ember/core/adapters/routeMinutes.ts';
import type { Course } from '@cork-ember/core/advice/courses.ts';
import {
  bestCheck,
  JUDGES,
  minutesOf,
  nextChecks,
  readingsOf,
  type NextBest,
} from '@cork-ember/core/advice/nextCheck.ts';
import { outcomeOf } from '@cork-ember/core/advice/outcome.ts';
import { USUAL_COSTS, type Costs } from '@cork-ember/core/advice/worth.ts';
import { Belief, SIZE } from '@cork-ember/core/belief/belief.ts';
import type { Check } from '@cork-ember/core/belief/checks.ts';
import { chanceFrom, normal } from '@cork-ember/core/chance/chance.ts';
import type { Setting } from '@cork-ember/core/belief/traits.ts';
import { read } from '@cork-ember/core/observation/modelView.ts';
import { RECOVER_AGM } from '@cork-ember/core/runsheet/procedures/recovery.ts';
import { brought } from '@cork-ember/core/test/broughtIn.ts';
import { AGM_80, FLOODED_70 } from '@cork-ember/core/test/modelBench.ts';
import { historyOf, truthOf, type Truth } from './beliefTrial.ts';

export const DECIDERS = [
  'paying',
  'settled',
  'every check',
  'strict',
  'charge everything',
  'oracle',
] as const;
export type Decider = (typeof DECIDERS)[number];

/** Where one stops asking: when no check pays for its hands, when none would change what is done, or never. */
const STOPS = ['paying', 'settled', 'every check'] as const;
type Stop = (typeof STOPS)[number];

export interface AdviceTrial {
  /** Net worth on this battery, minutes of checks paid for. */
  readonly worth: Readonly<Record<Decider, number>>;
  readonly minutes: Readonly<Record<Stop, number>>;
  /** How much less the belief after every check holds each decision to be worth than its own; 0 is the same way. */
  readonly behind: Readonly<Record<Stop, number>>;
}

const COSTS: Costs = { ...USUAL_COSTS, pricePerKwh: 0.3 };
const STEPS = stepsOf(RECOVER_AGM.routes ?? [], brought('BK-A12/55').job.state.opened);
/** What pieces of a type differ by in mass, g an Ah and cell, as the belief allows: a full one may weigh more or less. */
const PIECE_G_PER_AH = 0.45;
/** A charger sees it from here, and the strict school tries it from here, V. */
const AWAKE_V = 10.5;

const course = (id: string, ...routes: string[]): Course => ({ id, title: id, routes });

function coursesFor(isAgm: boolean, isAsleep: boolean): Course[] {
  const woken = (id: string): Course => course(id, ...(isAsleep ? ['supply-wake', id] : [id]));
  return [
    woken('slow-charge'),
    woken(isAgm ? 'long-soak' : 'constant-current'),
    woken('pulse'),
    ...(isAgm
      ? []
      : [course('water-back', 'water-back', ...(isAsleep ? ['supply-wake'] : []), 'slow-charge')]),
    ...(isAsleep ? [] : [course('prove', 'prove')]),
    course('retire', 'retire'),
  ];
}

const argMax = (values: readonly number[]): number =>
  values.reduce((best, value, index) => (value > (values[best] ?? 0) ? index : best), 0);
const meanOf = (values: readonly number[]): number =>
  values.reduce((sum, value) => sum + value, 0) / values.length;

interface Asked {
  readonly means: number[];
  readonly next: NextBest | undefined;
  /** Of the checks left the one that would change what is done most per minute, settled or not. */
  readonly most: Check | undefined;
}

/** What each course is worth on a belief now, and the check to make next. */
function ask(belief: Belief, courses: readonly Course[]): Asked {
  const { setting } = belief;
  const judges = belief.spread(JUDGES);
  const outcomes = courses.map((one) => judges.map(({ traits }) => outcomeOf(one, traits, setting)));
  const { worths } = compare(courses, outcomes, setting, COSTS, STEPS);
  const checks = nextChecks(belief.known, judges, worths, courses, setting);
  const [most] = [...checks].sort((a, b) => b.changes / b.minutes - a.changes / a.minutes);
  return { means: worths.map(meanOf), next: bestCheck(checks, COSTS.handsPerHour), most: most?.check };
}

/** What each course is worth on the battery itself. */
function worthsOf({ traits, perturb }: Truth, courses: readonly Course[], setting: Setting): number[] {
  const outcomes = courses.map((one) => [outcomeOf(one, traits, setting, perturb)]);
  return compare(courses, outcomes, setting, COSTS, STEPS).worths.map((row) => row[0] ?? 0);
}

const paid = (minutes: number): number => (minutes / 60) * COSTS.handsPerHour;

export function adviceTrial(index: number): AdviceTrial {
  const chance = chanceFrom(3_000_017 + 7919 * index);
  const isAgm = index % 2 === 0;
  const setting: Setting = {
    rating: isAgm ? AGM_80 : FLOODED_70,
    history: historyOf(chance, isAgm ? 'agm' : 'flooded'),
    tempC: 21,
    isMassKnown: isAgm,
  };
  const truth = truthOf(chance, setting, true);
  const ocvV = read(truth.shown.ocvV(), 'meterV', `advice ${index} ocv`);
  const pieceG = normal(chance) * PIECE_G_PER_AH * setting.rating.capacityAh * setting.rating.cells;
  const courses = coursesFor(isAgm, ocvV < AWAKE_V);
  const worths = worthsOf(truth, courses, setting);
  const belief = new Belief(setting, SIZE.standing, 31 + index);
  belief.observe({ kind: 'ocv', volts: ocvV, isRested: true });
  belief.refine(1);
  let minutes = 0;
  let now = ask(belief, courses);
  const stopped: Partial<Record<Stop, { readonly choice: number; readonly minutes: number }>> = {};
  const stop = (name: Stop): void => {
    stopped[name] ??= { choice: argMax(now.means), minutes };
  };
  for (;;) {
    if (now.next?.pays !== true) stop('paying');
    if (now.next === undefined) stop('settled');
    const check = now.next?.advised.check ?? now.most;
    if (check === undefined) break;
    const readings = readingsOf(check, truth.shown, setting, `advice ${index}`);
    belief.observe(
      ...readings.map((one) => (one.kind === 'mass' ? { ...one, deficitG: one.deficitG + pieceG } : one)),
    );
    belief.refine(1);
    minutes += minutesOf(check, setting.rating.cells);
    now = ask(belief, courses);
  }
  for (const name of STOPS) stop(name);

  const at = (id: string): number => worths[courses.findIndex((one) => one.id === id)] ?? 0;
  const of = <T>(value: (choice: number, minutes: number) => T): Record<Stop, T> =>
    Object.fromEntries(
      STOPS.map((name) => {
        const { choice, minutes: spent } = stopped[name] ?? { choice: 0, minutes: 0 };
        return [name, value(choice, spent)];
      }),
    ) as Record<Stop, T>;
  const best = Math.max(...now.means);
  return {
    worth: {
      ...of((choice, spent) => (worths[choice] ?? 0) - paid(spent)),
      strict: ocvV < AWAKE_V ? at('retire') : at('slow-charge'),
      'charge everything': at('slow-charge'),
      oracle: Math.max(...worths),
    },
    minutes: of((_, spent) => spent),
    behind: of((choice) => best - (now.means[choice] ?? 0)),
  };
}
