/** The model's word on a charge: how long in all, and the curve the readings should follow. */
import { durationText } from '@cork-ember/core/clock/clockText.ts';
import { useMemo } from 'react';
import type { Interval } from '@cork-ember/core/belief/figures.ts';
import type { FirstChargeCurve } from '@cork-ember/core/charge/firstChargeForecast.ts';
import type { AtHand } from '@cork-ember/core/runsheet/plan/atHand.ts';
import { minutesOnCharge, readingsFrom } from '@cork-ember/core/runsheet/state/looks.ts';
import type { DrawnBand } from './BandChart.tsx';
import { later } from '../ui/later.tsx';
import { useKept } from './useKept.ts';
import { useChargeForecast } from './useChargeForecast.ts';

const BandChart = later(async () => (await import('./BandChart.tsx')).BandChart);

/** One curve is a band without width. */
function asBand({ minutes, volts, amps, tempC }: FirstChargeCurve): DrawnBand {
  const narrow = (values: readonly number[]): Interval[] =>
    values.map((value) => ({ low: value, middle: value, high: value }));
  return { minutes, columns: { volts: narrow(volts), amps: narrow(amps), tempC: narrow(tempC) } };
}

/** @param now shop time in ms, once it is on */
export function ForecastPanel({ hand, now = 0 }: { hand: AtHand; now?: number }) {
  const { state, step, context } = hand;
  const setA = step.charge?.currentA ?? context.chargeSetting().current.value;
  // What it was started for stands, whatever the model would say today.
  const totalMin = step.charge?.dueMin ?? context.chargeSetting(setA).totalMin;
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
  const band = useMemo(() => curve && asBand(curve), [curve]);
  const kept = useKept(state, charge, now);
  if (!curve || !band) return <p className="px-5 pt-3 text-soft">The model is working the charge out …</p>;
  return (
    <section aria-label="Forecast of this charge" className="mx-5 mt-4 rounded-lg border border-line p-3">
      <p>
        At <span className="reading">{setA.toFixed(2)} A</span> in all{' '}
        <strong className="reading">{durationText(totalMin * 60_000)}</strong> on charge.
        <span className="text-soft">
          {' '}
          The dashes are the forecast{readings.length > 0 ? ', the points are your readings' : ''}
          {kept.length > 1 ? ', the line is what was read each second' : ''}.
        </span>
      </p>
      <div className="mt-2 min-h-36">
        <BandChart band={band} looks={readings} kept={kept} />
      </div>
    </section>
  );
}
