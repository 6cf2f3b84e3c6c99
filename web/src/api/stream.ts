/** Listens to the shop: what others enter is seen within a second. */
import { useEffect, useState } from 'react';
import type { StreamMessage } from '@cork-ember/core/contract/answers.ts';
import { fetchClock, forgetClock, setClock } from './clock.ts';
import { flush } from '../store/outbox.ts';
import { fetchAhead } from './keeping.ts';
import { catchUp, refreshShop, takeEvent } from './queries.ts';

/** A page that stays so long open fetches ahead what it may need with the server away, ms. */
const AHEAD_AFTER_MS = 4000;

/** @returns whether the server is there */
export function useStream(): boolean {
  const [isThere, setIsThere] = useState(true);
  useEffect(() => {
    const source = new EventSource('/api/stream');
    let wasLost = false;
    let ahead: ReturnType<typeof setTimeout> | undefined;
    source.onopen = () => {
      setIsThere(true);
      // What was said before it listened, it has missed.
      if (wasLost) {
        forgetClock();
        void catchUp();
      } else void fetchClock();
      wasLost = false;
      void flush();
      ahead ??= setTimeout(() => void fetchAhead(), AHEAD_AFTER_MS);
    };
    source.onerror = () => {
      wasLost = true;
      setIsThere(false);
    };
    source.onmessage = (message: MessageEvent<string>) => {
      const told = JSON.parse(message.data) as StreamMessage;
      if (told.kind === 'clock') setClock(told.clock);
      else if (told.kind === 'shop') refreshShop();
      else takeEvent(told.event);
    };
    return () => {
      source.close();
      clearTimeout(ahead);
    };
  }, []);
  return isThere;
}
