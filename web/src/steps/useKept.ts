/** The whole of a charge as a bay or a probe read it each second, drawn together so that nothing that stood out is lost. */
import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import type { Stretch } from '@cork-ember/core/devices/samples.ts';
import type { ChargeState, JobState } from '@cork-ember/core/runsheet/state/jobState.ts';
import { minutesOnCharge } from '@cork-ember/core/runsheet/state/looks.ts';
import { ask } from '../api/client.ts';
import { useShown } from '../api/shown.ts';
import type { KeptStretch } from './BandChart.tsx';

/** As many as there are points on a tablet. */
const MOST_STRETCHES = 240;
/** Asked anew with each look of the sheet, and no oftener. */
const AGAIN_MS = 15 * 60_000;

const NONE: readonly Stretch[] = [];

/** @param now shop time, ms */
export function useKept({ job }: JobState, charge: ChargeState | undefined, now: number): KeptStretch[] {
  const isKept = useShown(job) !== undefined;
  const from = charge?.runs[0]?.from;
  const asOf = Math.ceil(now / AGAIN_MS) * AGAIN_MS;
  const { data = NONE } = useQuery({
    queryKey: ['kept', job, from, asOf],
    queryFn: () =>
      ask<readonly Stretch[]>(`/api/jobs/${job}/readings?from=${from ?? 0}&most=${MOST_STRETCHES}`),
    enabled: isKept && from !== undefined,
    placeholderData: (before: readonly Stretch[] | undefined) => before,
    gcTime: AGAIN_MS,
  });
  return useMemo(
    () =>
      charge
        ? data.map(({ from: begins, to, ...ends }) => ({
            ...ends,
            minute: minutesOnCharge(charge, (begins + to) / 2),
          }))
        : [],
    [data, charge],
  );
}
