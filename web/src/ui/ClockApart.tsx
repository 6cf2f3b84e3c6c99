/** Said where the machine's clock was set, or the machine slept: the shop goes on by its own until somebody decides. */
import { useState } from 'react';
import { toast } from 'sonner';
import { dateTimeText } from '@cork-ember/core/schedule/clockText.ts';
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
  const said = (at: number): string => dateTimeText(at, timeZone);
  const follow = (): void => {
    changeClock({ follow: true }).catch((error: unknown) => toast.error(sentenceOf(error)));
  };
  return (
    <Notice tone="caution">
      <p>
        The machine’s clock was set, or the machine slept: it says {said(now + ahead)}, the shop’s says{' '}
        {said(now)}. Waits go by the shop’s and were not ended. Which is right?
      </p>
      <p className="mt-2 flex flex-wrap gap-3">
        <Button onClick={follow}>The machine’s: go on by it</Button>
        <Button onClick={() => setLeft(minutes)}>The shop’s: leave it</Button>
      </p>
    </Notice>
  );
}
