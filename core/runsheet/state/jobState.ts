/** A job as the fold of its events: what stands of it, as plain data. */
import type { Charger } from '../../charge/charger.ts';
import type { ChargeReading } from '../../charge/proofOfFull.ts';
import type { StopRuleId, WatchState } from '../../charge/watch.ts';
import type { Reading } from '../../observation/readings.ts';
import type { StepValues } from '../../units/values.ts';
import type { Outcome, RouteTaken } from '../definition/step.ts';
import type { OpenedPayload } from '../entries/events.ts';

export type StepStatus = 'ahead' | 'open' | 'held' | 'done' | 'skipped' | 'overridden';

/** Time on charge: one run per stretch the charger was on. */
export interface ChargeRun {
  readonly from: number;
  readonly to?: number;
}

/**
 * Readings on charge, the latest first and apart from the steps: one more costs the same however many
 * there are.
 */
export interface ReadingChain {
  /** Key of the charge it belongs to. */
  readonly step: string;
  readonly reading: ChargeReading;
  /** What the looks of this charge come to up to this one; in an outline the newest alone says so. */
  readonly watch?: WatchState;
  readonly before?: ReadingChain;
}

export interface ChargeState {
  /** As it is set now, A. */
  readonly currentA: number;
  /** The voltage it was set to, below what its way allows, V. */
  readonly setV?: number;
  /** What it was set to before, each until its moment. */
  readonly wasSet?: readonly { readonly currentA: number; readonly to: number }[];
  readonly charger?: Charger;
  /** Time on charge it was started for, min, as it stood then. */
  readonly dueMin?: number;
  readonly runs: readonly ChargeRun[];
  readonly pausedFor?: 'hot' | 'stopped';
  /** Times it was too hot. */
  readonly hotPauses: number;
  /** A stop rule ended it: which and why, for good. */
  readonly stopped?: { readonly rule: StopRuleId | 'hot'; readonly why: string };
  readonly fullSignal: boolean;
}

export interface StepState {
  /** "charge#2": the step in the second round. */
  readonly key: string;
  readonly stepId: string;
  readonly round: number;
  readonly status: StepStatus;
  readonly openedAt?: number;
  readonly doneAt?: number;
  readonly by?: string;
  /** What stands in the way while the status is "held", and on a charge since which look. */
  readonly why?: string;
  readonly heldAt?: number;
  readonly canOverride?: boolean;
  readonly reason?: string;
  readonly values?: StepValues;
  readonly source?: string;
  readonly chambers?: readonly boolean[];
  readonly code?: string;
  readonly charge?: ChargeState;
  readonly verdict?: string;
}

export interface Note {
  readonly at: number;
  readonly by: string;
  readonly text: string;
}

export interface Photo extends Note {
  readonly photo: string;
  readonly step: string;
}

export interface Evidence {
  readonly at: number;
  readonly by: string;
  readonly reading: Reading;
}

export interface JobState {
  readonly job: string;
  readonly opened: OpenedPayload;
  readonly openedAt: number;
  /** Where it stands now; 0 on the shelf. */
  readonly bay: number;
  /** Steps in the order they are gone through; a repeat lengthens it. */
  readonly steps: readonly StepState[];
  /** Index of the step at hand; the length of `steps` when none is left. */
  readonly cursor: number;
  readonly notes: readonly Note[];
  readonly photos: readonly Photo[];
  readonly readings?: ReadingChain;
  /** Readings taken to find out, outside the steps. */
  readonly evidence?: readonly Evidence[];
  /** Routes of a recovery, the first first. */
  readonly routes?: readonly RouteTaken[];
  readonly outcome?: Outcome;
  readonly outcomeNote?: string;
  readonly endedAt?: number;
}

export function keyOf(stepId: string, round: number): string {
  return `${stepId}#${round}`;
}

/** The latest state of a step, of the given round or before. */
export function latest(
  state: JobState,
  stepId: string,
  round = Number.MAX_SAFE_INTEGER,
): StepState | undefined {
  let found: StepState | undefined;
  for (const step of state.steps) if (step.stepId === stepId && step.round <= round) found = step;
  return found;
}
