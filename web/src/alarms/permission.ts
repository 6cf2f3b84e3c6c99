/** Whether this browser may call while its page is hidden, and when that is asked. */
import { useSyncExternalStore } from 'react';

const KEY = 'cork-ember-call';
const watchers = new Set<() => void>();

function tell(): void {
  for (const watcher of watchers) watcher();
}

const watch = (watcher: () => void): (() => void) => {
  watchers.add(watcher);
  return () => watchers.delete(watcher);
};

/** Nobody said yes or no yet, and the browser would listen. */
const isOpenQuestion = (): boolean =>
  window.isSecureContext &&
  'Notification' in window &&
  Notification.permission === 'default' &&
  localStorage.getItem(KEY) !== 'no';

/** Whether it is still to be asked: once there is something on the bench to be called for. */
export const useOpenQuestion = (): boolean => useSyncExternalStore(watch, isOpenQuestion);

/** Asks the browser, which asks the person; from a press alone. */
export async function askToCall(): Promise<void> {
  if (isOpenQuestion()) await Notification.requestPermission().catch(() => undefined);
  tell();
}

/** Not asked again in this browser. */
export function declineCalls(): void {
  localStorage.setItem(KEY, 'no');
  tell();
}
