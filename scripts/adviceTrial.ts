/** One simulated battery put before four ways of deciding: what each is worth on it, checks and all. */
import { compare } from '@cork-ember/core/advice/compare.ts';
import { brokenOff, laterCost, onwardRows, planOf } from '@cork-ember/core/advice/staged.ts';
import { worthsOf as pricedOf, type Terms } from '@cork-ember/core/advice/rows.ts';
import { bestWay, evidenceOf } from '@cork-ember/core/advice/inStages.ts';
import type { LaterCheck } from '@cork-ember/core/advice/later.ts';
import { laterRead } from './laterRead.ts';
import { stepsOf } from '@cork-ember/core/adapters/routeMinutes.ts';
import type { Course, Onward } from '@cork-ember/core/advice/courses.ts';
import { bestCheck, JUDGES, minutesOf, type NextBest } from '@cork-ember/core/advice/bestCheck.ts';
import { nextChecks, readingsOf } from '@cork-ember/core/advice/nextCheck.ts';
import { outcomeOf, type Outcome } from '@cork-ember/core/advice/outcome.ts';
import { USUAL_COSTS, type Costs } from '@cork-ember/core/advice/worth.ts';
import { Belief, SIZE } from '@cork-ember/core/belief/belief.ts';
import type { Candidate } from '@cork-ember/core/belief/sample.ts';
import type { Check } from '@cork-ember/core/observation/checks.ts';
import { chanceFrom, normal } from '@cork-ember/core/chance/chance.ts';
import type { Setting } from '@cork-ember/core/candidate/traits.ts';
import { read } from '@cork-ember/core/observation/modelView.ts';
import { RECOVER_AGM } from '@cork-ember/core/runsheet/procedures/recovery.ts';
import { brought } from '@cork-ember/core/test/broughtIn.ts';
import { AGM_80, FLOODED_70 } from '@cork-ember/core/test/modelBench.ts';
import { historyOf, truthOf, type Truth } from './beliefTrial.ts';
import { meanOf } from './means.ts';

export const DECIDERS = [
  'staged',
  'paying',
  'settled',
  'every check',
  'strict',
  'charge everything',
  'looked',
  'oracle',
] as const;
export type Decider = (typeof DECIDERS)[number];

/** Where one stops asking: when no check pays for its hands, when none would change what is done, or never. */
const STOPS = ['staged', 'paying', 'settled', 'every check'] as const;
type Stop = (typeof STOPS)[number];

export interface AdviceTrial {
  /** Net worth on this battery, minutes of checks paid for. */
  readonly worth: Readonly<Record<Decider, number>>;
  readonly minutes: Readonly<Record<Stop, number>>;
  /** How much less the belief after every check holds each decision to be worth than its own; 0 is the same way. */
  readonly behind: Readonly<Record<Stop, number>>;
}

export const COSTS: Costs = { ...USUAL_COSTS, pricePerKwh: 0.3 };
export const STEPS = stepsOf(RECOVER_AGM.routes ?? [], brought('BK-A12/55').job.state.opened);
/** What pieces of a type differ by in mass, g an Ah and cell, as the belief allows: a full one may weigh more or less. */
const PIECE_G_PER_AH = 0.45;
/** A charger sees it from here, and the strict school tries it from here, V. */
const AWAKE_V = 10.5;

export const course = (id: string, ...routes: string[]): Course => ({ id, title: id, routes });

/** After a first charge: as it is, on to what else there is, or the recycler. */
const onwardFor = (isAgm: boolean, done: string): Onward[] => [
  { id: 'prove', title: 'prove', routes: [] },
  ...(done === 'slow-charge' || done === 'water-back'
    ? [isAgm ? 'long-soak' : 'constant-current', 'pulse'].map((id) => ({ id, title: id, routes: [id] }))
    : []),
  ...(isAgm || done !== 'slow-charge'
    ? []
    : [{ id: 'water-back', title: 'water back', routes: ['water-back', 'slow-charge'] }]),
  { id: 'retire', title: 'retire', routes: [] },
];

/** Ways that end in a charge, decided at their end. */
const inStages = (courses: readonly Course[], isAgm: boolean): Course[] =>
  courses.map((one) =>
    one.id !== 'prove' && one.id !== 'retire' ? { ...one, onward: onwardFor(isAgm, one.id) } : one,
  );

export function coursesFor(isAgm: boolean, isAsleep: boolean): Course[] {
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

interface Asked {
  readonly judges: readonly Candidate[];
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
  return {
    judges,
    means: worths.map(meanOf),
    next: bestCheck(checks, COSTS.handsPerHour),
    most: most?.check,
  };
}

/** What each course is worth on the battery itself. */
function worthsOf({ traits, perturb }: Truth, courses: readonly Course[], setting: Setting): number[] {
  const outcomes = courses.map((one) => [outcomeOf(one, traits, setting, perturb)]);
  return compare(courses, outcomes, setting, COSTS, STEPS).worths.map((row) => row[0] ?? 0);
}

/** By money alone: nobody is bound to charge it. */
const termsOf = (setting: Setting): Terms => ({
  setting,
  costs: COSTS,
  steps: STEPS,
  battery: setting.rating,
  together: 1,
  keptFrom: Number.POSITIVE_INFINITY,
});

/**
 * What a course that is decided on the way is worth on the battery itself: its first step done, read through instruments, and the way on
 * chosen by the candidates, weighed by what was read.
 */
function stagedWorth(
  one: Course,
  judged: readonly Outcome[],
  truth: Truth,
  setting: Setting,
  index: number,
): number {
  const terms = termsOf(setting);
  const own = outcomeOf(one, truth.traits, setting, truth.perturb);
  if (!own.staged) return 0;
  const { later } = own.staged;
  const seen = judged.flatMap(({ staged }) => staged?.later ?? []);
  const { worths, stoppedWorths, decided } = planOf(one, judged, terms);
  const read = (check: LaterCheck): Float64Array =>
    evidenceOf(check, laterRead(check, later[check], `advice ${index}`), seen, setting);
  const logs = read('early');
  if (bestWay([decided.goingOn, stoppedWorths], logs) === 1)
    return pricedOf(brokenOff(one, [own], terms), terms)[0] ?? 0;
  for (const check of decided.checks)
    if (check !== 'early') read(check).forEach((log, at) => (logs[at] = (logs[at] ?? 0) + log));
  const end = onwardRows(one, [own], terms)[bestWay(worths, logs)];
  const paidFor = decided.checks.reduce((sum, check) => sum + laterCost(check, COSTS), 0);
  return (end ? (pricedOf(end, terms)[0] ?? 0) : 0) - paidFor;
}

/** The most that could be had by one who must do a first step, or none, before he knows all. */
function lookedWorth(first: Course, truth: Truth, setting: Setting): number {
  const terms = termsOf(setting);
  const own = outcomeOf(first, truth.traits, setting, truth.perturb);
  return Math.max(...onwardRows(first, [own], terms).map((row) => pricedOf(row, terms)[0] ?? 0));
}

const paid = (minutes: number): number => (minutes / 60) * COSTS.handsPerHour;

/** What one belief makes of a battery, asked on until nothing is left to ask. */
interface Hidden {
  readonly setting: Setting;
  readonly truth: Truth;
  readonly ocvV: number;
  readonly pieceG: number;
  readonly index: number;
}

/** Reads a battery check by check; `at` is told where one stands before each. */
function reading(
  { setting, truth, ocvV, pieceG, index }: Hidden,
  courses: readonly Course[],
  at: (now: Asked, minutes: number) => void,
): void {
  const belief = new Belief(setting, SIZE.standing, 31 + index);
  belief.observe({ kind: 'ocv', volts: ocvV, isRested: true });
  belief.refine(1);
  let minutes = 0;
  for (;;) {
    const now = ask(belief, courses);
    const check = now.next?.advised.check ?? now.most;
    at(now, minutes);
    if (check === undefined) return;
    const readings = readingsOf(check, truth.shown, setting, `advice ${index}`);
    belief.observe(
      ...readings.map((one) => (one.kind === 'mass' ? { ...one, deficitG: one.deficitG + pieceG } : one)),
    );
    belief.refine(1);
    minutes += minutesOf(check, setting.rating.cells);
  }
}

interface Stopped {
  readonly worth: number;
  readonly minutes: number;
  readonly mean: number;
  readonly choice: number;
}

export function adviceTrial(index: number): AdviceTrial {
  const chance = chanceFrom(`advice ${index}`);
  const isAgm = index % 2 === 0;
  const setting: Setting = {
    rating: isAgm ? AGM_80 : FLOODED_70,
    history: historyOf(chance, isAgm ? 'agm' : 'flooded'),
    tempC: 21,
    isMassKnown: isAgm,
  };
  const truth = truthOf(chance, setting, 'perturbed');
  const ocvV = read(truth.shown.ocvV(), 'meterV', `advice ${index} ocv`);
  const pieceG = normal(chance) * PIECE_G_PER_AH * setting.rating.capacityAh * setting.rating.cells;
  const courses = coursesFor(isAgm, ocvV < AWAKE_V);
  const worths = worthsOf(truth, courses, setting);
  const battery = { setting, truth, ocvV, pieceG, index };

  const stopped = new Map<Stop, Stopped>();
  const stop = (name: Stop, worth: number, choice: number, now: Asked, minutes: number): void => {
    if (!stopped.has(name))
      stopped.set(name, { worth: worth - paid(minutes), minutes, mean: now.means[choice] ?? 0, choice });
  };
  const staged = inStages(courses, isAgm);
  /** The same checks, and then the way that is worth most if it is decided on the way. */
  const stage = (now: Asked, minutes: number): void => {
    if (stopped.has('staged')) return;
    const outcomes = staged.map((one) => now.judges.map(({ traits }) => outcomeOf(one, traits, setting)));
    const means = compare(staged, outcomes, setting, COSTS, STEPS).worths.map(meanOf);
    const choice = argMax(means);
    const chosen = staged[choice];
    const worth = chosen?.onward
      ? stagedWorth(chosen, outcomes[choice] ?? [], truth, setting, index)
      : (worths[choice] ?? 0);
    stop('staged', worth, choice, { ...now, means }, minutes);
  };
  let last: Asked | undefined;
  reading(battery, courses, (now, minutes) => {
    last = now;
    const choice = argMax(now.means);
    const here = (name: Stop): void => stop(name, worths[choice] ?? 0, choice, now, minutes);
    if (now.next?.pays !== true) {
      here('paying');
      stage(now, minutes);
    }
    if (now.next === undefined) here('settled');
    if ((now.next?.advised.check ?? now.most) === undefined) {
      here('paying');
      stage(now, minutes);
      here('settled');
      here('every check');
    }
  });
  const at = (id: string): number => worths[courses.findIndex((one) => one.id === id)] ?? 0;
  const of = <T>(value: (one: Stopped) => T): Record<Stop, T> =>
    Object.fromEntries(
      STOPS.map((name) => [name, value(stopped.get(name) ?? { worth: 0, minutes: 0, mean: 0, choice: 0 })]),
    ) as Record<Stop, T>;
  const final = last?.means ?? [];
  const firsts = staged.filter(({ onward }) => onward);
  return {
    worth: {
      ...of(({ worth }) => worth),
      strict: ocvV < AWAKE_V ? at('retire') : at('slow-charge'),
      'charge everything': at('slow-charge'),
      looked: Math.max(...firsts.slice(0, 1).map((one) => lookedWorth(one, truth, setting)), at('retire')),
      oracle: Math.max(...worths),
    },
    minutes: of(({ minutes }) => minutes),
    behind: of(({ choice }) => Math.max(...final) - (final[choice] ?? 0)),
  };
}
