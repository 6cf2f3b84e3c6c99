/** What hands do next, in one line that is always there. */
import { useLocation, useNavigate } from 'react-router';
import { whenText } from '@cork-ember/core/clock/clockText.ts';
import { placeText } from '@cork-ember/core/runsheet/entries/place.ts';
import type { Hand } from '@cork-ember/core/runsheet/plan/hand.ts';
import { useNow } from '../api/clock.ts';
import { Button } from '../ui/Button.tsx';

const URGENT = {
  danger: 'Danger',
  overdue: 'Overdue',
  due: 'Due now',
  blocked: 'Blocked',
  later: 'Next',
} as const;

export function Band({
  isKnown,
  hands,
  here,
  timeZone,
}: {
  isKnown: boolean;
  hands: readonly Hand[];
  here: string | undefined;
  timeZone: string;
}) {
  const now = useNow();
  const navigate = useNavigate();
  // Whoever works through a batch stays in it.
  const isBatch = useLocation().pathname === '/batch';
  const hand = hands.find((one) => one.job !== here);
  if (!hand)
    return (
      <p className="flex flex-1 items-center px-5 text-band-soft">
        {!isKnown
          ? 'What hands do next is not known yet.'
          : here
            ? 'Nothing else on the bench needs hands.'
            : 'The bench is empty. Take a battery in.'}
      </p>
    );
  const when = hand.urgency === 'later' ? whenText(hand.at, now, timeZone) : URGENT[hand.urgency];
  return (
    <div className="relative flex min-w-0 flex-1 items-center gap-4 px-5 max-sm:px-3">
      {here && <span className="hidden text-white lg:inline">Elsewhere</span>}
      <p className="min-w-0 flex-1">
        <span className="block truncate text-lg font-bold text-white max-sm:line-clamp-2 max-sm:text-base max-sm:leading-5 max-sm:whitespace-normal md:text-xl">
          {hand.title}
        </span>
        <span className="block truncate text-sm text-white/90">
          {hand.tag} · {placeText(hand.bay)} · {when}
          {hand.urgency === 'overdue' ? ` since ${whenText(hand.at, now, timeZone)}` : ''}
        </span>
      </p>
      {/* On a phone the words themselves are pressed. */}
      <Button
        className="shrink-0 border-white bg-white! px-6 font-semibold text-ember-ink! max-sm:absolute max-sm:inset-0 max-sm:border-transparent max-sm:bg-transparent! max-sm:text-transparent!"
        onClick={() => void navigate(isBatch ? `/batch?job=${hand.job}` : `/jobs/${hand.job}`)}
      >
        {hand.urgency === 'later' ? 'Open' : 'Do it'}
      </Button>
    </div>
  );
}
