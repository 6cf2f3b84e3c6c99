/** Today's work on the shelf, among the next hands: at the first moment the bench leaves them free for so long. */
import { Link } from 'react-router';
import { clockText } from '@cork-ember/core/clock/clockText.ts';
import type { ShopHours } from '@cork-ember/core/clock/shopHours.ts';
import { dayWords, monthOf, quietFrom, type Busy } from '@cork-ember/core/shelf/month.ts';
import { useShelf } from '../api/shelf.ts';

interface ShelfWalkProps {
  /** What the bench wants of the same hands. */
  readonly busy: readonly Busy[];
  readonly now: number;
  readonly hours: ShopHours;
}

export function ShelfWalk({ busy, now, hours }: ShelfWalkProps) {
  const { shelved } = useShelf();
  if (!shelved) return null;
  const [today] = monthOf(shelved, hours, now);
  if (!today || today.at > now) return null;
  const at = quietFrom(busy, today.minutes, now);
  return (
    <Link
      to="/shelf/month"
      className="sticky bottom-0 -mx-4 flex min-h-14 gap-2 border-t-2 border-cork bg-panel px-4 py-2 hover:bg-paper"
    >
      <span className="w-16 shrink-0">
        <span className="reading block font-semibold">
          {at <= now ? 'now' : clockText(at, hours.timeZone)}
        </span>
        <span className="block text-xs font-semibold">quiet</span>
      </span>
      <span className="min-w-0">
        <span className="block leading-snug">Walk the shelf</span>
        <span className="block text-sm text-soft">{dayWords(today)}</span>
      </span>
    </Link>
  );
}
