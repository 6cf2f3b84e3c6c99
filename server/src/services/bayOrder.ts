/** What a bay is told to do: the charge or the discharge at hand of a run sheet, on the devices that are wired there. */
import { bayChargeOf, type BayCharge } from '@cork-ember/core/adapters/bayCharge.ts';
import { bayDrainOf, type BayDrain } from '@cork-ember/core/adapters/bayDrain.ts';
import { unattendedRefusal } from '@cork-ember/core/adapters/bayRoom.ts';
import type { Addressed, BayDoes, BayOrder } from '@cork-ember/core/devices/bay/messages.ts';
import type { DeviceKind } from '@cork-ember/core/devices/profile.ts';
import type { CapacityMethod } from '@cork-ember/core/grading/grade.ts';
import { atHand } from '@cork-ember/core/runsheet/plan/atHand.ts';
import { drainAt } from '@cork-ember/core/runsheet/plan/capacityClock.ts';
import type { JobState } from '@cork-ember/core/runsheet/state/jobState.ts';
import { ProblemError } from '../problems.ts';
import type { Devices } from './devices.ts';

export type BayWork = BayCharge | BayDrain;

interface Asked {
  readonly bay: number;
  readonly job: string;
  readonly state: JobState;
  /** Shop time, ms. */
  readonly now: number;
  /** How a capacity is measured. */
  readonly method?: CapacityMethod | undefined;
  /** Number of the order. */
  readonly order: number;
}

/** Whether a load is asked for, not a supply. */
function isDrain(state: JobState, now: number): boolean {
  const hand = atHand(state, now);
  return hand !== undefined && drainAt(hand.step.stepId) !== undefined;
}

/**
 * @throws ProblemError where the bay lacks what it takes, or may not run now; RunSheetError where the step at hand is none a bay can run
 */
export function bayOrderOf(
  { bay, job, state, now, method, order }: Asked,
  devices: Devices,
): { readonly order: BayOrder; readonly work: BayWork } {
  const of = (kind: DeviceKind): Addressed | undefined => devices.inBay(bay, kind);
  const kind = isDrain(state, now) ? 'load' : 'supply';
  const source = of(kind);
  if (!source)
    throw new ProblemError('refused', `Bay ${bay} has no ${kind} of its own: add it under Setup, Devices.`);
  const [meter, cutoff] = [of('meter'), of('cutoff')];
  const hasCutOff = cutoff !== undefined;
  const outfit = { bay, source: source.profile, hasCutOff };
  const work = kind === 'load' ? bayDrainOf(state, now, outfit, method) : bayChargeOf(state, now, outfit);
  const { isAttended, restingV } = work;
  const alone = unattendedRefusal(state.opened, { hasCutOff, isAttended }, now);
  if (alone !== undefined) throw new ProblemError('refused', alone);
  const does: BayDoes =
    work.kind === 'drain'
      ? { kind: 'drain', plan: work.plan }
      : { kind: 'charge', plan: work.plan, subject: work.subject };
  return {
    work,
    order: {
      order,
      bay,
      job,
      source,
      ...(meter ? { meter } : {}),
      ...(cutoff ? { cutoff } : {}),
      stops: devices.stopsFor(bay),
      does,
      ...(restingV === undefined ? {} : { restingV }),
    },
  };
}
