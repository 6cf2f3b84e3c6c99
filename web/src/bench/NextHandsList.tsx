import { Link } from 'react-router';
import type { Hand, Urgency } from '@cork-ember/core/runsheet/hands.ts';
import { clockText, weekdayText, dateText } from '@cork-ember/core/schedule/clockText.ts';

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

function When({ hand, now, timeZone }: { hand: Hand; now: number; timeZone: string }) {
  const isToday = dateText(hand.at, timeZone) === dateText(now, timeZone);
  return (
    <span className={`w-16 shrink-0 ${TONES[hand.urgency]}`}>
      <span className="reading block font-semibold">{clockText(hand.at, timeZone)}</span>
      <span className="block text-xs font-semibold">
        {WORDS[hand.urgency] || (isToday ? '' : weekdayText(hand.at, timeZone))}
      </span>
    </span>
  );
}

/** The whole bench's next visits, in order. */
export function NextHandsList({
  hands,
  now,
  timeZone,
}: {
  hands: readonly Hand[];
  now: number;
  timeZone: string;
}) {
  return (
    <section
      aria-labelledby="hands-title"
      className="shrink-0 border-line bg-panel px-4 py-3 max-lg:border-t lg:w-72 lg:border-l"
    >
      <h2 id="hands-title" className="text-sm font-semibold text-soft">
        Next hands
      </h2>
      {hands.length === 0 && <p className="mt-3 text-soft">No battery waits for you.</p>}
      <ol className="mt-1">
        {hands.slice(0, 14).map((hand) => (
          <li key={`${hand.job}-${hand.stepKey}-${hand.at}`} className="border-b border-line last:border-0">
            <Link to={`/jobs/${hand.job}`} className="flex min-h-14 gap-2 py-2 hover:bg-paper">
              <When hand={hand} now={now} timeZone={timeZone} />
              <span className="min-w-0">
                <span className="block leading-snug">{hand.title}</span>
                <span className="block text-sm text-soft">
                  {hand.tag} · bay {hand.bay}
                </span>
                {hand.note !== '' && (
                  <span className="line-clamp-2 block text-sm text-clay">{hand.note}</span>
                )}
              </span>
            </Link>
          </li>
        ))}
      </ol>
    </section>
  );
}
