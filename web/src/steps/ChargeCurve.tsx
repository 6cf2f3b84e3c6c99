/** Forecast of a charge as a line, readings as points on it: a reading off the line is seen at once. */
import { memo } from 'react';
import { CartesianGrid, ComposedChart, Line, Scatter, XAxis, YAxis } from 'recharts';
import type { FirstChargeCurve } from '@cork-ember/core/charge/firstChargeForecast.ts';
import { useWidth } from '../cord/useWidth.ts';
import { CHART_AXIS } from '../ui/chartAxis.ts';

interface CurveReading {
  readonly minute: number;
  readonly voltageV: number;
  readonly currentA: number;
  readonly tempC: number;
}

interface Panel {
  readonly name: string;
  readonly unit: string;
  readonly digits: number;
  readonly line: readonly number[];
  readonly read: (reading: CurveReading) => number;
}

const HEIGHT = 124;

function ticksTo(hours: number): number[] {
  const step = hours > 12 ? 4 : hours > 4 ? 2 : 1;
  return Array.from({ length: Math.floor(hours / step) + 1 }, (_, i) => i * step);
}

function CurvePanel({
  panel,
  curve,
  readings,
  width,
  hours,
}: {
  panel: Panel;
  curve: FirstChargeCurve;
  readings: readonly CurveReading[];
  width: number;
  hours: number;
}) {
  const line = curve.minutes.map((minute, row) => ({ h: minute / 60, value: panel.line[row] ?? 0 }));
  const points = readings.map((reading) => ({ h: reading.minute / 60, value: panel.read(reading) }));
  return (
    <figure className="min-w-0">
      <figcaption className="text-sm font-semibold">
        {panel.name}, {panel.unit}, by hours
      </figcaption>
      <div aria-hidden>
        <ComposedChart
          width={width}
          height={HEIGHT}
          accessibilityLayer={false}
          margin={{ top: 4, right: 8, bottom: 0, left: -12 }}
        >
          <CartesianGrid stroke="var(--line)" strokeWidth={0.6} vertical={false} />
          <XAxis {...CHART_AXIS} dataKey="h" domain={[0, hours]} ticks={ticksTo(hours)} />
          <YAxis
            {...CHART_AXIS}
            dataKey="value"
            domain={['auto', 'auto']}
            tickCount={4}
            width={56}
            tickFormatter={(value: number) => value.toFixed(panel.digits)}
          />
          <Line
            data={line}
            dataKey="value"
            stroke="var(--cork-dark)"
            strokeWidth={2}
            strokeDasharray="6 4"
            dot={false}
            isAnimationActive={false}
          />
          <Scatter data={points} dataKey="value" fill="var(--ember)" isAnimationActive={false} />
        </ComposedChart>
      </div>
    </figure>
  );
}

function ChargeCurve({ curve, readings }: { curve: FirstChargeCurve; readings: readonly CurveReading[] }) {
  const [ref, width] = useWidth<HTMLDivElement>(600);
  const each = Math.max(160, Math.floor((width - 16) / 3));
  const hours = Math.ceil(Math.max(curve.doneMin, ...readings.map(({ minute }) => minute)) / 60);
  const panels: Panel[] = [
    { name: 'Voltage', unit: 'V', digits: 1, line: curve.volts, read: ({ voltageV }) => voltageV },
    { name: 'Current', unit: 'A', digits: 1, line: curve.amps, read: ({ currentA }) => currentA },
    { name: 'Temperature', unit: '°C', digits: 0, line: curve.tempC, read: ({ tempC }) => tempC },
  ];
  return (
    <div ref={ref} className="flex flex-wrap gap-2">
      {panels.map((panel) => (
        <CurvePanel
          key={panel.name}
          panel={panel}
          curve={curve}
          readings={readings}
          width={each}
          hours={hours}
        />
      ))}
    </div>
  );
}

export default memo(ChargeCurve);
