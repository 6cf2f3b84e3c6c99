/** Where the battery stands, and the way to another bay or to the shelf: a rest of days needs no charger. */
import { Popover } from 'radix-ui';
import { MapPin } from 'lucide-react';
import { toast } from 'sonner';
import type { Job } from '@cork-ember/core/runsheet/log/fold.ts';
import { placeText, SHELF, standsText } from '@cork-ember/core/runsheet/entries/place.ts';
import { sentenceOf } from '../api/client.ts';
import { useRecord } from '../api/record.ts';
import { Button } from '../ui/Button.tsx';
import { useFreePlaces } from './useFreePlaces.ts';

export function Place({ job }: { job: Job }) {
  const record = useRecord(job);
  const places = useFreePlaces().filter((place) => place !== job.state.bay);
  const move = (bay: number): void => {
    record({ kind: 'placed', payload: { bay } }).catch((error: unknown) => toast.error(sentenceOf(error)));
  };
  return (
    <Popover.Root>
      <Popover.Trigger className="inline-flex min-h-12 items-baseline gap-1 px-2 pt-3 text-verdigris underline underline-offset-4">
        <MapPin aria-hidden className="size-5 self-start" />
        {standsText(job.state.bay)}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          className="z-30 grid max-h-[70vh] w-72 gap-2 overflow-auto rounded-xl border border-line bg-card p-3 shadow-lg"
        >
          <p className="text-sm text-soft">Move it, charger off:</p>
          {places.map((place) => (
            <Popover.Close asChild key={place}>
              <Button className="justify-start" onClick={() => move(place)}>
                {place === SHELF ? 'To the shelf, no charger' : `To ${placeText(place)}`}
              </Button>
            </Popover.Close>
          ))}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
