/** What a bay is told to do: the charge or the discharge at hand of a run sheet, on the devices that are wired there. */
import { bayChargeOf, type BayCharge } from '@cork-ember/core/adapters/bayCharge.ts';
import { bayDrainOf, type BayDrain } from '@cork-ember/core/adapters/bayDrain.ts';
import { bayStepOf, isStepAt, type BayStep } from '@cork-ember/core/adapters/bayStep.ts';
import { unattendedRefusal } from '@cork-ember/core/adapters/bayRoom.ts';
import type { Addressed, BayDoes, BayOrder } from '@cork-ember/core/devices/bay/messages.ts';
import type { DeviceKind } from '@cork-ember/core/devices/profile.ts';
import type { CapacityMethod } from '@cork-ember/core/grading/grade.ts';
import { atHand } from '@cork-ember/core/runsheet/plan/atHand.ts';
import { drainAt } from '@cork-ember/core/runsheet/plan/capacityClock.ts';
import type { JobState } from '@cork-ember/core/runsheet/state/jobState.ts';
import { ProblemError } from '../problems.ts';
import type { Devices } from './devices.ts';

export type BayWork = BayCharge | BayDrain | BayStep;

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

/** What the step at hand asks of a bay. */
function askedOf(state: JobState, now: number): BayWork['kind'] {
  const stepId = atHand(state, now)?.step.stepId ?? '';
  if (isStepAt(state, stepId)) return 'step';
  return drainAt(stepId) ? 'drain' : 'charge';
}

function doesBy(work: BayWork): BayDoes {
  switch (work.kind) {
    case 'charge':
      return { kind: 'charge', plan: work.plan, subject: work.subject };
    case 'drain':
      return { kind: 'drain', plan: work.plan };
    case 'step':
      return { kind: 'step', plan: work.plan };
  }
}

/**
 * @throws ProblemError where the bay lacks what it takes, or may not run now; RunSheetError where the step at hand is none a bay can run
 */
export function bayOrderOf(
  { bay, job, state, now, method, order }: Asked,
  devices: Devices,
): { readonly order: BayOrder; readonly work: BayWork } {
  const of = (kind: DeviceKind): Addressed | undefined => devices.inBay(bay, kind);
  const asks = askedOf(state, now);
  const kind = asks === 'charge' ? 'supply' : 'load';
  const source = of(kind);
  if (!source)
    throw new ProblemError('refused', `Bay ${bay} has no ${kind} of its own: add it under Setup, Devices.`);
  const [meter, cutoff] = [of('meter'), of('cutoff')];
  if (asks === 'step' && !(meter && 'volts' in meter.profile.speech.asks))
    throw new ProblemError(
      'refused',
      `Bay ${bay} has no meter at the posts: leads would count with what is measured.`,
    );
  const hasCutOff = cutoff !== undefined;
  const outfit = { bay, source: source.profile, hasCutOff };
  const makes = {
    charge: () => bayChargeOf(state, now, outfit),
    drain: () => bayDrainOf(state, now, outfit, method),
    step: () => bayStepOf(state, now, outfit),
  };
  const work: BayWork = makes[asks]();
  const { isAttended, restingV } = work;
  const alone = unattendedRefusal(state.opened, { hasCutOff, isAttended }, now);
  if (alone !== undefined) throw new ProblemError('refused', alone);
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
      does: doesBy(work),
      ...(restingV === undefined ? {} : { restingV }),
    },
  };
}
