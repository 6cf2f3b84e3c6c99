/** The model's forecast of a job's first charge, worked out once per setting. */
import { useQuery } from '@tanstack/react-query';
import { wrap, type Remote } from 'comlink';
import type { FirstChargeCurve, FirstChargeQuestion } from '@cork-ember/core/charge/firstChargeForecast.ts';
import type { StepContext } from '@cork-ember/core/runsheet/step.ts';
import type { Forecaster } from '../workers/chargeForecast.worker.ts';

let forecaster: Remote<Forecaster> | undefined;

function worker(): Remote<Forecaster> {
  forecaster ??= wrap<Forecaster>(
    new Worker(new URL('../workers/chargeForecast.worker.ts', import.meta.url), { type: 'module' }),
  );
  return forecaster;
}

/** A shop's usual warmth, until the battery's own was read, °C. */
const USUAL_C = 21;

/** @param setA current set, or to be set, A */
export function useChargeForecast(context: StepContext, setA: number): FirstChargeCurve | undefined {
  const setting = context.chargeSetting();
  const measuredC = context.valuesOf('ocv-soak')['tempC'];
  const question: FirstChargeQuestion = {
    type: context.opened.type,
    startPercent: setting.startPercent,
    setA,
    ceilingV: setting.ceiling.value,
    tailMin: setting.tailMin,
    tempC: typeof measuredC === 'number' ? Math.min(measuredC, 40) : USUAL_C,
  };
  const { data } = useQuery({
    queryKey: ['charge-forecast', question],
    queryFn: () => worker().forecastFirstCharge(question),
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
  return data;
}
