/** The months ahead of the fuses. */
import { dayText } from '@cork-ember/core/clock/clockText.ts';
import { DAY_MS } from '@cork-ember/core/shelf/warmth.ts';
import { xOf, type TimeScale } from '../cord/scale.ts';

/** Days ahead that stand above the fuses, and what each is called. */
const MARKS = [0, 14, 30, 60, 90, 120] as const;

interface MonthsProps {
  readonly scale: TimeScale;
  readonly now: number;
  readonly timeZone: string;
  /** Of the first fuse, px. */
  readonly left: number;
}

export function Months({ scale, now, timeZone, left }: MonthsProps) {
  return (
    <div className="relative mt-3 h-6" style={{ marginLeft: left, width: scale.width }} aria-hidden>
      {MARKS.map((days) => (
        <span
          key={days}
          className="reading absolute -translate-x-1/2 text-[12px] whitespace-nowrap text-soft"
          style={{ left: xOf(scale, now + days * DAY_MS) }}
        >
          {days === 0 ? 'now' : dayText(now + days * DAY_MS, now, timeZone)}
        </span>
      ))}
    </div>
  );
}
