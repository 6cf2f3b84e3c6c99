import { shopRegion } from '../region/shopRegion.ts';
import { Link } from 'react-router';
import { placeText } from '@cork-ember/core/runsheet/entries/place.ts';
import type { Urgency } from '@cork-ember/core/runsheet/plan/hand.ts';
import type { Turn } from '@cork-ember/core/runsheet/plan/inTurn.ts';
import { extra } from '../ui/later.tsx';
import type { ShopHours } from '@cork-ember/core/clock/shopHours.ts';
import { clockText, weekdayText, dateText } from '@cork-ember/core/clock/clockText.ts';

const ShelfWalk = extra(async () => (await import('../ui/ShelfWalk.tsx')).ShelfWalk);

const WORDS: Record<Urgency, string> = {
  danger: 'danger',
  overdue: 'overdue',
  due: 'now',
  blocked: 'blocked',
  later: '',
};
const TONES: Record<Urgency, string> = {
  danger: 'text-clay',
  overdue: 'text-clay',
  due: 'text-ember-text',
  blocked: 'text-brass-ink',
  later: 'text-char',
};

function When({ hand, now, timeZone }: { hand: Turn; now: number; timeZone: string }) {
  // What is due keeps the hour it was due at; what is still to come has the hour hands get to it.
  const at = hand.urgency === 'later' ? hand.startAt : hand.at;
  const isToday = dateText(at, timeZone) === dateText(now, timeZone);
  return (
    <span className={`shrink-0 ${shopRegion().clock === '12 h' ? 'w-21' : 'w-16'} ${TONES[hand.urgency]}`}>
      <span className="reading block font-semibold">{clockText(at, timeZone)}</span>
      <span className="block text-xs font-semibold">
        {WORDS[hand.urgency] || (isToday ? '' : weekdayText(at, timeZone))}
      </span>
    </span>
  );
}

/** Two visits that want the same hands, in words. */
function TurnNote({ turn, timeZone }: { turn: Turn; timeZone: string }) {
  const { behind } = turn;
  if (!behind || turn.urgency !== 'later') return null;
  const since = `wanted ${clockText(turn.at, timeZone)}, after ${placeText(behind.bay)}`;
  return turn.isClash ? (
    <span className="block text-sm font-semibold text-clay">
      Clash: {since}. Too late by then; ask for a second pair of hands.
    </span>
  ) : (
    <span className="block text-sm text-soft">{since}</span>
  );
}

/** The whole bench's next visits, one after the other. */
export function NextHandsList({
  turns,
  now,
  hours,
}: {
  turns: readonly Turn[];
  now: number;
  hours: ShopHours;
}) {
  const { timeZone } = hours;
  return (
    <section
      aria-labelledby="hands-title"
      className="shrink-0 border-line bg-panel px-4 py-3 max-lg:border-t lg:w-72 lg:border-l"
    >
      <h2 id="hands-title" className="text-sm font-semibold text-soft">
        Next hands
      </h2>
      {turns.length === 0 && <p className="mt-3 text-soft">No battery waits for you.</p>}
      <ol className="mt-1">
        {turns.slice(0, 14).map((hand) => (
          <li key={`${hand.job}-${hand.stepKey}-${hand.at}`} className="border-b border-line last:border-0">
            <Link to={`/jobs/${hand.job}`} className="flex min-h-14 gap-2 py-2 hover:bg-paper">
              <When hand={hand} now={now} timeZone={timeZone} />
              <span className="min-w-0">
                <span className="block leading-snug">{hand.title}</span>
                <span className="block text-sm text-soft">
                  {hand.tag} · {placeText(hand.bay)}
                </span>
                <TurnNote turn={hand} timeZone={timeZone} />
                {hand.note !== '' && (
                  <span className="line-clamp-2 block text-sm text-clay">{hand.note}</span>
                )}
              </span>
            </Link>
          </li>
        ))}
      </ol>
      <ShelfWalk
        busy={turns.map(({ startAt, minutes }) => ({ from: startAt, to: startAt + minutes * 60_000 }))}
        now={now}
        hours={hours}
      />
    </section>
  );
}
