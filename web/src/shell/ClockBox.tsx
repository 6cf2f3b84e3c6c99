/** The shop's clock, and in a demo its pace. */
import { useEffect } from 'react';
import { sayTrouble } from '../ui/say.ts';
import { PACES } from '@cork-ember/core/clock/clock.ts';
import { clockText, weekdayText } from '@cork-ember/core/clock/clockText.ts';
import { changeClock, useNow, usePace } from '../api/clock.ts';
import { sentenceOf } from '../api/client.ts';
import { shopRegion } from '../region/shopRegion.ts';
import { Button } from '../ui/Button.tsx';
import { Popup } from '../ui/Popup.tsx';

export function ClockBox({ timeZone }: { timeZone: string }) {
  const now = useNow();
  const { pace, isPaced } = usePace();
  const change = (wanted: Parameters<typeof changeClock>[0]): void => {
    changeClock(wanted).catch((error: unknown) => sayTrouble(sentenceOf(error)));
  };
  useEffect(() => {
    const jumpOnKey = (event: KeyboardEvent): void => {
      if (!isPaced || !event.altKey || event.code !== 'KeyJ' || event.repeat) return;
      event.preventDefault();
      changeClock({ jump: 'next-hands' }).catch((error: unknown) => sayTrouble(sentenceOf(error)));
    };
    window.addEventListener('keydown', jumpOnKey);
    return () => window.removeEventListener('keydown', jumpOnKey);
  }, [isPaced]);
  const face = (
    <>
      <span
        className={`reading font-semibold whitespace-nowrap ${shopRegion().clock === '12 h' ? 'text-[15px] leading-7' : 'text-xl'}`}
      >
        {now === 0 ? '--:--' : clockText(now, timeZone)}
      </span>
      <span className="text-xs text-band-soft">
        {now === 0 ? '' : weekdayText(now, timeZone)}
        {isPaced ? ` · ${pace}×` : ''}
      </span>
    </>
  );
  const box = 'flex w-21 shrink-0 flex-col items-center justify-center bg-black/35 text-white max-sm:w-16';
  if (!isPaced) return <div className={box}>{face}</div>;
  return (
    <Popup
      name="The shop’s clock"
      align="start"
      className="w-72"
      openerClass={box}
      opener={
        <>
          <span className="sr-only">Shop clock</span>
          {face}
        </>
      }
    >
      {() => (
        <>
          <p className="font-semibold">Shop clock of the demo</p>
          <div className="mt-3 flex gap-2">
            {PACES.map((one) => (
              <Button
                key={one}
                tone={one === pace ? 'go' : 'plain'}
                className="flex-1"
                aria-pressed={one === pace}
                onClick={() => change({ pace: one })}
              >
                {one}×
              </Button>
            ))}
          </div>
          <Button className="mt-2 w-full" onClick={() => change({ jump: 'next-hands' })}>
            Jump to next hands (Alt+J)
          </Button>
        </>
      )}
    </Popup>
  );
}
