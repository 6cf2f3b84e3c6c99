/** The program as this browser keeps it: where the page is secure it opens with the server away, and a newer one is taken when asked for. */
import { useSyncExternalStore } from 'react';
import { registerSW } from 'virtual:pwa-register';
import { isSecure } from '../ui/Secure.tsx';

let take: (() => void) | undefined;
const watchers = new Set<() => void>();

/** Begins to keep the program; a browser that does not lets the page work on without. */
export function keepProgram(): void {
  if (!isSecure() || import.meta.env.DEV) return;
  const update = registerSW({
    onNeedRefresh: () => {
      take = () => void update(true);
      for (const watcher of watchers) watcher();
    },
  });
}

/** @returns what loads the newer program; undefined while there is none */
export function useNewerProgram(): (() => void) | undefined {
  return useSyncExternalStore(
    (watcher) => {
      watchers.add(watcher);
      return () => watchers.delete(watcher);
    },
    () => take,
  );
}
