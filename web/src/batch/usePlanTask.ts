/** What the planner is asked of several batteries: the bench as it stands, its hands, and what begins at once. */
import { useMemo } from 'react';
import type { Shop } from '@cork-ember/core/contract/answers.ts';
import type { Outline } from '@cork-ember/core/runsheet/log/outline.ts';
import { chargerOf } from '@cork-ember/core/adapters/bayRoom.ts';
import { chargesAlone, outfitOf, wiredIn } from '@cork-ember/core/devices/outfit.ts';
import { forecast } from '@cork-ember/core/runsheet/plan/forecast.ts';
import { bayTimes } from '@cork-ember/core/schedule/bayTimes.ts';
import type { Assignment, PlanBattery, PlanTask } from '@cork-ember/core/schedule/planner.ts';
import { useOpenJobs } from '../api/jobs.ts';

/** Hands asked for by jobs under way, as far as their cords can be seen. */
function busyOf(jobs: readonly Outline[], now: number): PlanTask['busy'] {
  return jobs.flatMap(({ state }) =>
    forecast(state, now).segments.filter(({ kind, to }) => kind === 'hands' && to > now),
  );
}

/** @param now steps on every few minutes: it is planned anew with it */
export function usePlanTask(
  shop: Shop | undefined,
  batteries: readonly PlanBattery[],
  hands: number,
  now: number,
): PlanTask | undefined {
  const { jobs } = useOpenJobs();
  return useMemo(() => {
    if (!shop || now === 0 || batteries.length === 0) return undefined;
    return {
      now,
      hours: shop.hours,
      hands,
      batteries,
      busy: busyOf(jobs, now),
      bays: bayTimes(
        shop.bays,
        jobs.map(({ state }) => state),
        now,
      ).flatMap(({ number, freeAt }) => {
        const outfit = outfitOf(shop, number);
        const source = chargesAlone(outfit) ? wiredIn(shop, number, 'supply') : undefined;
        const own = source && chargerOf({ bay: number, source, hasCutOff: true });
        if (own) return [{ number, charger: own, freeAt, isAlone: true }];
        const id = shop.bays.find((bay) => bay.number === number)?.charger;
        const charger = shop.chargers.find((one) => one.id === id);
        return charger ? [{ number, charger, freeAt }] : [];
      }),
    };
  }, [shop, batteries, hands, jobs, now]);
}

/** Those that can begin within the hour in a bay that is empty now, one to a bay. */
export function useStartable(
  shop: Shop | undefined,
  assignments: readonly Assignment[],
  now: number,
): readonly Assignment[] {
  const { jobs } = useOpenJobs();
  const free = (shop?.bays ?? []).filter(({ number }) => !jobs.some(({ state }) => state.bay === number));
  const taken = new Set<number>();
  return [...assignments]
    .sort((a, b) => a.layout.from - b.layout.from)
    .filter(({ bay, layout }) => {
      const isFree = free.some(({ number }) => number === bay) && !taken.has(bay);
      const isNow = layout.from <= now + 3_600_000 && isFree;
      if (isNow) taken.add(bay);
      return isNow;
    });
}
