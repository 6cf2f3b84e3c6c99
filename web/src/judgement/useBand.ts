/** The forecast band of the charge a recovery is on, and how the charge goes against it. */
import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import type { Band } from '@cork-ember/core/belief/band.ts';
import { goingOn, type GoingOn } from '@cork-ember/core/belief/deviation.ts';
import { ceilingNow } from '@cork-ember/core/runsheet/verdict/chargeLimits.ts';
import type { AtHand } from '@cork-ember/core/runsheet/plan/atHand.ts';
import { minutesOnCharge, readingsFrom } from '@cork-ember/core/runsheet/state/looks.ts';
import type { Treatment } from '@cork-ember/core/runsheet/definition/step.ts';
import { believer, useBelief } from './useBelief.ts';

/** Ceilings are stated at this warmth, °C. */
const REFERENCE_C = 25;

export interface Tracked {
  readonly looks: readonly {
    readonly minute: number;
    readonly voltageV: number;
    readonly currentA: number;
    readonly tempC: number;
    readonly at: number;
  }[];
  /** Undefined while the belief is still weighing. */
  readonly band: Band | undefined;
  readonly going: GoingOn | undefined;
}

export function useBand(hand: AtHand, treatment: Treatment): Tracked {
  const { state, step } = hand;
  const { key, charge } = step;
  const { question, course, believed } = useBelief(state);
  // The charge at hand is the last of what was done to it.
  const stage = course.passages.length - 1;
  const minutes = course.passages[stage]?.minutes ?? treatment.dueMin;
  const { data: band } = useQuery({
    // At once, and again once the belief is at rest.
    queryKey: ['band', state.job, key, question, believed?.isAtRest],
    queryFn: () =>
      believer.ask((worker) => worker.band(question, stage, Math.min(minutes, treatment.dueMin * 1.2))),
    enabled: believed !== undefined && course.isOn,
    staleTime: Number.POSITIVE_INFINITY,
    // Of this charge, while another look is weighed.
    placeholderData: (before: Band | undefined, query) =>
      query?.queryKey[1] === state.job && query.queryKey[2] === key ? before : undefined,
    retry: false,
  });
  const { readings: chain } = state;
  const looks = useMemo(
    () =>
      readingsFrom(chain, key).map((reading) => ({
        ...reading,
        minute: charge ? minutesOnCharge(charge, reading.at) : 0,
      })),
    [chain, key, charge],
  );
  const { cells, capacityAh } = state.opened.type;
  const going =
    band && charge
      ? goingOn(
          {
            looks,
            setA: charge.currentA,
            ceilingV: ceilingNow(treatment, state.opened.type, looks.at(-1)?.tempC ?? REFERENCE_C),
            cells,
            capacityAh,
            ...(charge.stopped ? { stopped: charge.stopped.why } : {}),
          },
          band,
        )
      : undefined;
  return { looks, band, going };
}
