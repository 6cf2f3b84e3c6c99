/** One simulated battery put before four ways of deciding: what each is worth on it, checks and all. */
import { compare, stepsOf } from '@cork-ember/core/advice/compare.ts';
import type { Course } from '@cork-ember/core/advice/courses.ts';
import {
  bestCheck,
  checksLeft,
  minutesOf,
  nextChecks,
  readingsOf,
  type Check,
} from '@cork-ember/core/advice/nextCheck.ts';
import { outcomeOf } from '@cork-ember/core/advice/outcome.ts';
import { USUAL_COSTS, type Costs } from '@cork-ember/core/advice/worth.ts';
import { Belief } from '@cork-ember/core/belief/belief.ts';
import { chanceFrom } from '@cork-ember/core/belief/chance.ts';
import type { Setting } from '@cork-ember/core/belief/traits.ts';
import { read } from '@cork-ember/core/instruments/modelView.ts';
import { RECOVER_AGM } from '@cork-ember/core/runsheet/procedures/recovery.ts';
import { AGM_80, FLOODED_70 } from '@cork-ember/core/test/modelBench.ts';
import { historyOf, truthOf, type Truth } from './beliefTrial.ts';

export const DECIDERS = ['advice', 'every check', 'strict', 'charge everything', 'oracle'] as const;
export type Decider = (typeof DECIDERS)[number];

export interface AdviceTrial {
  /** Net worth on this battery, minutes of checks paid for. */
  readonly worth: Readonly<Record<Decider, number>>;
  readonly minutes: { readonly advised: number; readonly full: number };
  readonly isSameDecision: boolean;
}

const COSTS: Costs = { ...USUAL_COSTS, pricePerKwh: 0.3 };
const STEPS = stepsOf(RECOVER_AGM.routes ?? []);
const CANDIDATES = 40;
const COUNT = 300;
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

/** What is decided on a belief now, and the check that would be worth making before. */
function decide(
  belief: Belief,
  courses: readonly Course[],
  wantsCheck: boolean,
): { readonly choice: number; readonly check: Check | undefined } {
  const { setting } = belief;
  const judges = belief.spread(CANDIDATES);
  const outcomes = courses.map((one) => judges.map(({ traits }) => outcomeOf(one, traits, setting)));
  const { worths } = compare(courses, outcomes, setting, COSTS, STEPS);
  const choice = argMax(worths.map(meanOf));
  const checks = wantsCheck ? nextChecks(belief.known, judges, worths, courses, setting) : [];
  return { choice, check: bestCheck(checks, COSTS.handsPerHour)?.check };
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
  };
  const truth = truthOf(chance, setting, true);
  const ocvV = read(truth.shown.ocvV(), 'meterV', `advice ${index} ocv`);
  const courses = coursesFor(isAgm, ocvV < AWAKE_V);
  const worths = worthsOf(truth, courses, setting);
  const begin = (): Belief => {
    const belief = new Belief(setting, COUNT, 31 + index);
    belief.observe({ kind: 'ocv', volts: ocvV, isRested: true });
    belief.refine(1);
    return belief;
  };
  const ask = (belief: Belief, check: Check): number => {
    belief.observe(...readingsOf(check, truth.shown, setting, `advice ${index}`));
    belief.refine(1);
    return minutesOf(check, setting.rating.cells);
  };

  const advised = begin();
  let minutes = 0;
  let now = decide(advised, courses, true);
  while (now.check) {
    minutes += ask(advised, now.check);
    now = decide(advised, courses, true);
  }
  const whole = begin();
  let fullMinutes = 0;
  for (const check of checksLeft(whole.known, setting)) fullMinutes += ask(whole, check);
  const full = decide(whole, courses, false);

  const at = (id: string): number => worths[courses.findIndex((one) => one.id === id)] ?? 0;
  return {
    worth: {
      advice: (worths[now.choice] ?? 0) - paid(minutes),
      'every check': (worths[full.choice] ?? 0) - paid(fullMinutes),
      strict: ocvV < AWAKE_V ? at('retire') : at('slow-charge'),
      'charge everything': at('slow-charge'),
      oracle: Math.max(...worths),
    },
    minutes: { advised: minutes, full: fullMinutes },
    isSameDecision: now.choice === full.choice,
  };
}
