/** The clock of a capacity test or a cycle that is running: nobody has to count its minutes, nobody forgets it (handbook 3.2). */
import { STEP } from '../definition/stepIds.ts';
import { asSix, onSix, type BatteryType } from '../../battery/types.ts';
import { capacityTestA, capacityValues } from '../../grading/grade.ts';
import type { Reading } from '../../observation/readings.ts';
import type { StepValues } from '../../units/values.ts';
import type { JobState } from '../state/jobState.ts';

const MINUTE = 60_000;

interface Look {
  readonly at: number;
  readonly drain: Extract<Reading, { kind: 'drain' }>;
}

/** The last look at the discharge of the step at hand. */
function lastLook({ evidence, steps, cursor }: JobState): Look | undefined {
  const since = steps[cursor - 1]?.doneAt ?? 0;
  const last = evidence?.findLast(({ at, reading }) => at >= since && reading.kind === 'drain');
  return last?.reading.kind === 'drain' ? { at: last.at, drain: last.reading } : undefined;
}

export interface RunningTest {
  /** Since the load went on: the minute of the last look, and the clock since. */
  readonly minutes: number;
  /** What the last look read, V. */
  readonly lastV: number;
  /** The minute it was read at. */
  readonly lastMinute: number;
}

/**
 * The discharge of the step at hand, once a look was taken at it.
 * @param amps it draws
 * @param now shop time, ms
 */
export function runningTest(state: JobState, amps: number, now: number): RunningTest | undefined {
  const look = lastLook(state);
  if (look?.drain.amps !== amps) return undefined;
  const { minute, volts } = look.drain;
  return { minutes: minute + (now - look.at) / MINUTE, lastV: volts, lastMinute: minute };
}

interface Drain {
  /** Where it ends, and below what it falls fast, on 12 V. */
  readonly endV: number;
  readonly nearV: number;
  /** The longest from one look to the next, min. */
  readonly longestMin: number;
}

/**
 * Steps at which a battery is drawn down by the clock. A capacity test is looked at as often as a fall can be missed
 * (reasoned), a cycle every half hour (handbook 3.4).
 */
const DRAINS: Readonly<Record<string, Drain>> = {
  [STEP.proveCapacity]: { endV: 10.5, nearV: 11.5, longestMin: 120 },
  [STEP.cycleEnd]: { endV: 11.5, nearV: 11.8, longestMin: 30 },
};

/** The discharge a step is, on 12 V; undefined of any other step. */
export const drainAt = (stepId: string): Drain | undefined => DRAINS[stepId];

/** A discharge as it is drawn, and what it leaves in the fields of its step. */
export interface DrawnDown {
  readonly amps: number;
  /** Where it ends, V. */
  readonly endV: number;
  readonly found: (minutes: number, volts: number) => StepValues;
}

/** A cycle is drawn at a tenth (handbook 3.4). */
const CYCLE_HOURS = 10;

/**
 * @param method how a capacity is measured; a cycle measures none
 * @returns undefined where the step is no discharge
 */
export function drawnDownAt(stepId: string, type: BatteryType, method: string): DrawnDown | undefined {
  const drain = drainAt(stepId);
  if (!drain) return undefined;
  const endV = onSix(drain.endV, type);
  return stepId === STEP.proveCapacity
    ? {
        endV,
        amps: capacityTestA(method, type),
        found: (minutes) => capacityValues(method, minutes, type),
      }
    : {
        endV,
        amps: type.capacityAh / CYCLE_HOURS,
        found: (minutes, volts) => ({ minutes: Math.round(minutes), endV: volts }),
      };
}

/** Looks in the time the rating would last. */
const LOOKS = 4;
const OFTENER_NEAR_END = 3;

/**
 * When a running discharge is to be looked at again: a discharge left alone ruins the battery.
 * @returns shop time, ms, the moment of the last look where that was at its end; undefined where none runs
 */
export function testLookAt(
  state: JobState,
): { readonly dueAt: number; readonly isOver: boolean } | undefined {
  const drain = drainAt(state.steps[state.cursor]?.stepId ?? '');
  const look = lastLook(state);
  if (!drain || !look) return undefined;
  const { capacityAh, cells } = state.opened.type;
  const { amps, volts } = look.drain;
  const on12V = asSix(volts, { cells });
  if (on12V <= drain.endV) return { dueAt: look.at, isOver: true };
  const everyMin = Math.min(drain.longestMin, ((capacityAh / amps) * 60) / LOOKS);
  return {
    dueAt: look.at + (on12V < drain.nearV ? everyMin / OFTENER_NEAR_END : everyMin) * MINUTE,
    isOver: false,
  };
}
