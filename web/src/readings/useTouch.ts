/** Whether a finger may be what touches this screen. */
import { useSyncExternalStore } from 'react';

const TOUCH = window.matchMedia('(any-pointer: coarse)');

export function useTouch(): boolean {
  return useSyncExternalStore(
    (watcher) => {
      TOUCH.addEventListener('change', watcher);
      return () => TOUCH.removeEventListener('change', watcher);
    },
    () => TOUCH.matches,
  );
}
