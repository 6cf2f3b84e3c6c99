/** The step at hand: what it waits for, since when it is due, and what stands in its way. */
import { STEP } from '../definition/stepIds.ts';
import { nextOpenMoment } from '../../clock/shopHours.ts';
import { testLookAt } from './capacityClock.ts';
import { isDoneByLooks, minutesLeft } from './chargeDone.ts';
import { chargeDueMin, nextLookAt, resumeLookAt } from './forecast.ts';
import { beforeClosing } from './overnight.ts';
import { guardHold } from './guards.ts';
import { isWatched } from './watched.ts';
import { settle } from '../state/settle.ts';
import { contextOf } from '../state/context.ts';
import { definitionOf } from '../state/sheet.ts';
import { dwellEnd } from '../state/settle.ts';
import { lastReadingOf, minutesOnCharge, withoutLooksAfter } from '../state/looks.ts';
import type { JobState, StepState } from '../state/jobState.ts';
import type { Hold, Step, StepContext, Treatment } from '../definition/step.ts';

/** "over" is a charge a stop rule has ended: it does not go on again. */
export type ChargePhase = 'ready' | 'running' | 'tooHot' | 'cooling' | 'stopped' | 'complete' | 'over';

export interface AtHand {
  readonly state: JobState;
  readonly step: StepState;
  readonly definition: Step;
  readonly context: StepContext;
  /** What the hands do, as an order. */
  readonly title: string;
  readonly dueAt: number;
  readonly overdueAt: number;
  readonly hold?: Hold;
  /** Why now, in a sentence, where the title does not say it. */
  readonly note?: string;
  /** A running dwell, or the charge time still due. */
  readonly until?: number;
  readonly phase?: ChargePhase;
  /** Current flows, in or out: a charger, a donor or a load is on it. */
  readonly isRunning: boolean;
}

const MINUTE = 60_000;
/** A charge whose time is up but whose readings are not flat is looked at this often. */
const LOOK_AGAIN_MIN = 30;
/** A look at a running discharge may come this late. */
const LATE_FOR_TEST_MIN = 10;

/** Limits and stop rules of a recovery's charge; undefined for a first charge. */
export function treatmentOf(state: JobState, step: StepState): Treatment | undefined {
  const definition = definitionOf(state, step);
  return definition.kind === 'charge' ? definition.treatment?.(contextOf(state, step.round)) : undefined;
}

/** Where a charge stands. */
export function chargePhase(state: JobState, step: StepState, at: number): ChargePhase {
  const { charge } = step;
  if (!charge) return 'ready';
  if (charge.stopped) return charge.pausedFor === undefined ? 'tooHot' : 'over';
  if (charge.pausedFor === 'hot') return 'cooling';
  if (charge.pausedFor === 'stopped') return 'stopped';
  if (step.status === 'held') return 'tooHot';
  return minutesLeft(state, step, at) === 0 ? 'complete' : 'running';
}

function chargeAtHand(
  state: JobState,
  step: StepState,
  definition: Step,
  at: number,
): Pick<AtHand, 'title' | 'dueAt' | 'phase'> & { until?: number; note?: string } {
  const phase = chargePhase(state, step, at);
  const { charge } = step;
  const openedAt = step.openedAt ?? state.openedAt;
  if (!charge || definition.kind !== 'charge') {
    const treatment = treatmentOf(state, step);
    const amps = (treatment?.setA ?? contextOf(state, step.round).chargeSetting().current.value).toFixed(2);
    return { title: `Start the charge at ${amps} A`, dueAt: openedAt, phase };
  }
  const leftMs = Math.max(0, chargeDueMin(state, step) - minutesOnCharge(charge, at)) * MINUTE;
  const endAt = at + leftMs;
  const isAlone = isWatched(state, step, definition, at);
  switch (phase) {
    case 'tooHot':
      return {
        title: 'Charger off now',
        dueAt: step.heldAt ?? lastReadingOf(state, step.key)?.at ?? at,
        phase,
        until: endAt,
      };
    case 'cooling':
      return {
        title: 'Read the warmth, resume when cool',
        dueAt: resumeLookAt(charge),
        phase,
      };
    case 'stopped':
      return { title: 'Resume the charge', dueAt: resumeLookAt(charge), phase };
    case 'over':
      return {
        title: definition.treatment
          ? 'Stopped for good: choose another way'
          : 'Stopped for good: clips off, then test',
        dueAt: resumeLookAt(charge),
        phase,
      };
    case 'complete': {
      const over =
        (charge.runs.at(-1)?.from ?? at) + chargeDueMin(state, step) * MINUTE - earlierRunsMs(charge.runs);
      const proven = provenAt(state, step, at);
      if (proven !== undefined || treatmentOf(state, step))
        return { title: 'Charger off at the mains', dueAt: Math.min(over, proven ?? over), phase };
      const last = lastReadingOf(state, step.key);
      if (last === undefined) return { title: 'Charger off at the mains', dueAt: over, phase, until: over };
      const dueAt = Math.max(over, last.at + LOOK_AGAIN_MIN * MINUTE);
      return {
        title: isAlone ? 'Not flat yet: its bay goes on looking' : 'Not flat yet: look again',
        dueAt,
        phase,
        until: over,
      };
    }
    default: {
      const look = nextLookAt(state, step, charge, definition, at);
      const last = lastReadingOf(state, step.key)?.at;
      const closing = beforeClosing(state.opened, charge, at, endAt, last);
      const isSeen = isAlone && closing?.mayStay === true;
      if (closing && !isSeen && closing.dueAt <= Math.max(at, look ?? endAt))
        return {
          title: closing.mayStay ? 'Last look before closing' : 'Charger off before closing',
          dueAt: closing.dueAt,
          phase,
          until: endAt,
          note: closing.note,
        };
      if (isAlone)
        return { title: 'Charged by its bay, and off by itself', dueAt: endAt, phase, until: endAt };
      return look === undefined
        ? { title: 'Charger off at the mains', dueAt: endAt, phase, until: endAt }
        : { title: 'Read volts, amps, warmth', dueAt: look, phase, until: endAt };
    }
  }
}

/** The look that first said it is done: more looks after it change nothing of when it was due. */
function provenAt(state: JobState, step: StepState, at: number): number | undefined {
  let since: number | undefined;
  for (let seen = state; isDoneByLooks(seen, step, at);) {
    since = lastReadingOf(seen, step.key)?.at;
    if (since === undefined) break;
    seen = withoutLooksAfter(seen, since - 1);
  }
  return since;
}

function earlierRunsMs(runs: readonly { from: number; to?: number }[]): number {
  return runs.slice(0, -1).reduce((sum, run) => sum + ((run.to ?? run.from) - run.from), 0);
}

function holdOf(state: JobState, step: StepState, definition: Step, at: number): Hold | undefined {
  if (step.status === 'held') return { why: step.why ?? '', canOverride: step.canOverride ?? false };
  if (definition.kind === 'gate' && definition.guard && step.reason === undefined)
    return guardHold(definition.guard, state, state.cursor, at);
  return undefined;
}

/** Leads on whose current is limited by nothing, and a load that is on: steps that are no charge and draw all the same. */
const AFTER_LEADS = STEP.donorHour;

function isUnderCurrent(state: JobState, step: StepState, definition: Step): boolean {
  if (step.charge) return step.charge.pausedFor === undefined;
  // A donor's leads are on before its charger is.
  if (definition.id === AFTER_LEADS) return true;
  return definition.isAttended === true || testLookAt(state) !== undefined;
}

/** The step at hand at a moment; undefined once the job has ended. */
export function atHand(unsettled: JobState, at: number): AtHand | undefined {
  const state = settle(unsettled, at);
  const step = state.steps[state.cursor];
  if (!step || state.outcome) return undefined;
  const definition = definitionOf(state, step);
  const context = contextOf(state, step.round);
  const held = holdOf(state, step, definition, at);
  const isRunning = isUnderCurrent(state, step, definition);
  const base = { state, step, definition, context, isRunning, ...(held ? { hold: held } : {}) };
  const overdueAt = (dueAt: number): number => dueAt + definition.overdueAfterMin * MINUTE;
  if (definition.kind === 'charge') {
    const charge = chargeAtHand(state, step, definition, at);
    const isUrgent = charge.phase === 'tooHot' || (step.charge && treatmentOf(state, step)?.isAttended);
    const dueAt = isUrgent ? charge.dueAt : nextOpenMoment(state.opened.hours, charge.dueAt);
    return { ...base, ...charge, dueAt, overdueAt: overdueAt(dueAt) };
  }
  if (definition.kind === 'dwell') {
    const until = dwellEnd(state, step) ?? at;
    return { ...base, title: definition.title, dueAt: until, overdueAt: overdueAt(until), until };
  }
  const test = testLookAt(state);
  if (test) {
    const { dueAt, isOver } = test;
    const what = step.stepId === STEP.cycleEnd ? 'the discharge' : 'the capacity test';
    const title = isOver ? `Load off: ${what} is at its end` : `Look at ${what}`;
    return { ...base, title, dueAt, overdueAt: dueAt + LATE_FOR_TEST_MIN * MINUTE };
  }
  const lookAfter = (definition.lookAfterMin?.(context) ?? 0) * MINUTE;
  const since = (step.openedAt ?? state.openedAt) + lookAfter;
  const dueAt = definition.isAttended ? since : nextOpenMoment(state.opened.hours, since);
  return { ...base, title: definition.title, dueAt, overdueAt: overdueAt(dueAt) };
}
