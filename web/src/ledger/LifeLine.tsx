/** A battery's life in one line of time, the newest first: its jobs on the bench, and what was recorded of it between them. */
import { useState } from 'react';
import { Link } from 'react-router';
import { dateText } from '@cork-ember/core/clock/clockText.ts';
import type { BatteryAnswer, JobSummary } from '@cork-ember/core/contract/answers.ts';
import { describeShelf } from '@cork-ember/core/shelf/describe.ts';
import type { ShelfEvent } from '@cork-ember/core/shelf/entries.ts';
import { Button } from '../ui/Button.tsx';
import { card } from '../ui/card.ts';
import { Notice } from '../ui/Notice.tsx';
import { JobCard } from './JobCard.tsx';

/** A job, or entries off the bench with no job between them, the newest first. */
type Chapter =
  | { readonly key: string; readonly job: JobSummary }
  | { readonly key: string; readonly events: readonly ShelfEvent[] };

/** Jobs by when they were opened, entries by when they were made. */
function chaptersOf({ jobs, shelf }: Pick<BatteryAnswer, 'jobs' | 'shelf'>): readonly Chapter[] {
  const moments = [
    ...jobs.map((job) => ({ at: job.openedAt, job })),
    ...shelf.map((event) => ({ at: event.at, event })),
  ].sort((a, b) => b.at - a.at);
  const chapters: Chapter[] = [];
  for (const moment of moments) {
    const last = chapters.at(-1);
    if ('job' in moment) chapters.push({ key: moment.job.id, job: moment.job });
    else if (last && 'events' in last)
      chapters[chapters.length - 1] = { ...last, events: [...last.events, moment.event] };
    else chapters.push({ key: `entry ${moment.event.seq}`, events: [moment.event] });
  }
  return chapters;
}

/** Of entries that follow each other, the newest; those before them on demand. */
const AT_FIRST = 6;

function OffBench({ events, timeZone }: { events: readonly ShelfEvent[]; timeZone: string }) {
  const [isWhole, setWhole] = useState(false);
  const shown = isWhole ? events : events.slice(0, AT_FIRST);
  return (
    <li>
      <ol className={card({ pad: 'none', className: 'max-w-3xl divide-y divide-line' })}>
        {shown.map((event) => (
          <li key={event.seq} className="flex flex-wrap gap-x-4 px-4 py-2">
            <span className="reading w-28 shrink-0 text-sm text-soft">{dateText(event.at, timeZone)}</span>
            <span className="min-w-0 flex-1 max-sm:order-last max-sm:basis-full">{describeShelf(event)}</span>
            <span className="text-sm text-soft">{event.by}</span>
          </li>
        ))}
      </ol>
      {events.length > shown.length && (
        <Button className="mt-2" onClick={() => setWhole(true)}>
          {events.length - shown.length} earlier
        </Button>
      )}
    </li>
  );
}

/** Each job is read and drawn from its own log: so many chapters at first. */
const CHAPTERS_AT_ONCE = 7;

export function LifeLine({ battery, timeZone }: { battery: BatteryAnswer; timeZone: string }) {
  const [shown, setShown] = useState(CHAPTERS_AT_ONCE);
  const chapters = chaptersOf(battery);
  return (
    <section aria-labelledby="life-line-title">
      <div className="flex flex-wrap items-center gap-x-4">
        <h2 id="life-line-title" className="text-sm font-semibold text-soft">
          On the bench and off it
        </h2>
        {battery.shelf.length > 0 && (
          <Link
            to={`/shelf?tag=${battery.tag}`}
            className="inline-flex min-h-12 items-center text-verdigris underline underline-offset-4"
          >
            On the shelf
          </Link>
        )}
      </div>
      {battery.shelfBroken !== undefined && <Notice tone="stop">Off the bench: {battery.shelfBroken}</Notice>}
      {chapters.length === 0 && <p className="text-soft">Nothing was recorded of it yet.</p>}
      <ol className="mt-2 space-y-3">
        {chapters
          .slice(0, shown)
          .map((chapter) =>
            'job' in chapter ? (
              <JobCard key={chapter.key} summary={chapter.job} timeZone={timeZone} />
            ) : (
              <OffBench key={chapter.key} events={chapter.events} timeZone={timeZone} />
            ),
          )}
      </ol>
      {chapters.length > shown && (
        <Button className="mt-3" onClick={() => setShown(shown + CHAPTERS_AT_ONCE)}>
          {chapters.length - shown} earlier
        </Button>
      )}
    </section>
  );
}
