import { useNow } from '../api/clock.ts';

/** "1:04:30" in the largest type on the screen, with how much of it has gone. */
export function Countdown({
  until,
  totalMs,
  isSmall = false,
}: {
  /** Moment it is over, ms. */
  until: number;
  totalMs: number;
  isSmall?: boolean;
}) {
  // It alone is drawn anew with every second.
  const leftMs = until - useNow();
  const left = Math.max(0, Math.ceil(leftMs / 1000));
  const hours = Math.floor(left / 3600);
  const minutes = String(Math.floor((left % 3600) / 60)).padStart(2, '0');
  const seconds = String(left % 60).padStart(2, '0');
  const share = totalMs <= 0 ? 1 : Math.min(1, Math.max(0, 1 - leftMs / totalMs));
  return (
    <div>
      <p
        role="timer"
        // Minutes and seconds left are no time of day.
        translate="no"
        aria-label="Time left"
        className={`reading font-semibold ${isSmall ? 'text-4xl' : 'text-6xl md:text-7xl'}`}
      >
        {hours > 0 ? `${hours}:` : ''}
        {minutes}:{seconds}
      </p>
      <div className="mt-2 h-4 overflow-hidden rounded-full bg-cork/35" aria-hidden>
        <div
          className="h-full rounded-full border-r-4 border-ember bg-burnt"
          style={{ width: `${share * 100}%` }}
        />
      </div>
    </div>
  );
}
