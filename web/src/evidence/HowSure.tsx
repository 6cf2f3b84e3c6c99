/** How far the advice is to be trusted: at worst, how often it is the best, and which of the shop's own costs would turn it. */
import type { Sure, Turn } from '@cork-ember/core/advice/sure.ts';
import { isShare, moneyText } from '@cork-ember/core/advice/worth.ts';
import { inSentence } from '@cork-ember/core/units/inSentence.ts';
import { percentText } from '@cork-ember/core/units/percent.ts';

/** The nearest few: what only a cost twice as high turns hardly turns it. */
const MOST_TURNS = 5;
/** The scale runs from half of what a cost is to twice that. */
const DOUBLE = 2;

/** Where a cost stands on the scale, 0–1; what it is now in the middle. */
const placeOf = (factor: number): number => Math.log(factor * DOUBLE) / Math.log(DOUBLE * DOUBLE);

const costText = ({ path }: Turn, value: number): string =>
  isShare(path) ? percentText(value) : moneyText(value);

function TurnLine({ turn }: { turn: Turn }) {
  const { label, now, at, to } = turn;
  const place = placeOf(at / now);
  const [from, until] = place < 0.5 ? [place, 0.5] : [0.5, place];
  return (
    <li className="border-t border-line py-2 first:border-0">
      <p className="flex flex-wrap justify-between gap-x-3">
        <span className="font-medium">{label}</span>
        <span className="reading whitespace-nowrap">
          {costText(turn, now)} → {costText(turn, at)}
        </span>
      </p>
      <span aria-hidden className="relative mt-1 block h-2.5 rounded-full bg-rail">
        <span
          className="absolute h-full rounded-full bg-cork"
          style={{ left: `${from * 100}%`, width: `${(until - from) * 100}%` }}
        />
        <span className="absolute left-1/2 h-full w-0.5 bg-ink" />
      </span>
      <p className="text-sm text-soft">
        {at > now ? 'Above' : 'Below'} that: {inSentence(to)}.
      </p>
    </li>
  );
}

export function HowSure({ sure }: { sure: Sure }) {
  const { atWorst, best, turns } = sure;
  const worst =
    atWorst < 0
      ? `One battery in ten loses ${moneyText(-atWorst)} or more by it against retiring it now.`
      : 'Even one battery in ten that does worst brings no less than retiring it now.';
  return (
    <details className="mt-3 border-t border-line pt-1">
      <summary className="flex min-h-12 cursor-pointer items-center font-medium text-soft">
        How sure that is, and which cost would turn it
      </summary>
      <p>
        Of such batteries it is the best way for {percentText(best)}. {worst}
      </p>
      {turns.length === 0 ? (
        <p className="mt-2 text-soft">None of the shop’s costs turns it, halved or doubled.</p>
      ) : (
        <ul aria-label="Costs that would turn it" className="mt-2">
          {turns.slice(0, MOST_TURNS).map((turn) => (
            <TurnLine key={`${turn.path} ${turn.at > turn.now}`} turn={turn} />
          ))}
        </ul>
      )}
    </details>
  );
}
