/** The month's work on the shelf, a few minutes a day; as a calendar for whoever keeps one. */
import { CalendarDays, Printer } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { dayText, weekdayText } from '@cork-ember/core/clock/clockText.ts';
import type { Want } from '@cork-ember/core/shelf/due.ts';
import { dayWords, monthOf, type ShelfDay } from '@cork-ember/core/shelf/month.ts';
import { byPlace, doesOf, whereOf } from '@cork-ember/core/shelf/words.ts';
import { useMinute } from '../api/clock.ts';
import { useShelf } from '../api/shelf.ts';
import { Button, buttonClass } from '../ui/Button.tsx';
import { card } from '../ui/card.ts';
import { Title } from '../ui/Title.tsx';
import { Waiting } from '../ui/Waiting.tsx';
import { FeedDialog } from './FeedDialog.tsx';

const WANTS: readonly Want[] = ['recharge', 'read', 'tend', 'water', 'call'];
const DOES: Readonly<Record<Want, { readonly to: string; readonly label: string }>> = {
  recharge: { to: '/shelf/charge', label: 'Charge them' },
  read: { to: '/shelf/round', label: 'Walk the round' },
  tend: { to: '/shelf', label: 'To the shelf' },
  water: { to: '/shelf', label: 'To the shelf' },
  call: { to: '/shelf/calls', label: 'Call them' },
};

function Day({ day, now, timeZone }: { day: ShelfDay; now: number; timeZone: string }) {
  const isToday = dayText(day.at, now, timeZone) === dayText(now, now, timeZone);
  const kinds = WANTS.filter((want) => day.tasks.some((task) => task.want === want));
  return (
    <li className={card({ pad: 'snug', edge: isToday ? 'first' : 'plain' })}>
      <h2 className="flex flex-wrap items-baseline gap-x-3 text-lg font-bold">
        {isToday ? 'Today' : `${weekdayText(day.at, timeZone)} ${dayText(day.at, now, timeZone)}`}
        <span className="text-base font-normal text-soft">{dayWords(day)}</span>
      </h2>
      {kinds.map((want) => (
        <div key={want} className="mt-2 flex flex-wrap items-center gap-x-3 gap-y-1">
          <h3 className="w-28 shrink-0 font-semibold">{doesOf(want)}</h3>
          <ul className="flex min-w-0 flex-1 flex-wrap gap-x-4 gap-y-1">
            {day.tasks
              .filter((task) => task.want === want)
              .toSorted((a, b) => byPlace(a.one, b.one))
              .map(({ one }) => (
                <li key={one.tag}>
                  <Link
                    to={`/batteries/${one.tag}`}
                    className="inline-flex min-h-8 items-center gap-1 underline decoration-cork underline-offset-4"
                  >
                    {one.tag}
                  </Link>{' '}
                  <span className="text-sm text-soft">{whereOf(one)}</span>
                </li>
              ))}
          </ul>
          {isToday && (
            <Link to={DOES[want].to} className={buttonClass({ tone: want === kinds[0] ? 'go' : 'plain' })}>
              {DOES[want].label}
            </Link>
          )}
        </div>
      ))}
    </li>
  );
}

export function MonthPage() {
  const { shelved, shop, asked } = useShelf();
  const now = useMinute();
  const [isSubscribing, setSubscribing] = useState(false);
  if (!shelved || !shop || now === 0) return <Waiting on={asked} />;
  const days = monthOf(shelved, shop.hours, now);
  return (
    <div className="mx-auto max-w-4xl p-5">
      <div className="flex flex-wrap items-end gap-3">
        <div className="mr-auto">
          <Title>The shelf’s month</Title>
          <p className="text-soft">
            {days.length === 0
              ? 'Nothing is due within a month.'
              : 'What is due, a little each day the shop is open, nothing later than it can wait.'}
          </p>
        </div>
        <a href="/api/shelf/round.pdf" download className={buttonClass()}>
          <Printer aria-hidden className="size-5" /> Round on paper
        </a>
        <a href="/api/shelf/calendar.ics" download className={buttonClass()}>
          <CalendarDays aria-hidden className="size-5" /> Calendar file
        </a>
        <Button onClick={() => setSubscribing(true)}>Subscribe …</Button>
      </div>
      <ol className="mt-4 space-y-3">
        {days.map((day) => (
          <Day key={day.at} day={day} now={now} timeZone={shop.hours.timeZone} />
        ))}
      </ol>
      {isSubscribing && (
        <FeedDialog now={now} timeZone={shop.hours.timeZone} onClose={() => setSubscribing(false)} />
      )}
    </div>
  );
}
