/** A course run forward on one candidate battery: what it is good for afterwards, and what that took. */
import { capacityShare } from '../candidate/capacity.ts';
import { soundTesterA } from '../belief/figures.ts';
import { Way } from '../observation/passages.ts';
import { atReference, batteryFrom, type Perturb } from '../candidate/piece.ts';
import { roomOf, type Setting, type Traits } from '../candidate/traits.ts';
import { gradeOf, type Grade } from '../grading/grade.ts';
import { holdOf, type Hold } from '../grading/hold.ts';
import type { CellString } from '../model/cellString.ts';
import { postVolts } from '../model/discharge.ts';
import { conductanceA } from '../observation/modelView.ts';
import type { Course } from './courses.ts';
import { DAY, HOUR, Journey } from './journey.ts';
import type { Later } from './later.ts';
import { laterOf } from './laterLook.ts';

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
  /** Of a course that is decided on the way: what it then shows, and how each way on from there ends. */
  readonly staged?: {
    readonly later: Later;
    readonly onward: readonly Outcome[];
    /** On a charger, and from the mains, by the time its first charge is looked at. */
    readonly early: { readonly hours: number; readonly mainsWh: number };
  };
}

/** Mains to battery (chargers' data; practice). */
const EFFICIENCY = 0.85;
/** What loses less in a day holds the week, V. */
const SURE_TO_HOLD_V = 0.014;

/** By a tester once it is at 25 °C, share of a sound one's; the battery itself stays as it is. */
function crankingShare(cells: CellString, setting: Setting): number {
  const kept = cells.state.keeper();
  cells.state.keepIn(kept);
  const share = conductanceA(atReference(cells)) / soundTesterA(setting);
  cells.state.takeBack(kept);
  return share;
}

/** Rested for a day, and proved. */
function proved(journey: Journey, setting: Setting): Outcome {
  journey.rest(DAY);
  return provedRested(journey, setting).outcome;
}

/** Graded as it stands, and held for a day or a week. */
function provedRested(
  journey: Journey,
  setting: Setting,
): { readonly outcome: Outcome; readonly lostInDayV: number } {
  const { cells, hours } = journey;
  const rested = postVolts(cells);
  const capacity = capacityShare(cells, setting.rating, true);
  const cranking = crankingShare(cells, setting);
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
  const outcome = {
    grade,
    capacity,
    cranking,
    hours,
    chargedH: [...journey.chargedH],
    mainsWh: journey.energyJ / HOUR / EFFICIENCY,
    waterMl: journey.waterMl,
    isStopped: journey.isStopped,
  };
  return { outcome, lostInDayV: rested - afterDay };
}

/**
 * Runs a course on a candidate. A pure function of both: the same candidate always ends the same.
 * @param perturb for a battery that is not quite the model's own
 */
export function outcomeOf(course: Course, candidate: Traits, setting: Setting, perturb?: Perturb): Outcome {
  const journey = new Journey(batteryFrom(candidate, setting, perturb), setting);
  for (const passage of setting.passages ?? [])
    new Way(journey.cells, passage, setting.rating, roomOf(setting)).toEnd();
  for (const route of course.routes) journey.go(route);
  const { onward } = course;
  if (!onward) return proved(journey, setting);
  journey.rest(DAY);
  const rested = journey.copy();
  const { outcome: asItIs, lostInDayV } = provedRested(journey, setting);
  const ended = onward.map(({ routes }) => {
    if (routes.length === 0) return asItIs;
    const on = rested.copy();
    for (const route of routes) on.go(route);
    return proved(on, setting);
  });
  const { hours = rested.hours, energyJ = rested.energyJ } = rested.early ?? {};
  const early = { hours, mainsWh: energyJ / HOUR / EFFICIENCY };
  return {
    ...asItIs,
    staged: {
      later: laterOf(rested, { capacity: asItIs.capacity, lostInDayV }, setting),
      onward: ended,
      early,
    },
  };
}
