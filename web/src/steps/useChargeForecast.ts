/** The model's forecast of a job's first charge, worked out once per setting. */
import { queryOptions, useQueries, useQuery } from '@tanstack/react-query';
import type { FirstChargeCurve } from '@cork-ember/core/charge/firstChargeForecast.ts';
import type { StepContext } from '@cork-ember/core/runsheet/definition/step.ts';
import type { Forecaster } from '../workers/chargeForecast.worker.ts';
import { Hired } from '../workers/hired.ts';

const forecaster = new Hired<Forecaster>(
  () => new Worker(new URL('../workers/chargeForecast.worker.ts', import.meta.url), { type: 'module' }),
);

const forecastOf = (context: StepContext, setA: number) => {
  const question = context.chargeQuestion(setA);
  return queryOptions({
    queryKey: ['charge-forecast', question],
    queryFn: () => forecaster.ask((worker) => worker.forecastFirstCharge(question)),
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
};

/** @param setA current set, or to be set, A */
export function useChargeForecast(context: StepContext, setA: number): FirstChargeCurve | undefined {
  return useQuery(forecastOf(context, setA)).data;
}

/** The same for several charges; undefined where it is still worked out. */
export function useChargeForecasts(
  charges: readonly { readonly context: StepContext; readonly setA: number }[],
): (FirstChargeCurve | undefined)[] {
  return useQueries({ queries: charges.map(({ context, setA }) => forecastOf(context, setA)) }).map(
    ({ data }) => data,
  );
}
