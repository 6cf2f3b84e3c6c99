/** A result carried from the reckoner to a reading; one at a time, as in a pocket. */
import { useSyncExternalStore } from 'react';

export interface Pocketed {
  readonly label: string;
  readonly value: number;
  readonly unit: string;
  readonly decimals: number;
}

let held: Pocketed | undefined;
const watchers = new Set<() => void>();

export function pocket(what: Pocketed | undefined): void {
  held = what;
  for (const watcher of watchers) watcher();
}

function watch(watcher: () => void): () => void {
  watchers.add(watcher);
  return () => watchers.delete(watcher);
}

export function usePocket(): Pocketed | undefined {
  return useSyncExternalStore(watch, () => held);
}
