/** Records what is done with a battery off the bench: sent at once, or kept until the server is there. */
import { useCallback } from 'react';
import { v4 as uuid } from 'uuid';
import type { BatteryRecord } from '@cork-ember/core/contract/answers.ts';
import type { ShelfEntry } from '@cork-ember/core/shelf/entries.ts';
import { entering, send, type Sent } from '../store/outbox.ts';
import { shelfOf } from '../store/parcel.ts';
import { shopNow } from './clock.ts';
import { usePerson } from './person.ts';
import { assertMay } from './session.ts';

export type EnterOnShelf = (tag: string, entry: ShelfEntry, battery?: BatteryRecord) => Promise<Sent>;

/** Records an entry of a battery off the bench; kept here while the server is away. @throws Error with the sentence to show */
export function useEnterOnShelf(): EnterOnShelf {
  const [by] = usePerson();
  return useCallback(
    async (tag, shelfEntry, battery) => {
      if (by === '') throw new Error('Say who is at the bench first, at the top right.');
      assertMay('record');
      const entered = entering();
      try {
        return await send({
          requestKey: uuid(),
          job: shelfOf(tag),
          tag,
          by,
          shelfEntry,
          enteredAt: shopNow(),
          ...(battery ? { battery } : {}),
        });
      } finally {
        entered();
      }
    },
    [by],
  );
}
