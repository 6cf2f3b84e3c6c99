/** What to read before anything is done, and the way to any other reading. */
import { CHECK_NAMES } from '@cork-ember/core/advice/bestCheck.ts';
import type { Check } from '@cork-ember/core/observation/checks.ts';
import { percentText } from '@cork-ember/core/units/percent.ts';
import { Button } from '../ui/Button.tsx';
import type { Advice } from './useAdvice.ts';

/** A kind of reading to enter; the first of all where none is meant. */
export type OnRead = (kind: Check | 'ocv') => void;

function wordsOf({ isOn, best, checks, error }: Advice): string {
  if (isOn) return 'It is on charge: its looks decide.';
  if (error !== null && error !== undefined) return 'Not worked out.';
  if (best)
    return `${best.advised.minutes.toFixed(0)} min. It would change the choice ${percentText(best.advised.changes)} of the time.${best.pays ? '' : ' With the bench full, go on without it.'}`;
  return checks
    ? 'It is settled: no further check would change the choice.'
    : 'Worked out once the ways are compared …';
}

export function NextCheck({ advice, onRead }: { advice: Advice; onRead: OnRead }) {
  const { best } = advice;
  return (
    <section aria-labelledby="check-title">
      <h2 id="check-title" className="font-bold">
        {best ? `Next check: ${CHECK_NAMES[best.advised.check].toLowerCase()}` : 'Next check'}
      </h2>
      <p className="text-[15px] text-soft">{wordsOf(advice)}</p>
      <div className="mt-2 flex gap-2">
        {best && (
          <Button className="flex-[2] font-semibold" onClick={() => onRead(best.advised.check)}>
            Enter it
          </Button>
        )}
        <Button className="flex-1" onClick={() => onRead('ocv')}>
          {best ? 'Others' : 'Read something more'}
        </Button>
      </div>
    </section>
  );
}
