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
  /** In a row of its own, or in one line of many: then it has no words. */
  readonly size?: keyof typeof SIZES;
  /** Long stretches say what they are, below it. */
  readonly isNamed?: boolean;
}

interface Size {
  readonly sway: number;
  readonly widths: Readonly<Record<Segment['kind'], number>>;
  readonly leastBurnt: number;
  readonly strand: number;
  readonly ring: number;
  readonly ember: number;
  readonly hasWords: boolean;
}

const SIZES = {
  row: {
    sway: 4,
    widths: { hands: 5, wait: 3.5, charge: 13 },
    leastBurnt: 4,
    strand: 5,
    ring: 8,
    ember: 9,
    hasWords: true,
  },
  line: {
    sway: 2,
    widths: { hands: 3, wait: 2, charge: 7 },
    leastBurnt: 3,
    strand: 2.5,
    ring: 5,
    ember: 5.5,
    hasWords: false,
  },
} as const satisfies Record<string, Size>;
/** Rings nearer than so many of their radii are one. */
const RING_GAP = 2.1;

function clip(scale: TimeScale, segment: Segment): { fromX: number; toX: number } | undefined {
  const from = Math.max(segment.from, scale.from);
  const to = Math.min(segment.to, scale.to);
  return to > from ? { fromX: xOf(scale, from), toX: xOf(scale, to) } : undefined;
}

/** Strands of a charging stretch, slanted across it. */
function strands(scale: TimeScale, fromX: number, toX: number, y: number, { sway, strand }: Size): string {
  const lines: string[] = [];
  for (let x = fromX + 6; x < toX - 4; x += 9) {
    const middle = y + swayAt(scale, x, sway);
    lines.push(`M${x - 3} ${middle + strand}L${x + 4} ${middle - strand}`);
  }
  return lines.join('');
}

interface Part {
  readonly scale: TimeScale;
  readonly now: number;
  readonly y: number;
  readonly size: Size;
}

function Stretch({ segment, scale, now, y, size }: Part & { segment: Segment }) {
  const burnt = clip(scale, { ...segment, to: Math.min(segment.to, now) });
  const ahead = clip(scale, { ...segment, from: Math.max(segment.from, now) });
  const width = size.widths[segment.kind];
  return (
    <>
      {burnt && (
        <path
          d={cordPath(scale, burnt.fromX, burnt.toX, y, size.sway)}
          className="stroke-burnt"
          strokeWidth={Math.max(size.leastBurnt, width - 4)}
          fill="none"
          strokeLinecap="round"
        />
      )}
      {ahead && (
        <path
          d={cordPath(scale, ahead.fromX, ahead.toX, y, size.sway)}
          className="stroke-cork"
          strokeWidth={width}
          fill="none"
          strokeLinecap="round"
        />
      )}
      {ahead && segment.kind === 'charge' && (
        <path
          d={strands(scale, ahead.fromX, ahead.toX, y, size)}
          className="stroke-cork-dark"
          strokeWidth={1.6}
        />
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
  size,
}: Part & { knots: readonly Knot[]; timeZone: string }) {
  const placed = cluster(knots, (knot) => xOf(scale, knot.at), size.ring * RING_GAP);
  const rows = labelRows(
    placed.map((one) => one.x),
    clockWidth(),
    2,
  );
  const nowX = xOf(scale, now);
  return placed.map(({ x, items }, index) => {
    const first = items[0];
    const row = size.hasWords ? rows[index] : undefined;
    const middle = y + swayAt(scale, x, size.sway);
    if (!first) return null;
    const isUnderEmber = Math.abs(x - nowX) < 14;
    return (
      <g key={`${first.key}-${first.at}`}>
        <title>{items.map((knot) => `${clockText(knot.at, timeZone)} ${knot.title}`).join('\n')}</title>
        {!isUnderEmber && (
          <circle
            cx={x}
            cy={middle}
            r={size.ring}
            className="fill-paper stroke-cork-dark"
            strokeWidth={2.5}
          />
        )}
        {!isUnderEmber && size.hasWords && items.length > 1 && (
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

/** Of a letter, px; a name has as much room again before and after it. */
const LETTER = 6;
const NAME_EDGE = 12;

/** What waits or charges for long is named: a line alone says little of a week. */
function Names({ segments, scale, y }: { segments: readonly Segment[]; scale: TimeScale; y: number }) {
  return segments.flatMap((segment) => {
    const span = segment.kind === 'hands' ? undefined : clip(scale, segment);
    if (!span || span.toX - span.fromX < segment.title.length * LETTER + 2 * NAME_EDGE) return [];
    return [
      <text
        key={`${segment.key} ${segment.from}`}
        x={span.fromX + NAME_EDGE}
        y={y + 23}
        className="fill-soft text-[11px]"
      >
        {segment.title}
      </text>,
    ];
  });
}

function Ash({ knots, scale, y, size }: Omit<Part, 'now'> & { knots: readonly Knot[] }) {
  return cluster(knots, (knot) => xOf(scale, knot.at), 9).map(({ x, items }) => (
    <circle
      key={`${items[0]?.key}-${x}`}
      cx={x}
      cy={y + swayAt(scale, x, size.sway)}
      r={(size.ring / 16) * (items.length > 1 ? 12 : 9)}
      className="fill-burnt"
    />
  ));
}

function Flag({ scale, at, y, hasWords }: { scale: TimeScale; at: number; y: number; hasWords: boolean }) {
  const x = xOf(scale, at);
  const side = x > scale.width - 18 ? -1 : 1;
  const top = y - (hasWords ? 26 : 13);
  return (
    <g>
      <path d={`M${x} ${top}V${y + 12}`} className="stroke-verdigris" strokeWidth={2} />
      <path
        d={`M${x} ${top}h${15 * side}l${-5 * side} 6 ${5 * side} 6h${-15 * side}z`}
        className="fill-verdigris"
      />
      {hasWords && (
        <text
          x={Math.min(x, scale.width - 28)}
          y={y + 25}
          textAnchor="middle"
          className="fill-verdigris text-[11px]"
        >
          promised
        </text>
      )}
    </g>
  );
}

function Ember({ x, y, r, isAlarm = false }: { x: number; y: number; r: number; isAlarm?: boolean }) {
  return (
    <g aria-hidden>
      <circle
        cx={x}
        cy={y}
        r={r * (isAlarm ? 2.3 : 1.8)}
        className={isAlarm ? 'fill-ember/45' : 'fill-ember/25'}
      />
      <circle cx={x} cy={y} r={r} className="fill-ember" />
      <circle cx={x} cy={y} r={r * 0.39} className="fill-flare" />
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
  size: named = 'row',
  isNamed = false,
}: CordProps) {
  const size: Size = SIZES[named];
  const part = { scale, now, y, size };
  const shown = forecast.knots.filter((knot) => isInside(scale, knot.at));
  const nowX = xOf(scale, now);
  const goesOn = forecast.readyAt > scale.to;
  return (
    <g>
      {forecast.segments.map((segment) => (
        <Stretch key={`${segment.key}-${segment.from}`} segment={segment} {...part} />
      ))}
      {isNamed && <Names segments={forecast.segments} scale={scale} y={y} />}
      {goesOn && (
        <path
          d={`M${scale.width - 9} ${y - 7}l7 7-7 7`}
          className="fill-none stroke-cork-dark"
          strokeWidth={2.5}
        />
      )}
      <Ash knots={shown.filter((knot) => knot.isDone)} {...part} />
      <Rings knots={shown.filter((knot) => !knot.isDone)} timeZone={timeZone} {...part} />
      {promisedAt !== undefined && isInside(scale, promisedAt) && (
        <Flag scale={scale} at={promisedAt} y={y} hasWords={size.hasWords} />
      )}
      {!isEnded && isInside(scale, now) && (
        <Ember x={nowX} y={y + swayAt(scale, nowX, size.sway)} r={size.ember} isAlarm={isAlarm} />
      )}
    </g>
  );
}
