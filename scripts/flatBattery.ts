/** A battery that was found flat, as the long runs take it in over the API: up to its slow charge, and on by its bay. */
import { randomUUID } from 'node:crypto';
import type { JobAnswer } from '@cork-ember/core/contract/answers.ts';
import { CATALOGUE } from '@cork-ember/core/demo/catalogue.ts';
import type { LiveBay } from '@cork-ember/core/devices/bay/messages.ts';
import type { Entry } from '@cork-ember/core/runsheet/entries/events.ts';
import type { Ask } from './asking.ts';

/** Whatever the demo has of its kind. */
export const FLAT_TYPE = CATALOGUE.find(({ id }) => id === 'BK-A12/55') as (typeof CATALOGUE)[number];

const HOUR_MS = 3_600_000;
const source = 'keypad';

/** @param shopMs what the shop's clock shows */
export const flatBattery = (tag: string, bay: number, shopMs: number) => ({
  battery: { tag, typeId: FLAT_TYPE.id, serial: '', dateCode: '2022-05', owner: 'stock' },
  bay,
  procedure: 'recover-agm',
  promisedAt: Math.round(shopMs) + 30 * HOUR_MS,
});

/** @param ocvV how it stands at rest, V */
export const toSlowCharge = (ocvV: number): readonly Entry[] => [
  { kind: 'affirmed', payload: { step: 'identify#1' } },
  { kind: 'measured', payload: { step: 'label#1', values: {}, source } },
  { kind: 'affirmed', payload: { step: 'safety#1' } },
  { kind: 'affirmed', payload: { step: 'inspect#1' } },
  { kind: 'measured', payload: { step: 'history#1', values: { complaint: 'parked' }, source } },
  { kind: 'affirmed', payload: { step: 'clean#1' } },
  {
    kind: 'measured',
    payload: { step: 'first-ocv#1', values: { ocvV, tempC: 21, rested: 'yes' }, source },
  },
  { kind: 'skipped', payload: { step: 'first-tester#1' } },
  { kind: 'routed', payload: { step: 'choose-route#1', route: 'slow-charge' } },
];

/** Taken in, up to its slow charge. @param ocvV how it stands at rest, V; @returns its job */
export async function takenIn(ask: Ask, tag: string, bay: number, ocvV: number, by: string): Promise<string> {
  const { shopMs } = await ask<{ shopMs: number }>('/api/clock');
  const battery = { ...flatBattery(tag, bay, shopMs), by, requestKey: randomUUID() };
  const { id } = await ask<JobAnswer>('/api/jobs', battery);
  for (const [index, entry] of toSlowCharge(ocvV).entries())
    await ask(`/api/jobs/${id}/events`, { expectedSeq: index + 1, requestKey: randomUUID(), by, entry });
  return id;
}

/** Checked by its bay, and switched on by a person. @throws Error where the bay was not ready */
export async function switchedOn(ask: Ask, bay: number, job: string, by: string): Promise<void> {
  const checked = await ask<LiveBay>(`/api/bays/${bay}/check`, { job });
  if (checked.phase !== 'ready') throw new Error(`bay ${bay} was not ready: ${checked.says}`);
  await ask(`/api/bays/${bay}/confirm`, { by });
}
