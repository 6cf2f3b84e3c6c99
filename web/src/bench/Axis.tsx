/** The hours behind the bays: when the shop is closed, and where now is. */
import { closedSpans, type ShopHours } from '@cork-ember/core/clock/shopHours.ts';
import { hourText } from '../cord/hourText.ts';
import { axisHours, xOf, type TimeScale } from '../cord/scale.ts';
import { AXIS, type BenchLayout } from './layout.ts';

export function Axis({
  scale,
  hours,
  now,
  rows,
  layout: { row, labels },
}: {
  scale: TimeScale;
  hours: ShopHours;
  now: number;
  rows: number;
  layout: BenchLayout;
}) {
  const height = AXIS + rows * row;
  const nowX = xOf(scale, now);
  return (
    <svg
      width={scale.width}
      height={height}
      className="pointer-events-none absolute top-0"
      style={{ left: labels }}
      aria-hidden
    >
      {closedSpans(hours, scale.from, scale.to).map((span) => (
        <g key={span.from}>
          <rect
            x={xOf(scale, span.from)}
            y={AXIS}
            width={xOf(scale, span.to) - xOf(scale, span.from)}
            height={height}
            className="fill-cork/20"
          />
          {xOf(scale, span.to) - xOf(scale, span.from) > 60 && (
            <text x={xOf(scale, span.from) + 6} y={AXIS + 14} className="fill-soft text-[11px]">
              shop closed
            </text>
          )}
        </g>
      ))}
      {axisHours(scale, hours.timeZone).map((at) => (
        <g key={at}>
          <path d={`M${xOf(scale, at)} ${AXIS}V${height}`} className="stroke-line" strokeWidth={1} />
          {xOf(scale, at) > 16 && xOf(scale, at) < scale.width - 16 && (
            <text x={xOf(scale, at)} y={15} textAnchor="middle" className="reading fill-soft text-[12px]">
              {hourText(at, hours.timeZone)}
            </text>
          )}
        </g>
      ))}
      <path
        d={`M${nowX} ${AXIS}V${height}`}
        className="stroke-ember"
        strokeWidth={1.5}
        strokeDasharray="2 4"
      />
    </svg>
  );
}
