/** Listens to the shop: what others enter is seen within a second. */
import { useEffect, useState } from 'react';
import type { StreamMessage } from '@cork-ember/core/contract/answers.ts';
import { fetchClock, forgetClock, setClock } from './clock.ts';
import { flush } from '../store/outbox.ts';
import { tellAway, tellNews, tellThere } from './news.ts';
import { askAnew, refreshShop } from './queries.ts';
import { fetchBays, forgetShown, tellShown } from './shown.ts';

/** @returns whether the server is there */
export function useStream(): boolean {
  const [isThere, setIsThere] = useState(true);
  useEffect(() => {
    const source = new EventSource('/api/stream');
    let wasLost = false;
    source.onopen = () => {
      setIsThere(true);
      // What was said before it listened, it has missed.
      if (wasLost) {
        forgetClock();
        forgetShown();
        askAnew();
      } else void fetchClock();
      tellThere(wasLost);
      void fetchBays();
      wasLost = false;
      void flush();
    };
    source.onerror = () => {
      wasLost = true;
      tellAway();
      setIsThere(false);
    };
    source.onmessage = (message: MessageEvent<string>) => {
      const told = JSON.parse(message.data) as StreamMessage;
      if (told.kind === 'clock') setClock(told.clock);
      else if (told.kind === 'shop') void refreshShop();
      else if (told.kind === 'bay' || told.kind === 'seen') tellShown(told);
      else tellNews(told);
    };
    return () => {
      source.close();
    };
  }, []);
  return isThere;
}
