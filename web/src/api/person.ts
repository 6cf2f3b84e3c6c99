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

/** Whom this browser knows to be at the bench: what is entered carries that name, with the server there or not. */
export function setPerson(name: string): void {
  if (personNow() !== name) remember(PERSON, name);
}

export const personNow = (): string => localStorage.getItem(PERSON) ?? '';

export function usePerson(): [string, (name: string) => void] {
  const name = useSyncExternalStore(watch, personNow);
  return [name, (next) => remember(PERSON, next)];
}

export type Theme = 'day' | 'night';

const DARK = window.matchMedia('(prefers-color-scheme: dark)');

/** As it was chosen here; until it is, as the machine has it. */
function themeNow(): Theme {
  const chosen = localStorage.getItem(THEME);
  if (chosen === 'day' || chosen === 'night') return chosen;
  return DARK.matches ? 'night' : 'day';
}

function watchTheme(watcher: () => void): () => void {
  const end = watch(watcher);
  DARK.addEventListener('change', watcher);
  return () => {
    end();
    DARK.removeEventListener('change', watcher);
  };
}

export function useTheme(): [Theme, (theme: Theme) => void] {
  return [useSyncExternalStore(watchTheme, themeNow), (next) => remember(THEME, next)];
}
