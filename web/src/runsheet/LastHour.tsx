/** The last hour of a bay under control: what stood out in each stretch as an area, so that nothing short is lost. */
import { useQuery } from '@tanstack/react-query';
import { Area, AreaChart, CartesianGrid, XAxis, YAxis } from 'recharts';
import type { Stretch } from '@cork-ember/core/devices/samples.ts';
import { ask } from '../api/client.ts';
import { usePace } from '../api/clock.ts';
import { useWidth } from '../cord/useWidth.ts';
import { here } from '../region/shopRegion.ts';
import { ChartFrame } from '../ui/ChartFrame.tsx';
import { CHART_AXIS, KEPT_AREA, valueAxis } from '../ui/chartAxis.ts';

const HOUR = 3_600_000;
const MINUTE = 60_000;
/** As many as there are points on a tablet. */
const MOST_STRETCHES = 240;
const AGAIN_MS = 15_000;
const HEIGHT = 108;
const GAP = 8;
const NARROW = 480;
const TICKS = [-60, -45, -30, -15, 0];

const QUANTITIES = [
  { name: 'Voltage', column: 'volts', unit: 'V', digits: 2 },
  { name: 'Current', column: 'amps', unit: 'A', digits: 1 },
  { name: 'Temperature', column: 'tempC', unit: '°C', digits: 0 },
] as const;

interface Row {
  readonly minute: number;
  readonly range: readonly [number, number];
}

function rowsOf(
  stretches: readonly Stretch[],
  { column, unit }: (typeof QUANTITIES)[number],
  now: number,
): Row[] {
  return stretches.flatMap(({ to, [column]: ends }) =>
    ends ? [{ minute: (to - now) / MINUTE, range: [here(ends[0], unit), here(ends[1], unit)] as const }] : [],
  );
}

/** Readings of a job in the last hour; a few seconds behind. */
function useLastHour(
  job: string,
  now: number,
): { readonly stretches: readonly Stretch[]; readonly asOf: number } {
  const { pace } = usePace();
  // Asked anew every quarter of a minute of real time.
  const asOf = Math.floor(now / (AGAIN_MS * pace)) * AGAIN_MS * pace;
  const { data = [] } = useQuery({
    queryKey: ['readings', job, asOf],
    queryFn: () =>
      ask<readonly Stretch[]>(
        `/api/jobs/${job}/readings?from=${Math.max(0, asOf - HOUR)}&most=${MOST_STRETCHES}`,
      ),
    placeholderData: (before: readonly Stretch[] | undefined) => before,
    gcTime: 2 * AGAIN_MS,
  });
  return { stretches: data, asOf };
}

export function LastHour({ job, now }: { job: string; now: number }) {
  const [ref, width] = useWidth<HTMLDivElement>(600);
  const { stretches, asOf } = useLastHour(job, now);
  const charts = QUANTITIES.map((quantity) => ({
    ...quantity,
    rows: rowsOf(stretches, quantity, asOf),
  })).filter(({ rows }) => rows.length > 1);
  if (charts.length === 0) return <p className="text-soft">Its curve begins in a moment.</p>;
  // Too narrow for all of them in a row, each has the whole of it.
  const each = width < NARROW ? width : Math.floor((width - GAP * (charts.length - 1)) / charts.length);
  return (
    <div ref={ref}>
      <p className="text-sm text-soft">The last hour, by minutes</p>
      <div className="flex flex-wrap gap-2">
        {charts.map(({ name, unit, digits, rows }) => (
          <ChartFrame key={name} says={`${name}, ${unit}`}>
            <AreaChart
              data={rows}
              width={each}
              height={HEIGHT}
              accessibilityLayer={false}
              margin={{ top: 4, right: 8, bottom: 0, left: -12 }}
            >
              <CartesianGrid stroke="var(--line)" strokeWidth={0.6} vertical={false} />
              <XAxis {...CHART_AXIS} dataKey="minute" domain={[-60, 0]} ticks={TICKS} allowDataOverflow />
              <YAxis
                {...valueAxis(
                  rows.map(({ range }) => range),
                  digits,
                )}
              />
              <Area {...KEPT_AREA} dataKey="range" />
            </AreaChart>
          </ChartFrame>
        ))}
      </div>
    </div>
  );
}
