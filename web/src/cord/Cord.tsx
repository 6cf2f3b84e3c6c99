/**
 * A job drawn as a cord against shop time. What is left behind is char, thin stretches wait, thick ones
 * charge, rings are moments that need hands, and the ember burns at now.
 */
import type { Forecast, Knot, Segment } from '@cork-ember/core/runsheet/plan/forecast.ts';
import { clockWidth } from './hourText.ts';
import { clockText } from '@cork-ember/core/clock/clockText.ts';
import { cluster, cordPath, isInside, labelRows, swayAt, xOf, type TimeScale } from './scale.ts';

export interface CordProps {
  readonly forecast: Forecast;
  readonly scale: TimeScale;
  readonly now: number;
  readonly timeZone: string;
  readonly y: number;
  readonly promisedAt?: number;
  readonly isAlarm?: boolean;
  readonly isEnded?: boolean;
}

const SWAY = 4;
const WIDTHS = { hands: 5, wait: 3.5, charge: 13 } as const;
const RING_GAP = 17;

function clip(scale: TimeScale, segment: Segment): { fromX: number; toX: number } | undefined {
  const from = Math.max(segment.from, scale.from);
  const to = Math.min(segment.to, scale.to);
  return to > from ? { fromX: xOf(scale, from), toX: xOf(scale, to) } : undefined;
}

/** Strands of a charging stretch, slanted across it. */
function strands(scale: TimeScale, fromX: number, toX: number, y: number): string {
  const lines: string[] = [];
  for (let x = fromX + 6; x < toX - 4; x += 9) {
    const middle = y + swayAt(scale, x, SWAY);
    lines.push(`M${x - 3} ${middle + 5}L${x + 4} ${middle - 5}`);
  }
  return lines.join('');
}

function Stretch({ segment, scale, now, y }: { segment: Segment; scale: TimeScale; now: number; y: number }) {
  const burnt = clip(scale, { ...segment, to: Math.min(segment.to, now) });
  const ahead = clip(scale, { ...segment, from: Math.max(segment.from, now) });
  const width = WIDTHS[segment.kind];
  return (
    <>
      {burnt && (
        <path
          d={cordPath(scale, burnt.fromX, burnt.toX, y, SWAY)}
          className="stroke-burnt"
          strokeWidth={Math.max(4, width - 4)}
          fill="none"
          strokeLinecap="round"
        />
      )}
      {ahead && (
        <path
          d={cordPath(scale, ahead.fromX, ahead.toX, y, SWAY)}
          className="stroke-cork"
          strokeWidth={width}
          fill="none"
          strokeLinecap="round"
        />
      )}
      {ahead && segment.kind === 'charge' && (
        <path d={strands(scale, ahead.fromX, ahead.toX, y)} className="stroke-cork-dark" strokeWidth={1.6} />
      )}
    </>
  );
}

function Rings({
  knots,
  scale,
  y,
  timeZone,
  now,
}: {
  knots: readonly Knot[];
  scale: TimeScale;
  y: number;
  timeZone: string;
  now: number;
}) {
  const placed = cluster(knots, (knot) => xOf(scale, knot.at), RING_GAP);
  const rows = labelRows(
    placed.map((one) => one.x),
    clockWidth(),
    2,
  );
  const nowX = xOf(scale, now);
  return placed.map(({ x, items }, index) => {
    const first = items[0];
    const row = rows[index];
    const middle = y + swayAt(scale, x, SWAY);
    if (!first) return null;
    const isUnderEmber = Math.abs(x - nowX) < 14;
    return (
      <g key={`${first.key}-${first.at}`}>
        <title>{items.map((knot) => `${clockText(knot.at, timeZone)} ${knot.title}`).join('\n')}</title>
        {!isUnderEmber && (
          <circle cx={x} cy={middle} r={8} className="fill-paper stroke-cork-dark" strokeWidth={2.5} />
        )}
        {!isUnderEmber && items.length > 1 && (
          <text
            x={x}
            y={middle + 3.6}
            textAnchor="middle"
            className="reading fill-char text-[10px] font-semibold"
          >
            {items.length}
          </text>
        )}
        {row !== undefined && x > 18 && x < scale.width - 18 && (
          <text
            x={x}
            y={middle - 16 - row * 12}
            textAnchor="middle"
            className="reading fill-soft text-[11px]"
          >
            {clockText(first.at, timeZone)}
          </text>
        )}
      </g>
    );
  });
}

function Ash({ knots, scale, y }: { knots: readonly Knot[]; scale: TimeScale; y: number }) {
  return cluster(knots, (knot) => xOf(scale, knot.at), 9).map(({ x, items }) => (
    <circle
      key={`${items[0]?.key}-${x}`}
      cx={x}
      cy={y + swayAt(scale, x, SWAY)}
      r={items.length > 1 ? 6 : 4.5}
      className="fill-burnt"
    />
  ));
}

function Flag({ scale, at, y }: { scale: TimeScale; at: number; y: number }) {
  const x = xOf(scale, at);
  const side = x > scale.width - 18 ? -1 : 1;
  return (
    <g>
      <path d={`M${x} ${y - 26}V${y + 12}`} className="stroke-verdigris" strokeWidth={2} />
      <path
        d={`M${x} ${y - 26}h${15 * side}l${-5 * side} 6 ${5 * side} 6h${-15 * side}z`}
        className="fill-verdigris"
      />
      <text
        x={Math.min(x, scale.width - 28)}
        y={y + 25}
        textAnchor="middle"
        className="fill-verdigris text-[11px]"
      >
        promised
      </text>
    </g>
  );
}

function Ember({ x, y, isAlarm = false }: { x: number; y: number; isAlarm?: boolean }) {
  return (
    <g aria-hidden>
      <circle cx={x} cy={y} r={isAlarm ? 21 : 16} className={isAlarm ? 'fill-ember/45' : 'fill-ember/25'} />
      <circle cx={x} cy={y} r={9} className="fill-ember" />
      <circle cx={x} cy={y} r={3.5} className="fill-flare" />
    </g>
  );
}

export function Cord({
  forecast,
  scale,
  now,
  timeZone,
  y,
  promisedAt,
  isAlarm = false,
  isEnded = false,
}: CordProps) {
  const shown = forecast.knots.filter((knot) => isInside(scale, knot.at));
  const nowX = xOf(scale, now);
  const goesOn = forecast.readyAt > scale.to;
  return (
    <g>
      {forecast.segments.map((segment) => (
        <Stretch key={`${segment.key}-${segment.from}`} segment={segment} scale={scale} now={now} y={y} />
      ))}
      {goesOn && (
        <path
          d={`M${scale.width - 9} ${y - 7}l7 7-7 7`}
          className="fill-none stroke-cork-dark"
          strokeWidth={2.5}
        />
      )}
      <Ash knots={shown.filter((knot) => knot.isDone)} scale={scale} y={y} />
      <Rings knots={shown.filter((knot) => !knot.isDone)} scale={scale} y={y} timeZone={timeZone} now={now} />
      {promisedAt !== undefined && isInside(scale, promisedAt) && (
        <Flag scale={scale} at={promisedAt} y={y} />
      )}
      {!isEnded && isInside(scale, now) && (
        <Ember x={nowX} y={y + swayAt(scale, nowX, SWAY)} isAlarm={isAlarm} />
      )}
    </g>
  );
}
