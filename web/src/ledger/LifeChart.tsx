/** Capacity and cranking of a battery over the years it has been coming here, against its rating. */
import { memo } from 'react';
import { CartesianGrid, Line, LineChart, XAxis, YAxis } from 'recharts';
import { useWidth } from '../cord/useWidth.ts';
import { ChartFrame } from '../ui/ChartFrame.tsx';
import { CHART_AXIS } from '../ui/chartAxis.ts';

interface LifePoint {
  readonly at: number;
  /** Of the rating, %. */
  readonly capacity: number | undefined;
  readonly cranking: number | undefined;
}

const HEIGHT = 190;
const YEAR_MS = 365.25 * 86_400_000;
const SHARES = [0, 20, 40, 60, 80, 100, 120];

function Drawn({ points }: { points: readonly LifePoint[] }) {
  const [ref, width] = useWidth<HTMLElement>(600);
  const first = points[0]?.at ?? 0;
  const rows = points.map((point) => ({ ...point, years: (point.at - first) / YEAR_MS }));
  const years = Math.max(1, rows.at(-1)?.years ?? 1);
  const most = Math.max(100, ...points.flatMap(({ capacity, cranking }) => [capacity ?? 0, cranking ?? 0]));
  const ticks = SHARES.filter((share) => share < most + 20);
  return (
    <ChartFrame
      ref={ref}
      saysClass="text-sm"
      says={
        <>
          % of the rating, by years since it first came:{' '}
          <span className="whitespace-nowrap">
            <span aria-hidden className="text-ember">
              ●━
            </span>{' '}
            capacity
          </span>
          ,{' '}
          <span className="whitespace-nowrap">
            <span aria-hidden className="text-verdigris">
              ○┅
            </span>{' '}
            cranking
          </span>
        </>
      }
    >
      <LineChart
        data={rows}
        width={width}
        height={HEIGHT}
        accessibilityLayer={false}
        margin={{ top: 8, right: 12, bottom: 0, left: -16 }}
      >
        <CartesianGrid stroke="var(--line)" strokeWidth={0.6} vertical={false} />
        <XAxis
          {...CHART_AXIS}
          dataKey="years"
          domain={[0, years]}
          ticks={Array.from({ length: Math.floor(years) + 1 }, (_, year) => year)}
        />
        <YAxis {...CHART_AXIS} domain={[0, ticks.at(-1) ?? 100]} ticks={ticks} width={56} />
        <Line
          dataKey="capacity"
          stroke="var(--ember)"
          strokeWidth={2}
          dot={{ r: 4, fill: 'var(--ember)' }}
          connectNulls
          isAnimationActive={false}
        />
        <Line
          dataKey="cranking"
          stroke="var(--verdigris)"
          strokeWidth={2}
          strokeDasharray="6 4"
          dot={{ r: 5, fill: 'var(--card)', strokeDasharray: '' }}
          connectNulls
          isAnimationActive={false}
        />
      </LineChart>
    </ChartFrame>
  );
}

export const LifeChart = memo(Drawn);
