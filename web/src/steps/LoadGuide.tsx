/** Counts a load test down, so that both hands and both eyes stay on it: load on, watch, read, load off. */
import { Timer } from 'lucide-react';
import { useEffect, useState } from 'react';
import { Button } from '../ui/Button.tsx';
import { BACK_S, momentAt, type Moment } from './loadMoment.ts';

/**
 * @param isWatched whether its start and what it springs back to are asked for as well
 */
export function LoadGuide({
  seconds,
  limit,
  isWatched = false,
}: {
  seconds: number;
  limit: string;
  isWatched?: boolean;
}) {
  const [at, setAt] = useState<number>();
  const end = seconds + (isWatched ? BACK_S : 0);
  const isRunning = at !== undefined && at < end;
  useEffect(() => {
    if (!isRunning) return;
    const ticking = setTimeout(() => setAt((before) => (before ?? 0) + 1), 1000);
    return () => clearTimeout(ticking);
  }, [isRunning, at]);
  return (
    <section
      aria-label="Guide through the load test"
      className="mx-5 mt-4 rounded-lg border border-line bg-paper p-4"
    >
      <p className="text-soft">{limit}</p>
      {at === undefined ? (
        <Button className="mt-2 min-h-14 w-full" onClick={() => setAt(0)}>
          <Timer aria-hidden className="size-5" /> Count {seconds} s with me
        </Button>
      ) : (
        <Running
          left={at < seconds ? seconds - at : end - at}
          moment={momentAt(at, seconds, isWatched)}
          isOver={!isRunning}
          onStop={() => setAt(isRunning ? undefined : 0)}
        />
      )}
    </section>
  );
}

function Running({
  left,
  moment: { words, isNow },
  isOver,
  onStop,
}: {
  left: number;
  moment: Moment;
  isOver: boolean;
  onStop: () => void;
}) {
  return (
    <div className="mt-2 flex flex-wrap items-center gap-4">
      <span className="reading text-4xl font-bold" aria-hidden>
        {left}
      </span>
      <p role="status" className={`flex-1 text-xl font-semibold ${isNow ? 'text-ember-text' : ''}`}>
        {words}
      </p>
      <Button onClick={onStop}>{isOver ? 'Once more' : 'Stop'}</Button>
    </div>
  );
}
