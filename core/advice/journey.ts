/** What a battery goes through on a way back, route by route, added up. */
import { onSix } from '../battery/types.ts';
import { ChargeEngine } from '../charge/engine.ts';
import { planFor, wakingPlan } from '../charge/library.ts';
import { ModelRun } from '../charge/modelRun.ts';
import { averageA, type Profile, type ProfileId, type Stage, type Subject } from '../charge/profile.ts';
import { roomOf, type Setting } from '../candidate/traits.ts';
import { lend, type CellString } from '../model/cellString.ts';
import { isWake } from './courses.ts';
import { COARSE, COARSE_REST } from '../candidate/coarse.ts';
import { settled } from '../candidate/piece.ts';
import { draw, postVolts, rest } from '../model/discharge.ts';
import { CASE_C, CHARGE_IN_AH, ENERGY_IN_J, get } from '../model/state.ts';

export const HOUR = 3600;
export const DAY = 24 * HOUR;
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
  if (id === 'supply-wake') return wakingPlan(subject);
  const profile = planFor(id, subject);
  return route === 'pulse' ? averaged(profile) : profile;
}

/** Into the first charge that does more than wake: by then a dead cell, an open one and a film have shown themselves. */
export const EARLY_S = 2 * HOUR;

/** How the first charge stood after {@link EARLY_S}, and what it had taken by then. */
export interface EarlyLook {
  readonly volts: number;
  readonly amps: number;
  readonly tempC: number;
  readonly hours: number;
  readonly energyJ: number;
}

/** What a candidate goes through, added up. */
export class Journey {
  readonly cells: CellString;
  readonly chargedH: { route: string; hours: number }[] = [];
  hours = 0;
  energyJ = 0;
  /** Put into it by charges, Ah. */
  takenAh = 0;
  waterMl = 0;
  isStopped = false;
  early: EarlyLook | undefined;
  private readonly setting: Setting;

  constructor(cells: CellString, setting: Setting) {
    this.cells = cells;
    this.setting = setting;
  }

  /** The same battery at the same point of its way, to go on from in another direction. */
  copy(): Journey {
    const again = new Journey(settled(lend(this.cells)), this.setting);
    again.chargedH.push(...this.chargedH);
    again.hours = this.hours;
    again.energyJ = this.energyJ;
    again.takenAh = this.takenAh;
    again.waterMl = this.waterMl;
    again.isStopped = this.isStopped;
    again.early = this.early;
    return again;
  }

  /** An AGM's dose is about 1 mL per Ah and cell (handbook 3.4); a flooded one is filled to its line. */
  private water(): void {
    const { construction, capacityAh } = this.setting.rating;
    const { state, counts, groups } = this.cells;
    for (let g = 0; g < groups; g++) {
      const lostMl = get(state.lostG, g);
      const dose = construction === 'agm' ? capacityAh : lostMl;
      state.lostG[g] = lostMl - Math.min(lostMl, dose);
      this.waterMl += dose * get(counts, g);
    }
  }

  rest(seconds: number): void {
    rest(this.cells, seconds, COARSE_REST);
    this.hours += seconds / HOUR;
  }

  charge(route: string, profile: Profile): void {
    const engine = new ChargeEngine(profile, subjectOf(this.setting));
    const run = new ModelRun(this.cells, engine, {
      ambientC: roomOf(this.setting),
      steps: COARSE,
    });
    const { shared } = this.cells.state;
    const before = get(shared, ENERGY_IN_J);
    const beforeAh = get(shared, CHARGE_IN_AH);
    if (!this.early && !isWake(route)) {
      run.runUntil(EARLY_S);
      this.early = {
        volts: postVolts(this.cells),
        amps: this.cells.currentA,
        tempC: get(shared, CASE_C),
        hours: this.hours + run.atS / HOUR,
        energyJ: this.energyJ + Math.max(0, get(shared, ENERGY_IN_J) - before),
      };
    }
    run.runUntil(MOST_S[route] ?? USUAL_MOST_S);
    // What a discharge gives back is burnt in its load, not returned to the mains.
    this.energyJ += Math.max(0, get(shared, ENERGY_IN_J) - before);
    this.takenAh += get(shared, CHARGE_IN_AH) - beforeAh;
    this.isStopped ||= run.engineState.ended === 'runaway';
    this.hours += run.atS / HOUR;
    this.chargedH.push({ route, hours: run.atS / HOUR });
  }

  go(route: string): void {
    const { cells, setting } = this;
    if (route === 'water-back') this.water();
    if (route === 'cycle') {
      const { seconds } = draw(
        cells,
        setting.rating.capacityAh / 10,
        onSix(11.5, setting.rating),
        12 * HOUR,
        COARSE,
      );
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
