/** A word at the foot of the page, gone by itself. What says it is fetched once the page stands. */
import type { ExternalToast } from 'sonner';

const speaker = () => import('sonner');

/** @param more how long it stays, or what else it offers */
export function say(text: string, more?: ExternalToast): void {
  void speaker().then(({ toast }) => toast(text, more));
}

/** Something that went wrong, in one sentence. */
export function sayTrouble(text: string): void {
  void speaker().then(({ toast }) => toast.error(text));
}

/** Something that was done and can be taken back for as long as it is said. */
export function sayWithUndo(text: string, undo: () => void): void {
  say(text, { duration: 8000, action: { label: 'Undo', onClick: undo } });
}
