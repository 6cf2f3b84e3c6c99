/**
 * The promise planner: which battery goes into which bay when, so that as little as possible is late. Starts lie
 * on a grid of quarter hours; a battery holds its bay from start to ready; no more hands are asked for at once
 * than there are. An order of batteries is turned into a plan by giving each in turn the start and bay that have
 * it ready first; orders are then improved by exchange. First come, first served is one of the orders tried, so
 * the plan is never worse than that.
 */
import type { Charger } from '../charge/charger.ts';
import type { OpenedPayload } from '../runsheet/entries/events.ts';
import { layOut, phasesOf, type Layout, type Phase } from './phases.ts';
import { OpenTimes, openSpanFrom, type ShopHours } from '../clock/shopHours.ts';

export interface PlanBattery {
  readonly id: string;
  readonly opened: OpenedPayload;
  readonly dueAt: number;
}

export interface PlanBay {
  readonly number: number;
  readonly charger: Charger;
  /** When what is in it now is ready. */
  readonly freeAt: number;
  /** It looks at a charge by itself, and parts the battery from it: no hands are asked for that. */
  readonly isAlone?: boolean;
}

export interface PlanTask {
  readonly now: number;
  readonly hours: ShopHours;
  readonly bays: readonly PlanBay[];
  /** Pairs of hands. */
  readonly hands: number;
  readonly batteries: readonly PlanBattery[];
  /** Hands asked for already by jobs under way. */
  readonly busy: readonly { readonly from: number; readonly to: number }[];
}

export interface Assignment {
  readonly id: string;
  readonly bay: number;
  readonly charger: string;
  readonly layout: Layout;
  readonly lateMin: number;
}

export interface Plan {
  readonly assignments: readonly Assignment[];
  /** What no bay of the shop can charge, and why. */
  readonly impossible: readonly { readonly id: string; readonly reason: string }[];
  readonly lateMin: number;
  /** Late minutes first, then the time to ready, all batteries together: what is made small. */
  readonly cost: number;
}

const MINUTE = 60_000;
export const SLOT_MIN = 15;
const SLOT = SLOT_MIN * MINUTE;
/** How far ahead a start is looked for, slots: two weeks. */
const HORIZON = (14 * 24 * 60) / SLOT_MIN;
/**
 * An hour to ready weighs this much of a minute late: it decides between plans that are equally late, and no delivery of
 * thirty batteries over two weeks adds up to five minutes of it.
 */
const READY_WEIGHT = 0.0005;

/** Of a bay, what decides how a battery goes through it. */
export type PlanPlace = Pick<PlanBay, 'charger' | 'isAlone'>;
const placeKey = ({ charger, isAlone = false }: PlanPlace): string =>
  `${charger.id}${isAlone ? ' alone' : ''}`;

/** The least that decides between two batteries for the planner. */
function kindOf({ opened: { type, battery, procedure } }: PlanBattery): string {
  return [type.id, battery.dateCode, procedure].join(' ');
}

/** A start that is possible, and the minutes of hands it asks for: slots and minutes side by side. */
export interface Option {
  readonly layout: Layout;
  readonly slots: readonly number[];
  readonly minutes: readonly number[];
}

/** One kind of battery on one charger: its phases, and its starts as far as they were looked at. */
interface Pairing {
  readonly phases: readonly Phase[] | string;
  /** From start to ready if the shop never closed, ms. */
  readonly leastMs: number;
  readonly options: (Option | null | undefined)[];
}

/** Minutes of hands a layout asks for, by slot. */
function needsOf({ placed }: Layout, now: number): Pick<Option, 'slots' | 'minutes'> {
  const needs = new Map<number, number>();
  for (const { from, to } of placed.filter(({ kind }) => kind === 'hands'))
    for (let slot = Math.floor((from - now) / SLOT); now + slot * SLOT < to; slot++) {
      const begin = Math.max(from, now + slot * SLOT);
      const end = Math.min(to, now + (slot + 1) * SLOT);
      needs.set(slot, (needs.get(slot) ?? 0) + (end - begin) / MINUTE);
    }
  return { slots: [...needs.keys()], minutes: [...needs.values()] };
}

/** How many may stand in line when the shop opens, a slot each: what came due at night all comes due at once. */
export const LINE = 4;

function hasHands({ slots, minutes }: Option, used: Float64Array, most: number): boolean {
  for (let i = 0; i < slots.length; i++)
    if ((used[slots[i] as number] ?? 0) + (minutes[i] as number) > most) return false;
  return true;
}

/** Slots beyond the last start that a plan may still reach into: a long charge, a closed weekend. */
const ROOM = HORIZON + (7 * 24 * 60) / SLOT_MIN;

export class Planner {
  readonly task: PlanTask;
  private readonly pairings = new Map<string, Pairing>();
  private readonly times: OpenTimes;

  constructor(task: PlanTask) {
    this.task = task;
    this.times = new OpenTimes(task.hours, task.now, task.now + ROOM * SLOT);
  }

  private pairing(battery: PlanBattery, { charger, isAlone = false }: PlanPlace): Pairing {
    const key = `${kindOf(battery)} on ${placeKey({ charger, isAlone })}`;
    const known = this.pairings.get(key);
    if (known) return known;
    const phases = phasesOf(battery.opened, this.task.now, charger, isAlone);
    const made: Pairing = {
      phases,
      leastMs:
        typeof phases === 'string' ? 0 : phases.reduce((sum, { minutes }) => sum + minutes, 0) * MINUTE,
      options: [],
    };
    this.pairings.set(key, made);
    return made;
  }

  /**
   * A battery started in a slot in a bay; undefined where it cannot be.
   * @param inLine slots it waits in line when the shop opens, where something of it came due at night
   */
  option(battery: PlanBattery, place: PlanPlace, slot: number, inLine = 0): Option | undefined {
    return this.optionOf(this.pairing(battery, place), slot, inLine) ?? undefined;
  }

  private optionOf(pairing: Pairing, slot: number, inLine: number): Option | null {
    const key = slot * LINE + inLine;
    const known = pairing.options[key];
    if (known !== undefined) return known;
    const made = this.laidOut(pairing, slot, inLine);
    pairing.options[key] = made;
    return made;
  }

  private laidOut({ phases }: Pairing, slot: number, inLine: number): Option | null {
    if (typeof phases === 'string') return null;
    const { now } = this.task;
    const startAt = now + slot * SLOT;
    // A start the shop is closed for is the next opening's, which has a slot of its own.
    if (this.times.nextOpen(startAt) >= startAt + SLOT) return null;
    const layout = layOut(phases, this.times, startAt, inLine * SLOT_MIN);
    // Nothing of it waits for the shop to open: there is no line to stand in.
    if (inLine > 0 && layout && !layout.waitsForOpening) return null;
    return layout ? { layout, ...needsOf(layout, now) } : null;
  }

  /** Why a bay's charger is not for a battery; undefined where it is. */
  reasonAgainst(battery: PlanBattery, place: PlanPlace): string | undefined {
    const { phases } = this.pairing(battery, place);
    return typeof phases === 'string' ? phases : undefined;
  }

  private usedAtFirst(): Float64Array {
    const { now, busy } = this.task;
    const used = new Float64Array(ROOM);
    for (const { from, to } of busy)
      for (let slot = Math.max(0, Math.floor((from - now) / SLOT)); now + slot * SLOT < to; slot++)
        used[slot] =
          (used[slot] ?? 0) +
          (Math.min(to, now + (slot + 1) * SLOT) - Math.max(from, now + slot * SLOT)) / MINUTE;
    return used;
  }

  /** The first start on a charger, from a moment on, for which there are hands; ready before `sooner`. */
  private firstStart(pairing: Pairing, from: number, used: Float64Array, sooner: number): Option | undefined {
    const { now, hands } = this.task;
    const most = hands * SLOT_MIN + 1e-9;
    let best: Option | undefined;
    for (let slot = Math.max(0, Math.ceil((from - now) / SLOT)); slot < HORIZON; slot++) {
      const limit = best ? Math.min(sooner, best.layout.readyAt) : sooner;
      if (now + slot * SLOT + pairing.leastMs >= limit) break;
      for (let inLine = 0; inLine < LINE; inLine++) {
        const option = this.optionOf(pairing, slot, inLine);
        if (!option || option.layout.readyAt >= limit) break;
        if (!hasHands(option, used, most)) continue;
        best = option;
        break;
      }
    }
    return best;
  }

  /** The plan an order of batteries gives. */
  planOf(order: readonly PlanBattery[]): Plan {
    const { now, bays } = this.task;
    const free = bays.map((bay) => Math.max(now, bay.freeAt));
    const used = this.usedAtFirst();
    const assignments: Assignment[] = [];
    const impossible: { id: string; reason: string }[] = [];
    for (const battery of order) {
      let best: { index: number; option: Option } | undefined;
      const seen = new Set<string>();
      // Of bays with the same charger only the one that is free first can be the best.
      const byFree = bays.map((_, index) => index).sort((a, b) => (free[a] ?? 0) - (free[b] ?? 0));
      for (const index of byFree) {
        const bay = bays[index];
        if (!bay || seen.has(placeKey(bay))) continue;
        seen.add(placeKey(bay));
        const pairing = this.pairing(battery, bay);
        if (typeof pairing.phases === 'string') continue;
        const sooner = best?.option.layout.readyAt ?? Number.POSITIVE_INFINITY;
        const option = this.firstStart(pairing, free[index] ?? now, used, sooner);
        if (option) best = { index, option };
      }
      const bay = best && bays[best.index];
      if (!best || !bay) {
        impossible.push({ id: battery.id, reason: this.whyNot(battery) });
        continue;
      }
      const { layout, slots, minutes } = best.option;
      free[best.index] = layout.readyAt;
      slots.forEach((slot, i) => (used[slot] = (used[slot] ?? 0) + (minutes[i] ?? 0)));
      const lateMin = Math.max(0, (layout.readyAt - battery.dueAt) / MINUTE);
      assignments.push({ id: battery.id, bay: bay.number, charger: bay.charger.name, layout, lateMin });
    }
    return { assignments, impossible, ...costOf(assignments, impossible.length, now) };
  }

  private whyNot(battery: PlanBattery): string {
    const reasons = this.task.bays.map((bay) => this.reasonAgainst(battery, bay));
    return (
      reasons.find((one) => one !== undefined) ??
      'No start within two weeks lets it be charged on the day it is filled.'
    );
  }

  /** The best plan found: first come first served, earliest promise, least slack, each improved by exchange. */
  best(mostTries = 600): Plan {
    const { batteries } = this.task;
    const byDue = [...batteries].sort((a, b) => a.dueAt - b.dueAt);
    if (batteries.length <= EXACT_UP_TO) return this.bestOf(permutations(batteries));
    const starts = [batteries, byDue, [...byDue].reverse()].map((order) =>
      this.improved(order, mostTries / 3),
    );
    return starts.reduce((best, plan) => (plan.cost < best.cost ? plan : best));
  }

  private bestOf(orders: readonly (readonly PlanBattery[])[]): Plan {
    let best = this.planOf(this.task.batteries);
    for (const order of orders) {
      const plan = this.planOf(order);
      if (plan.cost < best.cost) best = plan;
    }
    return best;
  }

  /** Moves one battery to another place in the order as long as that helps. */
  private improved(first: readonly PlanBattery[], mostTries: number): Plan {
    let order = first;
    let plan = this.planOf(order);
    let tries = 0;
    for (let isBetter = true; isBetter && tries < mostTries;) {
      isBetter = false;
      for (let from = 0; from < order.length && !isBetter; from++)
        for (let to = 0; to < order.length && !isBetter && tries < mostTries; to++) {
          if (from === to) continue;
          const moved = order.toSpliced(from, 1).toSpliced(to, 0, order[from] as PlanBattery);
          const next = this.planOf(moved);
          tries += 1;
          if (next.cost >= plan.cost - 1e-12) continue;
          [order, plan, isBetter] = [moved, next, true];
        }
    }
    return plan;
  }
}

/** Up to this many batteries every order is tried. */
const EXACT_UP_TO = 6;

function permutations<T>(list: readonly T[]): T[][] {
  if (list.length <= 1) return [[...list]];
  return list.flatMap((one, index) => permutations(list.toSpliced(index, 1)).map((rest) => [one, ...rest]));
}

/** One battery that cannot be done at all weighs as much as a week late. */
const IMPOSSIBLE_MIN = 7 * 24 * 60;

function costOf(
  assignments: readonly Assignment[],
  impossible: number,
  now: number,
): Pick<Plan, 'lateMin' | 'cost'> {
  const lateMin = assignments.reduce((sum, one) => sum + one.lateMin, 0);
  const readyH = assignments.reduce((sum, { layout }) => sum + (layout.readyAt - now) / 3_600_000, 0);
  return { lateMin, cost: lateMin + impossible * IMPOSSIBLE_MIN + READY_WEIGHT * readyH };
}

export interface Help {
  readonly sentence: string;
  readonly lateMin: number;
}

/** Opens the coming day an hour earlier. */
function earlier(task: PlanTask): PlanTask {
  const week = task.hours.week.map((day) => day && ([Math.max(0, day[0] - 60), day[1]] as const));
  return { ...task, hours: { ...task.hours, week } };
}

/** Moves the promise of the battery that is latest to the end of the next working day after it is ready. */
function promisedLater(task: PlanTask, plan: Plan): { task: PlanTask; id: string } | undefined {
  const latest = [...plan.assignments].sort((a, b) => b.lateMin - a.lateMin)[0];
  if (!latest || latest.lateMin === 0) return undefined;
  const dueAt = openSpanFrom(task.hours, latest.layout.readyAt).to;
  const batteries = task.batteries.map((one) => (one.id === latest.id ? { ...one, dueAt } : one));
  return { task: { ...task, batteries }, id: latest.id };
}

/** The one change that makes least late; undefined when nothing is late, or nothing helps. */
export function helpFor(task: PlanTask, plan: Plan, spare: Charger): Help | undefined {
  if (plan.lateMin === 0 && plan.impossible.length === 0) return undefined;
  const number = Math.max(0, ...task.bays.map((bay) => bay.number)) + 1;
  const later = promisedLater(task, plan);
  const tries: readonly (readonly [string, PlanTask])[] = [
    ['Open an hour earlier.', earlier(task)],
    [
      `Set up one more charger (${spare.name}).`,
      { ...task, bays: [...task.bays, { number, charger: spare, freeAt: task.now }] },
    ],
    ['Ask one more person to the bench.', { ...task, hands: task.hands + 1 }],
    ...(later ? [[`Promise ${later.id} for the next day.`, later.task] as const] : []),
  ];
  const best = tries
    .map(([sentence, changed]) => ({ sentence, plan: new Planner(changed).best(150) }))
    .sort((a, b) => a.plan.cost - b.plan.cost)[0];
  if (!best || best.plan.cost >= plan.cost - 1) return undefined;
  return { sentence: best.sentence, lateMin: best.plan.lateMin };
}
