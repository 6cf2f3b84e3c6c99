/** The model's word on a charge: how long beside the rule of thumb, and the curve the readings should follow. */
import { lazy, Suspense, useMemo } from 'react';
import type { AtHand } from '@cork-ember/core/runsheet/atHand.ts';
import { minutesOnCharge, readingsFrom } from '@cork-ember/core/runsheet/state.ts';
import { useChargeForecast } from './useChargeForecast.ts';

const ChargeCurve = lazy(() => import('./ChargeCurve.tsx'));

const hoursText = (minutes: number): string => `${(minutes / 60).toFixed(1)} h`;

export function ForecastPanel({ hand }: { hand: AtHand }) {
  const { state, step, context } = hand;
  const setA = step.charge?.currentA ?? context.chargeSetting().current.value;
  const { thumbMin } = context.chargeSetting(setA);
  const curve = useChargeForecast(context, setA);
  const { readings: chain } = state;
  const { key, charge } = step;
  // Drawn anew with a reading, not with every tick of the clock.
  const readings = useMemo(
    () =>
      readingsFrom(chain, key).map((reading) => ({
        ...reading,
        minute: charge ? minutesOnCharge(charge, reading.at) : 0,
      })),
    [chain, key, charge],
  );
  if (!curve) return <p className="px-5 pt-3 text-soft">The model is working the charge out …</p>;
  return (
    <section aria-label="Forecast of this charge" className="mx-5 mt-4 rounded-lg border border-line p-3">
      <p>
        By the model <strong className="reading">{hoursText(curve.doneMin)}</strong> on charge, by the rule of
        thumb <strong className="reading">{hoursText(thumbMin)}</strong>.
        <span className="text-soft">
          {' '}
          The line is the forecast{readings.length > 0 ? ', the points are your readings' : ''}.
        </span>
      </p>
      <div className="mt-2 min-h-36">
        <Suspense fallback={null}>
          <ChargeCurve curve={curve} readings={readings} />
        </Suspense>
      </div>
    </section>
  );
}
