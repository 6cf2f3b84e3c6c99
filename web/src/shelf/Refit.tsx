/** A display machine is sold: its battery goes back into it, charged. */
import { Link } from 'react-router';
import type { ShelfEntry } from '@cork-ember/core/shelf/entries.ts';
import type { Shelved } from '@cork-ember/core/shelf/overview.ts';
import { placeName } from '@cork-ember/core/shelf/places.ts';
import { Button, buttonClass } from '../ui/Button.tsx';
import { FittingCaution } from '../ui/FittingCaution.tsx';

interface RefitProps {
  readonly one: Shelved;
  readonly onPlace: (entry: ShelfEntry) => void;
}

export function Refit({ one, onPlace }: RefitProps) {
  const { place, prediction, rechargeV, tag } = one;
  const machine = place ? placeName(place) : '';
  const isLow = !prediction || prediction.volts.low < rechargeV;
  return (
    <div className="space-y-4">
      <FittingCaution />
      <p>
        {isLow
          ? `It may rest below ${rechargeV.toFixed(2)} V: charge it before it is fitted.`
          : `It rests at about ${prediction.volts.likely.toFixed(2)} V: good to be fitted as it is.`}
      </p>
      {isLow && (
        <Link
          to={`/shelf/charge?tags=${tag}`}
          className={buttonClass({ tone: 'go', className: 'min-h-16 w-full text-lg' })}
        >
          Charge it first
        </Link>
      )}
      <Button
        tone={isLow ? 'plain' : 'go'}
        className="min-h-16 w-full text-lg"
        onClick={() =>
          onPlace({
            kind: 'placed',
            payload: {
              place: { kind: 'sold', name: '' },
              why: `refitted in ${machine}${isLow ? ', not charged first' : ''}`,
            },
          })
        }
      >
        It is in {machine}, sold
      </Button>
    </div>
  );
}
