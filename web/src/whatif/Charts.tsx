/** The plans drawn over one another, a small chart for each quantity. */
import { memo, useMemo, useState } from 'react';
import { CartesianGrid, Line, LineChart, Tooltip, XAxis, YAxis } from 'recharts';
import { simplified } from '@cork-ember/core/charge/thin.ts';
import { useWidth } from '../cord/useWidth.ts';
import { inShop, unitHere } from '../region/shopRegion.ts';
import { ChartFrame } from '../ui/ChartFrame.tsx';
import { CHART_AXIS } from '../ui/chartAxis.ts';
import type { Drawing } from './csv.ts';
import { MARKS, markOf } from './marks.ts';
import { decimalsHere, QUANTITIES, shownHere, valueAt, type Quantity } from './quantities.ts';

/** Pixels: narrowest chart, between two, and taken by a chart's own frame. */
const MIN_WIDTH = 260;
const GAP = 8;
const FRAME = 10;
const SHARE_TICKS = [0, 25, 50, 75, 100];
/** Held outside, like all a chart is given that does not change: what is new is worked through anew. */
const MARGIN = { top: 6, right: 10, bottom: 0, left: -8 };
const SHARE_DOMAIN = [0, 100];
const OPEN_DOMAIN = ['auto', 'auto'];
const hourText = (hour: number): string => `${hour} h`;

/** Whole hours that divide the time into no more than five parts: labels must not touch. */
function hourTicks(untilS: number): number[] {
  const hours = untilS / 3600;
  const step = [1, 2, 3, 4, 6, 12, 24, 48].find((each) => hours / each <= 5.5) ?? 72;
  return Array.from({ length: Math.floor(hours / step) + 1 }, (_, i) => i * step);
}

/** Left out where it could not be seen: closer to the line than half a pixel or so. */
const UNSEEN = 1 / 300;

interface Row {
  readonly h: number;
  /** A plan's value by its letter; none once the plan has ended. */
  readonly [letter: string]: number | undefined;
}

/**
 * One row for every moment at which some line bends, with all plans read off there: a chart that shares its
 * rows is drawn anew in one go, and pointing at it reads all plans at once.
 */
function rowsOf(drawings: readonly Drawing[], quantity: Quantity): Row[] {
  const { id } = quantity;
  const bends = drawings.flatMap(({ outcome: { seconds, columns } }) => {
    const values = columns[id];
    const range = Math.max(...values) - Math.min(...values);
    return simplified(seconds, values, range * UNSEEN).map((row) => seconds[row] ?? 0);
  });
  return [...new Set(bends)]
    .sort((one, other) => one - other)
    .map((atS) => {
      const read = drawings.map(({ index, outcome }): [string, number | undefined] => {
        const value = valueAt(outcome, id, atS);
        return [markOf(index).letter, value === undefined ? undefined : shownHere(quantity, value)];
      });
      return { ...Object.fromEntries(read), h: atS / 3600 };
    });
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
  const { name, unit } = quantity;
  const [isPointedAt, setPointedAt] = useState(false);
  const marks = drawings.map(({ index }) => markOf(index));
  const rows = rowsOf(drawings, quantity);
  const values = rows.flatMap((row) => marks.flatMap(({ letter }) => row[letter] ?? []));
  const range = Math.max(...values) - Math.min(...values);
  // Enough digits that no two neighbours on the axis read the same.
  const isShare = quantity.id === 'chargeShare';
  const digits = isShare ? 0 : Math.min(4, Math.max(0, Math.ceil(-Math.log10(Math.max(range, 1e-4) / 3))));
  const axes = useMemo(
    () => [
      <CartesianGrid key="grid" stroke="var(--line)" strokeWidth={0.6} vertical={false} />,
      <XAxis
        key="hours"
        {...CHART_AXIS}
        dataKey="h"
        domain={[0, untilS / 3600]}
        ticks={hourTicks(untilS)}
        tickFormatter={hourText}
      />,
      <YAxis
        key="value"
        {...CHART_AXIS}
        domain={isShare ? SHARE_DOMAIN : OPEN_DOMAIN}
        {...(isShare ? { ticks: SHARE_TICKS } : {})}
        width={58}
        tickCount={4}
        tickFormatter={(value: number) => inShop(value.toFixed(digits))}
      />,
    ],
    [untilS, isShare, digits],
  );
  const letters = marks.map(({ letter }) => letter).join('');
  const lines = useMemo(
    () =>
      MARKS.filter(({ letter }) => letters.includes(letter)).map(({ letter, colour, dash }) => (
        <Line
          key={letter}
          dataKey={letter}
          stroke={colour}
          strokeDasharray={dash}
          strokeWidth={2}
          dot={false}
          isAnimationActive={false}
        />
      )),
    [letters],
  );
  return (
    <ChartFrame
      says={`${name}, ${unit}`}
      saysClass="px-2 text-sm font-semibold"
      className="min-w-0 rounded-lg border border-line bg-card px-1 pt-2 pb-1"
      onPointerEnter={() => setPointedAt(true)}
      onPointerLeave={() => setPointedAt(false)}
    >
      <LineChart data={rows} width={width} height={144} accessibilityLayer={false} margin={MARGIN}>
        {axes}
        {isPointedAt && (
          <Tooltip
            isAnimationActive={false}
            contentStyle={{ background: 'var(--card)', borderColor: 'var(--cork)', color: 'var(--char)' }}
            labelFormatter={(hour) => inShop(`${Number(hour).toFixed(1)} h`)}
            formatter={(value) =>
              inShop(`${Number(value).toFixed(decimalsHere(quantity))} ${unitHere(unit)}`)
            }
          />
        )}
        {lines}
      </LineChart>
    </ChartFrame>
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
