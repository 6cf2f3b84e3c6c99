/**
 * The month's work on the shelf, balanced over its days: what is due may be done somewhat sooner, what is late somewhat later,
 * so that no morning has forty of it.
 */
import { nextOpenMoment, openSpanFrom, type ShopHours } from '../clock/shopHours.ts';
import type { Want } from './due.ts';
import type { Shelved } from './overview.ts';
import { DAY_MS } from './warmth.ts';

/** Minutes of hands each takes; a charge is what is done at its beginning and its end (`shelfYear.ts` counts alike). */
export const HANDS_MIN: Readonly<Record<Want, number>> = {
  read: 0.5,
  recharge: 6,
  tend: 2,
  water: 4,
  call: 3,
};
/** On the way to a rack and back, min. */
const WALK_MIN = 1;

/** So much sooner than due it may be done, days: a charge a fortnight early is a charge wasted. */
const SOONER: Readonly<Record<Want, number>> = { read: 7, recharge: 10, tend: 7, water: 14, call: 14 };
/** What is late and does no harm yet is spread over so many days. */
const CATCH_UP_DAYS = 5;

export interface Task {
  readonly one: Shelved;
  readonly want: Want;
  /** By when it was due, ms. */
  readonly by: number;
}

export interface ShelfDay {
  /** The moment its shop opens, or now, ms. */
  readonly at: number;
  readonly tasks: readonly Task[];
  /** Of hands, whole minutes. */
  readonly minutes: number;
}

/** Minutes of hands some tasks take together. */
export const minutesOf = (tasks: readonly Pick<Task, 'want'>[]): number =>
  tasks.length === 0 ? 0 : Math.ceil(WALK_MIN + tasks.reduce((sum, { want }) => sum + HANDS_MIN[want], 0));

/** Days the shop is open, from now on, until then. */
function openDays(hours: ShopHours, now: number, until: number): number[] {
  const days: number[] = [];
  for (let at = nextOpenMoment(hours, now); at < until;) {
    days.push(at);
    at = nextOpenMoment(hours, openSpanFrom(hours, at).to + 1);
  }
  return days;
}

/** What one wants; one that is charged about then is not read besides. */
function tasksOf(one: Shelved): readonly Task[] {
  const charge = one.due.find(({ want }) => want === 'recharge');
  const isCharged = (by: number): boolean =>
    charge !== undefined && charge.by - SOONER.recharge * DAY_MS <= by;
  return one.due
    .filter(({ want, by }) => want !== 'read' || !isCharged(by))
    .map(({ want, by }): Task => ({ one, want, by }));
}

/** The last moment it can wait for, ms: when it is due, or, late already, before it is harmed. */
function latestOf({ one, by }: Task, now: number): number {
  if (by > now) return by;
  const harm = one.prediction?.harm.early ?? Number.POSITIVE_INFINITY;
  return Math.min(now + CATCH_UP_DAYS * DAY_MS, Math.max(now, harm - DAY_MS));
}

/**
 * Each task on a day, the days in order; a day without any is left out.
 * @param days how far ahead
 */
export function monthOf(
  shelved: readonly Shelved[],
  hours: ShopHours,
  now: number,
  days = 31,
): readonly ShelfDay[] {
  const until = now + days * DAY_MS;
  const open = openDays(hours, now, until);
  const load = open.map(() => 0);
  const on: Task[][] = open.map(() => []);
  const tasks = shelved
    .flatMap(tasksOf)
    .filter(({ want, by }) => by - SOONER[want] * DAY_MS < until)
    .map((task) => ({ task, latest: latestOf(task, now) }))
    // The one with the least room goes first.
    .sort((a, b) => a.latest - b.latest || a.task.one.tag.localeCompare(b.task.one.tag));
  for (const { task, latest } of tasks) {
    const from = task.by - SOONER[task.want] * DAY_MS;
    let best = -1;
    open.forEach((at, day) => {
      const fits = day === 0 ? from <= at : at >= from && at <= latest;
      if (fits && (best === -1 || (load[day] ?? 0) < (load[best] ?? 0))) best = day;
    });
    // No open day lies in its room: the last before it, else the first after.
    if (best === -1)
      best = Math.max(
        0,
        open.findLastIndex((at) => at <= latest),
      );
    on[best]?.push(task);
    load[best] = (load[best] ?? 0) + HANDS_MIN[task.want];
  }
  // One that was charged by then is not read besides.
  const chargedOn = new Map(
    on.flatMap((its, day) =>
      its.flatMap(({ one, want }) => (want === 'recharge' ? [[one.tag, day] as const] : [])),
    ),
  );
  return open.flatMap((at, day) => {
    const its = (on[day] ?? []).filter(
      ({ one, want }) => want !== 'read' || (chargedOn.get(one.tag) ?? Infinity) > day,
    );
    return its.length === 0 ? [] : [{ at, tasks: its, minutes: minutesOf(its) }];
  });
}

const COUNTED: Readonly<Record<Want, string>> = {
  read: 'to read',
  recharge: 'to charge',
  tend: 'to look at',
  water: 'to give water',
  call: 'to call about',
};

/** "6 to read, 2 to charge, about 16 min". */
export function dayWords({ tasks, minutes }: Pick<ShelfDay, 'tasks' | 'minutes'>): string {
  const kinds = (Object.keys(COUNTED) as Want[]).flatMap((want) => {
    const count = tasks.filter((task) => task.want === want).length;
    return count === 0 ? [] : [`${count} ${COUNTED[want]}`];
  });
  return [...kinds, `about ${minutes} min`].join(', ');
}

/** When hands are wanted elsewhere, ms. */
export interface Busy {
  readonly from: number;
  readonly to: number;
}

/**
 * The first moment from which hands are free for so long: a walk along the shelf waits for the bench, never the other way.
 * @param busy what else wants the same hands
 */
export function quietFrom(busy: readonly Busy[], minutes: number, now: number): number {
  let at = now;
  for (const { from, to } of [...busy].sort((a, b) => a.from - b.from)) {
    if (from - at >= minutes * 60_000) break;
    at = Math.max(at, to);
  }
  return at;
}
