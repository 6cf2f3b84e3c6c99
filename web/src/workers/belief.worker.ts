/** Believes off the main thread: a reading more is taken in, anything else begins anew. */
import { expose } from 'comlink';
import type { Course } from '@cork-ember/core/advice/courses.ts';
import { nextChecks, type Advised } from '@cork-ember/core/advice/nextCheck.ts';
import { bandOf, type Band } from '@cork-ember/core/belief/band.ts';
import { AT_REST, Belief, SIZE, type Candidate } from '@cork-ember/core/belief/belief.ts';
import type { Interval, Summary } from '@cork-ember/core/belief/figures.ts';
import { ASKED, explain, type Explained } from '@cork-ember/core/belief/explain.ts';
import { isDear, type Reading } from '@cork-ember/core/belief/readings.ts';
import { strataOf, type Stratum } from '@cork-ember/core/belief/strata.ts';
import type { Setting, Traits } from '@cork-ember/core/belief/traits.ts';

export interface Believed {
  readonly summary: Summary;
  readonly explained: readonly Explained[];
}

export interface Refined {
  readonly summary: Summary;
  /** So many moves the answer at rest wants. */
  readonly wanted: number;
}

/** Whose curves make the band of a charge. */
const BAND_COUNT = 60;

interface Known {
  readonly explained: Map<string, Explained>;
  readonly setting: string;
  readonly strata: readonly Stratum[];
  readonly belief: Belief;
}

let known: Known | undefined;
let judges: readonly Candidate[] = [];

function begin(setting: Setting, seed: number): Known {
  const key = JSON.stringify(setting);
  if (known?.setting === key) return known;
  const strata = strataOf(setting, ASKED.still, seed);
  return { setting: key, strata, belief: new Belief(setting, SIZE.standing, seed), explained: new Map() };
}

/** Whether these readings are those known, and more. */
function goesOn(belief: Belief, readings: readonly Reading[]): boolean {
  return belief.known.every((reading, index) => JSON.stringify(reading) === JSON.stringify(readings[index]));
}

/** Readings answered for by weight alone so far. */
let pending: readonly Reading[] = [];

function take(belief: Belief, readings: readonly Reading[]): void {
  for (const reading of readings) {
    if (isDear(reading) && (reading.kind === 'look' || (reading.stage ?? 0) > 0)) belief.thin(SIZE.charged);
    belief.observe(reading);
  }
}

function takePending(): void {
  const readings = pending;
  pending = [];
  if (known) take(known.belief, readings);
}

const believer = {
  /**
   * @param seed the same seed believes the same
   * @throws RangeError in one sentence for a label the model cannot be made from
   */
  believe(setting: Setting, readings: readonly Reading[], seed: number): Believed {
    takePending();
    const start = begin(setting, seed);
    const isMore = known === start && goesOn(start.belief, readings);
    const belief = isMore ? start.belief : new Belief(setting, SIZE.standing, seed);
    known = { ...start, belief };
    const more = readings.slice(belief.known.length);
    // The answer of the moment where it can be given; the candidates are drawn anew once nobody waits.
    const quick = isMore ? belief.preview(more) : undefined;
    if (quick) pending = more;
    else take(belief, more);
    const explained = explain(start.strata, readings, setting, start.explained);
    return { summary: quick ?? belief.summary(), explained };
  },

  /** So many candidates as stand for the belief, for what is run forward on them. */
  spread(count: number): Traits[] {
    judges = known?.belief.spread(count) ?? [];
    return judges.map(({ traits }) => traits);
  },

  /** What the charge that is on will probably show. */
  band(stage: number, minutes: number): Band | undefined {
    if (!known) return undefined;
    const { belief } = known;
    return bandOf(belief.spread(BAND_COUNT), stage, minutes, belief.setting.rating.capacityAh);
  },

  /** Minutes the battery would give a current, from where it stands now. */
  reserve(amps: number): Interval | undefined {
    takePending();
    return known?.belief.reserve(amps);
  },

  /**
   * What each check still open is worth, the best first.
   * @param worths by course, by candidate in the order of `spread`
   */
  checks(courses: readonly Course[], worths: readonly (readonly number[])[]): Advised[] {
    if (!known || judges.length === 0) return [];
    const { belief } = known;
    return nextChecks(belief.known, judges, worths, courses, belief.setting);
  },

  /**
   * One more move of each candidate, for after the answer; a reading that comes meanwhile is taken in between two.
   * @returns undefined once another battery is believed about, or more was read than these
   */
  refined(setting: Setting, readings: readonly Reading[]): Refined | undefined {
    takePending();
    if (known?.setting !== JSON.stringify(setting)) return undefined;
    if (known.belief.known.length !== readings.length || !goesOn(known.belief, readings)) return undefined;
    const { belief } = known;
    belief.refine(1);
    return {
      summary: belief.summary(),
      wanted: belief.size <= SIZE.charged ? AT_REST.charged : AT_REST.standing,
    };
  },
};

export type Believer = typeof believer;

expose(believer);
