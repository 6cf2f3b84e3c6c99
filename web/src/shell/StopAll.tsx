/** Everything off, from any page, as long as current flows through a bay under control: by a button, and by a key. */
import { useMutation } from '@tanstack/react-query';
import { OctagonX } from 'lucide-react';
import { useEffect } from 'react';
import type { LiveBay } from '@cork-ember/core/devices/bay/messages.ts';
import { ask, sentenceOf } from '../api/client.ts';
import { personNow } from '../api/person.ts';
import { tellShown, useRunningBays } from '../api/shown.ts';
import { Button } from '../ui/Button.tsx';
import { sayTrouble } from '../ui/say.ts';
import { Strip } from './Strip.tsx';

export function StopAll() {
  const bays = useRunningBays();
  const { mutate } = useMutation({
    mutationFn: () => {
      const by = personNow();
      return ask<readonly LiveBay[]>('/api/bays/stop', by === '' ? {} : { by });
    },
    onSuccess: (all) => {
      for (const live of all) tellShown({ kind: 'bay', live });
    },
    onError: (error) => sayTrouble(`${sentenceOf(error)} Press the stop button, or pull the plugs.`),
  });
  const isRunning = bays !== '';
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      if (event.key !== 'Escape' || !event.shiftKey || event.repeat) return;
      event.preventDefault();
      mutate();
    };
    if (!isRunning) return undefined;
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [isRunning, mutate]);
  if (!isRunning) return null;
  return (
    <Strip>
      <span className="min-w-0 flex-1">
        {bays.includes(',') ? `Bays ${bays} are` : `Bay ${bays} is`} under current, by itself.
      </span>
      <Button tone="danger" title="Shift+Escape" onClick={() => mutate()}>
        <OctagonX aria-hidden className="size-5" /> Stop everything
      </Button>
    </Strip>
  );
}
