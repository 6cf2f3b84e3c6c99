/** The plan of what is being taken in, drawn anew once a minute; from the first free bay where every one is taken. */
import { useMemo } from 'react';
import type { BatteryType } from '@cork-ember/core/battery/types.ts';
import type { BatteryRecord, Shop } from '@cork-ember/core/contract/answers.ts';
import { EDITION } from '@cork-ember/core/runsheet/entries/events.ts';
import { planIntake, type IntakePlan } from '@cork-ember/core/schedule/intakePlan.ts';
import { AGE_UNKNOWN } from '@cork-ember/core/battery/dateCode.ts';
import { SHELF } from '@cork-ember/core/runsheet/entries/place.ts';
import { bayTimes, firstFree, type BayTime } from '@cork-ember/core/schedule/bayTimes.ts';
import { useOpenJobs } from '../api/jobs.ts';

export interface PlanQuestion {
  readonly shop: Shop;
  readonly type: BatteryType | undefined;
  readonly procedure: string | undefined;
  readonly battery: Partial<BatteryRecord> | undefined;
  readonly bay: number | undefined;
  readonly promisedAt: number | undefined;
  readonly now: number;
}

export interface Planned {
  readonly plan: IntakePlan;
  /** The bay it waits for, where it is to wait. */
  readonly waitsFor?: BayTime;
}

const MINUTE = 60_000;

export function usePlan(question: PlanQuestion): Planned | undefined {
  const { shop, type, procedure, battery, bay = SHELF, promisedAt, now } = question;
  const { jobs } = useOpenJobs();
  // Drawn anew once a minute, not with every tick of the clock.
  const at = Math.floor(now / MINUTE) * MINUTE;
  return useMemo(() => {
    if (!type || !procedure || promisedAt === undefined || Number.isNaN(promisedAt)) return undefined;
    const dateCode = /^\d{4}-\d\d$/.test(battery?.dateCode ?? '') ? (battery?.dateCode ?? '') : AGE_UNKNOWN;
    const { tag = '', serial = '', owner = '' } = battery ?? {};
    const states = jobs.map(({ state }) => state);
    const waitsFor = bay === SHELF ? firstFree(bayTimes(shop.bays, states, at)) : undefined;
    const opened = {
      edition: EDITION,
      procedure,
      battery: { tag, serial, dateCode, owner },
      type,
      rules: shop.rules,
      hours: shop.hours,
      bay,
      promisedAt,
    };
    const plan = planIntake(opened, Math.max(at, waitsFor?.freeAt ?? at));
    return { plan, ...(waitsFor ? { waitsFor } : {}) };
  }, [shop, type, procedure, battery, bay, promisedAt, at, jobs]);
}
