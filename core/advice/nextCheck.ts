/**
 * The next best check: the reading whose result is expected to change the decision most, per minute of hands.
 * @see Raiffa & Schlaifer 1961, Applied Statistical Decision Theory (expected value of sample information)
 */
import { median } from 'd3-array';
import { CHECKS, exactly, OPENED, throughInstrument, type Check } from '../observation/checks.ts';
import { logLikelihood } from '../observation/likelihood.ts';
import { isMute, standsAt } from '../observation/flat.ts';
import { isChange } from '../candidate/passage.ts';
import type { Reading } from '../observation/readings.ts';
import type { Shown } from '../observation/shown.ts';
import type { Setting } from '../candidate/traits.ts';
import { minutesOf, type Advised, type Meaning } from './bestCheck.ts';
import { isOfTheHouse, type Course } from './courses.ts';

/** What a check of this battery would read, instrument's error and all. */
export function readingsOf(check: Check, shown: Shown, setting: Setting, seed: string): Reading[] {
  return exactly(check, shown, setting).map((reading) => throughInstrument(reading, seed));
}

/** What a check reads, in one figure, for saying which result means what. */
function figureOf(check: Check, readings: readonly Reading[]): number {
  const values = readings.map((reading) => {
    switch (reading.kind) {
      case 'load':
      case 'ocv':
        return reading.volts;
      case 'tester':
      case 'acceptance':
        return reading.amps;
      case 'density':
        return reading.density;
      case 'level':
        return reading.level === 'at-line' ? 0 : 1;
      case 'dips': {
        const steps = reading.volts.slice(1, -1);
        return Math.min(...steps);
      }
      case 'bubbles':
        return reading.bubbles === 'none' ? 0 : 1;
      case 'look':
      case 'drain':
      case 'crank':
      case 'hold':
        return reading.volts;
      case 'mass':
        return Math.max(0, reading.deficitG);
      case 'resistance':
        return reading.ohm;
      case 'warmth':
        return Math.max(...reading.cells.map(({ tempC }) => tempC));
      case 'reserve':
        return reading.minutes;
      case 'charger':
        return reading.view === 'finishes' ? 0 : 1;
    }
  });
  return check === 'density' || check === 'dips' ? Math.min(...values) : Math.max(...values);
}

const UNITS: Record<Check, readonly [unit: string, decimals: number, what: string]> = {
  load: ['V', 1, ''],
  tester: ['A', 0, ''],
  acceptance: ['A', 1, ''],
  mass: ['g', 0, 'lighter by '],
  density: ['', 3, 'lowest cell '],
  level: ['', 0, ''],
  dips: ['V', 2, 'lowest step '],
};

/** A candidate of the far forecast, and what it shows as it was found. */
export interface Judge {
  readonly shown: Shown;
}

const argMax = (values: readonly number[]): number =>
  values.reduce((best, value, index) => (value > (values[best] as number) ? index : best), 0);

/** Expected worth of each course under weights. */
function expected(worths: readonly (readonly number[])[], weights: readonly number[]): number[] {
  const sum = weights.reduce((total, weight) => total + weight, 0);
  return worths.map(
    (row) => row.reduce((total, worth, index) => total + worth * (weights[index] as number), 0) / sum,
  );
}

function levelWords(value: number): string {
  return value === 0 ? 'all at the line' : 'one low or bare';
}

/** Rarer than this a result is not worth a line. */
const RARE = 0.05;

/** What each kind of outcome would mean, the likeliest first. */
function meaningsOf(
  check: Check,
  courses: readonly Course[],
  figures: readonly number[],
  choices: readonly number[],
): Meaning[] {
  const [unit, decimals, what] = UNITS[check];
  return courses
    .flatMap((course, index) => {
      const its = figures.filter((_, at) => choices[at] === index);
      if (its.length === 0) return [];
      const middle = median(its) ?? 0;
      const result =
        check === 'level' ? levelWords(middle) : `${what}about ${middle.toFixed(decimals)} ${unit}`.trim();
      return [{ result, share: its.length / figures.length, then: course.title }];
    })
    .filter(({ share }) => share >= RARE)
    .sort((a, b) => b.share - a.share);
}

/**
 * How much a check is expected to be worth. Each candidate in turn plays the battery; the others, weighed by what
 * it would read, decide; what the decision is worth is judged on the one that played. It is read as it stands now.
 * @param worths by course, by candidate
 */
export function valueOfCheck(
  check: Check,
  judges: readonly Judge[],
  worths: readonly (readonly number[])[],
  courses: readonly Course[],
  setting: Setting,
): Advised {
  const now = argMax(
    expected(
      worths,
      judges.map(() => 1),
    ),
  );
  const here = setting.passages?.length ?? 0;
  const stands = judges.map(({ shown }) => shown.after(here));
  let gain = 0;
  const figures: number[] = [];
  const choices: number[] = [];
  stands.forEach((truth, played) => {
    const readings = readingsOf(check, truth, setting, `check ${played}`);
    // One drawn more than once is one and the same: none of them judges the player.
    const logs = stands.map((shown, index) =>
      index === played || shown === truth
        ? Number.NEGATIVE_INFINITY
        : readings.reduce((sum, reading) => sum + logLikelihood(reading, shown, setting), 0),
    );
    const most = Math.max(...logs);
    const choice = Number.isFinite(most)
      ? argMax(
          expected(
            worths,
            logs.map((log) => Math.exp(log - most)),
          ),
        )
      : now;
    gain += (worths[choice]?.[played] ?? 0) - (worths[now]?.[played] ?? 0);
    figures.push(figureOf(check, readings));
    choices.push(choice);
  });
  const minutes = minutesOf(check, setting.rating.cells);
  const worth = judges.length > 0 ? gain / judges.length : 0;
  return {
    check,
    minutes,
    worth,
    perMinute: worth / minutes,
    changes: choices.filter((choice) => choice !== now).length / Math.max(1, choices.length),
    meanings: meaningsOf(check, courses, figures, choices),
  };
}

/**
 * Checks still open to a battery: none twice while it stands, none inside a case that is never opened, no weighing
 * where nobody knows what a full one weighs, and none that wants a charge a flat one has not.
 */
export function checksLeft(known: readonly Reading[], setting: Setting): Check[] {
  const changed = (setting.passages ?? []).findLastIndex(isChange);
  const done = new Set<string>(known.flatMap(({ kind, stage = 0 }) => (stage > changed ? kind : [])));
  const { construction, cells } = setting.rating;
  const isOpenable = construction === 'flooded';
  const standsV = standsAt(known, changed);
  return CHECKS.filter(
    (check) =>
      !done.has(check) &&
      !isMute(check, standsV, cells) &&
      (isOpenable || !OPENED.includes(check)) &&
      (check !== 'mass' || setting.isMassKnown === true),
  );
}

/** Whether its results read differently where they mean different things: if not, nobody could act on one. */
export const canBeToldApart = ({ meanings }: Pick<Advised, 'meanings'>): boolean =>
  new Set(meanings.map(({ result }) => result)).size === meanings.length;

/** Checks still open, by what each is worth per minute, the best first. */
export function nextChecks(
  known: readonly Reading[],
  judges: readonly Judge[],
  worths: readonly (readonly number[])[],
  courses: readonly Course[],
  setting: Setting,
): Advised[] {
  const free = courses.filter(isOfTheHouse);
  const freeWorths = worths.filter((_, index) => courses[index] && isOfTheHouse(courses[index]));
  return checksLeft(known, setting)
    .map((check) => valueOfCheck(check, judges, freeWorths, free, setting))
    .filter(canBeToldApart)
    .sort((a, b) => b.perMinute - a.perMinute);
}
