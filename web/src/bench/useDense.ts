/** How dense the bench is wanted in this browser, and how high its window is. */
import { useState, useSyncExternalStore } from 'react';

const KEY = 'cork-ember-dense';
const WORDS: Readonly<Record<string, boolean | undefined>> = { yes: true, no: false };

/** @returns undefined while nobody has said */
export function useDense(): readonly [isWanted: boolean | undefined, want: (isDense: boolean) => void] {
  const [isWanted, setWanted] = useState(() => WORDS[localStorage.getItem(KEY) ?? '']);
  return [
    isWanted,
    (isDense) => {
      localStorage.setItem(KEY, isDense ? 'yes' : 'no');
      setWanted(isDense);
    },
  ];
}

function watchWindow(changed: () => void): () => void {
  window.addEventListener('resize', changed);
  return () => window.removeEventListener('resize', changed);
}

export const useWindowHeight = (): number => useSyncExternalStore(watchWindow, () => window.innerHeight);
