/** Said where the machine's clock was set, or the machine slept: the shop goes on by its own until somebody decides. */
import { useState } from 'react';
import { sayTrouble } from './say.ts';
import { clockText, durationText, whenText } from '@cork-ember/core/clock/clockText.ts';
import { sentenceOf } from '../api/client.ts';
import { changeClock, useMachineAhead, useNow } from '../api/clock.ts';
import { Button } from './Button.tsx';
import { Notice } from './Notice.tsx';

const MINUTE = 60_000;

export function ClockApart({ timeZone }: { timeZone: string }) {
  const ahead = useMachineAhead();
  const now = useNow();
  /** The difference that was looked at, whole minutes. */
  const [left, setLeft] = useState<number>();
  if (ahead === undefined || now === 0) return null;
  const minutes = Math.round(ahead / MINUTE);
  if (minutes === left) return null;
  const follow = (): void => {
    changeClock({ follow: true }).catch((error: unknown) => sayTrouble(sentenceOf(error)));
  };
  return (
    <Notice tone="caution">
      <p className="font-semibold">
        The machine’s clock is {durationText(Math.abs(ahead))} {ahead > 0 ? 'ahead of' : 'behind'} the shop’s.
        Which is right?
      </p>
      <p>It was set, or the machine slept. Waits go by the shop’s clock; none was ended.</p>
      <p className="mt-2 flex flex-wrap gap-3">
        <Button onClick={follow}>The machine’s: go on at {whenText(now + ahead, now, timeZone)}</Button>
        <Button onClick={() => setLeft(minutes)}>The shop’s: stay at {clockText(now, timeZone)}</Button>
      </p>
    </Notice>
  );
}
