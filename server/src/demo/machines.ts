/** Machines of the demo: one whose set was replaced, one whose set goes slow, one in the showroom. */
import type { Machine } from '@cork-ember/core/battery/machines.ts';
import { DAY_MS } from '@cork-ember/core/shelf/warmth.ts';
import type { MachineStore } from '../store/machineStore.ts';

export const FERRY: Machine = {
  tag: 'M-0001',
  name: 'Night ferry, emergency lights',
  owner: 'night ferry line',
  carries: 5,
  typeId: 'BK-A12/55',
};

export const LIFT: Machine = {
  tag: 'M-0002',
  name: 'Scissor lift 3',
  owner: 'boatyard',
  carries: 4,
  typeId: 'BK-A12/55',
};

export const MOWER: Machine = {
  tag: 'M-0003',
  name: 'Ride-on mower, showroom',
  owner: 'stock',
  carries: 1,
  typeId: 'TQ-A12/20',
};

/** Put down a year ago. */
const PUT_DOWN_DAYS = 365;

/** @param letters what the shop's own tags begin with */
export async function seedMachines(machines: MachineStore, letters: string, now: number): Promise<void> {
  for (const { tag, ...machine } of [FERRY, LIFT, MOWER]) {
    const added = await machines.add(machine, letters, 'Solveig', now - PUT_DOWN_DAYS * DAY_MS);
    if (added.tag !== tag) throw new Error(`the demo’s ${machine.name} was to be ${tag}, not ${added.tag}`);
  }
}
