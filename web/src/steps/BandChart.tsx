/** Three small charts of a charge: the band of the forecast as an area, its middle as a line, readings as points. */
import { memo } from 'react';
import { Area, CartesianGrid, ComposedChart, Line, Scatter, XAxis, YAxis } from 'recharts';
import type { Interval } from '@cork-ember/core/belief/figures.ts';
import { useWidth } from '../cord/useWidth.ts';
import { here } from '../region/shopRegion.ts';
import { ChartFrame } from '../ui/ChartFrame.tsx';
import { CHART_AXIS, KEPT_AREA, valueAxis } from '../ui/chartAxis.ts';

interface Look {
  readonly minute: number;
  readonly voltageV: number;
  readonly currentA: number;
  readonly tempC: number;
}

type Column = 'volts' | 'amps' | 'tempC';

/** What stood out in a stretch of readings of each second, least and most, by minutes on charge. */
export interface KeptStretch extends Readonly<Partial<Record<Column, readonly [number, number]>>> {
  readonly minute: number;
}

/** What is drawn of a forecast; one without width is a line. */
export interface DrawnBand {
  readonly minutes: readonly number[];
  readonly columns: Readonly<Record<Column, readonly Interval[]>>;
}

interface Panel {
  readonly name: string;
  readonly unit: string;
  readonly digits: number;
  readonly column: Column;
  readonly read: (look: Look) => number;
}

const PANELS: readonly Panel[] = [
  { name: 'Voltage', unit: 'V', digits: 1, column: 'volts', read: ({ voltageV }) => voltageV },
  { name: 'Current', unit: 'A', digits: 1, column: 'amps', read: ({ currentA }) => currentA },
  { name: 'Temperature', unit: '°C', digits: 0, column: 'tempC', read: ({ tempC }) => tempC },
];

const HEIGHT = 124;

function ticksTo(hours: number): number[] {
  const step = hours > 72 ? 24 : hours > 24 ? 8 : hours > 12 ? 4 : hours > 4 ? 2 : 1;
  return Array.from({ length: Math.floor(hours / step) + 1 }, (_, index) => index * step);
}

function BandPanel({
  panel,
  band,
  looks,
  kept,
  width,
  hours,
}: {
  panel: Panel;
  band: DrawnBand;
  looks: readonly Look[];
  kept: readonly KeptStretch[];
  width: number;
  hours: number;
}) {
  const rows = band.minutes.map((minute, row) => {
    const { low = 0, middle = 0, high = 0 } = band.columns[panel.column][row] ?? {};
    const range = [here(low, panel.unit), here(high, panel.unit)];
    return { h: minute / 60, middle: here(middle, panel.unit), range };
  });
  const points = looks.map((look) => ({ h: look.minute / 60, value: here(panel.read(look), panel.unit) }));
  const traced = kept.flatMap(({ minute, [panel.column]: ends }) =>
    ends ? [{ h: minute / 60, traced: [here(ends[0], panel.unit), here(ends[1], panel.unit)] }] : [],
  );
  return (
    <ChartFrame says={`${panel.name}, ${panel.unit}, by hours`}>
      <ComposedChart
        data={rows}
        width={width}
        height={HEIGHT}
        accessibilityLayer={false}
        margin={{ top: 4, right: 8, bottom: 0, left: -12 }}
      >
        <CartesianGrid stroke="var(--line)" strokeWidth={0.6} vertical={false} />
        <XAxis {...CHART_AXIS} dataKey="h" domain={[0, hours]} ticks={ticksTo(hours)} />
        <YAxis
          {...valueAxis(
            rows.map(({ range }) => range),
            panel.digits,
          )}
        />
        <Area dataKey="range" stroke="none" fill="var(--cork)" fillOpacity={0.45} isAnimationActive={false} />
        <Line
          dataKey="middle"
          stroke="var(--cork-dark)"
          strokeWidth={2}
          strokeDasharray="6 4"
          dot={false}
          isAnimationActive={false}
        />
        {traced.length > 1 && <Area {...KEPT_AREA} data={traced} dataKey="traced" />}
        <Scatter data={points} dataKey="value" fill="var(--ember)" isAnimationActive={false} />
      </ComposedChart>
    </ChartFrame>
  );
}

interface BandChartProps {
  readonly band: DrawnBand;
  readonly looks: readonly Look[];
  /** Readings of each second, where a bay or a probe kept them. */
  readonly kept?: readonly KeptStretch[];
}

const NONE: readonly KeptStretch[] = [];

function Drawn({ band, looks, kept = NONE }: BandChartProps) {
  const [ref, width] = useWidth<HTMLDivElement>(600);
  const each = Math.max(160, Math.floor((width - 16) / 3));
  const hours = Math.max(band.minutes.at(-1) ?? 60, ...looks.map(({ minute }) => minute)) / 60;
  return (
    <div ref={ref} className="flex flex-wrap gap-2">
      {PANELS.map((panel) => (
        <BandPanel
          key={panel.name}
          panel={panel}
          band={band}
          looks={looks}
          kept={kept}
          width={each}
          hours={hours}
        />
      ))}
    </div>
  );
}

export const BandChart = memo(Drawn);
