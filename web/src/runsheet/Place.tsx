/** Where the battery stands, and the way to another bay or to the shelf: a rest of days needs no charger. */
import { Popover } from 'radix-ui';
import { MapPin } from 'lucide-react';
import { sayTrouble } from '../ui/say.ts';
import type { Job } from '@cork-ember/core/runsheet/log/fold.ts';
import { placeText, SHELF, standsText } from '@cork-ember/core/runsheet/entries/place.ts';
import { sentenceOf } from '../api/client.ts';
import { useRecord } from '../api/record.ts';
import { Button } from '../ui/Button.tsx';
import { PopoverPane } from '../ui/PopoverPane.tsx';
import { useFreePlaces } from './useFreePlaces.ts';

export function Place({ job }: { job: Job }) {
  const record = useRecord(job);
  const places = useFreePlaces().filter((place) => place !== job.state.bay);
  const move = (bay: number): void => {
    record({ kind: 'placed', payload: { bay } }).catch((error: unknown) => sayTrouble(sentenceOf(error)));
  };
  return (
    <Popover.Root>
      <Popover.Trigger className="inline-flex min-h-12 items-baseline gap-1 px-2 pt-3 text-verdigris underline underline-offset-4">
        <MapPin aria-hidden className="size-5 self-start" />
        {standsText(job.state.bay)}
      </Popover.Trigger>
      <PopoverPane name="Where it stands" align="start" className="w-72">
        <div className="grid gap-2">
          <p className="text-sm text-soft">Move it, charger off:</p>
          {places.map((place) => (
            <Popover.Close asChild key={place}>
              <Button className="justify-start" onClick={() => move(place)}>
                {place === SHELF ? 'To the shelf, no charger' : `To ${placeText(place)}`}
              </Button>
            </Popover.Close>
          ))}
        </div>
      </PopoverPane>
    </Popover.Root>
  );
}
