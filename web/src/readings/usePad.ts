/** Whether numbers are typed on the page's own pad: where a finger may be what touches, or where somebody wants it so. */
import { useSyncExternalStore } from 'react';

const KEY = 'cork-ember-pad';
const TOUCH = window.matchMedia('(any-pointer: coarse)');
const watchers = new Set<() => void>();

function isWanted(): boolean {
  const said = localStorage.getItem(KEY);
  return said === null ? TOUCH.matches : said === 'yes';
}

function watch(watcher: () => void): () => void {
  watchers.add(watcher);
  TOUCH.addEventListener('change', watcher);
  return () => {
    watchers.delete(watcher);
    TOUCH.removeEventListener('change', watcher);
  };
}

export function usePad(): readonly [isWanted: boolean, want: (isWanted: boolean) => void] {
  const want = (next: boolean): void => {
    localStorage.setItem(KEY, next ? 'yes' : 'no');
    for (const watcher of watchers) watcher();
  };
  return [useSyncExternalStore(watch, isWanted), want];
}
