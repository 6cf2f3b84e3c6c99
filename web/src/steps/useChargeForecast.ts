/** The model's forecast of a job's first charge, worked out once per setting. */
import { useQuery } from '@tanstack/react-query';
import { wrap, type Remote } from 'comlink';
import type { FirstChargeCurve } from '@cork-ember/core/charge/firstChargeForecast.ts';
import type { StepContext } from '@cork-ember/core/runsheet/step.ts';
import type { Forecaster } from '../workers/chargeForecast.worker.ts';

let forecaster: Remote<Forecaster> | undefined;

function worker(): Remote<Forecaster> {
  forecaster ??= wrap<Forecaster>(
    new Worker(new URL('../workers/chargeForecast.worker.ts', import.meta.url), { type: 'module' }),
  );
  return forecaster;
}

/** @param setA current set, or to be set, A */
export function useChargeForecast(context: StepContext, setA: number): FirstChargeCurve | undefined {
  const question = context.chargeQuestion(setA);
  const { data } = useQuery({
    queryKey: ['charge-forecast', question],
    queryFn: () => worker().forecastFirstCharge(question),
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
  return data;
}
