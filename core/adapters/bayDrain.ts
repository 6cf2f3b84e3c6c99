/** A discharge of the run sheet, as a bay with an electronic load runs it: a capacity test to its end, or a cycle. */
import type { DrainPlan } from '../devices/bay/drainEngine.ts';
import { capacityMethodsWithin, type CapacityMethod } from '../grading/grade.ts';
import { isDrawnDown } from '../runsheet/definition/restedSteps.ts';
import { STEP } from '../runsheet/definition/stepIds.ts';
import { RunSheetError } from '../runsheet/entries/errors.ts';
import type { Entry } from '../runsheet/entries/events.ts';
import { atHand } from '../runsheet/plan/atHand.ts';
import { drawnDownAt, runningTest } from '../runsheet/plan/capacityClock.ts';
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

const refuse = (sentence: string): RunSheetError => new RunSheetError('held', sentence);
const rounded = (value: number): number => Number(value.toFixed(2));
const roundedAll = (values: StepValues): StepValues =>
  Object.fromEntries(
    Object.entries(values).map(([id, value]) => [id, typeof value === 'number' ? rounded(value) : value]),
  );

/** @throws RunSheetError where the load does not draw as much as any way asks */
function methodFor(state: JobState, mostA: number, asked: CapacityMethod | undefined): CapacityMethod {
  const { type } = state.opened;
  const within = capacityMethodsWithin(type, mostA);
  const method = asked ?? within[0];
  if (method === undefined || !within.includes(method))
    throw refuse(
      `The load of this bay draws ${mostA} A at most: ${within.length === 0 ? 'no capacity test is so small' : `it runs ${within.join(', ')}`}.`,
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
  { source: load }: BayOutfit,
  asked?: CapacityMethod,
): BayDrain {
  const hand = atHand(state, now);
  if (!hand) throw refuse('Nothing is at hand any more.');
  const { step } = hand;
  if (hand.hold) throw refuse(hand.hold.why);
  const { type } = state.opened;
  const mostA = load.ranges.amps?.most ?? 0;
  const method = step.stepId === STEP.proveCapacity ? methodFor(state, mostA, asked) : undefined;
  const drawn = drawnDownAt(step.stepId, type, method ?? '');
  if (!drawn) throw refuse('The step at hand is no charge, and no discharge.');
  const { amps, endV } = drawn;
  if (amps > mostA)
    throw refuse(`The load of this bay draws ${mostA} A at most; this takes ${amps.toFixed(2)} A.`);
  if (runningTest(state, amps, now))
    throw refuse('It has been drawn down already: end that on the run sheet, and charge it again first.');
  const minutesOf = (ah: number): number => (ah / amps) * 60;
  const restingV = isDrawnDown(hand.context) ? undefined : hand.context.standingV();
  return {
    kind: 'drain',
    step: step.key,
    plan: {
      amps,
      endV,
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
      payload: { step: step.key, values: roundedAll(drawn.found(minutesOf(ah), volts)), source },
    }),
  };
}
