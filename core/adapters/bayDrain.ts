/** A discharge of the run sheet, as a bay with an electronic load runs it: a capacity test to its end, or a cycle. */
import { onSix } from '../battery/types.ts';
import type { DrainPlan } from '../devices/bay/drainEngine.ts';
import { capacityMethods, capacityTestA, capacityValues, type CapacityMethod } from '../grading/grade.ts';
import { STEP } from '../runsheet/definition/stepIds.ts';
import { RunSheetError } from '../runsheet/entries/errors.ts';
import type { Entry } from '../runsheet/entries/events.ts';
import { atHand } from '../runsheet/plan/atHand.ts';
import { drainAt, runningTest } from '../runsheet/plan/capacityClock.ts';
import type { JobState } from '../runsheet/state/jobState.ts';
import type { StepValues } from '../units/values.ts';
import type { BayOutfit } from './bayRoom.ts';

export interface BayDrain {
  readonly kind: 'drain';
  /** Key of its step. */
  readonly step: string;
  readonly plan: DrainPlan;
  /** A load and a cut-off stop it by themselves; without them somebody stays (handbook 3.4). */
  readonly isAttended: false;
  readonly restingV?: number;
  /** A look at it, so many ampere-hours on, V at the posts. */
  readonly look: (ah: number, volts: number) => Entry;
  /** What it came to. */
  readonly measured: (ah: number, volts: number, source: string) => Entry;
}

/** One that gives more than this share of its rating is stopped: it is not the one on the label. */
const MOST_SHARE = 1.5;
/** A cycle is drawn at a tenth (handbook 3.4). */
const CYCLE_HOURS = 10;

const refuse = (sentence: string): RunSheetError => new RunSheetError('held', sentence);
const rounded = (value: number): number => Number(value.toFixed(2));

/** @throws RunSheetError where the load does not draw as much as any way asks */
function methodFor(state: JobState, mostA: number, asked: CapacityMethod | undefined): CapacityMethod {
  const { type } = state.opened;
  const drawn = capacityMethods(type).filter((method) => capacityTestA(method, type) <= mostA);
  const method = asked ?? drawn[0];
  if (method === undefined || !drawn.includes(method))
    throw refuse(
      `The load of this bay draws ${mostA} A at most: ${drawn.length === 0 ? 'no capacity test is so small' : `it runs ${drawn.join(', ')}`}.`,
    );
  return method;
}

/**
 * @param now shop time, ms
 * @param load what stands in the bay
 * @param asked how capacity is measured; the usual way of its size that the load can draw without it
 * @throws RunSheetError where the step at hand is no discharge, or it may not be drawn down now
 */
export function bayDrainOf(
  state: JobState,
  now: number,
  { supply: load }: BayOutfit,
  asked?: CapacityMethod,
): BayDrain {
  const hand = atHand(state, now);
  const drain = hand && drainAt(hand.step.stepId);
  if (!hand || !drain) throw refuse('The step at hand is no charge, and no discharge.');
  if (hand.hold) throw refuse(hand.hold.why);
  const { type } = state.opened;
  const mostA = load.ranges.amps?.most ?? 0;
  const isTest = hand.step.stepId === STEP.proveCapacity;
  const method = isTest ? methodFor(state, mostA, asked) : undefined;
  const amps = method ? capacityTestA(method, type) : type.capacityAh / CYCLE_HOURS;
  if (amps > mostA)
    throw refuse(`The load of this bay draws ${mostA} A at most; this takes ${amps.toFixed(2)} A.`);
  if (runningTest(state, amps, now))
    throw refuse('It has been drawn down already: end that on the run sheet, and charge it again first.');
  const minutesOf = (ah: number): number => (ah / amps) * 60;
  const found = (ah: number, volts: number): StepValues => {
    if (!method) return { minutes: Math.round(minutesOf(ah)), endV: rounded(volts) };
    const values = capacityValues(method, minutesOf(ah), type);
    return Object.fromEntries(
      Object.entries(values).map(([id, value]) => [id, typeof value === 'number' ? rounded(value) : value]),
    );
  };
  const restingV = hand.context.standingV();
  return {
    kind: 'drain',
    step: hand.step.key,
    plan: {
      amps,
      endV: onSix(drain.endV, type),
      mostS: ((type.capacityAh * MOST_SHARE) / amps) * 3600,
      cells: type.cells,
    },
    isAttended: false,
    ...(restingV === undefined ? {} : { restingV }),
    look: (ah, volts) => ({
      kind: 'evidenced',
      payload: { reading: { kind: 'drain', amps, minute: Math.round(minutesOf(ah)), volts: rounded(volts) } },
    }),
    measured: (ah, volts, source) => ({
      kind: 'measured',
      payload: { step: hand.step.key, values: found(ah, volts), source },
    }),
  };
}
