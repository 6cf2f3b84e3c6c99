/** What was recorded of a battery off the bench: where it stood, what it was read at. */
import { useState } from 'react';
import { Link } from 'react-router';
import { dateText } from '@cork-ember/core/clock/clockText.ts';
import { describeShelf } from '@cork-ember/core/shelf/describe.ts';
import type { ShelfEvent } from '@cork-ember/core/shelf/entries.ts';
import { Button } from '../ui/Button.tsx';
import { card } from '../ui/card.ts';

/** The newest; those before them on demand. */
const AT_FIRST = 6;

export function OffBench({ events, timeZone }: { events: readonly ShelfEvent[]; timeZone: string }) {
  const [isWhole, setWhole] = useState(false);
  if (events.length === 0) return null;
  const newest = events.toReversed();
  const shown = isWhole ? newest : newest.slice(0, AT_FIRST);
  return (
    <section aria-labelledby="off-bench-title">
      <div className="flex flex-wrap items-center gap-x-4">
        <h2 id="off-bench-title" className="text-sm font-semibold text-soft">
          Off the bench
        </h2>
        <Link
          to={`/shelf?tag=${newest[0]?.tag ?? ''}`}
          className="inline-flex min-h-12 items-center text-verdigris underline underline-offset-4"
        >
          On the shelf
        </Link>
      </div>
      <ol className={card({ pad: 'none', className: 'max-w-3xl divide-y divide-line' })}>
        {shown.map((event) => (
          <li key={event.seq} className="flex flex-wrap gap-x-4 px-4 py-2">
            <span className="reading w-28 shrink-0 text-sm text-soft">{dateText(event.at, timeZone)}</span>
            <span className="min-w-0 flex-1 max-sm:order-last max-sm:basis-full">{describeShelf(event)}</span>
            <span className="text-sm text-soft">{event.by}</span>
          </li>
        ))}
      </ol>
      {newest.length > shown.length && (
        <Button className="mt-2" onClick={() => setWhole(true)}>
          {newest.length - shown.length} earlier
        </Button>
      )}
    </section>
  );
}
