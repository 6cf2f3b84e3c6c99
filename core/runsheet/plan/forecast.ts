/**
 * A job drawn out in time: what has been and what is still to come, if hands are there when needed and
 * the shop keeps its hours. Intake's plan, the cords on the bench and the "ready by" all come from here.
 */
import { nextOpenMoment, openSpanFrom } from '../../clock/shopHours.ts';
import { isMoot } from '../state/ahead.ts';
import { ceilingNow, limitsOf } from '../verdict/chargeLimits.ts';
import { settle } from '../state/settle.ts';
import { contextOf } from '../state/context.ts';
import { definitionOf } from '../state/sheet.ts';
import { dwellEnd } from '../state/settle.ts';
import { isWatched } from './watched.ts';
import { lastReadingOf, minutesOnCharge } from '../state/looks.ts';
import type { ChargeState, JobState, StepState } from '../state/jobState.ts';
import type { ChargeStep, DwellStep } from '../definition/step.ts';

export type SegmentKind = 'hands' | 'wait' | 'charge';

/** A stretch of the cord. */
export interface Segment {
  readonly key: string;
  readonly stepId: string;
  readonly title: string;
  readonly kind: SegmentKind;
  readonly from: number;
  readonly to: number;
}

/** A moment that needs hands. */
export interface Knot {
  readonly key: string;
  readonly title: string;
  readonly at: number;
  readonly isDone: boolean;
}

export interface Forecast {
  readonly segments: readonly Segment[];
  readonly knots: readonly Knot[];
  /** When the job is through, or was; of a recovery, when its next route is to be chosen. */
  readonly readyAt: number;
  /** Whether what comes after that is still to be chosen. */
  readonly isOpenEnded: boolean;
  /** Minutes of hands still to come. */
  readonly handsLeftMin: number;
}

const MINUTE = 60_000;

/**
 * Minutes of charge this step asks for, at the current it was really set to. What was planned when it was
 * started stands, so that a job on record does not change when the model is improved.
 */
export function chargeDueMin(state: JobState, step: StepState): number {
  if (step.charge?.dueMin !== undefined) return step.charge.dueMin;
  const context = contextOf(state, step.round);
  const definition = definitionOf(state, step);
  const treatment = definition.kind === 'charge' ? definition.treatment?.(context) : undefined;
  return treatment?.dueMin ?? context.chargeSetting(step.charge?.currentA).totalMin;
}

/**
 * Minutes on charge at which voltage, current and warmth are read: counted back from the end, so that the
 * last three fall where flatness is judged.
 */
export function lookMarks(dueMin: number, everyMin: number): number[] {
  const marks: number[] = [];
  for (let mark = dueMin - everyMin; mark >= 5; mark -= everyMin) marks.unshift(mark);
  return marks;
}

/** Held at its voltage a battery is looked at hourly, near its limit of warmth twice as often (handbook 3.5). */
const HELD_EVERY_MIN = 60;
const WARM_EVERY_MIN = 30;
const WARM_WITHIN_K = 5;
/** A voltage counts as held this close under its ceiling, V a cell. */
const HELD_CELL_V = 0.025;

/** Minutes to the next look, by what the last one showed. */
function lookEveryMin(state: JobState, step: StepState, definition: ChargeStep): number {
  const last = lastReadingOf(state, step.key);
  const context = contextOf(state, step.round);
  if (!last || definition.treatment?.(context).isPulsed) return definition.lookEveryMin;
  const limits = limitsOf(context, definition, step.charge?.dueMin ?? 0);
  const { type } = state.opened;
  const isHeld = last.voltageV >= ceilingNow(limits, type, last.tempC) - HELD_CELL_V * type.cells;
  const isWarm = last.tempC > limits.hotC - WARM_WITHIN_K;
  const most = isWarm ? WARM_EVERY_MIN : isHeld ? HELD_EVERY_MIN : definition.lookEveryMin;
  return Math.min(definition.lookEveryMin, most);
}

/** When the next look at a running charge asks for hands; undefined when only its end is left, or its bay looks by itself. */
export function nextLookAt(
  state: JobState,
  step: StepState,
  charge: ChargeState,
  definition: ChargeStep,
  at: number,
): number | undefined {
  if (isWatched(state, step, definition, at)) return undefined;
  const lastRead = lastReadingOf(state, step.key)?.at;
  const everyMin = lookEveryMin(state, step, definition);
  const seenMin = lastRead === undefined ? 0 : minutesOnCharge(charge, lastRead);
  // A look a little before its mark has made it: the next mark is another one, though never more than a turn away.
  const mark = lookMarks(chargeDueMin(state, step), everyMin).find(
    (minute) => minute > seenMin + (lastRead === undefined ? 1 : everyMin / 3),
  );
  if (mark === undefined) return undefined;
  const dueMin = lastRead === undefined ? mark : Math.min(mark, seenMin + everyMin);
  return at + (dueMin - minutesOnCharge(charge, at)) * MINUTE;
}

/** Builds both lists while walking along the steps. */
class Cord {
  readonly segments: Segment[] = [];
  readonly knots: Knot[] = [];
  handsLeftMin = 0;

  segment(step: StepState, title: string, kind: SegmentKind, from: number, to: number): void {
    if (to > from) this.segments.push({ key: step.key, stepId: step.stepId, title, kind, from, to });
  }

  knot(step: StepState, title: string, at: number, isDone: boolean): void {
    this.knots.push({ key: step.key, title, at, isDone });
  }
}

function pastStep(cord: Cord, state: JobState, step: StepState): void {
  const { title, kind } = definitionOf(state, step);
  const from = step.openedAt ?? state.openedAt;
  const to = step.doneAt ?? step.charge?.runs.at(-1)?.to ?? from;
  // A charge that was broken off was a charge all the same.
  if (step.status === 'skipped' && !step.charge) return;
  if (step.charge) {
    cord.segment(step, title, 'wait', from, step.charge.runs[0]?.from ?? from);
    chargeRuns(cord, step, title, to);
    cord.knot(step, title, step.charge.runs[0]?.from ?? from, true);
  } else cord.segment(step, title, kind === 'dwell' ? 'wait' : 'hands', from, to);
  if (kind !== 'dwell') cord.knot(step, title, to, true);
}

/** Stretches on and off charge, up to `until`. */
function chargeRuns(cord: Cord, step: StepState, title: string, until: number): void {
  const runs = step.charge?.runs ?? [];
  runs.forEach((run, index) => {
    const before = runs[index - 1]?.to;
    if (before !== undefined) cord.segment(step, 'Off charge', 'wait', before, run.from);
    cord.segment(step, title, 'charge', run.from, run.to ?? until);
  });
  const lastEnd = runs.at(-1)?.to;
  if (lastEnd !== undefined) cord.segment(step, 'Off charge', 'wait', lastEnd, until);
}

function dwellAhead(
  state: JobState,
  step: StepState,
  definition: DwellStep,
  at: number,
  doneAt: Map<string, number>,
): number {
  const known = dwellEnd(state, step);
  if (known !== undefined) return Math.max(known, at);
  const context = contextOf(state, step.round);
  const start = doneAt.get(definition.clockStart(context)) ?? at;
  return Math.max(at, start + context.threshold(definition.minimum).value * MINUTE);
}

/** How long a hot battery is left alone before somebody looks whether it has cooled. */
const COOLING_LOOK_MIN = 30;

/** When a paused charge is to be looked at again. */
export function resumeLookAt(charge: ChargeState): number {
  const stoppedAt = charge.runs.at(-1)?.to ?? 0;
  return charge.pausedFor === 'hot' ? stoppedAt + COOLING_LOOK_MIN * MINUTE : stoppedAt;
}

/** Draws the charge from `at` on and returns the moment it is done. */
function chargeAhead(
  cord: Cord,
  state: JobState,
  step: StepState,
  definition: ChargeStep,
  at: number,
): number {
  const open = (moment: number): number => nextOpenMoment(state.opened.hours, moment);
  const treatment = definition.treatment?.(contextOf(state, step.round));
  if (step.charge?.stopped) {
    chargeRuns(cord, step, definition.title, at);
    cord.knot(step, 'Choose another way', open(at), false);
    return at;
  }
  const leftMin = chargeDueMin(state, step) - (step.charge ? minutesOnCharge(step.charge, at) : 0);
  let begin = at;
  if (step.charge) {
    cord.segment(step, definition.title, 'wait', step.openedAt ?? at, step.charge.runs[0]?.from ?? at);
    chargeRuns(cord, step, definition.title, at);
    cord.knot(step, definition.title, step.charge.runs[0]?.from ?? at, true);
    if (step.charge.pausedFor) {
      begin = open(Math.max(at, resumeLookAt(step.charge)));
      cord.segment(step, 'Off charge', 'wait', at, begin);
      cord.knot(step, 'Resume the charge', begin, false);
    }
  } else {
    const start = open(at);
    begin = start + definition.handsMin * MINUTE;
    cord.segment(step, definition.title, 'wait', Math.min(step.openedAt ?? at, at), start);
    cord.segment(step, definition.title, 'hands', start, begin);
    cord.knot(step, 'Start the charge', start, false);
  }
  const due = begin + Math.max(0, leftMin) * MINUTE;
  cord.segment(step, definition.title, 'charge', begin, due);
  // It is looked at, and switched off, without hands.
  if (isWatched(state, step, definition, at)) return Math.max(due, at);
  const onMin = step.charge ? minutesOnCharge(step.charge, at) : 0;
  const looks = lookMarks(onMin + leftMin, definition.lookEveryMin)
    .filter((mark) => mark > onMin)
    .map((mark) => begin + (mark - onMin) * MINUTE)
    // What falls into closed hours is seen once, when the shop opens.
    .map((moment) => (treatment?.isAttended ? moment : open(moment)));
  for (const moment of new Set(looks))
    if (moment < due) cord.knot(step, 'Read volts, amps, warmth', moment, false);
  const end = open(due);
  cord.segment(step, 'Wait for the shop to open', 'wait', Math.max(due, at), end);
  cord.knot(step, 'Charger off at the mains', end, false);
  cord.handsLeftMin += definition.handsMin;
  return Math.max(end, at);
}

/**
 * The whole cord of a job as seen at a moment.
 * @param now shop time, ms; what is due is assumed to be done from now on without delay
 */
export function forecast(unsettled: JobState, now: number): Forecast {
  const state = settle(unsettled, now);
  const cord = new Cord();
  const isEnded = state.outcome !== undefined;
  state.steps.forEach((step) => {
    if (step.doneAt !== undefined) pastStep(cord, state, step);
  });
  if (isEnded)
    return {
      segments: cord.segments,
      knots: cord.knots,
      readyAt: state.endedAt ?? now,
      isOpenEnded: false,
      handsLeftMin: 0,
    };

  const readyAt = walkAhead(cord, state, now, state.steps.length, true);
  const last = state.steps.at(-1);
  const isOpenEnded = last !== undefined && definitionOf(state, last).kind === 'route';
  return {
    segments: cord.segments,
    knots: cord.knots,
    readyAt,
    isOpenEnded,
    handsLeftMin: cord.handsLeftMin,
  };
}

/**
 * Draws the steps from the one at hand up to `toIndex`, beginning now.
 * @param keepsGuards whether a guarded step waits for a moment its guard allows
 * @returns when the last of them is done
 */
function walkAhead(cord: Cord, state: JobState, now: number, toIndex: number, keepsGuards: boolean): number {
  let at = now;
  const doneAt = new Map<string, number>();
  for (let index = state.cursor; index < toIndex; index++) {
    const step = state.steps[index];
    if (!step) break;
    const definition = definitionOf(state, step);
    if (isMoot(state, step)) continue;
    const since = step.openedAt ?? at;
    if (definition.kind === 'dwell') {
      const end = dwellAhead(state, step, definition, at, doneAt);
      cord.segment(step, definition.title, 'wait', Math.min(since, at), end);
      at = end;
    } else if (definition.kind === 'charge') at = chargeAhead(cord, state, step, definition, at);
    else {
      const lookAfter = (definition.lookAfterMin?.(contextOf(state, step.round)) ?? 0) * MINUTE;
      let begin = nextOpenMoment(state.opened.hours, Math.max(at, since + lookAfter));
      const isGuarded =
        keepsGuards && definition.kind === 'gate' && definition.guard && step.reason === undefined;
      if (isGuarded) begin = fillingFrom(state, index, begin).at;
      cord.segment(step, definition.title, 'wait', Math.min(since, at), begin);
      cord.knot(step, definition.title, begin, false);
      at = begin + definition.handsMin * MINUTE;
      cord.segment(step, definition.title, 'hands', begin, at);
      cord.handsLeftMin += definition.handsMin;
    }
    doneAt.set(step.stepId, at);
  }
  return at;
}

/** When hands would come to a step, the ones before it done as they come. */
export const reachedAt = (state: JobState, index: number, now: number): number =>
  nextOpenMoment(state.opened.hours, walkAhead(new Cord(), state, now, index, true));

/**
 * When the battery would be charged, if not yet proven full, were the step at `index` done at `fillAt`; shop
 * hours not asked. What proves it may run past closing: the supply holds its voltage.
 */
export function chargedAtIfFilled(state: JobState, index: number, fillAt: number): number {
  const alwaysOpen: JobState['opened']['hours'] = {
    ...state.opened.hours,
    week: [null, null, null, null, null, null, null],
  };
  const steps = state.steps.map((step, i) => (i === index ? { ...step, openedAt: fillAt } : step));
  const fresh: JobState = { ...state, opened: { ...state.opened, hours: alwaysOpen }, steps, cursor: index };
  const chargeIndex = steps.findIndex((step, i) => i > index && definitionOf(state, step).kind === 'charge');
  const provenAt = walkAhead(new Cord(), fresh, fillAt, chargeIndex + 1, false);
  return provenAt - contextOf(state, 1).chargeSetting().provingMin * MINUTE;
}

/** Openings looked at for a day that is long enough: a week and a day. */
const OPENINGS = 8;

/** When a battery is filled so that it is charged before the shop closes. */
export interface Filling {
  readonly at: number;
  /** No day is long enough: then it is the opening of the longest, and the charge runs on after closing. */
  readonly isTooLong: boolean;
}

/**
 * The first moment, from `begin` on, at which filling leaves time to charge before closing. Where none does, the longest
 * day's opening: whatever takes longer to charge is never filled sooner than what takes less.
 * @param index of the step with which acid goes in
 */
export function fillingFrom(state: JobState, index: number, begin: number): Filling {
  const { hours } = state.opened;
  const spans: { readonly at: number; readonly leftMs: number }[] = [];
  for (let at = begin, tries = 0; tries < OPENINGS; tries++) {
    const span = openSpanFrom(hours, at);
    const fillAt = Math.max(at, span.from);
    if (chargedAtIfFilled(state, index, fillAt) <= span.to) return { at: fillAt, isTooLong: false };
    spans.push({ at: fillAt, leftMs: span.to - fillAt });
    at = span.to;
  }
  const longest = spans.reduce((best, one) => (one.leftMs > best.leftMs ? one : best));
  return { at: longest.at, isTooLong: true };
}
