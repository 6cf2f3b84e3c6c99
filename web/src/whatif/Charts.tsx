/** The plans drawn over one another, a small chart for each quantity. */
import { memo } from 'react';
import { CartesianGrid, Line, LineChart, Tooltip, XAxis, YAxis } from 'recharts';
import { simplified } from '@cork-ember/core/charge/thin.ts';
import { useWidth } from '../cord/useWidth.ts';
import { CHART_AXIS } from '../ui/chartAxis.ts';
import type { Drawing } from './csv.ts';
import { markOf } from './marks.ts';
import { QUANTITIES, type Quantity } from './quantities.ts';

/** Pixels: narrowest chart, between two, and taken by a chart's own frame. */
const MIN_WIDTH = 260;
const GAP = 8;
const FRAME = 10;
const SHARE_TICKS = [0, 25, 50, 75, 100];

/** Whole hours that divide the time into no more than five parts: labels must not touch. */
function hourTicks(untilS: number): number[] {
  const hours = untilS / 3600;
  const step = [1, 2, 3, 4, 6, 12, 24, 48].find((each) => hours / each <= 5.5) ?? 72;
  return Array.from({ length: Math.floor(hours / step) + 1 }, (_, i) => i * step);
}

/** Left out where it could not be seen: closer to the line than half a pixel or so. */
const UNSEEN = 1 / 300;

function points({ outcome }: Drawing, { id, scale }: Quantity): { h: number; value: number }[] {
  const { seconds, columns } = outcome;
  const values = columns[id];
  const range = Math.max(...values) - Math.min(...values);
  return simplified(seconds, values, range * UNSEEN).map((row) => ({
    h: (seconds[row] ?? 0) / 3600,
    value: (values[row] ?? 0) * scale,
  }));
}

function Chart({
  quantity,
  drawings,
  untilS,
  width,
}: {
  quantity: Quantity;
  drawings: readonly Drawing[];
  untilS: number;
  width: number;
}) {
  const { name, unit, decimals } = quantity;
  const lines = drawings.map((drawing) => ({ ...markOf(drawing.index), data: points(drawing, quantity) }));
  const values = lines.flatMap(({ data }) => data.map(({ value }) => value));
  const range = Math.max(...values) - Math.min(...values);
  // Enough digits that no two neighbours on the axis read the same.
  const isShare = quantity.id === 'chargeShare';
  const digits = isShare ? 0 : Math.min(4, Math.max(0, Math.ceil(-Math.log10(Math.max(range, 1e-4) / 3))));
  return (
    <figure className="min-w-0 rounded-lg border border-line bg-card px-1 pt-2 pb-1">
      <figcaption className="px-2 text-sm font-semibold">
        {name}, {unit}
      </figcaption>
      <div className="h-36" aria-hidden>
        <LineChart
          width={width}
          height={144}
          accessibilityLayer={false}
          margin={{ top: 6, right: 10, bottom: 0, left: -8 }}
        >
          <CartesianGrid stroke="var(--line)" strokeWidth={0.6} vertical={false} />
          <XAxis
            {...CHART_AXIS}
            dataKey="h"
            domain={[0, untilS / 3600]}
            ticks={hourTicks(untilS)}
            tickFormatter={(hour: number) => `${hour} h`}
          />
          <YAxis
            {...CHART_AXIS}
            dataKey="value"
            domain={isShare ? [0, 100] : ['auto', 'auto']}
            {...(isShare ? { ticks: SHARE_TICKS } : {})}
            width={58}
            tickCount={4}
            tickFormatter={(value: number) => value.toFixed(digits)}
          />
          <Tooltip
            isAnimationActive={false}
            contentStyle={{ background: 'var(--card)', borderColor: 'var(--cork)', color: 'var(--char)' }}
            labelFormatter={(hour) => `${Number(hour).toFixed(1)} h`}
            formatter={(value) => [`${Number(value).toFixed(decimals)} ${unit}`]}
          />
          {lines.map(({ letter, colour, dash, data }) => (
            <Line
              key={letter}
              data={data}
              dataKey="value"
              name={letter}
              stroke={colour}
              strokeDasharray={dash}
              strokeWidth={2}
              dot={false}
              isAnimationActive={false}
            />
          ))}
        </LineChart>
      </div>
    </figure>
  );
}

export const Charts = memo(function Charts({
  drawings,
  untilS,
}: {
  drawings: readonly Drawing[];
  untilS: number;
}) {
  const hasLoss = drawings.some(({ outcome }) => outcome.waterG > 0.05);
  const shown = QUANTITIES.filter(({ id }) => id !== 'waterLostG' || hasLoss);
  const [ref, width] = useWidth<HTMLDivElement>(860);
  const columns = Math.max(1, Math.min(3, Math.floor(width / MIN_WIDTH)));
  const each = Math.floor((width - (columns - 1) * GAP) / columns);
  return (
    <div
      ref={ref}
      className="grid"
      style={{ gap: GAP, gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))` }}
    >
      {shown.map((quantity) => (
        <Chart
          key={quantity.id}
          quantity={quantity}
          drawings={drawings}
          untilS={untilS}
          width={each - FRAME}
        />
      ))}
    </div>
  );
});
