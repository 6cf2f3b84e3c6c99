/** The plans drawn over one another, a small chart for each quantity. */
import { memo } from 'react';
import { CartesianGrid, Line, LineChart, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import type { Outcome } from '@cork-ember/core/whatif/answer.ts';
import { markOf } from './marks.ts';
import { QUANTITIES, type Quantity } from './quantities.ts';

interface Drawing {
  readonly index: number;
  readonly outcome: Outcome;
}

const AXIS = { fontSize: 12, fontFamily: 'var(--font-mono)', fill: 'var(--soft)' } as const;

/** Whole hours that divide the time into four to eight parts. */
export function hourTicks(untilS: number): number[] {
  const hours = untilS / 3600;
  const step = [1, 2, 3, 6, 12, 24, 48].find((each) => hours / each <= 8) ?? 72;
  return Array.from({ length: Math.floor(hours / step) + 1 }, (_, i) => i * step);
}

function points({ outcome }: Drawing, { id, scale }: Quantity): { h: number; value: number }[] {
  return outcome.seconds.map((seconds, row) => ({
    h: seconds / 3600,
    value: (outcome.columns[id][row] ?? 0) * scale,
  }));
}

function Chart({
  quantity,
  drawings,
  untilS,
}: {
  quantity: Quantity;
  drawings: readonly Drawing[];
  untilS: number;
}) {
  const { name, unit, decimals } = quantity;
  const lines = drawings.map((drawing) => ({ ...markOf(drawing.index), data: points(drawing, quantity) }));
  const values = lines.flatMap(({ data }) => data.map(({ value }) => value));
  const range = Math.max(...values) - Math.min(...values);
  // Enough digits that no two neighbours on the axis read the same.
  const digits = Math.min(4, Math.max(0, Math.ceil(-Math.log10(Math.max(range, 1e-4) / 3))));
  return (
    <figure className="min-w-0 rounded-lg border border-line bg-card px-1 pt-2 pb-1">
      <figcaption className="px-2 text-sm font-semibold">
        {name}, {unit}
      </figcaption>
      <div className="h-36" aria-hidden>
        <ResponsiveContainer width="100%" height="100%">
          <LineChart accessibilityLayer={false} margin={{ top: 6, right: 10, bottom: 0, left: -8 }}>
            <CartesianGrid stroke="var(--line)" strokeWidth={0.6} vertical={false} />
            <XAxis
              dataKey="h"
              type="number"
              domain={[0, untilS / 3600]}
              ticks={hourTicks(untilS)}
              tick={AXIS}
              tickFormatter={(hour: number) => `${hour} h`}
              stroke="var(--line)"
            />
            <YAxis
              dataKey="value"
              domain={quantity.id === 'chargeShare' ? [0, 100] : ['auto', 'auto']}
              tick={AXIS}
              width={58}
              tickCount={4}
              tickFormatter={(value: number) => value.toFixed(digits)}
              stroke="var(--line)"
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
        </ResponsiveContainer>
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
  return (
    <div className="grid grid-cols-1 gap-2 sm:grid-cols-2 xl:grid-cols-3">
      {shown.map((quantity) => (
        <Chart key={quantity.id} quantity={quantity} drawings={drawings} untilS={untilS} />
      ))}
    </div>
  );
});
