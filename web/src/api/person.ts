/** Who is at the bench, and by which light; remembered by this browser. */
import { useSyncExternalStore } from 'react';

const watchers = new Set<() => void>();

function watch(watcher: () => void): () => void {
  watchers.add(watcher);
  return () => watchers.delete(watcher);
}

function remember(key: string, value: string): void {
  localStorage.setItem(key, value);
  for (const watcher of watchers) watcher();
}

const PERSON = 'cork-ember-person';
const THEME = 'cork-ember-theme';

export function usePerson(): [string, (name: string) => void] {
  const name = useSyncExternalStore(watch, () => localStorage.getItem(PERSON) ?? '');
  return [name, (next) => remember(PERSON, next)];
}

export type Theme = 'day' | 'night';

export function useTheme(): [Theme, (theme: Theme) => void] {
  const theme = useSyncExternalStore(watch, () =>
    localStorage.getItem(THEME) === 'night' ? 'night' : 'day',
  );
  return [theme, (next) => remember(THEME, next)];
}
