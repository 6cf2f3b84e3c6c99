/** Whether there is room for columns beside each other: the same line as Tailwind's `lg`. */
import { useSyncExternalStore } from 'react';

const WIDE = window.matchMedia('(min-width: 64rem)');

function watch(changed: () => void): () => void {
  WIDE.addEventListener('change', changed);
  return () => WIDE.removeEventListener('change', changed);
}

export const useIsWide = (): boolean => useSyncExternalStore(watch, () => WIDE.matches);
