/** A course that is decided on the way, in the shop's terms: what each way on takes, and which is taken. */
import type { Setting } from '../candidate/traits.ts';
import { isWake, type Course } from './courses.ts';
import { handsBy, spentBy } from './hands.ts';
import { decideInStages, playedChecks, type InStages, type PlayedChecks } from './inStages.ts';
import { LATER_COSTS, type LaterCheck } from './later.ts';
import type { Outcome } from './outcome.ts';
import { CORE, isBack, rowOf, worthsOf, type Come, type Terms } from './rows.ts';
import { treeOf, type Tree } from './tree.ts';
import { costOf, NOTHING_SPENT, type Costs } from './worth.ts';

/** What the checks show does not hang on what things cost: it is worked out once for what was run. */
const playedFor = new WeakMap<readonly Outcome[], PlayedChecks>();

function playedOn(all: readonly Outcome[], setting: Setting): PlayedChecks {
  const known = playedFor.get(all);
  if (known) return known;
  const played = playedChecks(
    all.flatMap(({ staged }) => staged?.later ?? []),
    setting,
  );
  playedFor.set(all, played);
  return played;
}

/** Minutes of the tray that retires it, less those of the proof that is then not made. */
function trayForProofMin({ steps }: Terms): number {
  const nothing = { chargedH: [] };
  const tray = handsBy({ id: 'retire', routes: ['retire'] }, steps)(nothing);
  return tray - handsBy({ id: 'prove', routes: [] }, steps)(nothing);
}

/** Retired after its first step: that was paid for, and nothing is proved. */
function retiredAfter(course: Course, all: readonly Outcome[], terms: Terms): Come {
  const hands = handsBy(course, terms.steps, terms.together);
  const instead = trayForProofMin(terms);
  return {
    ends: all.map(() => CORE),
    spent: all.map((first) => spentBy(first, hands(first) + instead)),
    hours: all.map(({ hours }) => hours),
  };
}

/** Its charge broken off as soon as it is looked at, and retired. */
export function brokenOff(course: Course, all: readonly Outcome[], terms: Terms): Come {
  const [route = ''] = course.routes.filter((id) => !isWake(id));
  const begun = all.map((first) => {
    const { hours = 0, mainsWh = 0 } = first.staged?.early ?? {};
    return { ...first, hours, mainsWh, chargedH: [{ route, hours }] };
  });
  return retiredAfter(course, begun, terms);
}

/** What each way on takes and ends in, its first step included. */
export function onwardRows(course: Course, all: readonly Outcome[], terms: Terms): Come[] {
  const { onward = [] } = course;
  return onward.map((way, place): Come => {
    if (way.id === 'retire') return retiredAfter(course, all, terms);
    const ends = all.flatMap(({ staged }) => staged?.onward[place] ?? []);
    return rowOf({ id: way.id, routes: [...course.routes, ...way.routes] }, ends, terms);
  });
}

/** What a check costs that is made before one decides. */
export function laterCost(check: LaterCheck, costs: Costs): number {
  const { minutes, bayH } = LATER_COSTS[check];
  return costOf({ ...NOTHING_SPENT, handsMin: minutes, bayH }, { ...costs, consumables: 0 });
}

/** What is done on a belief, and what it rests on. */
export interface Plan {
  readonly rows: readonly Come[];
  /** By way on, by candidate. */
  readonly worths: readonly (readonly number[])[];
  readonly stopped: Come;
  readonly stoppedWorths: readonly number[];
  readonly decided: InStages;
}

export function planOf(course: Course, all: readonly Outcome[], terms: Terms): Plan {
  const rows = onwardRows(course, all, terms);
  const worths = rows.map((row) => worthsOf(row, terms));
  const stopped = brokenOff(course, all, terms);
  const stoppedWorths = worthsOf(stopped, terms);
  const decided = decideInStages(
    worths,
    { worths: stoppedWorths, comesBack: all.map(isBack), keptFrom: terms.keptFrom },
    playedOn(all, terms.setting),
    (check) => laterCost(check, terms.costs),
  );
  return { rows, worths, stopped, stoppedWorths, decided };
}

/** The course by what it then shows. */
export function stagedRow(
  course: Course,
  all: readonly Outcome[],
  terms: Terms,
): Come & { readonly tree: Tree } {
  const { rows, stopped, decided } = planOf(course, all, terms);
  const more = decided.checks.map((check) => LATER_COSTS[check]);
  const sumOf = (what: 'minutes' | 'hours' | 'bayH'): number => more.reduce((sum, one) => sum + one[what], 0);
  const at = <T>(player: number, from: (row: Come) => readonly T[], none: T): T => {
    const row = decided.givenUp[player] ? stopped : rows[decided.choices[player] ?? 0];
    return (row && from(row)[player]) ?? none;
  };
  /** What is asked only at the end is asked only of those that come there. */
  const then = (player: number, sum: number): number => (decided.givenUp[player] ? 0 : sum);
  const players = all.map((_, player) => player);
  return {
    ends: players.map((player) => at(player, ({ ends }) => ends, CORE)),
    spent: players.map((player) => {
      const spent = at(player, (row) => row.spent, NOTHING_SPENT);
      return {
        ...spent,
        handsMin: spent.handsMin + then(player, sumOf('minutes')),
        bayH: spent.bayH + then(player, sumOf('bayH')),
      };
    }),
    hours: players.map((player) => at(player, ({ hours }) => hours, 0) + then(player, sumOf('hours'))),
    tree: treeOf(course.onward ?? [], decided),
  };
}
