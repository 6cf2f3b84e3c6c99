/** Batteries and charges the model's tests share. */
import { ChargeEngine } from '../charge/engine.ts';
import { ModelRun, type RunOptions } from '../charge/modelRun.ts';
import type { Profile, Subject } from '../charge/profile.ts';
import { SOUND } from '../model/battery.ts';
import type { CellString } from '../model/cellString.ts';
import { makeBattery, type Fault } from '../model/faults.ts';
import { soundBattery, type BatteryParameters, type Rating } from '../model/parameters.ts';

export const AGM_80: Rating = {
  construction: 'agm',
  duty: 'starter',
  cells: 6,
  capacityAh: 80,
  hourRate: 20,
  crankingA: 800,
  crankingStandard: 'EN',
};
export const FLOODED_70: Rating = {
  construction: 'flooded',
  duty: 'starter',
  cells: 6,
  capacityAh: 70,
  hourRate: 20,
  crankingA: 640,
  crankingStandard: 'EN',
};

export function subjectOf({ construction, cells, capacityAh }: Rating): Subject {
  return { construction, cells, capacityAh };
}

/** A battery none of whose cells is like another, so that each is solved. */
export function sixDifferent(rating: Rating): BatteryParameters {
  const parameters = soundBattery(rating);
  const cells = parameters.cells.map((cell, index) => ({
    ...cell,
    convertibleAh: cell.convertibleAh * (1 - 0.01 * index),
  }));
  return { ...parameters, cells };
}

export const EVERY_FAULT: readonly (readonly [name: string, faults: readonly Fault[]])[] = [
  ['sound', []],
  ['dead short', [{ kind: 'short', cell: 3, ohms: 0.02 }]],
  ['soft short', [{ kind: 'short', cell: 3, ohms: 2 }]],
  ['open cell', [{ kind: 'open', cell: 2 }]],
  ['weak cell', [{ kind: 'weak', cell: 5, share: 0.5 }]],
  ['worn', [{ kind: 'worn', share: 0.6 }]],
  ['dry', [{ kind: 'dry', share: 0.15 }]],
  ['layered', [{ kind: 'layered', share: 0.2 }]],
  ['poor joint', [{ kind: 'joint', cell: 4, ohms: 0.03 }]],
  ['reversed cell', [{ kind: 'reversed', cell: 1 }]],
  ['contaminated', [{ kind: 'contaminated' }]],
];

/** Current, then voltage, for 48 hours whatever happens: no exit whose moment could part two runs. */
export function steadyCharge(rating: Rating, amps = rating.capacityAh / 10, hours = 48): Profile {
  return {
    id: 'constant-voltage',
    name: 'Steady',
    purpose: 'charge',
    reason: 'For comparing runs.',
    isAttended: false,
    stages: [
      {
        id: 'steady',
        name: 'Steady',
        amps,
        volts: (14.4 / 6) * rating.cells,
        isCompensated: true,
        exits: [{ on: 'time', seconds: hours * 3600, next: 'full' }],
      },
    ],
  };
}

export function chargeOn(
  rating: Rating,
  cells: CellString,
  plan: Profile,
  options: RunOptions = {},
): ModelRun {
  return new ModelRun(cells, new ChargeEngine(plan, subjectOf(rating)), options);
}

export function partCharged(
  parameters: BatteryParameters,
  faults: readonly Fault[],
  charge = 0.25,
  tempC = 25,
): CellString {
  return makeBattery({ parameters, condition: { ...SOUND, charge, film: 0.3 }, faults, tempC });
}
