/** A course run forward on one candidate battery: what it is good for afterwards, and what that took. */
import { onSix } from '../battery/types.ts';
import { ChargeEngine } from '../charge/engine.ts';
import { planFor } from '../charge/library.ts';
import { ModelRun } from '../charge/modelRun.ts';
import { averageA, type Profile, type ProfileId, type Stage, type Subject } from '../charge/profile.ts';
import { capacityShare } from '../belief/capacity.ts';
import { soundTesterA } from '../belief/figures.ts';
import { goThrough } from '../belief/passages.ts';
import { atReference, batteryFrom, type Perturb } from '../belief/piece.ts';
import { roomOf, type Setting, type Traits } from '../belief/traits.ts';
import { conductanceA } from '../observation/modelView.ts';
import type { CellString } from '../model/cellString.ts';
import { draw, postVolts, rest } from '../model/discharge.ts';
import { soundCell } from '../model/parameters.ts';
import { ENERGY_IN_J } from '../model/state.ts';
import { get } from '../model/state.ts';
import { gradeOf, type Grade } from '../grading/grade.ts';
import { holdOf, type Hold } from '../grading/hold.ts';
import type { Course } from './courses.ts';
import type { Spent } from './worth.ts';

export interface Outcome {
  readonly grade: Grade;
  /** Shares of the rating, measured after rest. */
  readonly capacity: number;
  readonly cranking: number;
  /** On charge and at rest until it could be proved, h. */
  readonly hours: number;
  /** On the charger alone, by route, h. */
  readonly chargedH: readonly { readonly route: string; readonly hours: number }[];
  readonly mainsWh: number;
  readonly waterMl: number;
  /** A charge that was stopped for its danger. */
  readonly isStopped: boolean;
}

const HOUR = 3600;
const DAY = 24 * HOUR;
/** Mains to battery (chargers' data; practice). */
const EFFICIENCY = 0.85;
/** A charger sees a battery from here, V per six cells (handbook 3.4). */
const SEES_V = 10.5;
const DONOR_HOURS = 3;
/** A longer look at any one route than this is another route. */
const MOST_S: Partial<Record<string, number>> = { pulse: 7 * DAY };
const USUAL_MOST_S = 48 * HOUR;
/** Days of rest after a long soak (handbook 3.4). */
const REST_AFTER_S: Partial<Record<string, number>> = { 'long-soak': 3 * DAY };

const subjectOf = ({ rating: { construction, cells, capacityAh } }: Setting): Subject => ({
  construction,
  cells,
  capacityAh,
});

/** Only the waking of a plan that would go on to full. */
function wakingOnly(profile: Profile): Profile {
  const waking = profile.stages.filter(({ id }) => id === 'nudge' || id === 'wake');
  const stages = waking.map((stage): Stage => ({
    ...stage,
    exits: stage.exits.map((exit) => (exit.next === 'bulk' ? { ...exit, next: 'full' } : exit)),
  }));
  return { ...profile, stages };
}

/** Pulses at no more than their average current: what they add beyond it is an assumption, and advice rests on none. */
function averaged(profile: Profile): Profile {
  const stages = profile.stages.map(({ pulse, ...stage }): Stage => ({
    ...stage,
    amps: pulse ? averageA(pulse) : stage.amps,
  }));
  return { ...profile, stages };
}

const PROFILE_OF: Partial<Record<string, ProfileId>> = {
  'slow-charge': 'slow',
  'high-then-low': 'high-then-low',
  'constant-current': 'constant-current',
  'long-soak': 'long-soak',
  pulse: 'pulse',
  equalise: 'equalise',
  'donor-wake': 'donor',
  'supply-wake': 'supply-wake',
};

/** A manual charger at C/20 for two hours, to the usual voltage. */
function forcedStart(subject: Subject): Profile {
  const slow = planFor('slow', subject);
  const [bulk] = slow.stages;
  if (!bulk) return slow;
  return {
    ...slow,
    purpose: 'wake',
    stages: [{ ...bulk, exits: [{ on: 'time', seconds: 2 * HOUR, next: 'full' }] }],
  };
}

/** Three rounds of two hours at the voltage where it gasses. */
function mixing(subject: Subject): Profile {
  const slow = planFor('slow', subject);
  const [bulk] = slow.stages;
  if (!bulk) return slow;
  return { ...slow, stages: [{ ...bulk, exits: [{ on: 'time', seconds: 6 * HOUR, next: 'full' }] }] };
}

function profileOf(route: string, subject: Subject): Profile | undefined {
  if (route === 'forced-start') return forcedStart(subject);
  if (route === 'layered') return mixing(subject);
  // After the discharge, which is drawn, comes its recharge.
  if (route === 'cycle') return planFor('slow', subject);
  const id = PROFILE_OF[route];
  if (id === undefined) return undefined;
  const profile = planFor(id, subject);
  if (route === 'pulse') return averaged(profile);
  return route === 'supply-wake' ? wakingOnly(profile) : profile;
}

/** What a candidate goes through, added up. */
class Journey {
  readonly cells: CellString;
  readonly chargedH: { route: string; hours: number }[] = [];
  hours = 0;
  energyJ = 0;
  isStopped = false;
  private readonly setting: Setting;

  constructor(cells: CellString, setting: Setting) {
    this.cells = cells;
    this.setting = setting;
  }

  rest(seconds: number): void {
    rest(this.cells, seconds);
    this.hours += seconds / HOUR;
  }

  charge(route: string, profile: Profile): void {
    const engine = new ChargeEngine(profile, subjectOf(this.setting));
    const run = new ModelRun(this.cells, engine, { ambientC: roomOf(this.setting) });
    const before = get(this.cells.state.shared, ENERGY_IN_J);
    run.runUntil(MOST_S[route] ?? USUAL_MOST_S);
    // What a discharge gives back is burnt in its load, not returned to the mains.
    this.energyJ += Math.max(0, get(this.cells.state.shared, ENERGY_IN_J) - before);
    this.isStopped ||= run.engineState.ended === 'runaway';
    this.hours += run.atS / HOUR;
    this.chargedH.push({ route, hours: run.atS / HOUR });
  }

  go(route: string): void {
    const { cells, setting } = this;
    if (route === 'cycle') {
      const { seconds } = draw(cells, setting.rating.capacityAh / 10, onSix(11.5, setting.rating), 12 * HOUR);
      this.hours += seconds / HOUR;
    }
    const profile = profileOf(route, subjectOf(setting));
    if (!profile || this.isStopped) return;
    if (route !== 'donor-wake') this.charge(route, profile);
    else
      for (let hour = 0; hour < DONOR_HOURS; hour++) {
        this.charge(route, profile);
        this.rest(0.5 * HOUR);
        if (postVolts(cells) >= onSix(SEES_V, setting.rating)) break;
      }
    this.rest(REST_AFTER_S[route] ?? 0);
  }
}

/** What loses less in a day holds the week, V. */
const SURE_TO_HOLD_V = 0.014;

/** Share of the water lost that one dose puts back: an AGM's dose is about 1 mL per Ah and cell (handbook 3.4). */
function watered(traits: Traits, setting: Setting): { traits: Traits; ml: number } {
  const { rating } = setting;
  const cell = soundCell(rating);
  const lostMl = cell.waterG * traits.dryShare;
  const dose = rating.construction === 'agm' ? rating.capacityAh : lostMl;
  const back = Math.min(lostMl, dose);
  return {
    traits: { ...traits, dryShare: traits.dryShare - back / cell.waterG },
    ml: dose * rating.cells,
  };
}

/** By a tester once it is at 25 °C, share of a sound one's; the battery itself stays as it is. */
function crankingShare(cells: CellString, setting: Setting): number {
  const kept = cells.state.keeper();
  cells.state.keepIn(kept);
  const share = conductanceA(atReference(cells)) / soundTesterA(setting);
  cells.state.takeBack(kept);
  return share;
}

/**
 * Runs a course on a candidate. A pure function of both: the same candidate always ends the same.
 * @param perturb for a battery that is not quite the model's own
 */
export function outcomeOf(course: Course, candidate: Traits, setting: Setting, perturb?: Perturb): Outcome {
  const water = course.routes.includes('water-back') ? watered(candidate, setting) : undefined;
  const journey = new Journey(batteryFrom(water?.traits ?? candidate, setting, perturb), setting);
  const { cells } = journey;
  for (const passage of setting.passages ?? []) goThrough(cells, passage, setting.rating, roomOf(setting));
  for (const route of course.routes) journey.go(route);
  journey.rest(DAY);
  const rested = postVolts(cells);
  const capacity = capacityShare(cells, setting.rating, true);
  const cranking = crankingShare(cells, setting);
  const { hours } = journey;
  journey.rest(DAY);
  const afterDay = postVolts(cells);
  const verdictAfter = (days: number, volts: number): Hold['verdict'] =>
    holdOf({
      construction: setting.rating.construction,
      cells: cells.groupOf.length,
      capacityAh: setting.rating.capacityAh,
      before: { at: 0, volts: rested, tempC: roomOf(setting) },
      after: { at: days * DAY * 1000, volts, tempC: roomOf(setting) },
    }).verdict;
  const day = verdictAfter(1, afterDay);
  // What lost next to nothing in a day is not run for the week.
  if (day === 'held' && rested - afterDay > SURE_TO_HOLD_V) journey.rest(6 * DAY);
  const week = verdictAfter(7, postVolts(cells));
  const { grade } = gradeOf({ isRated: true, capacityShare: capacity, crankingShare: cranking, day, week });
  return {
    grade,
    capacity,
    cranking,
    hours,
    chargedH: journey.chargedH,
    mainsWh: journey.energyJ / HOUR / EFFICIENCY,
    waterMl: water?.ml ?? 0,
    isStopped: journey.isStopped,
  };
}

/** Of hands at the run sheet for one look at a running charge (practice). */
const LOOK_MIN = 1;

/**
 * Minutes of hands of a course, by its run sheet: each step's own, and a look as often as each charge wants one.
 * @param stepsOf steps of a route by its name
 * @param together batteries looked at in one round: a look is shared by them
 */
export function handsMinOf(
  course: Course,
  outcome: Pick<Outcome, 'chargedH'>,
  stepsOf: (route: string) => readonly { readonly handsMin: number; readonly lookEveryMin?: number }[],
  together = 1,
): number {
  const prove = course.id === 'retire' ? [] : ['prove'];
  const routes = [...new Set([...course.routes, ...prove])];
  const own = routes.flatMap(stepsOf).reduce((sum, { handsMin }) => sum + handsMin, 0);
  const looks = outcome.chargedH.reduce((sum, { route, hours }) => {
    const everyMin = Math.min(...stepsOf(route).map(({ lookEveryMin }) => lookEveryMin ?? Infinity));
    return sum + (Number.isFinite(everyMin) ? (Math.ceil((hours * 60) / everyMin) * LOOK_MIN) / together : 0);
  }, 0);
  return own + looks;
}

export const spentBy = (outcome: Outcome, handsMin: number): Spent => ({
  handsMin,
  bayH: outcome.chargedH.reduce((sum, { hours }) => sum + hours, 0),
  mainsWh: outcome.mainsWh,
  waterMl: outcome.waterMl,
});
