/** Where the battery stands, and the way to another bay or to the shelf: a rest of days needs no charger. */
import { MapPin } from 'lucide-react';
import { sayTrouble } from '../ui/say.ts';
import type { Job } from '@cork-ember/core/runsheet/log/fold.ts';
import { placeText, SHELF, standsText } from '@cork-ember/core/runsheet/entries/place.ts';
import { sentenceOf } from '../api/client.ts';
import { useRecord } from '../api/record.ts';
import { Button } from '../ui/Button.tsx';
import { Popup } from '../ui/Popup.tsx';
import { useFreePlaces } from './useFreePlaces.ts';

export function Place({ job }: { job: Job }) {
  const record = useRecord(job);
  const places = useFreePlaces().filter((place) => place !== job.state.bay);
  const move = (bay: number, close: () => void): void => {
    close();
    record({ kind: 'placed', payload: { bay } }).catch((error: unknown) => sayTrouble(sentenceOf(error)));
  };
  return (
    <Popup
      name="Where it stands"
      align="start"
      className="w-72"
      openerClass="inline-flex min-h-12 items-baseline gap-1 px-2 pt-3 text-verdigris underline underline-offset-4"
      opener={
        <>
          <MapPin aria-hidden className="size-5 self-start" />
          {standsText(job.state.bay)}
        </>
      }
    >
      {(close) => (
        <div className="grid gap-2">
          <p className="text-sm text-soft">Move it, charger off:</p>
          {places.map((place) => (
            <Button key={place} className="justify-start" onClick={() => move(place, close)}>
              {place === SHELF ? 'To the shelf, no charger' : `To ${placeText(place)}`}
            </Button>
          ))}
        </div>
      )}
    </Popup>
  );
}
