/** Simulated devices that live outside the server, and how a shop knows them. */
import { fork, type ChildProcess } from 'node:child_process';
import { join } from 'node:path';
import type { Pace } from '@cork-ember/core/clock/clock.ts';
import { SIMULATED_PARTS, type Device } from '@cork-ember/core/devices/device.ts';

export interface OutsideDevices {
  readonly firstPort: number;
  /** So many, from 1. */
  readonly bays: number;
  /** The same for all of them; what is there without it is small and half full. */
  readonly battery?: { readonly capacityAh: number; readonly charge: number };
}

/** Starts them. @param pace how fast their batteries live */
export async function openDevices(outside: OutsideDevices, pace: Pace = 1): Promise<ChildProcess> {
  const child = fork(join(import.meta.dirname, 'simulatedBay.ts'), [JSON.stringify({ ...outside, pace })], {
    execArgv: ['--import', 'tsx'],
  });
  process.once('exit', () => child.kill('SIGKILL'));
  await new Promise((resolve) => child.once('message', resolve));
  return child;
}

const PROFILES = {
  supply: 'scpi-supply',
  cutoff: 'scpi-cut-off',
  meter: 'scpi-scanner',
  load: 'scpi-load',
  stop: 'scpi-stop',
} as const;

/** As a shop is told of them. @param bayOf what the shop calls each of their bays */
export const devicesOf = (
  { firstPort, bays }: OutsideDevices,
  bayOf: (bay: number) => number = (bay) => bay,
): readonly Device[] =>
  Array.from({ length: bays }, (_, bay) =>
    SIMULATED_PARTS.map((part, index): Device => ({
      id: `${part}-${bayOf(bay + 1)}`,
      name: `${part} of bay ${bayOf(bay + 1)}`,
      profile: PROFILES[part],
      bay: bayOf(bay + 1),
      place: { kind: 'tcp', host: '127.0.0.1', port: firstPort + bay * SIMULATED_PARTS.length + index },
    })),
  ).flat();
