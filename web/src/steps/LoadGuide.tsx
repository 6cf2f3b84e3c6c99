/** Counts a load test down, so that both hands and both eyes stay on it: load on, watch, read, load off. */
import { Timer } from 'lucide-react';
import { useEffect, useState } from 'react';
import { Button } from '../ui/Button.tsx';

/** The last seconds in which the lowest voltage is read. */
const READ_S = 3;

function wordsAt(left: number): string {
  if (left === 0) return 'Load off. Enter the lowest it showed.';
  return left <= READ_S ? 'Read it now.' : 'Load on. Watch the lowest.';
}

export function LoadGuide({ seconds, limit }: { seconds: number; limit: string }) {
  const [left, setLeft] = useState<number>();
  const isRunning = left !== undefined && left > 0;
  useEffect(() => {
    if (!isRunning) return;
    const ticking = setTimeout(() => setLeft((before) => (before ?? 1) - 1), 1000);
    return () => clearTimeout(ticking);
  }, [isRunning, left]);
  return (
    <section
      aria-label="Guide through the load test"
      className="mx-5 mt-4 rounded-lg border border-line bg-paper p-4"
    >
      <p className="text-soft">{limit}</p>
      {left === undefined ? (
        <Button className="mt-2 min-h-14 w-full" onClick={() => setLeft(seconds)}>
          <Timer aria-hidden className="size-5" /> Count {seconds} s with me
        </Button>
      ) : (
        <div className="mt-2 flex flex-wrap items-center gap-4">
          <span className="reading text-4xl font-bold" aria-hidden>
            {left}
          </span>
          <p
            role="status"
            className={`flex-1 text-xl font-semibold ${left <= READ_S ? 'text-ember-text' : ''}`}
          >
            {wordsAt(left)}
          </p>
          <Button onClick={() => setLeft(left === 0 ? seconds : undefined)}>
            {left === 0 ? 'Once more' : 'Stop'}
          </Button>
        </div>
      )}
    </section>
  );
}
